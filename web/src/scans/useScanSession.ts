import { fromCore, judgedOf, ScanIn } from '@auk/contract';
import type { Answer, Scan, Step } from '@auk/core';
import { useCallback, useEffect, useRef, useState } from 'react';
import { post, Refused, wordsOf } from '../api.js';
import { makeScan } from './device.js';
import { playTone } from './sounds.js';

const RETRY_MS = 1_000;

/** What a screen needs of its scan session. */
export interface ScanSession<S> {
  state: S;
  answer: Answer | null;
  /** Scans made here that the server has not judged yet. */
  waiting: number;
  /** True while the server cannot be reached; scans are kept and sent later. */
  offline: boolean;
  scan: (text: string) => void;
}

interface Queue {
  read: () => ScanIn[];
  write: (scans: ScanIn[]) => void;
}

/** Scans not judged yet, kept on the device so that a reload loses none. */
function queueOf(sessionId: string): Queue {
  const key = `auk.scans.${sessionId}`;
  return {
    read: () => JSON.parse(localStorage.getItem(key) ?? '[]') as ScanIn[],
    write: scans =>
      scans.length ? localStorage.setItem(key, JSON.stringify(scans)) : localStorage.removeItem(key),
  };
}

/**
 * A session of scans: the core's reducer answers at once, the server judges in order and corrects. `path` is where scans go.
 * `judged` is told of each judgement.
 */
export function useScanSession<S, E>(
  sessionId: string,
  path: string,
  opened: S,
  reduce: (state: S, scan: Scan) => Step<S, E>,
  judged?: (answer: Answer, state: S) => void,
): ScanSession<S> {
  const [state, setState] = useState(opened);
  const [answer, setAnswer] = useState<Answer | null>(null);
  const [waiting, setWaiting] = useState(0);
  const [offline, setOffline] = useState(false);
  const local = useRef(opened);
  const sending = useRef(false);
  const alive = useRef(true);
  const told = useRef(judged);
  told.current = judged;

  const show = useCallback((next: S) => {
    local.current = next;
    setState(next);
  }, []);

  const send = useCallback(async () => {
    if (sending.current) return;
    sending.current = true;
    const queue = queueOf(sessionId);
    while (alive.current && queue.read().length > 0) {
      const [first] = queue.read() as [ScanIn, ...ScanIn[]];
      const result = await judge<S>(path, first);
      if (result === 'unreached') {
        setOffline(true);
        await new Promise(resolve => setTimeout(resolve, RETRY_MS));
        continue;
      }
      setOffline(false);
      const rest = queue.read().filter(s => s.id !== first.id);
      queue.write(rest);
      setWaiting(rest.length);
      if (result.state !== undefined) show(rest.reduce<S>((s, scan) => reduce(s, scan).state, result.state));
      if (rest.length === 0) setAnswer(shown => correct(shown, result.answer));
      if (result.state !== undefined) told.current?.(result.answer, result.state);
    }
    sending.current = false;
  }, [path, reduce, sessionId, show]);

  const scan = useCallback(
    (text: string) => {
      const made = makeScan(text);
      const queue = queueOf(sessionId);
      queue.write([...queue.read(), made]);
      setWaiting(queue.read().length);
      const step = reduce(local.current, made);
      show(step.state);
      setAnswer(step.answer);
      playTone(step.answer.tone);
      void send();
    },
    [reduce, send, sessionId, show],
  );

  // A new session starts anew; what was opened, and how it is reduced and sent, belong to it.
  // biome-ignore lint/correctness/useExhaustiveDependencies: only the session starts it
  useEffect(() => {
    alive.current = true;
    show(
      queueOf(sessionId)
        .read()
        .reduce<S>((s, made) => reduce(s, made).state, opened),
    );
    void send();
    return () => {
      alive.current = false;
    };
  }, [sessionId]);

  return { state, answer, waiting, offline, scan };
}

/** Asks the server to judge; a refusal of the whole request becomes an answer of its own. */
async function judge<S>(
  path: string,
  scan: ScanIn,
): Promise<{ answer: Answer; state: S | undefined } | 'unreached'> {
  try {
    return await post(judgedOf(fromCore<S>()), path, scan);
  } catch (error) {
    if (!(error instanceof Refused) || error.problem.status >= 500) return 'unreached';
    const { says, cure } = wordsOf(error);
    return { answer: { kind: 'refused', tone: 'wrong', says, next: cure }, state: undefined };
  }
}

/** Replaces the device's answer by the server's, and sounds again only when the tone differs. */
function correct(shown: Answer | null, judgedAs: Answer): Answer {
  if (shown && shown.tone !== judgedAs.tone) playTone(judgedAs.tone);
  return judgedAs;
}
