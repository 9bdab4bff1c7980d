import type { WallView } from '@auk/contract';
import { count } from '@auk/core';
import { CodeLink } from '../../parts/Code.js';
import textCss from '../../parts/text.module.css';
import css from '../places.module.css';

/** A put wall drawn as it stands. */
export function WallCells({ wall: w }: { wall: WallView }) {
  return (
    <ol className={css.wall} style={{ gridTemplateColumns: `repeat(${w.columns}, minmax(0, 9rem))` }}>
      {w.cells.map(c => (
        <li key={c.code} className={css.cell}>
          <b>{c.mark}</b>
          <small className={textCss.code}>{c.code}</small>
          {c.order ? (
            <>
              <CodeLink to={`/orders?stage=all&words=${c.order}`}>{c.order}</CodeLink>
              <small>{count(c.units, 'piece')}</small>
            </>
          ) : (
            <small>free</small>
          )}
        </li>
      ))}
    </ol>
  );
}
