import { useState } from 'react';

/** Things that are chosen by their ids, for one act on many. */
export function useChosen(): [
  ids: ReadonlySet<string>,
  set: (ids: ReadonlySet<string>) => void,
  none: () => void,
] {
  const [ids, set] = useState<ReadonlySet<string>>(new Set());
  return [ids, set, () => set(new Set())];
}

/** How far an act on many is: its answers so far, of how many, and whether it goes on. */
export interface ManyState<A> {
  answers: A[];
  of: number;
  running: boolean;
  stopped: boolean;
  error: unknown;
}

/**
 * Does one act on many things, a portion at a time: each portion's answers are shown as they come, and it can be stopped between two
 * portions. What a failed portion left undone is not begun again by itself.
 */
export function useMany<A>(portion: number) {
  const [state, setState] = useState<ManyState<A> | null>(null);
  const [stopping] = useState(() => ({ now: false }));
  const run = async (ids: readonly string[], act: (ids: string[]) => Promise<A[]>): Promise<void> => {
    stopping.now = false;
    let now: ManyState<A> = { answers: [], of: ids.length, running: true, stopped: false, error: null };
    setState(now);
    try {
      for (let i = 0; i < ids.length && !stopping.now; i += portion) {
        const answers = await act(ids.slice(i, i + portion));
        now = { ...now, answers: [...now.answers, ...answers] };
        setState(now);
      }
    } catch (error) {
      now = { ...now, error };
    }
    setState({ ...now, running: false, stopped: stopping.now && now.answers.length < ids.length });
  };
  return {
    state,
    run,
    stop: () => {
      stopping.now = true;
    },
    close: () => setState(null),
  };
}
