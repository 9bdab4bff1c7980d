import { BenchView, Person } from '@auk/contract';
import {
  type Answer,
  type PackLine,
  type PackState,
  packDone,
  packNotes,
  packScan,
  parseScan,
} from '@auk/core';
import { useQueryClient } from '@tanstack/react-query';
import { DateTime } from 'luxon';
import { useCallback, useEffect, useState } from 'react';
import { get } from '../api.js';
import { clock, span } from '../parts/format.js';
import { useScanner } from '../scans/useScanner.js';
import { useScanSession } from '../scans/useScanSession.js';
import { useMinute } from '../shell/Shell.js';
import { PackSide } from './PackSide.js';
import { PieceLine } from './PieceLine.js';
import { type LabelDesk, useLabelDesk } from './useLabelDesk.js';

interface Props {
  me: Person;
  view: BenchView;
  open: (code: string) => void;
  leave: () => void;
}

/** Alt and a number: what each does, in the order they stand on screen. */
const KEYS: [key: string, name: string, command: string][] = [
  ['Alt 1', 'undo', 'AUK-UNDO'],
  ['Alt 2', 'label', 'AUK-LABEL'],
  ['Alt 3', 'set aside', 'AUK-ASIDE'],
  ['Alt 4', 'yes', 'AUK-YES'],
];

/** One order at the bench: what is in, what is missing, the answer to the last scan as the largest sentence. */
export function PackBoard({ me, view: opened, open, leave }: Props) {
  const client = useQueryClient();
  const [view, setView] = useState(opened);
  const refresh = useCallback(
    async () => setView(await get(BenchView, `packing/sessions/${opened.sessionId}`)),
    [opened.sessionId],
  );
  const session = useScanSession(
    opened.sessionId,
    `packing/sessions/${opened.sessionId}/scans`,
    opened.state,
    packScan,
    (answer: Answer) => {
      if (answer.kind === 'set') void refresh();
    },
  );
  const { state, scan } = session;
  const desk = useLabelDesk(
    view.parcelNo,
    view.state.closed,
    view.label,
    () => void refresh().then(() => client.invalidateQueries({ queryKey: ['strip'] })),
  );
  const [typed, setTyped] = useState('');

  const take = useCallback(
    (text: string) => {
      const parsed = parseScan(text, 2000);
      const code = parsed.ok && parsed.value.type === 'own' ? parsed.value : null;
      if (text.trim().toUpperCase() === 'AUK-ASIDE') return leave();
      const another =
        code && ['order', 'tote', 'parcel', 'list'].includes(code.kind) && code.code !== state.orderNo;
      if (another && (state.closed || !begun(state))) return open(text);
      if (state.closed && text.trim().toUpperCase() === 'AUK-LABEL') return desk.buyFirst();
      if (state.closed && !parsed.ok) return scan(text);
      if (state.closed && !code && desk.label?.state === 'bought') return open(text);
      scan(text);
    },
    [desk, leave, open, scan, state],
  );
  useScanner(take, { typed: true, onTyping: setTyped });
  useEffect(() => {
    const keys = (event: KeyboardEvent) => {
      if (!event.altKey || !/^[1-9]$/.test(event.key)) return;
      event.preventDefault();
      if (state.closed && desk.offers && desk.label?.state !== 'bought') desk.buy(Number(event.key) - 1);
      else {
        const key = KEYS[Number(event.key) - 1];
        if (key) take(key[2]);
      }
    };
    window.addEventListener('keydown', keys);
    return () => window.removeEventListener('keydown', keys);
  }, [desk, state.closed, take]);

  const answer = answerOf(session.answer, state, desk);
  const now = state.lines.findIndex(l => l.packed < l.wanted);
  return (
    <div className={`edge ${answer.tone}`}>
      <Head me={me} view={view} state={state} />
      <div className="body">
        <main className="lines">
          {state.lines.map((l, i) => (
            <Line key={l.id} line={l} now={i === now} />
          ))}
        </main>
        <PackSide state={state} view={view} desk={desk} waiting={session.waiting} offline={session.offline} />
      </div>
      <div className={`answer ${answer.tone}`} role="status" aria-live="assertive">
        <div className="grow">
          <b>{answer.says}</b>
          {typed ? <span className="typed">{typed}</span> : answer.next}
        </div>
        <div className="keys">
          {state.closed ? (
            <button type="button" onClick={leave}>
              next order
            </button>
          ) : (
            KEYS.filter(([, name]) => name !== 'yes' || packNotes(state).length > 0).map(
              ([key, name, command], i) => (
                <span key={key}>
                  {i > 0 && ' · '}
                  <button type="button" onClick={() => take(command)} title={key}>
                    {name}
                  </button>
                </span>
              ),
            )
          )}
          <br />
          <small>
            {state.closed ? 'or scan the next slip' : 'from the scan sheet, or Alt and its number'}
          </small>
        </div>
      </div>
    </div>
  );
}

/** True when something is in: another slip must not take the order away. */
const begun = (state: PackState): boolean => state.history.length > 0;

/** What the bottom says: the label's state once the parcel is closed, else the answer to the last scan. */
function answerOf(
  last: Answer | null,
  state: PackState,
  desk: LabelDesk,
): Pick<Answer, 'says' | 'next' | 'tone'> {
  if (desk.problem) return { says: desk.problem.says, next: desk.problem.cure, tone: 'wrong' };
  const label = desk.label;
  if (label?.state === 'bought')
    return {
      says: `Label bought, ${label.service}.`,
      next: 'Stick it on and put the parcel with its departure. Then scan the next slip.',
      tone: 'complete',
    };
  if (label?.state === 'refused')
    return {
      says: 'The label was refused.',
      next: `${label.why ?? ''} Choose another service.`,
      tone: 'wrong',
    };
  if (label)
    return {
      says: 'The carrier has not answered.',
      next: `${label.why ?? ''} Auk asks again; nothing is bought twice. Set the parcel aside.`,
      tone: 'info',
    };
  if (state.closed)
    return {
      says: desk.busy ? 'Buying the label …' : 'Choose the service.',
      next: 'Alt 1 or the “label” code takes the first.',
      tone: 'complete',
    };
  return (
    last ?? {
      says: packDone(state) ? 'Everything is in.' : 'Scan the pieces.',
      next: 'Each piece is checked as it goes in.',
      tone: 'info',
    }
  );
}

function Head({ me, view, state }: { me: Person; view: BenchView; state: PackState }) {
  const now = useMinute();
  const left = view.departure ? DateTime.fromISO(view.departure.cutOff).diff(now, 'minutes').minutes : 0;
  return (
    <header className="bhead">
      <span className="code">{view.channelNumber}</span>
      <span>
        <b>{view.buyer}</b>
        <small>
          {view.town} · {view.channel}
        </small>
      </span>
      {view.departure && (
        <span>
          <b>
            {view.departure.carrier} {clock(view.departure.cutOff)}
          </b>
          <small>{left > 0 ? `${span(left)} left` : 'its time has passed'}</small>
        </span>
      )}
      {view.note && (
        <span style={{ color: 'var(--risk)' }}>
          <b>Note</b>
          {view.note}
        </span>
      )}
      {view.notes.map(n => (
        <span key={n.text} style={{ color: 'var(--risk)' }}>
          <b>{n.confirm && packNotes(state).includes(n.text) ? '▲ Confirm' : 'Note'}</b>
          {n.text}
        </span>
      ))}
      <span style={{ marginLeft: 'auto', textAlign: 'right' }}>
        <b>{view.behind} behind you</b>
        <small>
          {me.name} · {view.parcelNo}
        </small>
      </span>
    </header>
  );
}

function Line({ line: l, now }: { line: PackLine; now: boolean }) {
  const open = l.kitParts.length > 0 && l.packed < l.wanted && now;
  return (
    <PieceLine
      product={l.product}
      wanted={l.wanted}
      done={l.packed}
      now={now}
      about={[l.bundle && `part of ${l.bundle.name}`, l.product.hint]}
    >
      {open && (
        <div className="kitparts">
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
