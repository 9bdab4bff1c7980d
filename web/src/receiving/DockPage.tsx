import { Person, ReceiveView } from '@auk/contract';
import { atDevice, type ReceiveLine, type ReceiveState, receiveScan } from '@auk/core';
import { ThemeProvider } from '@mui/material/styles';
import { useQuery } from '@tanstack/react-query';
import { useCallback, useEffect, useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { get, post, wordsOf } from '../api.js';
import '../packing/bench.css';
import { PieceLine } from '../packing/PieceLine.js';
import { day } from '../parts/format.js';
import { deviceId } from '../scans/device.js';
import { useScanner } from '../scans/useScanner.js';
import { useScanSession } from '../scans/useScanSession.js';
import { benchTheme } from '../theme.js';
import './dock.css';

/** The dock: one purchase order, received by scan. */
export default function DockPage({ me }: { me: Person }) {
  const { no } = useParams();
  const opened = useQuery({
    queryKey: ['dock', no],
    queryFn: () => post(ReceiveView, `receiving/${no}/open`, { device: deviceId() }),
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
  });
  return (
    <ThemeProvider theme={benchTheme}>
      <div className="bench dock">
        {opened.data ? (
          <Dock key={opened.data.sessionId} me={me} opened={opened.data} />
        ) : (
          <Closed error={opened.error} />
        )}
      </div>
    </ThemeProvider>
  );
}

function Closed({ error }: { error: unknown }) {
  if (!error) return null;
  const { says, cure } = wordsOf(error);
  return (
    <main className="wait edge wrong">
      <b>{says}</b>
      <span className="plain">{cure}</span>
      <Link to="/receiving">All purchase orders</Link>
    </main>
  );
}

/** Alt and a number: what each does. */
const KEYS: [key: string, name: string, command: string][] = [
  ['Alt 1', 'undo', 'AUK-UNDO'],
  ['Alt 2', 'all the rest', 'AUK-ALL'],
  ['Alt 3', 'leave it uncounted', 'AUK-SKIP'],
];

function Dock({ me, opened }: { me: Person; opened: ReceiveView }) {
  const navigate = useNavigate();
  const [typed, setTyped] = useState('');
  const [view, setView] = useState(opened);
  const path = `receiving/sessions/${opened.sessionId}`;
  const refresh = useCallback(async () => setView(await get(ReceiveView, path)), [path]);
  const session = useScanSession(opened.sessionId, `${path}/scans`, opened.state, receiveScan, answer => {
    if (answer.kind === 'counted' || answer.kind === 'complete' || answer.kind === 'undone') void refresh();
  });
  const { state, scan } = session;
  const take = useCallback(
    (text: string) => {
      if (/^PO-\d+$/i.test(text.trim())) void navigate(`/receiving/${text.trim().toUpperCase()}`);
      else scan(text);
    },
    [navigate, scan],
  );
  useScanner(take, { typed: true, onTyping: setTyped });
  useEffect(() => {
    const keys = (event: KeyboardEvent) => {
      const key = event.altKey ? KEYS[Number(event.key) - 1] : undefined;
      if (!key) return;
      event.preventDefault();
      scan(key[2]);
    };
    window.addEventListener('keydown', keys);
    return () => window.removeEventListener('keydown', keys);
  }, [scan]);
  const mine = atDevice(state, deviceId());
  const answer = session.answer ?? {
    tone: 'info' as const,
    says: 'Scan what comes.',
    next: 'Each scan counts; a case code counts its pack. Then scan the place where you put it.',
  };
  return (
    <div className={`edge ${answer.tone}`}>
      <header className="bhead">
        <span className="code">{view.no}</span>
        <span>
          <b>{state.supplier}</b>
          <small>
            {view.reference} {view.expected && `expected ${day(view.expected)}`}
          </small>
        </span>
        <span style={{ marginLeft: 'auto', textAlign: 'right' }}>
          <b>{me.name}</b>
          <Link to="/receiving">all orders</Link>
        </span>
      </header>
      <div className="body">
        <main className="lines">
          {state.lines.map(l => (
            <DockLine key={l.id} line={l} now={l.id === (mine.asked?.lineId ?? mine.lastLineId)} />
          ))}
        </main>
        <DockSide state={state} view={view} waiting={session.waiting} offline={session.offline} />
      </div>
      <div className={`answer ${answer.tone}`} role="status" aria-live="assertive">
        <div className="grow">
          <b>{answer.says}</b>
          {typed ? <span className="typed">{typed}</span> : answer.next}
        </div>
        <div className="keys">
          {KEYS.filter(([, , command]) => command !== 'AUK-SKIP' || mine.asked).map(
            ([key, name, command], i) => (
              <span key={key}>
                {i > 0 && ' · '}
                <button type="button" title={key} onClick={() => scan(command)}>
                  {name}
                </button>
              </span>
            ),
          )}
          <br />
          <small>or type how many more</small>
        </div>
      </div>
    </div>
  );
}

function DockLine({ line: l, now }: { line: ReceiveLine; now: boolean }) {
  return (
    <PieceLine
      product={l.product}
      wanted={l.ordered}
      done={l.received}
      now={now}
      about={[l.lotWanted && 'lot wanted', l.expiryWanted && 'expiry wanted']}
    />
  );
}

function DockSide({
  state,
  view,
  waiting,
  offline,
}: {
  state: ReceiveState;
  view: ReceiveView;
  waiting: number;
  offline: boolean;
}) {
  const mine = atDevice(state, deviceId());
  const held = mine.inHand.at(-1);
  const line = held && state.lines.find(l => l.id === held.lineId);
  const others = mine.inHand.filter(h => h.lineId !== held?.lineId).reduce((n, h) => n + h.units, 0);
  const units = mine.inHand.filter(h => h.lineId === held?.lineId).reduce((n, h) => n + h.units, 0);
  return (
    <aside className="side">
      <h2>Put away</h2>
      {line ? (
        <>
          <p>
            {units} × {line.product.name} to
          </p>
          <p className="putaway code">{line.putAway?.code ?? 'any place'}</p>
          <small>
            {line.putAway?.why ?? 'no place has room; choose one'}. Scan the place when they lie there.
          </small>
          {others > 0 && <p className="risk">{others} more lie on the dock.</p>}
        </>
      ) : (
        <small>Nothing is in hand. What stays on the dock can be picked from there.</small>
      )}
      {offline && <p className="risk">No network: scans are kept and sent later.</p>}
      {!offline && waiting > 0 && <small>{waiting} on their way</small>}
      <h2 style={{ marginTop: 28 }}>Clear now</h2>
      {view.freed.length === 0 && <small>Orders that waited for this show here, most urgent first.</small>}
      {view.freed.map(o => (
        <p key={o.id} className="freed">
          ● <span className="code">{o.channelNumber}</span> {o.buyer}
        </p>
      ))}
    </aside>
  );
}
