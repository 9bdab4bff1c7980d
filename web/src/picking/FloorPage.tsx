import { ListRow, ListView, OpenedList, Person } from '@auk/contract';
import { type PickState, type PickStop, pickDone, pickScan, stopOpen } from '@auk/core';
import { ThemeProvider } from '@mui/material/styles';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { get, post, wordsOf } from '../api.js';
import { Picture } from '../parts/picture.js';
import { Pips } from '../parts/pips.js';
import { deviceId } from '../scans/device.js';
import { playTone } from '../scans/sounds.js';
import { useScanner } from '../scans/useScanner.js';
import { useScanSession } from '../scans/useScanSession.js';
import { benchTheme } from '../theme.js';
import './floor.css';
import { WalkMap } from './WalkMap.js';

/** The Floor: a list is opened by its code, then one stop at a time. */
export default function FloorPage({ me }: { me: Person }) {
  const { code } = useParams();
  const [opened, setOpened] = useState<OpenedList | null>(null);
  const [error, setError] = useState<{ says: string; cure: string } | null>(null);
  useEffect(() => {
    setOpened(null);
    if (!code) return;
    let wanted = true;
    post(OpenedList, 'picking/open', { code, device: deviceId() }).then(
      got => wanted && setOpened(got),
      problem => {
        if (!wanted) return;
        playTone('wrong');
        setError(wordsOf(problem));
      },
    );
    return () => {
      wanted = false;
    };
  }, [code]);
  return (
    <ThemeProvider theme={benchTheme}>
      <div className="floor">
        {code && opened ? (
          <Walk key={opened.sessionId} opened={opened} />
        ) : (
          <ChooseList me={me} error={error} />
        )}
      </div>
    </ThemeProvider>
  );
}

function ChooseList({ me, error }: { me: Person; error: { says: string; cure: string } | null }) {
  const navigate = useNavigate();
  const [typed, setTyped] = useState('');
  const lists = useQuery({ queryKey: ['lists'], queryFn: () => get(ListRow.array(), 'picking/lists') });
  useScanner(text => void navigate(`/floor/${encodeURIComponent(text.trim().slice(0, 40))}`), {
    typed: true,
    onTyping: setTyped,
  });
  return (
    <main className="hand">
      <div className="head">
        <b>{me.name}</b>
        <span style={{ marginLeft: 'auto' }}>
          {me.role !== 'picker' && (
            <Link to="/board" style={{ color: 'inherit' }}>
              Board
            </Link>
          )}
        </span>
      </div>
      <h1 style={{ fontSize: 32, lineHeight: 1.15 }}>Scan a pick list</h1>
      {error && (
        <div className="answer wrong" role="alert">
          <b>{error.says}</b>
          {error.cure}
        </div>
      )}
      {typed && <p className="typed">{typed}</p>}
      <p style={{ color: 'var(--quiet)' }}>or take the next one:</p>
      {lists.data
        ?.filter(l => l.state !== 'done')
        .map(l => (
          <button
            key={l.id}
            type="button"
            className="bigbutton"
            onClick={() => void navigate(`/floor/${l.no}`)}
          >
            <span className="code">{l.no}</span> · {l.stops} stops, {l.units - l.taken} pieces{' '}
            {l.picker ? `· ${l.picker}` : ''}
          </button>
        ))}
      {lists.data?.every(l => l.state === 'done') && (
        <p>No list waits. The lead makes them from Clear orders.</p>
      )}
    </main>
  );
}

function Walk({ opened }: { opened: OpenedList }) {
  const session = useScanSession(
    opened.sessionId,
    `picking/sessions/${opened.sessionId}/scans`,
    opened.state,
    pickScan,
  );
  const { state, answer, scan } = session;
  const [typed, setTyped] = useState('');
  useScanner(scan, { typed: true, onTyping: setTyped });
  const list = useQuery({
    queryKey: ['list', state.listNo],
    queryFn: () => get(ListView, `picking/lists/${state.listNo}`),
  });
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
    <main className="hand">
      <div className="head">
        <b className="code">{state.listNo}</b>
        <Link to="/floor" style={{ color: 'inherit' }}>
          lists
        </Link>
        <span style={{ marginLeft: 'auto' }}>
          stop <b>{Math.min(state.at + 1, state.stops.length)}</b> of {state.stops.length}
        </span>
      </div>
      <div className="progress">
        <i style={{ width: `${(100 * taken) / Math.max(1, wanted)}%` }} />
      </div>
      {spots.size > 0 && (
        <div className="map">
          <WalkMap stops={map} at={done ? null : state.at} dark height={104} />
        </div>
      )}
      {done || !stop ? <Finished state={state} /> : <Stop stop={stop} state={state} scan={scan} />}
      <div className="spacer" />
      {session.offline && (
        <p className="typed" role="status">
          No network. {session.waiting} scans are kept and will be sent.
        </p>
      )}
      {typed && <p className="typed">{typed}</p>}
      <div className={`answer ${answer?.tone ?? ''}`} role="status" aria-live="assertive">
        <b>{answer?.says ?? (done ? 'List complete.' : `Go to ${stop?.placeCode}`)}</b>
        {answer?.next ?? (done ? 'Bring the totes to the benches.' : 'Scan the place, then the product.')}
      </div>
      {next && !done && (
        <div className="then">
          then <b className="code">{next.placeCode}</b> {next.product.name}
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
      <div className="placerow">
        <span className="place">{stop.placeCode}</span>
        <span className={seen ? 'seen' : ''}>{seen ? '✓ right place' : 'scan the place'}</span>
      </div>
      <div className="thing">
        <Picture name={stop.product.picture} size={92} />
        <div className="grow">
          <b>{stop.product.name}</b>
          <span className="code">{stop.product.sku}</span>
          {stop.product.hint && <div>{stop.product.hint}</div>}
        </div>
      </div>
      <div className="counts">
        <div>
          <span className="big">{stop.taken}</span>
          <small>of {stop.wanted} taken</small>
        </div>
        <Pips wanted={stop.wanted} done={stop.taken} />
        {stop.tote && (
          <div className="tote">
            <b>{stop.tote.mark}</b>into tote
          </div>
        )}
      </div>
      <div className="acts">
        <button type="button" disabled={!(seen && state.seen)} onClick={() => scan('AUK-ALL')}>
          All {open} more
        </button>
        <button type="button" disabled={!seen} onClick={() => scan('AUK-SHORT')}>
          Not enough
        </button>
        <TypeCode scan={scan} />
      </div>
      <div className="more">
        <button type="button" onClick={() => scan('AUK-UNDO')}>
          Undo
        </button>
        <button type="button" onClick={() => scan('AUK-SKIP')}>
          Later
        </button>
      </div>
    </>
  );
}

/** A code typed on the glass, where a shelf or a piece has no label that can be read. */
function TypeCode({ scan }: { scan: (text: string) => void }) {
  const [open, setOpen] = useState(false);
  if (!open)
    return (
      <button type="button" onClick={() => setOpen(true)}>
        No label
      </button>
    );
  return (
    <input
      className="typing"
      aria-label="Type a code"
      enterKeyHint="done"
      style={{ gridColumn: '1 / -1' }}
      ref={field => field?.focus()}
      onBlur={() => setOpen(false)}
      onKeyDown={e => {
        if (e.key !== 'Enter') return;
        scan(e.currentTarget.value);
        setOpen(false);
      }}
    />
  );
}

function Finished({ state }: { state: PickState }) {
  const missing = state.stops.filter(s => s.missing > 0);
  return (
    <>
      <span className="place">Done</span>
      <p style={{ fontSize: 19 }}>
        All {state.stops.length} stops are finished. Bring the totes to the benches.
      </p>
      {missing.map(s => (
        <p key={s.id}>
          {s.missing} × {s.product.name} were not at {s.placeCode}.
        </p>
      ))}
      <Link
        className="bigbutton"
        style={{ display: 'grid', placeItems: 'center', textDecoration: 'none' }}
        to="/floor"
      >
        Next list
      </Link>
    </>
  );
}
