import { type Answer } from '../scans/scan.js';
import { count } from '../text.js';
import {
  askingHint,
  type Captured,
  type KitPart,
  type PackEffect,
  type PackLine,
  type PackMove,
  type PackState,
  type PackStep,
  packDone,
  packHint,
  packLineOpen,
  packOpen,
  parcelAtHand,
  plannedOpen,
} from './packState.js';

/** Moves units into the parcel at hand (`sign` 1) or out of it; a kit whose parts are all in becomes one packed unit. */
export function moveAll(
  state: PackState,
  moves: readonly PackMove[],
  sign: 1 | -1,
): { state: PackState; effects: PackEffect[] } {
  const lines = [...state.lines];
  const effects: PackEffect[] = [];
  const at = parcelAtHand(state);
  const holds = { ...at.holds };
  const pack = (line: PackLine, units: number) => {
    const held = (holds[line.id] ?? 0) + units;
    if (held === 0) delete holds[line.id];
    else holds[line.id] = held;
    effects.push({ type: 'pack', parcel: at.no, lineId: line.id, units });
  };
  for (const m of moves) {
    const line = lines[m.line]!;
    if (m.leftOut) {
      lines[m.line] = { ...line, leftOut: line.leftOut + sign * m.units };
      effects.push({ type: 'leave out', lineId: line.id, units: sign * m.units });
    } else if (m.part === undefined) {
      lines[m.line] = { ...line, packed: line.packed + sign * m.units };
      pack(line, sign * m.units);
    } else {
      const { kitParts, whole } = moveParts(line.kitParts, m.part, sign * m.units);
      lines[m.line] = { ...line, packed: line.packed + whole, kitParts };
      if (whole !== 0) pack(line, whole);
    }
  }
  // Something else lies in it: what it weighed before counts no more.
  const weightMg = moves.some(m => !m.leftOut) ? null : at.weightMg;
  const parcels = state.parcels.map(p => (p === at ? { ...p, holds, weightMg } : p));
  return { state: { ...state, lines, parcels }, effects };
}

/** Parts of a kit in or out; `whole` is 1 when that makes it whole, -1 when it is not whole any more. */
function moveParts(
  parts: readonly KitPart[],
  at: number,
  units: number,
): { kitParts: KitPart[]; whole: 1 | 0 | -1 } {
  const broken = units < 0 && parts.every(k => k.scanned === 0);
  const before = broken ? parts.map(k => ({ ...k, scanned: k.perKit })) : [...parts];
  const moved = before.with(at, { ...before[at]!, scanned: before[at]!.scanned + units });
  const full = units > 0 && moved.every(k => k.scanned === k.perKit);
  return {
    kitParts: full ? moved.map(k => ({ ...k, scanned: 0 })) : moved,
    whole: full ? 1 : broken ? -1 : 0,
  };
}

/** What is in the parcel at hand beside a line that has a parcel of its own, or is such a line itself; null when nothing is mixed. */
function mixedWith(state: PackState, moves: readonly PackMove[]): string | null {
  const line = state.lines[moves[0]!.line]!;
  const { holds } = parcelAtHand(state);
  const other = state.lines.find(l => holds[l.id] && l.apart !== line.apart);
  return other && !moves[0]!.leftOut
    ? `${(line.apart === undefined ? other : line).product.name} has a parcel of its own.`
    : null;
}

/** One box holds one expiry where boxes are planned: what of another lot lies in this one already; null where nothing does. */
function otherLot(state: PackState, moves: readonly PackMove[], lot: string | undefined): string | null {
  const line = state.lines[moves[0]!.line]!;
  const here = state.captured.find(
    c => c.line === line.id && c.parcel === parcelAtHand(state).no && c.lot !== undefined && c.lot !== lot,
  );
  return state.planned && lot !== undefined && here
    ? `Lot ${here.lot} of ${line.product.name} lies in this box; one box holds one lot.`
    : null;
}

/** What goes into another box by the plan; null where it is as planned, or nobody planned. */
function notPlanned(state: PackState, moves: readonly PackMove[]): string | null {
  for (const m of moves) {
    const line = state.lines[m.line]!;
    const here = plannedOpen(state, line.id);
    if (here === null || m.leftOut || m.part !== undefined || m.units <= here) continue;
    const other = state.planned!.findIndex((p, i) => i >= state.parcels.length && (p[line.id] ?? 0) > 0);
    const where = other === -1 ? 'in no other box' : `in box ${other + 1}`;
    return `By the plan ${here > 0 ? `only ${here} more` : 'no more'} ${line.product.name} ${here === 1 ? 'lies' : 'lie'} in this box; the next ${where}.`;
  }
  return null;
}

/**
 * Packs moves, with what was told of their units; they can be undone while their parcel is open. What would lie with something that has
 * a parcel of its own, or in another box by the plan, is asked about first, unless whoever packs is `sure`.
 */
export function pack(
  state: PackState,
  moves: readonly PackMove[],
  told: Pick<Captured, 'serial' | 'lot' | 'expiry' | 'answer'> = {},
  sure = false,
): PackStep {
  const says = sure
    ? null
    : (mixedWith(state, moves) ?? otherLot(state, moves, told.lot) ?? notPlanned(state, moves));
  if (says !== null) {
    const asking: PackState['asking'] = { about: 'apart', moves: [...moves], told, says };
    const next: PackState = { ...state, asking, at: moves[0]!.line };
    return {
      state: next,
      answer: { kind: 'asked', tone: 'attention', says, next: askingHint(next, asking) },
      effects: [],
    };
  }
  const moved = moveAll(state, moves, 1);
  const first = moves[0]!;
  const hasTold = Object.keys(told).length > 0;
  const n = (state.captured.at(-1)?.n ?? 0) + 1;
  const captured: Captured = {
    n,
    line: state.lines[first.line]!.id,
    parcel: parcelAtHand(state).no,
    ...told,
  };
  const next: PackState = {
    ...moved.state,
    at: first.line,
    asking: null,
    captured: hasTold ? [...state.captured, captured] : state.captured,
    history: [...state.history, hasTold ? [{ ...first, captured: n }, ...moves.slice(1)] : [...moves]],
  };
  return {
    state: next,
    answer: packedAnswer(next, moves),
    effects: hasTold ? [...moved.effects, { type: 'capture', captured, takenBack: false }] : moved.effects,
  };
}

function packedAnswer(state: PackState, moves: readonly PackMove[]): Answer {
  const next = packHint(state);
  if (packDone(state)) return { kind: 'complete', tone: 'complete', says: 'Everything is in.', next };
  const m = moves[0]!;
  const line = state.lines[m.line]!;
  const says = (text: string, whole = packLineOpen(line) === 0): Answer => ({
    kind: 'counted',
    tone: whole ? 'row' : 'right',
    says: text,
    next,
  });
  if (m.leftOut) return says(`${line.product.name} is left out.`, true);
  if (packOpen(state) === 0 && packLineOpen(line) === 0)
    return says(`All that must go in is in. What is left may be left out.`, true);
  if (moves.length > 1) return says(`Right. ${line.bundle!.name} is in as a whole.`);
  if (m.part !== undefined) {
    const left = line.kitParts.reduce((n, k) => n + k.perKit - k.scanned, 0);
    return line.kitParts.some(k => k.scanned > 0)
      ? says(
          `Right. ${line.kitParts[m.part]!.product.name}, ${count(left, 'part')} more for ${line.product.name}.`,
        )
      : says(`Right. ${line.product.name} is whole: ${line.packed} of ${line.wanted}.`);
  }
  const all = packLineOpen(line) === 0;
  return says(`Right. ${line.packed} of ${line.wanted} ${line.product.name}${all ? ', complete' : ''}.`);
}

/** Takes the last moves out again, with what was told of them. */
export function takeBack(state: PackState): PackStep {
  const last = state.history.at(-1)!;
  const moved = moveAll(state, last, -1);
  const first = last[0]!;
  const gone = state.captured.find(c => c.n === first.captured);
  const next: PackState = {
    ...moved.state,
    at: state.history.at(-2)?.at(0)?.line ?? null,
    captured: gone ? state.captured.filter(c => c !== gone) : state.captured,
    history: state.history.slice(0, -1),
  };
  const line = next.lines[first.line]!;
  const name =
    last.length > 1
      ? line.bundle!.name
      : first.part === undefined
        ? line.product.name
        : line.kitParts[first.part]!.product.name;
  return {
    state: next,
    answer: {
      kind: 'undone',
      tone: 'info',
      says: first.leftOut ? `Undone: ${name} is wanted again.` : `Undone: ${name} is out again.`,
      next: packHint(next),
    },
    effects: gone ? [...moved.effects, { type: 'capture', captured: gone, takenBack: true }] : moved.effects,
  };
}
