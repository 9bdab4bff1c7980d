import { OpenedHeap } from '@auk/contract';
import { inCell, lineOpen, type SortState, sortDone, sortScan } from '@auk/core';
import Button from '@mui/material/Button';
import { Picture } from '../../parts/picture.js';
import textCss from '../../parts/text.module.css';
import { useTitle } from '../../parts/useTitle.js';
import handCss from '../../scans/hand.module.css';
import { useScanSession } from '../../scans/useScanSession.js';
import { type AtHand, HandBoard } from '../../shell/HandBoard.js';
import { sortPath } from '../api.js';
import css from '../sorting.module.css';

/** Codes that open another heap: what heaps lie on, and lists. */
const OPENS = /^(TR|TO|PL)-/i;

/** A heap at its wall: the piece in hand, and the wall as it stands with the cell that it goes into. */
export function WallBoard({ opened, open, early, leave }: AtHand<OpenedHeap>) {
  const { sessionId, listNo, columns } = opened;
  const session = useScanSession(sessionId, sortPath(sessionId), listNo, opened.state, sortScan);
  const { state } = session;
  useTitle(`Put wall ${state.wall}`);
  return (
    <HandBoard
      session={session}
      heads={[
        ['wall', state.wall],
        ['heap', state.heap],
      ]}
      left={state.lines.reduce((n, l) => n + lineOpen(l), 0)}
      all={state.lines.reduce((n, l) => n + l.wanted, 0)}
      noun="piece"
      act={['sort', 'sorted']}
      says={{ says: `${state.heap} is open.`, next: 'Scan a piece of the heap.' }}
      opens={OPENS}
      open={open}
      early={early}
      leave={leave}
    >
      {scan => (
        <>
          <Hand state={state} scan={scan} leave={leave} />
          <Wall state={state} columns={columns} />
        </>
      )}
    </HandBoard>
  );
}

/** The piece in hand and its cell, read from two steps away. */
function Hand({ state, scan, leave }: { state: SortState; scan: (text: string) => void; leave: () => void }) {
  const lit = state.lit;
  const line = lit && state.lines[lit.line]!;
  const more = line ? lineOpen(line) : 0;
  return (
    <section className={handCss.hand} aria-label="The piece in hand">
      {lit && line ? (
        <>
          <span className={css.into}>into cell</span>
          <span className={css.number} data-part="cell">
            {state.cells[lit.cell]!.mark}
          </span>
          <div className={handCss.piece}>
            <Picture name={line.product.picture} size={72} />
            <div>
              <b>{line.product.name}</b>
              <div className={`${textCss.code} ${textCss.quiet}`}>{line.product.sku}</div>
              {lit.units > 1 && <b>× {lit.units}</b>}
            </div>
          </div>
        </>
      ) : (
        <span className={handCss.idle}>{sortDone(state) ? 'All is sorted.' : 'Scan a piece.'}</span>
      )}
      <div className={handCss.acts}>
        <Button variant="outlined" disabled={more === 0} onClick={() => scan('AUK-ALL')}>
          {more > 0 ? `All ${more} more` : 'All of it'}
        </Button>
        <Button variant="outlined" onClick={() => scan('AUK-UNDO')}>
          Undo
        </Button>
        <Button variant="outlined" onClick={leave}>
          Leave
        </Button>
      </div>
    </section>
  );
}

/** The wall as it stands: rows and columns of cells, each with its number, its order and how much of it is there. */
function Wall({ state, columns }: { state: SortState; columns: number }) {
  return (
    <ol className={css.wall} style={{ gridTemplateColumns: `repeat(${columns}, minmax(0, 1fr))` }}>
      {state.cells.map((cell, i) => {
        const lit = state.lit?.cell === i;
        const here = cell.orderNo !== null && state.lines.some(l => l.orderNo === cell.orderNo);
        const { wanted, sorted } = cell.orderNo ? inCell(state, cell.orderNo) : { wanted: 0, sorted: 0 };
        const whole = here && sorted === wanted;
        return (
          <li
            key={cell.id}
            className={`${css.cell} ${lit ? css.lit : ''} ${whole ? css.whole : ''}`}
            data-part={lit ? 'lit' : 'slot'}
            aria-current={lit || undefined}
          >
            <b>{cell.mark}</b>
            <span className={textCss.code}>{cell.orderNo ?? 'free'}</span>
            {here ? (
              <span>{whole ? `✓ whole, ${wanted}` : `${sorted} of ${wanted}`}</span>
            ) : (
              <span>{cell.orderNo ? 'of another heap' : ''}</span>
            )}
            {lit && <span className={css.here}>▼ here</span>}
          </li>
        );
      })}
    </ol>
  );
}
