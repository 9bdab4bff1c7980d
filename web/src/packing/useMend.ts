import { type RefObject, useCallback, useRef } from 'react';
import { wordsOf } from '../api.js';
import type { Trouble } from './packAnswer.js';

/** Mends something of the order at the bench, and keeps what is scanned meanwhile. */
export interface Mend {
  /** Does it, and opens the order anew, so that what was mended counts; `then` is scanned when it is open. */
  mend: (act: () => Promise<void>, then?: string) => void;
  /** True for a scan that waits until what is being mended is done. */
  waits: (text: string) => boolean;
}

/** `fail` is told why something could not be done; what waited is taken by the board as it is then. */
export function useMend(
  orderNo: string,
  early: RefObject<string[]>,
  leave: () => void,
  open: (code: string) => void,
  fail: (trouble: Trouble) => void,
  take: RefObject<(text: string) => void>,
): Mend {
  const busy = useRef(false);
  const mend = useCallback(
    (act: () => Promise<void>, then?: string) => {
      busy.current = true;
      act().then(
        () => {
          leave();
          open(orderNo);
          // What is scanned while an order is being opened waits for it.
          if (then) early.current.unshift(then);
        },
        (error: unknown) => {
          busy.current = false;
          fail(wordsOf(error));
          for (const text of early.current.splice(0)) take.current(text);
        },
      );
    },
    [early, fail, leave, open, orderNo, take],
  );
  const waits = useCallback(
    (text: string) => {
      if (busy.current) early.current.push(text);
      return busy.current;
    },
    [early],
  );
  return { mend, waits };
}
