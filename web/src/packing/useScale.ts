import { type PackState, packClosed, packDone, parcelAtHand } from '@auk/core';
import { useCallback, useEffect, useRef, useState } from 'react';
import { wordsOf } from '../api.js';
import { weighAt } from '../benches/api.js';

/** The scale is asked again so often while a parcel waits for its weight. */
const AGAIN_MS = 1_500;

/** What the scale said last when it gave no weight. */
export interface ScaleTrouble {
  says: string;
  cure: string;
}

/**
 * The scale of the bench: its weight is taken by itself once all is in and boxed, and whenever it is asked for. `bench` is the one with a
 * scale that this device stands at; null where there is none.
 */
export function useScale(
  bench: string | null,
  state: PackState,
  weighed: (text: string) => void,
): { weigh: () => void; trouble: ScaleTrouble | null } {
  const [trouble, setTrouble] = useState<ScaleTrouble | null>(null);
  const asking = useRef(false);
  const told = useRef(weighed);
  told.current = weighed;
  const ask = useCallback(
    async (aloud: boolean) => {
      if (bench === null || asking.current) return;
      asking.current = true;
      try {
        const { mg } = await weighAt(bench);
        setTrouble(null);
        told.current(`${(mg / 1_000).toFixed(0)} g`);
      } catch (error) {
        // By itself it waits in silence until something lies on it; asked for, it says why there is no weight.
        if (aloud) setTrouble(wordsOf(error));
      }
      asking.current = false;
    },
    [bench],
  );
  const { boxCode, weightMg } = parcelAtHand(state);
  const wants =
    packDone(state) && !packClosed(state) && boxCode !== null && weightMg === null && state.asking === null;
  useEffect(() => {
    if (!wants || bench === null) return;
    void ask(false);
    const timer = setInterval(() => void ask(false), AGAIN_MS);
    return () => clearInterval(timer);
  }, [ask, bench, wants]);
  return { weigh: () => void ask(true), trouble };
}
