import { OpenedHeap } from '@auk/contract';
import { count, inCell, lineOpen, type SortState, sortDone, sortScan } from '@auk/core';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import { type RefObject, useState } from 'react';
import pageCss from '../../parts/page.module.css';
import { Picture } from '../../parts/picture.js';
import textCss from '../../parts/text.module.css';
import { useTitle } from '../../parts/useTitle.js';
import { AnswerBar, OfflineNote } from '../../scans/AnswerBar.js';
import benchCss from '../../scans/bench.module.css';
import handCss from '../../scans/hand.module.css';
import { Unsent } from '../../scans/Unsent.js';
import { useEarly } from '../../scans/useOpening.js';
import { useScanner } from '../../scans/useScanner.js';
import { useScanSession } from '../../scans/useScanSession.js';
import { Who } from '../../shell/Who.js';
import { sortPath } from '../api.js';
import css from '../sorting.module.css';

interface Props {
  opened: OpenedHeap;
  /** Opens another heap. */
  open: (code: string) => void;
  /** What was scanned while the heap was being opened. */
  early: RefObject<string[]>;
  leave: () => void;
}

/** Codes that open another heap: what heaps lie on, and lists. */
const OPENS = /^(TR|TO|PL)-/i;
const LEAVE = 'AUK-LEAVE';

/** A heap at its wall: the piece in hand, and the wall as it stands with the cell that it goes into. */
export function WallBoard({ opened, open, early, leave }: Props) {
  const { sessionId, listNo, columns } = opened;
  const session = useScanSession(sessionId, sortPath(sessionId), listNo, opened.state, sortScan);
  const { state, answer } = session;
  const [typed, setTyped] = useState('');
  const scan = (text: string) => {
    if (OPENS.test(text.trim())) open(text.trim());
    else if (text.trim().toUpperCase() === LEAVE) leave();
    else session.scan(text);
  };
  useScanner(scan, { typed: true, onTyping: setTyped });
  useEarly(early, scan);
  useTitle(`Put wall ${state.wall}`);
  const left = state.lines.reduce((n, l) => n + lineOpen(l), 0);
  const all = state.lines.reduce((n, l) => n + l.wanted, 0);
  return (
    <div className={`${benchCss.edge} ${answer ? benchCss[answer.tone] : ''}`}>
      <header className={benchCss.bhead}>
        <div>
          <small>wall</small>
          <b>{state.wall}</b>
        </div>
        <div>
          <small>heap</small>
          <b className={textCss.code}>{state.heap}</b>
        </div>
        <div className={pageCss.grow}>
          <small>
            {count(left, 'piece')} of {all} to sort
          </small>
          <LinearProgress
            variant="determinate"
            color="success"
            value={(100 * (all - left)) / Math.max(1, all)}
            aria-label={`${all - left} of ${count(all, 'piece')} sorted`}
          />
        </div>
        <Unsent />
        <Who />
      </header>
      <main className={handCss.board}>
        <Hand state={state} scan={scan} leave={leave} />
        <Wall state={state} columns={columns} />
      </main>
      <div>
        {session.offline && (
          <OfflineNote words={`No network. ${count(session.waiting, 'scan')} kept, to be sent.`} />
        )}
        <AnswerBar
          where="foot"
          typed={typed}
          answer={
            answer ?? { says: `${state.heap} is open.`, next: 'Scan a piece of the heap.', tone: 'info' }
          }
        />
      </div>
    </div>
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
