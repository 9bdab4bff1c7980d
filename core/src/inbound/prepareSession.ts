import { canonicalCode, parseScan } from '../barcode/parseScan.js';
import type { ScanProduct } from '../catalog/scanProduct.js';
import { type Answer, refuse, type Scan, type Step } from '../scans/scan.js';
import { count, quoted } from '../text.js';
import type { Preparation } from './preparation.js';

/** What hands do for each kind of preparation. */
export const PREPARING: Readonly<Record<Preparation, string>> = {
  label: 'put the label on and scan it',
  bag: 'close it in a bag',
  bubble: 'wrap it in bubble film',
  carton: 'put it into a carton',
  sleeve: 'put a sleeve over it',
  set: 'bind the set together',
  'hazard papers': 'add the hazard papers',
};

/** A product of a shipment that units are prepared of here: `wanted` in all, `done` of them. `label`: the code that each unit's label carries; null where it gets none. */
export interface PrepareLine {
  id: string;
  product: ScanProduct;
  needs: Preparation[];
  label: string | null;
  wanted: number;
  done: number;
  spoiled: number;
}

/** State of preparing a shipment. `at`: the product in hand, and its labels that were printed and are not on a unit yet. */
export interface PrepareState {
  kind: 'prepare';
  no: string;
  name: string;
  lines: PrepareLine[];
  at: { line: number; labels: number } | null;
  history: { line: number; done: number; labels: number }[];
}

/** What follows from a scan: labels are printed, units are prepared (negative ones are not any more), or one is written off. */
export type PrepareEffect =
  | { type: 'print'; lineId: string; labels: number }
  | { type: 'done'; lineId: string; units: number }
  | { type: 'spoil'; lineId: string };

type PrepareStep = Step<PrepareState, PrepareEffect>;

/** Begins preparing a shipment, or goes on where its lines stand. */
export function openPrepare(no: string, name: string, lines: PrepareLine[]): PrepareState {
  return { kind: 'prepare', no, name, lines, at: null, history: [] };
}

/** Units of a line that are still to be prepared. */
export const prepareOpen = (l: PrepareLine): number => l.wanted - l.done;

/** True when all units are prepared. */
export const prepareDone = (state: PrepareState): boolean => state.lines.every(l => prepareOpen(l) === 0);

/** What hands do now for a line, in words, such as "close it in a bag, put the label on and scan it". */
export const preparingSays = (needs: readonly Preparation[]): string =>
  needs.map(n => PREPARING[n]).join(', ');

/**
 * Answers one scan at preparing. A piece of a product that gets a label prints one, and the scan of that label counts the unit; of a
 * product without a label the piece itself counts, a case its pack. A number or ALL goes for so many more of the product in hand; where
 * no more are to be taken and one of their labels was scanned on its piece, for so many labels more. SPOILED writes the piece in hand
 * off; UNDO takes the last label or unit back.
 *
 * @example
 * prepareScan(state, scan('4006381333931')).answer.says; // '1 label for Honey jar.'
 */
export function prepareScan(state: PrepareState, scan: Scan): PrepareStep {
  const parsed = parseScan(scan.text, Number(scan.at.slice(0, 4)));
  if (!parsed.ok) return refuse(state, parsed.problem, hint(state));
  const p = parsed.value;
  if (p.type === 'command') return command(state, p.name);
  if (p.type === 'quantity') return more(state, p.n);
  const code = p.type === 'product' || p.type === 'own' ? p.code : scan.text.trim().toUpperCase();
  return piece(state, code, scan);
}

function command(state: PrepareState, name: string): PrepareStep {
  if (name === 'UNDO') return undo(state);
  if (name === 'ALL') return more(state, null);
  if (name === 'SPOILED') return spoil(state);
  return refuse(state, `"${name.toLowerCase()}" does nothing at preparing.`, hint(state));
}

function hint(state: PrepareState): string {
  if (prepareDone(state)) return 'All is prepared. Scan its slip or tote to pack it.';
  const line = state.at && state.lines[state.at.line]!;
  if (!line) return 'Scan a piece.';
  if (prepareOpen(line) === 0) return 'Scan another piece.';
  if (state.at!.labels === 0) return `Scan the next ${line.product.name}, or another piece.`;
  return `${capital(preparingSays(line.needs))}. ${count(state.at!.labels, 'label')} to put on.`;
}

function piece(state: PrepareState, code: string, scan: Scan): PrepareStep {
  const { at } = state;
  const isLabel = (l: PrepareLine): boolean => l.label !== null && canonicalCode(l.label) === code;
  if (at && at.labels > 0 && isLabel(state.lines[at.line]!)) return done(state, at.line, 1);
  const units = (l: PrepareLine): number | undefined =>
    l.product.codes.find(c => c.code === code)?.units ?? (l.product.sku === code ? 1 : undefined);
  const line = state.lines.findIndex(l => units(l) !== undefined);
  if (line === -1) {
    const labelled = state.lines.findIndex(isLabel);
    if (labelled !== -1) return fromSheet(state, labelled);
    const what = scan.known?.name;
    return refuse(
      state,
      what
        ? `${capital(what)} is not prepared for ${state.name} here.`
        : `Nothing that is prepared for ${state.name} has the code ${quoted(code)}.`,
      'Lay it aside and scan the next piece.',
    );
  }
  if (at && at.labels > 0 && at.line !== line) return labelsFirst(state, at);
  return begin(state, line, units(state.lines[line]!)!);
}

function labelsFirst(state: PrepareState, at: { line: number; labels: number }): PrepareStep {
  const { name } = state.lines[at.line]!.product;
  return at.labels === 1
    ? refuse(
        state,
        `1 label for ${name} is not on a piece yet.`,
        'Put it on and scan it, or scan UNDO and throw it away.',
      )
    : refuse(
        state,
        `${at.labels} labels for ${name} are not on a piece yet.`,
        labelSeen(state)
          ? 'Put them on and scan ALL, or scan UNDO.'
          : 'Put them on, scan one and then ALL, or scan UNDO and throw them away.',
      );
}

/** A label of a sheet that was printed ahead is on a unit. */
function fromSheet(state: PrepareState, line: number): PrepareStep {
  if (state.at && state.at.labels > 0) return labelsFirst(state, state.at);
  if (prepareOpen(state.lines[line]!) === 0) return enough(state, line);
  return done({ ...state, at: { line, labels: 1 } }, line, 1);
}

function enough(state: PrepareState, line: number): PrepareStep {
  const { product, wanted } = state.lines[line]!;
  return refuse(
    state,
    `All ${wanted} ${product.name} are prepared; this is one too many.`,
    'Lay it aside: it goes back to its place.',
  );
}

/** So many units of a product are taken in hand: their labels are printed, or they count at once. */
function begin(state: PrepareState, line: number, units: number): PrepareStep {
  const l = state.lines[line]!;
  const out = state.at?.line === line ? state.at.labels : 0;
  const room = prepareOpen(l) - out;
  if (room <= 0 && out === 0) return enough(state, line);
  if (units > room)
    return refuse(
      state,
      `Too many: only ${count(room, 'piece')} of ${l.product.name} left to take in hand.`,
      hint(state),
    );
  if (l.label === null) return done({ ...state, at: { line, labels: 0 } }, line, units);
  const next = {
    ...state,
    at: { line, labels: out + units },
    history: [...state.history, { line, done: 0, labels: units }],
  };
  return {
    state: next,
    answer: {
      kind: 'counted',
      tone: 'right',
      says: `${count(units, 'label')} for ${l.product.name}.`,
      next: hint(next),
    },
    effects: [{ type: 'print', lineId: l.id, labels: units }],
  };
}

/** Whether the last act scanned a label on its piece: the rest of them need not be scanned one by one. */
export const labelSeen = ({ at, history }: PrepareState): boolean => {
  const last = history.at(-1);
  return at !== null && last?.line === at.line && last.done > 0 && last.labels < 0;
};

function done(state: PrepareState, line: number, units: number): PrepareStep {
  const l = state.lines[line]!;
  const labels = state.at!.labels - (l.label === null ? 0 : units);
  const next: PrepareState = {
    ...state,
    lines: state.lines.with(line, { ...l, done: l.done + units }),
    at: { line, labels },
    history: [...state.history, { line, done: units, labels: l.label === null ? 0 : -units }],
  };
  return { state: next, answer: doneAnswer(next, line), effects: [{ type: 'done', lineId: l.id, units }] };
}

function doneAnswer(state: PrepareState, line: number): Answer {
  const { product, done, wanted } = state.lines[line]!;
  const says = `${done} of ${wanted} ${product.name}.`;
  if (prepareDone(state)) return { kind: 'complete', tone: 'complete', says, next: hint(state) };
  return { kind: 'counted', tone: done === wanted ? 'row' : 'right', says, next: hint(state) };
}

/** So many more of the product in hand, or all of it. */
function more(state: PrepareState, n: number | null): PrepareStep {
  if (!state.at)
    return refuse(state, 'Scan one piece first, so that it is surely the right product.', hint(state));
  if (n === 0) return refuse(state, 'Nothing is not a quantity.', hint(state));
  const { line, labels } = state.at;
  const { name } = state.lines[line]!.product;
  const room = prepareOpen(state.lines[line]!) - labels;
  if (room > 0) return begin(state, line, n ?? room);
  if (labels > 0 && !labelSeen(state))
    return refuse(
      state,
      `No more ${name} are to be taken in hand.`,
      'Put the labels on and scan one of them; ALL counts the others then.',
    );
  if (n !== null && n > labels)
    return refuse(state, `Too many: ${count(labels, 'label')} of ${name} to put on.`, hint(state));
  if (labels === 0) return refuse(state, `No more ${name} are to be taken in hand.`, hint(state));
  return done(state, line, n ?? labels);
}

/** The piece in hand is spoiled; a label that was printed for it is for the next. */
function spoil(state: PrepareState): PrepareStep {
  const at = state.at;
  if (!at) return refuse(state, 'Scan the piece first that is spoiled.', hint(state));
  const l = state.lines[at.line]!;
  if (prepareOpen(l) === 0)
    return refuse(
      state,
      `All ${l.product.name} are prepared; none of them is in hand.`,
      'Scan UNDO first, where the last one is spoiled.',
    );
  const next = { ...state, lines: state.lines.with(at.line, { ...l, spoiled: l.spoiled + 1 }) };
  return {
    state: next,
    answer: {
      kind: 'counted',
      tone: 'attention',
      says: `1 ${l.product.name} is spoiled and written off.`,
      next: 'Lay it aside; another one is promised, if there is one.',
    },
    effects: [{ type: 'spoil', lineId: l.id }],
  };
}

function undo(state: PrepareState): PrepareStep {
  const last = state.history.at(-1);
  if (!last) return refuse(state, 'There is nothing to undo here.', hint(state));
  const l = state.lines[last.line]!;
  const labels = (state.at?.line === last.line ? state.at.labels : 0) - last.labels;
  const next: PrepareState = {
    ...state,
    lines: state.lines.with(last.line, { ...l, done: l.done - last.done }),
    at: { line: last.line, labels },
    history: state.history.slice(0, -1),
  };
  return {
    state: next,
    answer: {
      kind: 'undone',
      tone: 'info',
      says:
        last.done > 0
          ? `Undone: ${l.done - last.done} of ${l.wanted} ${l.product.name}.`
          : `Undone: throw ${count(last.labels, 'label')} for ${l.product.name} away.`,
      next: hint(next),
    },
    effects: last.done > 0 ? [{ type: 'done', lineId: l.id, units: -last.done }] : [],
  };
}

const capital = (says: string): string => says.charAt(0).toUpperCase() + says.slice(1);
