import { count, lineAtHand, type PackLine, type PackState, packLineOpen } from '@auk/core';
import { useEffect, useRef } from 'react';
import css from '../../scans/bench.module.css';
import { Lines } from '../../scans/Lines.js';
import ownCss from '../packing.module.css';
import { PieceLine } from './PieceLine.js';

/** Up to so many lines all stay on the screen; of more, those that are done step aside. */
const ALL_SHOWN = 8;

/** What is to pack, the line at hand largest and always in view. */
export function PackLines({ state }: { state: PackState }) {
  const at = lineAtHand(state);
  const now = useRef<HTMLDivElement>(null);
  const hand = state.lines[at]?.id;
  useEffect(() => {
    const line = now.current;
    if (hand === undefined || !line) return;
    // It grows when its parts are shown, and the room for the lines shrinks when the answer below needs two rows.
    const sizes = new ResizeObserver(() => line.scrollIntoView({ block: 'nearest' }));
    sizes.observe(line);
    sizes.observe(line.closest('main')!);
    return () => sizes.disconnect();
  }, [hand]);
  const aside = state.lines.length > ALL_SHOWN;
  const shown = aside ? state.lines.filter(l => packLineOpen(l) !== 0) : state.lines;
  const done = state.lines.length - shown.length;
  const units = state.lines.reduce((n, l) => n + l.packed, 0);
  return (
    <Lines>
      {done > 0 && (
        <p className={ownCss.aside}>
          ✓ {count(done, 'line')} of {state.lines.length} complete, {count(units, 'piece')} in.
        </p>
      )}
      {shown.map(l => (
        <div key={l.id} ref={l.id === hand ? now : undefined}>
          <Line line={l} now={l.id === hand} />
        </div>
      ))}
    </Lines>
  );
}

function Line({ line: l, now }: { line: PackLine; now: boolean }) {
  const open = packLineOpen(l);
  const parts = l.kitParts.length > 0 && open > 0 && now;
  return (
    <PieceLine
      product={l.product}
      wanted={l.wanted}
      done={l.packed}
      now={now}
      whole={open === 0}
      about={[
        l.bundle && `part of ${l.bundle.name}`,
        l.leftOut > 0 ? `${l.leftOut} left out` : l.optional && 'may be left out',
        open < 0 && `take ${-open} out`,
        l.apart !== undefined && '▲ in a parcel of its own',
        l.wants.serial !== undefined && 'with serial number',
        l.wants.warning !== undefined && `▲ ${l.wants.warning}`,
        l.product.hint,
      ]}
    >
      {parts && (
        <div className={css.kitparts}>
          {l.kitParts.map(k => (
            <span key={k.product.id}>
              {k.scanned} of {k.perKit} {k.product.name}
            </span>
          ))}
        </div>
      )}
    </PieceLine>
  );
}
