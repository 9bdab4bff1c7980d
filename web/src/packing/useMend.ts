import { type RefObject, useCallback, useState } from 'react';
import { wordsOf } from '../api.js';
import { playTone } from '../scans/sounds.js';

export interface Mending {
  /** Does it, and opens the order anew, so that what was mended counts; `then` is scanned when it is open. */
  mend: (act: () => Promise<void>, then?: string) => void;
  /** Why it could not be done. */
  trouble: { says: string; cure: string } | null;
}

/** Mends something of the order at the bench. */
export function useMend(
  orderNo: string,
  early: RefObject<string[]>,
  leave: () => void,
  open: (code: string) => void,
): Mending {
  const [trouble, setTrouble] = useState<Mending['trouble']>(null);
  const mend = useCallback(
    (act: () => Promise<void>, then?: string) => {
      act().then(
        () => {
          leave();
          open(orderNo);
          // What is scanned while an order is being opened waits for it.
          if (then) early.current.push(then);
        },
        (error: unknown) => {
          setTrouble(wordsOf(error));
          playTone('wrong');
        },
      );
    },
    [early, leave, open, orderNo],
  );
  return { mend, trouble };
}
