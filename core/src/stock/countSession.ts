import { parseScan } from '../barcode/parseScan.js';
import { refuse, type Scan, type Step, type Tone } from '../scans/scan.js';
import { quoted } from '../text.js';

/** What is counted of one product, or of one of its lots, in a place; `counted` is null until somebody counted it. */
export interface CountLine {
  sku: string;
  name: string;
  lot: string | null;
  counted: number | null;
}

/** State of counting one place. `seen` is the newest move of the place when the count was begun, `at` is the line last counted; `asked` a piece of which the lot is not known yet. */
export interface CountState {
  kind: 'count';
  place: string;
  seen: number;
  lines: CountLine[];
  at: number | null;
  asked: { sku: string; name: string; units: number } | null;
  history: { line: number; before: number | null }[];
}

/** A count moves no stock by its scans; what was counted is booked when it is saved. */
export type CountStep = Step<CountState, never>;

/** Begins a count of what the books say lies in a place, without telling how many. */
export function openCount(
  place: string,
  seen: number,
  lines: readonly Omit<CountLine, 'counted'>[],
): CountState {
  return {
    kind: 'count',
    place,
    seen,
    lines: lines.map(({ sku, name, lot }) => ({ sku, name, lot, counted: null })),
    at: null,
    asked: null,
    history: [],
  };
}

const HINT = 'Scan each piece, or type what you count.';

/**
 * Answers one scan of a count. A product's code counts its units (a case its pack), also of a product that the books do not know
 * there; a typed number counts as many more of the last one; UNDO takes the last back. Of several lots the one in the code is
 * counted, else the one last counted, else the lot is asked. The judge tells which product a code is.
 */
export function countScan(state: CountState, scan: Scan): CountStep {
  const parsed = parseScan(scan.text, Number(scan.at.slice(0, 4)));
  if (!parsed.ok) return refuse(state, parsed.problem, HINT);
  const p = parsed.value;
  if (p.type === 'command' && p.name === 'UNDO') return undo(state);
  if (p.type === 'command')
    return refuse(state, `"${p.name.toLowerCase()}" does nothing while counting.`, HINT);
  if (state.asked) return whichLot(state, state.asked, scan.text.trim().toUpperCase());
  if (p.type === 'quantity') return several(state, p.n);
  const { known } = scan;
  if (known?.kind !== 'product' || !known.sku)
    return refuse(
      state,
      known
        ? `This is ${known.name}, and nothing to count here.`
        : `Nothing has the code ${quoted(scan.text)}.`,
      HINT,
    );
  const times = p.type === 'product' ? (p.count ?? 1) : 1;
  const piece = { sku: known.sku, name: known.name, units: (known.units ?? 1) * times };
  return product(state, piece, known.lots && p.type === 'product' ? (p.lot ?? null) : null);
}

function product(state: CountState, piece: NonNullable<CountState['asked']>, lot: string | null): CountStep {
  const mine = state.lines.flatMap((l, i) => (l.sku === piece.sku ? [i] : []));
  if (lot !== null) {
    const of = mine.find(i => state.lines[i]!.lot === lot);
    return of === undefined
      ? counted(withLine(state, piece, lot), state.lines.length, piece)
      : counted(state, of, piece);
  }
  if (mine.length === 0) return counted(withLine(state, piece, null), state.lines.length, piece);
  const again = mine.find(i => i === state.at);
  if (mine.length === 1 || again !== undefined) return counted(state, again ?? mine[0]!, piece);
  return {
    state: { ...state, asked: piece },
    answer: {
      kind: 'asked',
      tone: 'info',
      says: `${piece.name}: which lot?`,
      next: lotsOf(state, piece.sku),
    },
    effects: [],
  };
}

/** The answer to a question for the lot. */
function whichLot(state: CountState, asked: NonNullable<CountState['asked']>, lot: string): CountStep {
  const at = state.lines.findIndex(l => l.sku === asked.sku && l.lot === lot);
  if (at === -1)
    return refuse(
      state,
      `${quoted(lot)} is no lot of ${asked.name} in ${state.place}.`,
      `${lotsOf(state, asked.sku)} AUK-UNDO leaves the piece uncounted.`,
    );
  return counted({ ...state, asked: null }, at, asked);
}

const lotsOf = (state: CountState, sku: string): string => {
  const lots = state.lines.flatMap(l => (l.sku === sku && l.lot ? [l.lot] : []));
  return `Scan or type its lot: ${lots.join(', ')}.`;
};

const withLine = (state: CountState, { sku, name }: { sku: string; name: string }, lot: string | null) => ({
  ...state,
  lines: [...state.lines, { sku, name, lot, counted: null }],
});

function several(state: CountState, n: number): CountStep {
  const line = state.at === null ? undefined : state.lines[state.at];
  if (!line)
    return refuse(
      state,
      'Scan one piece first, so that it is surely the right product; then type how many more.',
      HINT,
    );
  if (n === 0) return refuse(state, 'Nothing is not a quantity.', HINT);
  return counted(state, state.at!, { sku: line.sku, name: line.name, units: n });
}

function counted(state: CountState, at: number, { units }: NonNullable<CountState['asked']>): CountStep {
  const line = state.lines[at]!;
  const now = (line.counted ?? 0) + units;
  return {
    state: {
      ...withCounted(state, at, now),
      at,
      history: [...state.history, { line: at, before: line.counted }],
    },
    answer: {
      kind: 'counted',
      tone: 'right',
      says: `${now} × ${line.name}${line.lot ? `, lot ${line.lot}` : ''}.`,
      next: units > 1 ? `That counted ${units}.` : 'Scan the next piece.',
    },
    effects: [],
  };
}

function undo(state: CountState): CountStep {
  const undone = (next: CountState, says: string, tone: Tone = 'info'): CountStep => ({
    state: next,
    answer: { kind: 'undone', tone, says, next: HINT },
    effects: [],
  });
  if (state.asked)
    return undone({ ...state, asked: null }, 'Undone: the piece that waited for its lot is not counted.');
  const last = state.history.at(-1);
  if (!last) return refuse(state, 'There is nothing to undo here.', HINT);
  const { name } = state.lines[last.line]!;
  const next = {
    ...withCounted(state, last.line, last.before),
    at: null,
    history: state.history.slice(0, -1),
  };
  return undone(next, `Undone: ${last.before ?? 'none'} × ${name} counted now.`);
}

const withCounted = (state: CountState, at: number, counted: number | null): CountState => ({
  ...state,
  lines: state.lines.map((l, i) => (i === at ? { ...l, counted } : l)),
});
