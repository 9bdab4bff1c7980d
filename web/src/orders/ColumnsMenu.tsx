import Button from '@mui/material/Button';
import Popover from '@mui/material/Popover';
import { useState } from 'react';
import { COLUMN_WORDS } from './columns.js';

export interface ChosenColumns {
  order: string[];
  hidden: string[];
}

/** Chooses which columns stand in the list, and in which order. Moving works by keyboard: the two arrows beside each name. */
export function ColumnsMenu({
  columns,
  onChange,
}: {
  columns: ChosenColumns;
  onChange: (c: ChosenColumns) => void;
}) {
  const [at, setAt] = useState<HTMLElement | null>(null);
  const move = (id: string, by: number) => {
    const order = [...columns.order];
    const i = order.indexOf(id);
    const to = i + by;
    if (to < 0 || to >= order.length) return;
    [order[i], order[to]] = [order[to]!, order[i]!];
    onChange({ ...columns, order });
  };
  const toggle = (id: string) =>
    onChange({
      ...columns,
      hidden: columns.hidden.includes(id) ? columns.hidden.filter(h => h !== id) : [...columns.hidden, id],
    });
  return (
    <>
      <Button size="small" onClick={e => setAt(e.currentTarget)}>
        Columns
      </Button>
      <Popover
        open={at !== null}
        anchorEl={at}
        onClose={() => setAt(null)}
        anchorOrigin={{ vertical: 'bottom', horizontal: 'left' }}
      >
        <ul className="columns" aria-label="Columns">
          {columns.order.map((id, i) => (
            <li key={id}>
              <label>
                <input type="checkbox" checked={!columns.hidden.includes(id)} onChange={() => toggle(id)} />{' '}
                {COLUMN_WORDS[id]}
              </label>
              <button
                type="button"
                aria-label={`${COLUMN_WORDS[id]} to the left`}
                disabled={i === 0}
                onClick={() => move(id, -1)}
              >
                ↑
              </button>
              <button
                type="button"
                aria-label={`${COLUMN_WORDS[id]} to the right`}
                disabled={i === columns.order.length - 1}
                onClick={() => move(id, 1)}
              >
                ↓
              </button>
            </li>
          ))}
        </ul>
      </Popover>
    </>
  );
}
