import Add from '@mui/icons-material/Add';
import Remove from '@mui/icons-material/Remove';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import Popover from '@mui/material/Popover';
import { useState } from 'react';
import { Sortable, useSorted } from '../Sortable.js';
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
  const wordsOf = new Map(columns.map(c => [c.id, c.head]));
  const shown = shownColumns(columns, a);
  const toggle = (id: string) =>
    onChange({
      ...a,
      hidden: a.hidden.includes(id) ? a.hidden.filter(h => h !== id) : [...a.hidden, id],
    });
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
        <Sortable
          ids={a.order}
          nameOf={id => wordsOf.get(id) ?? ''}
          onOrder={order => onChange({ ...a, order })}
        >
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
        </Sortable>
        <Button size="small" sx={{ m: 1, mt: 0 }} onClick={() => onChange(null)}>
          As they were at first
        </Button>
      </Popover>
    </>
  );
}

interface ItemProps {
  id: string;
  words: string;
  on: boolean;
  toggle: () => void;
  wider: (by: number) => void;
}

function Item({ id, words, on, toggle, wider }: ItemProps) {
  const { ref, style, handle } = useSorted(id, words);
  return (
    <li ref={ref} style={style}>
      {handle}
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
