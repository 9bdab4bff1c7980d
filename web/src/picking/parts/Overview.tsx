import { type PickState, stopOpen } from '@auk/core';
import textCss from '../../parts/text.module.css';
import css from '../floor.module.css';

/** All stops of a walk at one look; those that are done last, or left out. */
export function Overview({ state, aside }: { state: PickState; aside: boolean }) {
  const open = state.stops.filter(s => stopOpen(s) > 0);
  const done = aside ? [] : state.stops.filter(s => s.wanted > 0 && stopOpen(s) === 0);
  return (
    <ol className={css.overview} aria-label="All stops">
      {[...open, ...done].map(s => (
        <li key={s.id}>
          <b className={textCss.code}>{s.placeCode}</b>
          <span>{s.product.name}</span>
          <span>
            {stopOpen(s) === 0 && '✓ '}
            {s.taken} of {s.wanted}
          </span>
        </li>
      ))}
    </ol>
  );
}
