import { type RefObject, useCallback } from 'react';
import { wordsOf } from '../api.js';
import type { Trouble } from './packAnswer.js';

/**
 * Mends something of the order at the bench: does it, and opens the order anew, so that what was mended counts; `then` is scanned when
 * it is open. `fail` is told why it could not be done.
 */
export function useMend(
  orderNo: string,
  early: RefObject<string[]>,
  leave: () => void,
  open: (code: string) => void,
  fail: (trouble: Trouble) => void,
): (act: () => Promise<void>, then?: string) => void {
  return useCallback(
    (act, then) => {
      act().then(
        () => {
          leave();
          open(orderNo);
          // What is scanned while an order is being opened waits for it.
          if (then) early.current.push(then);
        },
        (error: unknown) => fail(wordsOf(error)),
      );
    },
    [early, fail, leave, open, orderNo],
  );
}
