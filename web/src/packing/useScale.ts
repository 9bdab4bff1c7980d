import { type PackState, packClosed, packDone, parcelAtHand } from '@auk/core';
import { useCallback, useEffect, useRef } from 'react';
import { wordsOf } from '../api.js';
import { weighAt } from '../benches/api.js';
import type { Trouble } from './packAnswer.js';

/** The scale is asked again so often while a parcel waits for its weight. */
const AGAIN_MS = 1_500;

/**
 * The scale of the bench: its weight is taken by itself once all is in and boxed, and when it is asked for. `bench` is the one with a
 * scale that this device stands at; null where there is none. Gives what asks it; `fail` is told then why there is no weight.
 */
export function useScale(
  bench: string | null,
  state: PackState,
  weighed: (text: string) => void,
  fail: (trouble: Trouble) => void,
): () => void {
  const { boxCode, weightMg } = parcelAtHand(state);
  const wants =
    packDone(state) && !packClosed(state) && boxCode !== null && weightMg === null && state.asking === null;
  /** What counts when the scale answers: its answer may come when the parcel wants no weight any more, or the order is gone. */
  const now = useRef({ wants, weighed, here: true });
  now.current = { ...now.current, wants, weighed };
  useEffect(() => {
    now.current.here = true;
    return () => {
      now.current.here = false;
    };
  }, []);
  const asking = useRef(false);
  const ask = useCallback(
    async (aloud: boolean) => {
      if (bench === null || asking.current) return;
      asking.current = true;
      try {
        const { mg } = await weighAt(bench);
        const { here, wants: still } = now.current;
        if (here && (aloud || still)) now.current.weighed(`${(mg / 1_000).toFixed(0)} g`);
      } catch (error) {
        // By itself it waits in silence until something lies on it.
        if (aloud && now.current.here) fail(wordsOf(error));
      }
      asking.current = false;
    },
    [bench, fail],
  );
  useEffect(() => {
    if (!wants || bench === null) return;
    void ask(false);
    const timer = setInterval(() => void ask(false), AGAIN_MS);
    return () => clearInterval(timer);
  }, [ask, bench, wants]);
  return useCallback(() => void ask(true), [ask]);
}
