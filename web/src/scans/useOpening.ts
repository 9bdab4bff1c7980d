import { count } from '@auk/core';
import { type RefObject, useCallback, useEffect, useRef, useState } from 'react';
import { wordsOf } from '../api.js';
import { playTone } from './sounds.js';

/** Why a code opened nothing, and how often in a row. */
export interface NotOpened {
  says: string;
  cure: string;
  times: number;
}

/** What a scanned code opened; what was scanned meanwhile waits for it. */
export interface Opening<T> {
  opened: T | null;
  problem: NotOpened | null;
  /** Opens what a code belongs to; while another is being opened, the code waits for that one. */
  open: (code: string) => void;
  busy: boolean;
  /** What was scanned while it was being opened. */
  early: RefObject<string[]>;
  leave: () => void;
}

/**
 * Opens what scanned codes belong to, one after the other. `ask` answers what a code opened, or null where it opens nothing and what is
 * open stays; it may put scans of its own before those that wait.
 */
export function useOpening<T>(ask: (code: string, early: string[]) => Promise<T | null>): Opening<T> {
  const [opened, setOpened] = useState<T | null>(null);
  const [problem, setProblem] = useState<NotOpened | null>(null);
  const early = useRef<string[]>([]);
  const [busy, setBusy] = useState(false);
  const opening = useRef(false);
  const asked = useRef(ask);
  asked.current = ask;
  const open = useCallback(async (code: string) => {
    if (opening.current) {
      early.current.push(code);
      return;
    }
    opening.current = true;
    setBusy(true);
    try {
      // What opens nothing, as the code of a bench, leaves what was scanned after it to be opened next.
      for (let next: string | undefined = code; next !== undefined; ) {
        const got: T | null = await asked.current(next, early.current);
        if (got !== null) setOpened(got);
        setProblem(null);
        playTone('right');
        next = got === null ? early.current.shift() : undefined;
      }
    } catch (error) {
      const { says, cure } = wordsOf(error);
      const lost = early.current.splice(0).length;
      const after = lost > 0 ? ` ${count(lost, 'scan')} made after it counted nowhere.` : '';
      setProblem(before => ({
        says,
        cure: cure + after,
        times: before?.says === says ? before.times + 1 : 1,
      }));
      setOpened(null);
      playTone('wrong');
    }
    opening.current = false;
    setBusy(false);
  }, []);
  const leave = useCallback(() => setOpened(null), []);
  return { opened, problem, open, busy, early, leave };
}

/** Takes what was scanned while this was being opened, once it is there. */
export function useEarly(early: RefObject<string[]>, take: (text: string) => void): void {
  const newest = useRef(take);
  newest.current = take;
  useEffect(() => {
    for (const text of early.current.splice(0)) newest.current(text);
  }, [early]);
}
