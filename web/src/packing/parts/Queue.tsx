import type { QueueRow } from '@auk/contract';
import { count } from '@auk/core';
import Button from '@mui/material/Button';
import { useQuery } from '@tanstack/react-query';
import { clock } from '../../parts/format.js';
import css from '../../scans/bench.module.css';
import { queueQuery } from '../api.js';

const SHOWN = 7;

/** What is picked and waits for a bench, in the order in which it leaves; who is at one already. */
export function Queue({ open }: { open: (code: string) => void }) {
  const rows = useQuery(queueQuery).data ?? [];
  if (rows.length === 0) return null;
  return (
    <section className={css.arrived} aria-label="Next to leave">
      <h2>Next to leave</h2>
      <ul>
        {rows.slice(0, SHOWN).map(r => (
          <Row key={r.id} row={r} open={open} />
        ))}
      </ul>
    </section>
  );
}

function Row({ row: r, open }: { row: QueueRow; open: (code: string) => void }) {
  return (
    <li>
      <b>{r.cutOff ? clock(r.cutOff) : 'no time'}</b>
      <span>{r.lies ?? ''}</span>
      <span className={r.packer ? css.lacks : undefined}>
        {r.packer ? `▲ ${r.packer} is at it` : `${r.buyer}, ${count(r.units, 'piece')}`}
      </span>
      <Button variant="outlined" onClick={() => open(r.no)}>
        {r.no}
      </Button>
    </li>
  );
}
