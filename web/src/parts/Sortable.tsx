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
import DragHandle from '@mui/icons-material/DragHandle';
import IconButton from '@mui/material/IconButton';
import type { CSSProperties, ReactNode } from 'react';

interface Props {
  ids: readonly string[];
  /** What a thing is called, for those who do not see it move. */
  nameOf: (id: string) => string;
  onOrder: (ids: string[]) => void;
  children: ReactNode;
}

const HOW = { draggable: 'Space lifts it, arrow keys move it, Space puts it down, Escape leaves it.' };

/** Things one below the other that are put into an order by hand or keyboard; each is a `useSorted` with its handle. */
export function Sortable({ ids, nameOf, onOrder, children }: Props) {
  const sensors = useSensors(
    useSensor(PointerSensor),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const drop = ({ active, over }: DragEndEvent) => {
    if (over && over.id !== active.id)
      onOrder(arrayMove([...ids], ids.indexOf(String(active.id)), ids.indexOf(String(over.id))));
  };
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={closestCenter}
      onDragEnd={drop}
      accessibility={{ announcements: saidOf(nameOf), screenReaderInstructions: HOW }}
    >
      <SortableContext items={[...ids]} strategy={verticalListSortingStrategy}>
        {children}
      </SortableContext>
    </DndContext>
  );
}

/** What is said while something is moved without eyes. */
function saidOf(nameOf: Props['nameOf']): Announcements {
  const name = (id: UniqueIdentifier) => nameOf(String(id));
  return {
    onDragStart: ({ active }) => `${name(active.id)} is lifted.`,
    onDragOver: ({ active, over }) =>
      over && over.id !== active.id
        ? `${name(active.id)} is over ${name(over.id)}.`
        : `${name(active.id)} is at its own place.`,
    onDragEnd: ({ active }) => `${name(active.id)} is put down.`,
    onDragCancel: ({ active }) => `${name(active.id)} stays where it was.`,
  };
}

/** One thing of a sortable list: what its element needs, and the handle that moves it. */
export function useSorted(
  id: string,
  name: string,
): { ref: (e: HTMLElement | null) => void; style: CSSProperties; handle: ReactNode } {
  const { attributes, listeners, setNodeRef, transform, transition } = useSortable({ id });
  return {
    ref: setNodeRef,
    style: { transform: CSS.Transform.toString(transform), ...(transition && { transition }) },
    handle: (
      <IconButton size="small" aria-label={`Move ${name}`} {...attributes} {...listeners}>
        <DragHandle fontSize="small" />
      </IconButton>
    ),
  };
}
