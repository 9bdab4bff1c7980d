import { OpenedList } from '@auk/contract';
import { count, type PickState, type PickStop, pickDone, pickScan, stopOpen } from '@auk/core';
import Button from '@mui/material/Button';
import InputBase from '@mui/material/InputBase';
import LinearProgress from '@mui/material/LinearProgress';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import pageCss from '../../parts/page.module.css';
import { Picture } from '../../parts/picture.js';
import { Pips } from '../../parts/pips.js';
import textCss from '../../parts/text.module.css';
import { useTitle } from '../../parts/useTitle.js';
import { AnswerBar, OfflineNote } from '../../scans/AnswerBar.js';
import { Unsent } from '../../scans/Unsent.js';
import { useScanner } from '../../scans/useScanner.js';
import { useScanSession } from '../../scans/useScanSession.js';
import { listQuery, walkPath } from '../api.js';
import css from '../floor.module.css';
import { WalkMap } from './WalkMap.js';

export function Walk({ opened }: { opened: OpenedList }) {
  const session = useScanSession(
    opened.sessionId,
    walkPath(opened.sessionId),
    opened.state.listNo,
    opened.state,
    pickScan,
  );
  const { state, answer, scan } = session;
  const [typed, setTyped] = useState('');
  useScanner(scan, { typed: true, onTyping: setTyped });
  const list = useQuery(listQuery(state.listNo));
  useTitle(state.listNo);
  const done = pickDone(state);
  const taken = state.stops.reduce((n, s) => n + s.taken + s.missing, 0);
  const wanted = state.stops.reduce((n, s) => n + s.wanted, 0);
  const spots = new Map(list.data?.rows.map(r => [r.place, r]));
  const map = state.stops.map(s => ({
    aisle: spots.get(s.placeCode)?.aisle ?? null,
    along: spots.get(s.placeCode)?.along ?? null,
    done: stopOpen(s) === 0,
  }));
  const stop = state.stops[state.at];
  const next = state.stops.find((s, i) => i > state.at && stopOpen(s) > 0);
  return (
    <main className={css.hand}>
      <div className={css.head}>
        <h1 className={textCss.code}>{state.listNo}</h1>
        <Link to="/floor">lists</Link>
        <Unsent />
        <span className={css.away} data-part="stop">
          stop <b>{Math.min(state.at + 1, state.stops.length)}</b> of {state.stops.length}
        </span>
      </div>
      <LinearProgress
        variant="determinate"
        color="success"
        value={(100 * taken) / Math.max(1, wanted)}
        aria-label={`${taken} of ${count(wanted, 'piece')}`}
      />
      {spots.size > 0 && (
        <div className={css.map}>
          <WalkMap stops={map} at={done ? null : state.at} height={104} />
        </div>
      )}
      {done || !stop ? <Finished state={state} /> : <Stop stop={stop} state={state} scan={scan} />}
      <div className={css.spacer} />
      {session.offline && (
        <OfflineNote words={`No network. ${count(session.waiting, 'scan')} kept, to be sent.`} />
      )}
      <AnswerBar
        where="hand"
        typed={typed}
        answer={
          answer ?? {
            says: done ? 'List complete.' : `Go to ${stop?.placeCode}`,
            next: done ? 'Bring the totes to the benches.' : 'Scan the place, then the product.',
            tone: 'info',
          }
        }
      />
      {next && !done && (
        <div className={css.then}>
          then <b className={textCss.code}>{next.placeCode}</b> {next.product.name}
        </div>
      )}
    </main>
  );
}

function Stop({ stop, state, scan }: { stop: PickStop; state: PickState; scan: (text: string) => void }) {
  const seen = state.placeSeen === stop.placeCode;
  const open = stopOpen(stop);
  return (
    <>
      <div className={css.placerow}>
        <span className={css.place} data-part="place">
          {stop.placeCode}
        </span>
        <span className={seen ? css.seen : ''}>{seen ? '✓ right place' : 'scan the place'}</span>
      </div>
      <div className={css.thing}>
        <Picture name={stop.product.picture} size={92} />
        <div className={pageCss.grow}>
          <b>{stop.product.name}</b>
          <span className={`${textCss.code} ${css.sku}`} data-part="sku">
            {stop.product.sku}
          </span>
          {stop.product.hint && <div>{stop.product.hint}</div>}
        </div>
      </div>
      <div className={css.counts}>
        <div>
          <span className={css.big}>{stop.taken}</span>
          <small>of {stop.wanted} taken</small>
        </div>
        <Pips wanted={stop.wanted} done={stop.taken} />
        {stop.tote && (
          <div className={css.tote}>
            <b>{stop.tote.mark}</b>into {stop.tote.colour} tote
          </div>
        )}
      </div>
      <div className={css.acts}>
        <Button variant="outlined" disabled={!(seen && state.seen)} onClick={() => scan('AUK-ALL')}>
          All {open} more
        </Button>
        <Button variant="outlined" disabled={!seen} onClick={() => scan('AUK-SHORT')}>
          Not enough
        </Button>
        <TypeCode scan={scan} />
      </div>
      <div className={css.more}>
        <Button variant="outlined" onClick={() => scan('AUK-UNDO')}>
          Undo
        </Button>
        <Button variant="outlined" onClick={() => scan('AUK-SKIP')}>
          Later
        </Button>
      </div>
    </>
  );
}

/** A code typed on the glass, where a shelf or a piece has no label that can be read. */
function TypeCode({ scan }: { scan: (text: string) => void }) {
  const [open, setOpen] = useState(false);
  if (!open)
    return (
      <Button variant="outlined" onClick={() => setOpen(true)}>
        No label
      </Button>
    );
  return (
    <InputBase
      className={css.typing}
      autoFocus
      inputProps={{ 'aria-label': 'Type a code', enterKeyHint: 'done' }}
      onBlur={() => setOpen(false)}
      onKeyDown={e => {
        if (e.key !== 'Enter') return;
        scan((e.target as HTMLInputElement).value);
        setOpen(false);
      }}
    />
  );
}

function Finished({ state }: { state: PickState }) {
  const missing = state.stops.filter(s => s.missing > 0);
  return (
    <>
      <span className={css.place} data-part="place">
        Done
      </span>
      <p className={css.lead}>
        {state.stops.length === 1 ? 'Its one stop is' : `All ${state.stops.length} stops are`} finished. Bring
        the totes to the benches.
      </p>
      {missing.map(s => (
        <p key={s.id}>
          {s.missing} × {s.product.name} were not at {s.placeCode}.
        </p>
      ))}
      <Button variant="outlined" className={css.bigbutton} component={Link} to="/floor">
        Next list
      </Button>
    </>
  );
}
