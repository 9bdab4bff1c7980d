import {
  type Announcements,
  closestCenter,
  DndContext,
  type DragEndEvent,
  KeyboardSensor,
  PointerSensor,
  type UniqueIdentifier,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import {
  arrayMove,
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import Add from '@mui/icons-material/Add';
import DragHandle from '@mui/icons-material/DragHandle';
import Remove from '@mui/icons-material/Remove';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import Popover from '@mui/material/Popover';
import { useState } from 'react';
import { Tick } from '../Tick.js';
import { type Arrangement, borderMoved, type Column, shownColumns } from './column.js';
import css from './table.module.css';

interface Props<R> {
  columns: readonly Column<R>[];
  arrangement: Arrangement;
  onChange: (a: Arrangement | null) => void;
}

/** One press makes a column wider by this part of the table. */
const STEP = 0.02;

/** Chooses which columns stand in the list, in which order, and how wide; all of it by hand or by keyboard. */
export function ColumnsMenu<R>({ columns, arrangement: a, onChange }: Props<R>) {
  const [at, setAt] = useState<HTMLElement | null>(null);
  const sensors = useSensors(
    useSensor(PointerSensor),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const wordsOf = new Map(columns.map(c => [c.id, c.head]));
  const shown = shownColumns(columns, a);
  const toggle = (id: string) =>
    onChange({
      ...a,
      hidden: a.hidden.includes(id) ? a.hidden.filter(h => h !== id) : [...a.hidden, id],
    });
  const drop = ({ active, over }: DragEndEvent) => {
    if (!over || over.id === active.id) return;
    const [from, to] = [a.order.indexOf(String(active.id)), a.order.indexOf(String(over.id))];
    onChange({ ...a, order: arrayMove(a.order, from, to) });
  };
  return (
    <>
      <Button size="small" aria-haspopup="dialog" onClick={e => setAt(e.currentTarget)}>
        Columns
      </Button>
      <Popover
        open={at !== null}
        anchorEl={at}
        onClose={() => setAt(null)}
        anchorOrigin={{ vertical: 'bottom', horizontal: 'left' }}
      >
        <DndContext
          sensors={sensors}
          collisionDetection={closestCenter}
          onDragEnd={drop}
          accessibility={{
            announcements: saidOf(id => wordsOf.get(String(id)) ?? ''),
            screenReaderInstructions: HOW,
          }}
        >
          <SortableContext items={a.order} strategy={verticalListSortingStrategy}>
            <ul className={css.columns} aria-label="Columns">
              {a.order.map(id => (
                <Item
                  key={id}
                  id={id}
                  words={wordsOf.get(id)!}
                  on={!a.hidden.includes(id)}
                  toggle={() => toggle(id)}
                  wider={by => onChange(borderMoved(shown, a, id, by))}
                />
              ))}
            </ul>
          </SortableContext>
        </DndContext>
        <Button size="small" sx={{ m: 1, mt: 0 }} onClick={() => onChange(null)}>
          As they were at first
        </Button>
      </Popover>
    </>
  );
}

const HOW = {
  draggable: 'Space lifts the column, arrow keys move it, Space puts it down, Escape leaves it.',
};

/** What is said while a column is moved without eyes. */
const saidOf = (wordsOf: (id: UniqueIdentifier) => string): Announcements => ({
  onDragStart: ({ active }) => `${wordsOf(active.id)} is lifted.`,
  onDragOver: ({ active, over }) =>
    over && over.id !== active.id
      ? `${wordsOf(active.id)} is over ${wordsOf(over.id)}.`
      : `${wordsOf(active.id)} is lifted.`,
  onDragEnd: ({ active }) => `${wordsOf(active.id)} is put down.`,
  onDragCancel: ({ active }) => `${wordsOf(active.id)} stays where it was.`,
});

interface ItemProps {
  id: string;
  words: string;
  on: boolean;
  toggle: () => void;
  wider: (by: number) => void;
}

function Item({ id, words, on, toggle, wider }: ItemProps) {
  const { attributes, listeners, setNodeRef, transform, transition } = useSortable({ id });
  return (
    <li ref={setNodeRef} style={{ transform: CSS.Transform.toString(transform), transition }}>
      <IconButton size="small" aria-label={`Move ${words}`} {...attributes} {...listeners}>
        <DragHandle fontSize="small" />
      </IconButton>
      <Tick label={words} checked={on} onTick={toggle} />
      <IconButton size="small" aria-label={`${words} narrower`} disabled={!on} onClick={() => wider(-STEP)}>
        <Remove fontSize="small" />
      </IconButton>
      <IconButton size="small" aria-label={`${words} wider`} disabled={!on} onClick={() => wider(STEP)}>
        <Add fontSize="small" />
      </IconButton>
    </li>
  );
}
