import type { ArrivedRow } from '@auk/contract';
import { count } from '@auk/core';
import Button from '@mui/material/Button';
import { useQuery } from '@tanstack/react-query';
import { clock, day } from '../../parts/format.js';
import textCss from '../../parts/text.module.css';
import css from '../../scans/bench.module.css';
import { arrivedQuery } from '../api.js';

const SHOWN = 7;

/** What the floor has dropped at staging places: whole, or what lacks and when that comes. The most urgent first. */
export function Arrived({ open }: { open: (code: string) => void }) {
  const arrived = useQuery(arrivedQuery).data ?? [];
  if (arrived.length === 0) return null;
  const more = arrived.length - SHOWN;
  return (
    <section className={css.arrived} aria-label="Arrived at staging">
      <h2>Arrived at staging</h2>
      <ul>
        {arrived.slice(0, SHOWN).map(a => (
          <li key={a.id}>
            <b className={textCss.code}>{a.stands}</b>
            <b>{a.marks}</b>
            <span className={a.lacks === '' ? css.isWhole : css.lacks}>{stateOf(a)}</span>
            <span>{a.cutOff && `leaves ${clock(a.cutOff)}`}</span>
            <Button variant="outlined" disabled={a.lacks !== ''} onClick={() => open(a.no)}>
              {a.no}
            </Button>
          </li>
        ))}
      </ul>
      {more > 0 && <p>and {count(more, 'order')} more</p>}
    </section>
  );
}

function stateOf(a: ArrivedRow): string {
  if (a.lacks === '') return `✓ whole, ${count(a.here, 'piece')}`;
  const when = a.lists
    ? `being picked on ${a.lists}`
    : a.expected
      ? `expected ${day(a.expected)}`
      : 'no day known';
  return `! lacks ${a.lacks}: ${when}`;
}
