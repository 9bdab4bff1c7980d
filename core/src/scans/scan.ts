/** What a scan that is not on the list at hand turned out to be; the server looks it up so that a refusal can name it. */
export interface KnownThing {
  kind:
    | 'product'
    | 'order'
    | 'list'
    | 'parcel'
    | 'place'
    | 'tote'
    | 'trolley'
    | 'staging'
    | 'departure'
    | 'box'
    | 'bench'
    | 'serial';
  name: string;
  /** Of a tote or trolley: how it is marked, what it holds or carries (null while it is free), and the most totes that stand on it. */
  carrier?: { id: string; code: string; mark: string; colour?: string; holds: string | null; most?: number };
  /** Of a product: its SKU, the units that a scan of the code counts, and whether it is kept by lots. */
  sku?: string;
  units?: number;
  lots?: boolean;
  /** Of a product that is not sold any more. */
  retired?: boolean;
  /** Of a product at the bench: another open order that wants it and where that lies, and what of this order looks like it. */
  wantedBy?: { order: string; lies: string };
  looksLike?: string;
}

/** One scan as the device made it. `id` is unique for ever; `count` is the device's own running number. Times are ISO, UTC. */
export interface Scan {
  id: string;
  text: string;
  at: string;
  device: string;
  count: number;
  /** How it came about, where a scanner did not read it. */
  by?: 'typed' | 'pressed';
  /** Set by the judge when the code means something elsewhere in the house; null when it was asked for and nobody knows it. */
  known?: KnownThing | null;
}

/**
 * Version of the reducers. It is raised when one of them answers or counts otherwise than before; what an older version judged is
 * checked by its state, and no more by its words.
 */
export const REDUCERS = 7;

/**
 * How the state of a session goes over from the version before to the one named; a version that is not named did not change it. Every
 * open session can go on: a state that a new reducer would not understand gets its step here.
 */
const CARRIED: Readonly<Record<number, (state: unknown) => unknown>> = {
  5: state =>
    (state as { kind?: string }).kind === 'pick' ? { ...PICK_BEFORE_5, ...(state as object) } : state,
  6: state => ((state as { kind?: string }).kind === 'pack' ? packBefore6(state as PackBefore6) : state),
};

/** What a walk did not know before: trolleys, heaps, and what the lead chooses. */
const PICK_BEFORE_5 = {
  heap: false,
  choices: { bringTotes: false, confirmTote: false, afterOrder: 'go on' },
  trolley: null,
  pause: null,
  held: [],
  dropped: null,
};

/** A session at the bench when an order had one parcel, and nothing was asked of its units. */
interface PackBefore6 {
  lines: { id: string; packed: number }[];
  boxes: object[];
  boxCode: string | null;
  weightMg: number | null;
  closed: boolean;
  notes?: string[];
  confirmed?: boolean;
}

function packBefore6({
  boxCode,
  weightMg,
  closed,
  notes = [],
  confirmed = false,
  ...state
}: PackBefore6): object {
  const packed = state.lines.filter(l => l.packed > 0).map(l => [l.id, l.packed]);
  return {
    ...state,
    lines: state.lines.map(l => ({ ...l, piece: null, wants: {}, optional: false, leftOut: 0 })),
    boxes: state.boxes.map(b => ({ ...b, inner: null, kind: 'box' })),
    parcels: [{ no: 1, boxCode, weightMg, closed, photos: 0, holds: Object.fromEntries(packed) }],
    proposed: boxCode ? [boxCode] : [],
    notes: notes.map(text => ({ text, word: null, confirmed })),
    asking: null,
    captured: [],
    choices: { checkOnly: false, photo: false, toleranceMg: 30_000, tolerancePpm: 30_000, padding: 0 },
    at: null,
  };
}

/** The state of a session of an older version as the reducers of `now` understand it; null when it is of a newer one. */
export function carried<S>(state: S, version: number, steps = CARRIED, now = REDUCERS): S | null {
  if (version > now) return null;
  let at: unknown = state;
  for (let v = version + 1; v <= now; v++) at = steps[v]?.(at) ?? at;
  return at as S;
}

/** How an answer sounds and looks: `row` is right and completes a row, `complete` completes all, `attention` asks for something. */
export type Tone = 'right' | 'row' | 'complete' | 'wrong' | 'attention' | 'info';

/** Answer to a scan: what happened in `says`, what comes next in `next`; `kind` is for programs. `unknown`: only the house can tell. */
export interface Answer {
  kind: 'counted' | 'refused' | 'moved' | 'undone' | 'set' | 'complete' | 'asked' | 'unknown';
  tone: Tone;
  says: string;
  next: string;
}

/** One step of a session: the new state, what to tell the person, and what the ledger must do. */
export interface Step<S, E> {
  state: S;
  answer: Answer;
  effects: E[];
}

/** A refusal: the state stays as it was. */
export function refuse<S, E>(state: S, says: string, next: string): Step<S, E> {
  return { state, answer: { kind: 'refused', tone: 'wrong', says, next }, effects: [] };
}
