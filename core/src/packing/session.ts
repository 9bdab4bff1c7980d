import { type Parsed, parseScan } from '../barcode/parseScan.js';
import type { ScanProduct } from '../catalog/scanProduct.js';
import { type Answer, refuse, type Scan, type Step } from '../scans/scan.js';
import { count, quoted } from '../text.js';
import { formatWeight } from '../units/units.js';

/** One part of a kit that may be scanned instead of the kit itself: how many of it one kit holds, and how many are in towards the next kit. */
export interface KitPart {
  product: ScanProduct;
  perKit: number;
  scanned: number;
}

/** One thing to pack. A kit line carries its parts; the lines of a bundle carry its name and, when it has one, its own code. */
export interface PackLine {
  id: string;
  product: ScanProduct;
  wanted: number;
  packed: number;
  kitParts: KitPart[];
  bundle: { id: string; name: string; codes: string[]; each: number } | null;
}

/** A kind of box the bench may take; sizes are inside, tenths of a millimetre. */
export interface BenchBox {
  code: string;
  name: string;
  tareMg: number;
  limitMg: number;
}

/** State of packing one shipment into one parcel. */
export interface PackState {
  kind: 'pack';
  orderNo: string;
  lines: PackLine[];
  boxes: BenchBox[];
  boxCode: string | null;
  weightMg: number | null;
  closed: boolean;
  /** Notes that must be confirmed before the parcel is closed; absent in sessions from before there were any. */
  notes?: string[];
  confirmed?: boolean;
  history: PackMove[][];
}

interface PackMove {
  line: number;
  units: number;
  part?: number;
}

/** What the ledger must do: units of a line into the parcel (negative: out again). `close` seals the parcel. */
export type PackEffect = { type: 'pack'; lineId: string; units: number } | { type: 'close' };
type PackStep = Step<PackState, PackEffect>;

/** Opens a shipment for packing. */
export function openPack(
  orderNo: string,
  lines: PackLine[],
  boxes: BenchBox[],
  boxCode: string | null,
  notes: string[] = [],
): PackState {
  const state: PackState = {
    kind: 'pack',
    orderNo,
    lines,
    boxes,
    boxCode,
    weightMg: null,
    closed: false,
    history: [],
  };
  return notes.length > 0 ? { ...state, notes, confirmed: false } : state;
}

/** Notes that nobody has confirmed yet. */
export const packNotes = (s: PackState): string[] => (s.confirmed ? [] : (s.notes ?? []));

/** True when every wanted unit is in. */
export const packDone = (s: PackState): boolean => s.lines.every(l => l.packed === l.wanted);

/** Units still missing. */
export const packOpen = (s: PackState): number => s.lines.reduce((n, l) => n + l.wanted - l.packed, 0);

/** Answers one scan at the bench: products, kits by own code or parts, boxes, a weight with its unit, and UNDO and CLOSE. */
export function packScan(state: PackState, scan: Scan): PackStep {
  const parsed = parseScan(scan.text, Number(scan.at.slice(0, 4)));
  if (!parsed.ok) return refuse(state, parsed.problem, nextHint(state));
  const p = parsed.value;
  if (p.type === 'own' && p.code === state.orderNo)
    return {
      state,
      answer: {
        kind: 'moved',
        tone: 'info',
        says: `${state.orderNo} is open already.`,
        next: nextHint(state),
      },
      effects: [],
    };
  if (state.closed) return refuse(state, `${state.orderNo} is packed and closed.`, nextHint(state));
  if (p.type === 'command') return command(state, p.name);
  if (p.type === 'own' && p.kind === 'box') return box(state, p.code);
  if (p.type === 'weight') return weight(state, p.mg);
  return product(state, p, scan);
}

function nextHint(state: PackState): string {
  if (state.closed) return 'Scan the next slip or tote.';
  if (!packDone(state)) {
    const open = state.lines.filter(l => l.packed < l.wanted);
    const first = open[0]!;
    const then = open[1] ? `, then ${open[1].product.name}` : '';
    return `${first.wanted - first.packed} × ${first.product.name}${then}.`;
  }
  if (packNotes(state).length > 0) return 'Read the note, then scan YES or press Alt 4.';
  if (!state.boxCode) return 'Scan a box.';
  if (state.weightMg === null) return 'Put it on the scale, or type the weight such as 1.2 kg.';
  return 'Close the parcel for its label.';
}

const codeOf = (p: Parsed, scan: Scan): string =>
  p.type === 'product' || p.type === 'own' ? p.code : scan.text.trim().toUpperCase();
const unitsOf = (product: ScanProduct, code: string): number | undefined =>
  product.codes.find(c => c.code === code)?.units;

function product(state: PackState, p: Parsed, scan: Scan): PackStep {
  const code = codeOf(p, scan);
  const line = openFirst(state.lines, l => unitsOf(l.product, code) !== undefined);
  if (line !== -1) return whole(state, line, unitsOf(state.lines[line]!.product, code)!);
  const inBundle = openFirst(state.lines, l => l.bundle?.codes.includes(code) ?? false);
  const bundle = state.lines[inBundle]?.bundle;
  if (bundle) return wholeBundle(state, bundle.id, bundle.name);
  const kit = openFirst(state.lines, l => l.kitParts.some(k => unitsOf(k.product, code) !== undefined));
  if (kit !== -1) return part(state, kit, code);
  const name = scan.known?.name;
  return refuse(
    state,
    name ? `Not in this order: ${name}.` : `Unknown code ${quoted(code)}. No product has it.`,
    nextHint(state),
  );
}

/** The first line that fits and still wants something; a complete one only when all that fit are complete. */
function openFirst(lines: PackLine[], fits: (l: PackLine) => boolean): number {
  const open = lines.findIndex(l => fits(l) && l.packed < l.wanted);
  return open !== -1 ? open : lines.findIndex(fits);
}

function whole(state: PackState, at: number, units: number): PackStep {
  const line = state.lines[at]!;
  const open = line.wanted - line.packed;
  if (open === 0)
    return refuse(
      state,
      `One too many: ${line.wanted} of ${line.wanted} ${line.product.name} ${line.wanted === 1 ? 'is' : 'are'} in already.`,
      'Put this one aside.',
    );
  if (units > open)
    return refuse(
      state,
      `That code counts ${units}, and only ${open} ${open === 1 ? 'is' : 'are'} missing.`,
      'Scan single pieces.',
    );
  const begun = line.kitParts.find(k => k.scanned > 0);
  if (begun && units === open)
    return refuse(
      state,
      `${line.product.name} was begun by its parts (${begun.product.name} is in). Finish it by its parts, or undo.`,
      nextHint(state),
    );
  return apply(state, [{ line: at, units }]);
}

function wholeBundle(state: PackState, bundleId: string, name: string): PackStep {
  const moves = state.lines.flatMap((l, line) =>
    l.bundle?.id === bundleId ? [{ line, units: l.bundle.each }] : [],
  );
  if (moves.some(m => state.lines[m.line]!.wanted - state.lines[m.line]!.packed < m.units))
    return refuse(
      state,
      `${name} does not fit as a whole any more: some of its parts are in already.`,
      nextHint(state),
    );
  return apply(state, moves);
}

function part(state: PackState, at: number, code: string): PackStep {
  const line = state.lines[at]!;
  const i = line.kitParts.findIndex(k => unitsOf(k.product, code) !== undefined && k.scanned < k.perKit);
  if (line.packed === line.wanted || i === -1) {
    const k = line.kitParts.find(x => unitsOf(x.product, code) !== undefined)!;
    return refuse(
      state,
      `One too many: ${line.product.name} has its ${k.perKit} ${k.product.name}.`,
      'Put this one aside.',
    );
  }
  const k = line.kitParts[i]!;
  const units = unitsOf(k.product, code)!;
  if (k.scanned + units > k.perKit)
    return refuse(
      state,
      `That code counts ${units}, and only ${k.perKit - k.scanned} more go into ${line.product.name}.`,
      'Scan single pieces.',
    );
  return apply(state, [{ line: at, units, part: i }]);
}

/** Applies moves to the lines; a kit whose parts are all in becomes one packed unit. */
function moveAll(
  state: PackState,
  moves: PackMove[],
  sign: 1 | -1,
): { state: PackState; effects: PackEffect[] } {
  const lines = [...state.lines];
  const effects: PackEffect[] = [];
  for (const m of moves) {
    const line = lines[m.line]!;
    if (m.part === undefined) {
      lines[m.line] = { ...line, packed: line.packed + sign * m.units };
      effects.push({ type: 'pack', lineId: line.id, units: sign * m.units });
      continue;
    }
    const before = kitUnits(line);
    const parts = sign < 0 && line.kitParts.every(k => k.scanned === 0) ? fillParts(line) : line.kitParts;
    const unpacked = parts !== line.kitParts;
    const moved = parts.with(m.part, { ...parts[m.part]!, scanned: parts[m.part]!.scanned + sign * m.units });
    const full = sign > 0 && moved.every(k => k.scanned === k.perKit);
    const packed = before + (full ? 1 : unpacked ? -1 : 0);
    lines[m.line] = { ...line, packed, kitParts: full ? moved.map(k => ({ ...k, scanned: 0 })) : moved };
    if (packed !== before) effects.push({ type: 'pack', lineId: line.id, units: packed - before });
  }
  return { state: { ...state, lines }, effects };
}

const kitUnits = (line: PackLine): number => line.packed;
const fillParts = (line: PackLine): KitPart[] => line.kitParts.map(k => ({ ...k, scanned: k.perKit }));

function apply(state: PackState, moves: PackMove[]): PackStep {
  const moved = moveAll(state, moves, 1);
  const next = { ...moved.state, history: [...state.history, moves] };
  return { state: next, answer: packed(next, moves), effects: moved.effects };
}

function packed(state: PackState, moves: PackMove[]): Answer {
  if (packDone(state))
    return { kind: 'complete', tone: 'complete', says: 'Everything is in.', next: nextHint(state) };
  const m = moves[0]!;
  const line = state.lines[m.line]!;
  const next = nextHint(state);
  if (moves.length > 1)
    return { kind: 'counted', tone: 'right', says: `Right. ${line.bundle!.name} is in as a whole.`, next };
  if (m.part !== undefined) {
    const left = line.kitParts.reduce((n, k) => n + k.perKit - k.scanned, 0);
    const begun = line.kitParts.some(k => k.scanned > 0);
    const says = begun
      ? `Right. ${line.kitParts[m.part]!.product.name}, ${count(left, 'part')} more for ${line.product.name}.`
      : `Right. ${line.product.name} is whole: ${line.packed} of ${line.wanted}.`;
    return { kind: 'counted', tone: 'right', says, next };
  }
  const all = line.packed === line.wanted;
  return {
    kind: 'counted',
    tone: 'right',
    says: `Right. ${line.packed} of ${line.wanted} ${line.product.name}${all ? ', complete' : ''}.`,
    next,
  };
}

function command(state: PackState, name: string): PackStep {
  if (name === 'UNDO') return undo(state);
  if (name === 'YES') return confirm(state);
  if (name !== 'CLOSE' && name !== 'LABEL')
    return refuse(state, `"${name.toLowerCase()}" does nothing at the bench.`, nextHint(state));
  if (!packDone(state))
    return refuse(
      state,
      `${count(packOpen(state), 'piece')} still missing; the parcel cannot be closed.`,
      nextHint(state),
    );
  if (!state.boxCode) return refuse(state, 'No box is chosen.', 'Scan a box.');
  if (state.weightMg === null)
    return refuse(state, 'The parcel has no weight yet; the label needs one.', nextHint(state));
  const unread = packNotes(state)[0];
  if (unread) return refuse(state, `Read this first: ${unread}`, 'Then scan YES, or press Alt 4.');
  const next = { ...state, closed: true };
  return {
    state: next,
    answer: {
      kind: 'set',
      tone: 'complete',
      says: 'Parcel closed.',
      next: 'Choose a service for its label.',
    },
    effects: [{ type: 'close' }],
  };
}

function confirm(state: PackState): PackStep {
  if (packNotes(state).length === 0) return refuse(state, 'There is nothing to confirm.', nextHint(state));
  const next = { ...state, confirmed: true };
  return {
    state: next,
    answer: { kind: 'set', tone: 'right', says: 'The note is confirmed.', next: nextHint(next) },
    effects: [],
  };
}

function undo(state: PackState): PackStep {
  const last = state.history.at(-1);
  if (!last) return refuse(state, 'There is nothing to undo.', nextHint(state));
  const moved = moveAll(state, last, -1);
  const next = { ...moved.state, history: state.history.slice(0, -1) };
  const line = next.lines[last[0]!.line]!;
  const m = last[0]!;
  const name =
    last.length > 1
      ? line.bundle!.name
      : m.part === undefined
        ? line.product.name
        : line.kitParts[m.part]!.product.name;
  return {
    state: next,
    answer: { kind: 'undone', tone: 'info', says: `Undone: ${name} is out again.`, next: nextHint(next) },
    effects: moved.effects,
  };
}

function box(state: PackState, code: string): PackStep {
  const found = state.boxes.find(b => b.code === code);
  if (!found)
    return refuse(
      state,
      `There is no box ${code}.`,
      `Boxes here: ${state.boxes.map(b => b.code).join(', ')}.`,
    );
  const next = { ...state, boxCode: code };
  return {
    state: next,
    answer: { kind: 'set', tone: 'right', says: `Box ${found.name}.`, next: nextHint(next) },
    effects: [],
  };
}

function weight(state: PackState, mg: number): PackStep {
  const chosen = state.boxes.find(b => b.code === state.boxCode);
  if (chosen && mg > chosen.limitMg)
    return refuse(
      state,
      `${formatWeight(mg, 'imperial')} is more than box ${chosen.name} may hold (${formatWeight(chosen.limitMg, 'imperial')}).`,
      'Take a stronger box, or weigh again.',
    );
  const next = { ...state, weightMg: mg };
  return {
    state: next,
    answer: {
      kind: 'set',
      tone: 'right',
      says: `Weight ${formatWeight(mg, 'imperial')}.`,
      next: nextHint(next),
    },
    effects: [],
  };
}
