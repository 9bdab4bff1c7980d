import { parseScan } from '../barcode/parseScan.js';
import type { ScanProduct } from '../catalog/scanProduct.js';
import { type Answer, refuse, type Scan, type Step } from '../scans/scan.js';
import { count, quoted } from '../text.js';

/** A cell of a put wall, and the order whose goods lie or will lie in it. */
export interface WallCell {
  id: string;
  code: string;
  mark: string;
  orderNo: string | null;
}

/** Units of one product of one order that lie in the heap, or did: `wanted` in all, `sorted` of them in the order's cell. */
export interface HeapLine {
  /** The stop of the pick list that they were taken at. */
  id: string;
  product: ScanProduct;
  orderNo: string;
  wanted: number;
  sorted: number;
}

/** State of sorting one heap at one wall. Lines stand by urgency. `lit` is the cell that the last piece goes into, until the next. */
export interface SortState {
  kind: 'sort';
  wall: string;
  heap: string;
  cells: WallCell[];
  lines: HeapLine[];
  lit: { cell: number; line: number; units: number } | null;
  history: { line: number; units: number; opened: boolean }[];
}

/** Units go from the heap into a cell; negative units go back. */
export interface SortEffect {
  type: 'sort';
  lineId: string;
  cellId: string;
  units: number;
}

type SortStep = Step<SortState, SortEffect>;

/** Opens sorting of a heap at a wall; what lies in cells already is said by `sorted` of the lines. */
export function openSort(wall: string, heap: string, cells: WallCell[], lines: HeapLine[]): SortState {
  return { kind: 'sort', wall, heap, cells, lines, lit: null, history: [] };
}

/** Units of a line that still lie in the heap. */
export const lineOpen = (l: HeapLine): number => l.wanted - l.sorted;

/** True when nothing of the heap is left. */
export const sortDone = (state: SortState): boolean => state.lines.every(l => lineOpen(l) === 0);

/** What an order of the heap wants in all, and how much of it is in its cell. */
export function inCell(state: SortState, orderNo: string): { wanted: number; sorted: number } {
  const own = state.lines.filter(l => l.orderNo === orderNo);
  return {
    wanted: own.reduce((n, l) => n + l.wanted, 0),
    sorted: own.reduce((n, l) => n + l.sorted, 0),
  };
}

/**
 * Answers one scan at the wall: a product lights the cell of the most urgent order that wants it; a cell confirms where it went; a
 * number or ALL puts more of the same into the lit cell; UNDO takes the last back.
 *
 * @example
 * sortScan(state, scan('4006381333931')).answer.says; // 'Cell 7.'
 */
export function sortScan(state: SortState, scan: Scan): SortStep {
  const parsed = parseScan(scan.text, Number(scan.at.slice(0, 4)));
  if (!parsed.ok) return refuse(state, parsed.problem, sortHint(state));
  const p = parsed.value;
  if (p.type === 'command' && p.name === 'UNDO') return undo(state);
  const cell = state.cells.findIndex(c => c.code === scan.text.trim().toUpperCase());
  if (cell !== -1) return confirm(state, cell);
  if (sortDone(state)) return refuse(state, 'All of this heap is sorted.', sortHint(state));
  if (p.type === 'command' && p.name !== 'ALL')
    return refuse(state, `"${p.name.toLowerCase()}" does nothing at the wall.`, sortHint(state));
  if (p.type === 'command') return more(state, null);
  if (p.type === 'quantity') return more(state, p.n);
  const code = p.type === 'product' || p.type === 'own' ? p.code : scan.text.trim().toUpperCase();
  return piece(state, code, scan);
}

function sortHint(state: SortState): string {
  if (sortDone(state)) return 'Bring what is whole to the benches.';
  return state.lit
    ? `Lay it into cell ${state.cells[state.lit.cell]!.mark}, then scan the next piece.`
    : 'Scan a piece of the heap.';
}

function piece(state: SortState, code: string, scan: Scan): SortStep {
  const units = (l: HeapLine) => l.product.codes.find(c => c.code === code)?.units;
  const own = state.lines.filter(l => units(l) !== undefined);
  if (own.length === 0) {
    const what = scan.known?.name;
    return refuse(
      state,
      what ? `${what} is not of this heap.` : `Nothing of this heap has the code ${quoted(code)}.`,
      'Lay it aside and scan the next piece.',
    );
  }
  const open = own.filter(l => lineOpen(l) > 0);
  if (open.length === 0)
    return refuse(
      state,
      `All ${own[0]!.product.name} of this heap is sorted; this one is too many.`,
      'Lay it aside: it goes back to its place.',
    );
  const fits = open.find(l => lineOpen(l) >= units(l)!);
  if (!fits)
    return refuse(
      state,
      `That code counts ${units(open[0]!)}, and no order wants so many.`,
      'Open the pack and scan a single piece.',
    );
  return put(state, state.lines.indexOf(fits), units(fits)!);
}

function put(state: SortState, line: number, units: number): SortStep {
  const { orderNo, id } = state.lines[line]!;
  const known = state.cells.findIndex(c => c.orderNo === orderNo);
  const cell = known === -1 ? state.cells.findIndex(c => c.orderNo === null) : known;
  if (cell === -1)
    return refuse(
      state,
      `All ${count(state.cells.length, 'cell')} of wall ${state.wall} hold an order.`,
      'Pack an order that is whole; its cell is free then.',
    );
  const next: SortState = {
    ...state,
    cells: state.cells.with(cell, { ...state.cells[cell]!, orderNo }),
    lines: state.lines.with(line, { ...state.lines[line]!, sorted: state.lines[line]!.sorted + units }),
    lit: { cell, line, units },
    history: [...state.history, { line, units, opened: known === -1 }],
  };
  return {
    state: next,
    answer: putAnswer(next),
    effects: [{ type: 'sort', lineId: id, cellId: state.cells[cell]!.id, units }],
  };
}

function putAnswer(state: SortState): Answer {
  const { cell, line, units } = state.lit!;
  const { mark, orderNo } = state.cells[cell]!;
  const { wanted, sorted } = inCell(state, orderNo!);
  const pieces = units > 1 ? `${units} into cell ${mark}` : `Cell ${mark}`;
  const { name } = state.lines[line]!.product;
  const next = sortDone(state)
    ? 'All is sorted. Bring what is whole to the benches.'
    : `${name}. Then the next piece.`;
  if (sorted < wanted)
    return { kind: 'counted', tone: 'right', says: `${pieces}. ${wanted - sorted} more to come.`, next };
  return { kind: 'complete', tone: 'complete', says: `${pieces}. ${orderNo} is whole.`, next };
}

/** More of the same into the lit cell: so many, or all that its order still wants of it. */
function more(state: SortState, n: number | null): SortStep {
  const { lit } = state;
  if (!lit)
    return refuse(state, 'Scan one piece first, so that it is surely the right product.', sortHint(state));
  const open = lineOpen(state.lines[lit.line]!);
  if (n === 0) return refuse(state, 'Nothing is not a quantity.', sortHint(state));
  if (open === 0 || (n !== null && n > open))
    return refuse(
      state,
      `Too many: cell ${state.cells[lit.cell]!.mark} wants ${open === 0 ? 'no more' : `only ${open} more`} of ${state.lines[lit.line]!.product.name}.`,
      'Scan a piece, and the next cell is named.',
    );
  return put(state, lit.line, n ?? open);
}

function confirm(state: SortState, cell: number): SortStep {
  const { lit } = state;
  const { mark } = state.cells[cell]!;
  if (!lit) return refuse(state, `Cell ${mark} is waited for by no piece.`, sortHint(state));
  if (lit.cell !== cell)
    return refuse(
      state,
      `That is cell ${mark}; it goes into ${state.cells[lit.cell]!.mark}.`,
      'Take it out again if it is in there.',
    );
  return {
    state: { ...state, lit: null },
    answer: {
      kind: 'moved',
      tone: 'right',
      says: `Right cell, ${mark}.`,
      next: sortHint({ ...state, lit: null }),
    },
    effects: [],
  };
}

function undo(state: SortState): SortStep {
  const last = state.history.at(-1);
  if (!last) return refuse(state, 'There is nothing to undo at this wall.', sortHint(state));
  const line = state.lines[last.line]!;
  const cell = state.cells.findIndex(c => c.orderNo === line.orderNo);
  const { id, mark } = state.cells[cell]!;
  const next: SortState = {
    ...state,
    cells: last.opened ? state.cells.with(cell, { ...state.cells[cell]!, orderNo: null }) : state.cells,
    lines: state.lines.with(last.line, { ...line, sorted: line.sorted - last.units }),
    lit: null,
    history: state.history.slice(0, -1),
  };
  return {
    state: next,
    answer: {
      kind: 'undone',
      tone: 'info',
      says: `Undone: take ${count(last.units, 'piece')} of ${line.product.name} out of cell ${mark}.`,
      next: sortHint(next),
    },
    effects: [{ type: 'sort', lineId: line.id, cellId: id, units: -last.units }],
  };
}
