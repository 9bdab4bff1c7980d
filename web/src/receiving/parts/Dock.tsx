import { ReceiveView } from '@auk/contract';
import { atDevice, type ReceiveLine, receiveScan } from '@auk/core';
import Button from '@mui/material/Button';
import { useCallback, useEffect, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { PieceLine } from '../../packing/parts/PieceLine.js';
import { day } from '../../parts/format.js';
import textCss from '../../parts/text.module.css';
import { AnswerBar } from '../../scans/AnswerBar.js';
import css from '../../scans/bench.module.css';
import { CameraButton } from '../../scans/Camera.js';
import { deviceId } from '../../scans/device.js';
import { Lines } from '../../scans/Lines.js';
import { Unsent } from '../../scans/Unsent.js';
import { useScanner } from '../../scans/useScanner.js';
import { useScanSession } from '../../scans/useScanSession.js';
import { Who } from '../../shell/Who.js';
import { dockPath, readDock } from '../api.js';
import { DockSide } from './DockSide.js';

/** Alt and a number: what each does. */
const KEYS: [key: string, name: string, command: string][] = [
  ['Alt 1', 'undo', 'AUK-UNDO'],
  ['Alt 2', 'all the rest', 'AUK-ALL'],
  ['Alt 3', 'leave it uncounted', 'AUK-SKIP'],
];

export function Dock({ opened }: { opened: ReceiveView }) {
  const navigate = useNavigate();
  const [typed, setTyped] = useState('');
  const [view, setView] = useState(opened);
  const id = opened.sessionId;
  const refresh = useCallback(async () => setView(await readDock(id)), [id]);
  const session = useScanSession(
    opened.sessionId,
    `${dockPath(id)}/scans`,
    opened.no,
    opened.state,
    receiveScan,
    answer => {
      if (answer.kind === 'counted' || answer.kind === 'complete' || answer.kind === 'undone') void refresh();
    },
  );
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
    <div className={`${css.edge} ${css[answer.tone]}`}>
      <header className={css.bhead}>
        <h1 className={`${textCss.code} ${css.no}`}>{view.no}</h1>
        <span>
          <b>{state.supplier}</b>
          <small>
            {view.reference} {view.expected && `expected ${day(view.expected)}`}
          </small>
        </span>
        <Unsent />
        <CameraButton />
        <Link className={css.end} to="/receiving">
          all orders
        </Link>
        <Who />
      </header>
      <div className={css.body}>
        <Lines>
          {state.lines.map(l => (
            <DockLine key={l.id} line={l} now={l.id === (mine.asked?.lineId ?? mine.lastLineId)} />
          ))}
        </Lines>
        <DockSide state={state} view={view} waiting={session.waiting} offline={session.offline} />
      </div>
      <AnswerBar answer={answer} where="foot" typed={typed}>
        <div className={css.keys}>
          {KEYS.filter(([, , command]) => command !== 'AUK-SKIP' || mine.asked).map(
            ([key, name, command], i) => (
              <span key={key}>
                {i > 0 && ' · '}
                <Button color="inherit" title={key} onClick={() => scan(command)}>
                  {name}
                </Button>
              </span>
            ),
          )}
          <br />
          <small>or type how many more</small>
        </div>
      </AnswerBar>
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
