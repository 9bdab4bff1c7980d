/**
 * How a half-built walk meets the column at hand, for the dynamic programs of Ratliff and Rosenthal (Operations Research 31(3), 1983:
 * one block) and Roodbergen and de Koster (EJOR 133, 2001: two blocks). What was built so far is a set of edges; of it only matters,
 * for each crossing of the column, whether edges end there (and an even or odd number), and which crossings hang together. Equal
 * states may share one cheapest history. Tables of what follows from each state are made once for two and once for three crossings.
 */
export interface Frontier {
  /** Crossings of a column: the blocks and one. */
  crossings: number;
  states: number;
  /** Nothing built yet; and: all that was built hangs together and lies behind. */
  empty: number;
  done: number;
  /** Next state when a block's stretch of the aisle gets edges of a class: `stretch[block][state * CLASSES + class]`, -1 when it cannot be. */
  stretch: Int16Array[];
  /** Next state when the crossings get 0, 1 or 2 edges to the next column: `across[state * 3 ** crossings + combination]`. */
  across: Int16Array;
  /** The combinations that lead on from each state. */
  leadOn: Int16Array[];
  /** Next state when a crossing itself must be visited, and when a walk begins or ends there. */
  visit: Int16Array[];
  turn: Int16Array[];
  /** States in which the walk may be complete at the last column. */
  complete: boolean[];
}

/** What a stretch of an aisle adds: edges at its lower and its upper crossing (0 none, 1 odd, 2 even), and whether it joins the two. */
export const CLASSES = 18;
/** The number of a class. */
export const classOf = (lower: 0 | 1 | 2, upper: 0 | 1 | 2, joined: boolean): number =>
  (lower * 3 + upper) * 2 + (joined ? 1 : 0);

/** Edges that a class adds at its lower crossing. */
export const lowerOf = (kind: number): number => Math.trunc(kind / 6);

/** A crossing in a state: the part of the walk it belongs to (0: none), and whether an odd number of edges ends there. */
interface Crossing {
  part: number;
  odd: boolean;
}
type State = readonly Crossing[] | 'done';

/** Edges to the next column in combination `n`, by crossing: its digits to the base of three. */
export const edgesOf = (n: number, crossing: number): number => Math.trunc(n / 3 ** crossing) % 3;

const made = new Map<number, Frontier>();
/** The tables for two or three crossings. */
export function frontier(crossings: number): Frontier {
  const known = made.get(crossings) ?? tables(crossings);
  made.set(crossings, known);
  return known;
}

function tables(crossings: number): Frontier {
  const states: State[] = [Array.from({ length: crossings }, () => ({ part: 0, odd: false })), 'done'];
  const numbers = new Map(states.map((s, i) => [keyOf(s), i]));
  const numberOf = (s: State | null): number => {
    if (!s) return -1;
    const n = numbers.get(keyOf(s)) ?? states.push(s) - 1;
    numbers.set(keyOf(s), n);
    return n;
  };
  const combinations = 3 ** crossings;
  const stretch: number[][] = Array.from({ length: crossings - 1 }, () => []);
  const across: number[] = [];
  const visit: number[][] = Array.from({ length: crossings }, () => []);
  const turn: number[][] = Array.from({ length: crossings }, () => []);
  // The list of states grows while it is walked: each state's followers are numbered as they come up.
  for (let i = 0; i < states.length; i++) {
    const s = states[i]!;
    stretch.forEach((of, block) => {
      for (let c = 0; c < CLASSES; c++) of.push(numberOf(withStretch(s, block, c)));
    });
    for (let n = 0; n < combinations; n++) across.push(numberOf(goAcross(s, n)));
    for (let k = 0; k < crossings; k++) {
      visit[k]!.push(numberOf(touched(s, k, false)));
      turn[k]!.push(numberOf(touched(s, k, true)));
    }
  }
  return {
    crossings,
    states: states.length,
    empty: 0,
    done: 1,
    stretch: stretch.map(of => Int16Array.from(of)),
    across: Int16Array.from(across),
    leadOn: states.map((_, s) =>
      Int16Array.from(
        Array.from({ length: combinations }, (_, n) => n).filter(n => across[s * combinations + n]! >= 0),
      ),
    ),
    visit: visit.map(of => Int16Array.from(of)),
    turn: turn.map(of => Int16Array.from(of)),
    complete: states.map(isComplete),
  };
}

const keyOf = (s: State): string => (s === 'done' ? s : s.map(c => `${c.part}${c.odd ? 'o' : 'e'}`).join(''));

const parts = (s: readonly Crossing[]): Set<number> => new Set(s.map(c => c.part).filter(p => p > 0));

const isComplete = (s: State): boolean => s === 'done' || (parts(s).size <= 1 && s.every(c => !c.odd));

/** Parts are numbered by where they come first, so that equal states are written alike. */
function tidy(s: readonly Crossing[]): State {
  const names = new Map<number, number>();
  return s.map(({ part, odd }) => {
    if (part === 0) return { part, odd };
    const name = names.get(part) ?? names.size + 1;
    names.set(part, name);
    return { part: name, odd };
  });
}

function touched(s: State, at: number, turns: boolean): State | null {
  if (s === 'done') return null;
  const fresh = Math.max(0, ...s.map(c => c.part)) + 1;
  return tidy(s.map((c, k) => (k === at ? { part: c.part || fresh, odd: c.odd !== turns } : c)));
}

function withStretch(s: State, block: number, kind: number): State | null {
  const [lower, upper, joined] = [lowerOf(kind), Math.trunc(kind / 2) % 3, kind % 2 === 1];
  if (lower === 0 && upper === 0) return joined ? null : s;
  if (joined && (lower === 0 || upper === 0)) return null;
  let next: State | null = s;
  if (lower > 0) next = touched(next, block, lower === 1);
  if (next && upper > 0) next = touched(next, block + 1, upper === 1);
  if (!next || next === 'done' || !joined) return next;
  const [a, b] = [next[block]!.part, next[block + 1]!.part];
  return tidy(next.map(c => (c.part === b ? { ...c, part: a } : c)));
}

/** What is left behind must be even at each crossing, and hang together with what goes on, unless it is all there is. */
function goAcross(s: State, n: number): State | null {
  if (s === 'done') return n === 0 ? s : null;
  const next = s.map((c, k) => ({ part: edgesOf(n, k) > 0 ? c.part : 0, odd: edgesOf(n, k) === 1 }));
  const bad = s.some((c, k) => c.odd !== next[k]!.odd || (c.part === 0 && edgesOf(n, k) > 0));
  if (bad) return null;
  const [before, after] = [parts(s).size, parts(next).size];
  if (after === before) return tidy(next);
  return before === 1 && after === 0 ? 'done' : null;
}
