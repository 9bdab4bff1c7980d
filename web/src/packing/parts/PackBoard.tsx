import { BenchView } from '@auk/contract';
import { type Answer, type PackLine, type PackState, packNotes, packScan, parseScan } from '@auk/core';
import Button from '@mui/material/Button';
import { useQueryClient } from '@tanstack/react-query';
import { type RefObject, useCallback, useEffect, useRef, useState } from 'react';
import { stripQuery } from '../../departures/api.js';
import { AnswerBar } from '../../scans/AnswerBar.js';
import css from '../../scans/bench.module.css';
import { Lines } from '../../scans/Lines.js';
import { useScanner } from '../../scans/useScanner.js';
import { useScanSession } from '../../scans/useScanSession.js';
import { benchPath, readBench } from '../api.js';
import { answerOf } from '../packAnswer.js';
import { useLabelDesk } from '../useLabelDesk.js';
import { PackHead } from './PackHead.js';
import { PackSide } from './PackSide.js';
import { PieceLine } from './PieceLine.js';

interface Props {
  view: BenchView;
  open: (code: string) => void;
  /** What was scanned while the order was being opened. */
  early: RefObject<string[]>;
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
export function PackBoard({ view: opened, open, early, leave }: Props) {
  const client = useQueryClient();
  const [view, setView] = useState(opened);
  const refresh = useCallback(async () => setView(await readBench(opened.sessionId)), [opened.sessionId]);
  const session = useScanSession(
    opened.sessionId,
    `${benchPath(opened.sessionId)}/scans`,
    opened.state.orderNo,
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
    () => void refresh().then(() => client.invalidateQueries(stripQuery)),
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
  const newest = useRef(take);
  newest.current = take;
  useEffect(() => {
    for (const text of early.current.splice(0)) newest.current(text);
  }, [early]);
  useEffect(() => {
    const keys = (event: KeyboardEvent) => {
      if (!event.altKey || !/^[1-9]$/.test(event.key)) return;
      event.preventDefault();
      // Once the parcel is closed a number buys a label and does nothing else: pressed twice, it undoes nothing.
      if (state.closed) {
        if (!desk.offers) desk.askAgain();
        else if (desk.label?.state !== 'bought') desk.buy(Number(event.key) - 1);
        return;
      }
      const key = KEYS[Number(event.key) - 1];
      if (key) take(key[2]);
    };
    window.addEventListener('keydown', keys);
    return () => window.removeEventListener('keydown', keys);
  }, [desk, state.closed, take]);

  const answer = answerOf(session.answer, state, desk);
  const now = state.lines.findIndex(l => l.packed < l.wanted);
  return (
    <div className={`${css.edge} ${css[answer.tone]}`}>
      <PackHead view={view} state={state} />
      <div className={css.body}>
        <Lines>
          {state.lines.map((l, i) => (
            <Line key={l.id} line={l} now={i === now} />
          ))}
        </Lines>
        <PackSide state={state} view={view} desk={desk} waiting={session.waiting} offline={session.offline} />
      </div>
      <AnswerBar answer={answer} where="foot" typed={typed}>
        <Keys state={state} take={take} leave={leave} />
      </AnswerBar>
    </div>
  );
}

/** What can be done without a scanner too, each with its key. */
function Keys({ state, take, leave }: { state: PackState; take: (text: string) => void; leave: () => void }) {
  const acts: [key: string, name: string, act: () => void][] = state.closed
    ? [['', 'next order', leave]]
    : KEYS.filter(([, name]) => name !== 'yes' || packNotes(state).length > 0).map(([key, name, command]) => [
        key,
        name,
        () => take(command),
      ]);
  return (
    <div className={css.keys}>
      {acts.map(([key, name, act], i) => (
        <span key={name}>
          {i > 0 && ' · '}
          <Button color="inherit" title={key} onClick={act}>
            {name}
          </Button>
        </span>
      ))}
      <br />
      <small>{state.closed ? 'or scan the next slip' : 'from the scan sheet, or Alt and its number'}</small>
    </div>
  );
}

/** True when something is in: another slip must not take the order away. */
const begun = (state: PackState): boolean => state.history.length > 0;

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
