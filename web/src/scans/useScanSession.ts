import type { ScanIn } from '@auk/contract';
import type { Answer, Scan, Step } from '@auk/core';
import { useCallback, useEffect, useRef, useState } from 'react';
import { makeScan } from './device.js';
import { playTone } from './sounds.js';
import { outbox, useOutbox } from './theOutbox.js';

/** An answer, and how many scans in a row were answered so. */
export interface Said extends Answer {
  times: number;
}

/** What a screen needs of its scan session. */
export interface ScanSession<S> {
  state: S;
  answer: Said | null;
  /** Scans made here that the server has not judged yet. */
  waiting: number;
  /** True while nothing reaches the server; scans are kept and sent later. */
  offline: boolean;
  /** Takes a scan; `by` where a scanner did not read it. */
  scan: (text: string, by?: ScanIn['by']) => void;
}

type Reduce<S, E> = ((state: S, scan: Scan) => Step<S, E>) | null;

/**
 * A session of scans: the core's reducer answers at once, the server judges in order and corrects; without a reducer the server
 * alone answers. What is shown is the server's state and what is on its way, never more. `lane` is the session, `path` where its
 * scans go, `into` what they are scanned into; `judged` is told of each judgement.
 */
export function useScanSession<S, E>(
  lane: string,
  path: string,
  into: string,
  opened: S,
  reduce: Reduce<S, E>,
  judged?: (answer: Answer, state: S) => void,
): ScanSession<S> {
  const [base, setBase] = useState(opened);
  const [answer, setAnswer] = useState<Said | null>(null);
  /** What was said last, here and by the server, who knows more words for the same. */
  const last = useRef<{ here: Said | null; judged: Said | null }>({ here: null, judged: null });
  const count = useCallback((by: 'here' | 'judged', said: Answer): Said => {
    const before = last.current[by];
    const counted = { ...said, times: before?.says === said.says ? before.times + 1 : 1 };
    last.current[by] = counted;
    return counted;
  }, []);
  const { trouble } = useOutbox();
  const pending = outbox.of(lane);
  const state = after(reduce, base, pending);
  const shown = useRef(state);
  shown.current = state;
  const told = useRef(judged);
  told.current = judged;

  const scan = useCallback(
    (text: string, by?: ScanIn['by']) => {
      const made = makeScan(text, by);
      if (reduce) {
        const step = reduce(shown.current, made);
        shown.current = step.state;
        setAnswer(count('here', step.answer));
        playTone(step.answer.tone);
      } else setAnswer(null);
      outbox.add(lane, path, into, made);
    },
    [count, into, lane, path, reduce],
  );

  useEffect(
    () =>
      outbox.hearOutcomes(outcome => {
        if (outcome.lane !== lane) return;
        if (outcome.judged) setBase(outcome.state as S);
        const counted = count('judged', outcome.answer);
        if (outbox.of(lane).length === 0) {
          // The server's answer takes the place of the device's, and sounds where the device did not, or sounded otherwise.
          if (!reduce || last.current.here?.tone !== counted.tone) playTone(counted.tone);
          setAnswer(counted);
        }
        if (outcome.judged) told.current?.(outcome.answer, outcome.state as S);
      }),
    [count, lane, reduce],
  );

  return { state, answer, waiting: pending.length, offline: trouble !== null && pending.length > 0, scan };
}

/** The state after scans that the server has not judged yet. */
function after<S, E>(reduce: Reduce<S, E>, state: S, pending: readonly { scan: Scan }[]): S {
  return reduce ? pending.reduce<S>((s, p) => reduce(s, p.scan).state, state) : state;
}
