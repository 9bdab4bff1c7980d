import type { HandoverView } from '@auk/contract';
import { count } from '@auk/core';
import textCss from '../../parts/text.module.css';
import css from '../board.module.css';

const SHOWN = 8;

/** How scanning and buying agree: what was bought and not scanned, and what was scanned and does not belong here. */
export function Compared({ view }: { view: HandoverView }) {
  const missing = view.parcels.filter(p => !p.scanned);
  const held = view.parcels.filter(p => p.scanned && p.held);
  return (
    <div className={css.compared} data-part="compared">
      <section>
        <h2>
          {missing.length === 0
            ? '✓ All that was bought is scanned'
            : `○ Bought, not scanned: ${missing.length}`}
        </h2>
        {missing.slice(0, SHOWN).map(p => (
          <div key={p.no}>
            <span className={textCss.code}>{p.no}</span> <span className={textCss.quiet}>{p.buyer}</span>
          </div>
        ))}
        {missing.length > SHOWN && (
          <div className={textCss.quiet}>and {count(missing.length - SHOWN, 'more parcel')}</div>
        )}
      </section>
      {(view.strange.length > 0 || held.length > 0) && (
        <section>
          <h2 className={textCss.stop}>▲ Scanned, not expected: {view.strange.length + held.length}</h2>
          {held.map(p => (
            <div key={p.no}>
              <span className={textCss.code}>{p.no}</span> {p.held}
            </div>
          ))}
          {view.strange.map(s => (
            <div key={s.what}>
              {!s.says.includes(s.what) && <span className={textCss.code}>{s.what}</span>} {s.says}
            </div>
          ))}
        </section>
      )}
    </div>
  );
}
