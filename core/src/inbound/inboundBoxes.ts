import { group } from '../group.js';
import { type Box, type Piece, type Placed, volumeOf } from '../packing/boxes.js';
import { planBoxes } from '../packing/boxPlan.js';
import { lookingAhead } from '../packing/fillAhead.js';
import type { Size } from '../units/units.js';

/** What a network takes of a box: milligrams with its contents, tenths of a millimetre on its longest side, and from which weight it is marked heavy. */
export interface BoxLimits {
  mostMg: number;
  mostSide: number;
  heavyMg: number;
}

/** A line that is to be boxed. `inCases`: whole cases as they are, each so many units; what does not fill one goes singly. */
export interface LineToBox {
  id: string;
  units: number;
  size: Size;
  weightMg: number;
  fragile: boolean;
  upright: boolean;
  inCases: { units: number; size: Size; weightMg: number } | null;
  /** Nothing else lies in its boxes. */
  own: boolean;
}

/** One box as it is planned. `cases` of a line are whole ones. */
export interface InboundBox {
  box: Box;
  placed: Placed[];
  contents: { id: string; units: number; cases: number }[];
  weightMg: number;
  heavy: boolean;
}

/** The boxes of a shipment. `bound`: no plan has fewer; `left`: lines that go into no box, with why. */
export interface InboundBoxes {
  boxes: InboundBox[];
  bound: number;
  left: { id: string; why: string }[];
  /** Boxes of the house that the network does not take. */
  refused: { code: string; why: string }[];
}

/** Blocks that are looked at for each room: boxes come to 94 to 96 % of what they hold. */
const LOOKS = 10;

/** Why a network does not take a box by its sides and weight; null when it is an ordinary one. */
export function refusedBox(size: Size, weightMg: number, { mostSide, mostMg }: BoxLimits): string | null {
  if (Math.max(size.length, size.width, size.height) > mostSide)
    return 'It is longer than the network takes.';
  return weightMg > mostMg ? 'It is heavier than the network takes.' : null;
}

/**
 * Boxes for a shipment within a network's limits: the least cost of boxes, then the fewest; cases stay whole. The bound counts volume, weight,
 * and what is more than half of the largest box, of which no two share one. `looks` as of `fillAhead`: fewer are quicker and fill less.
 */
export function planInboundBoxes(
  boxes: readonly Box[],
  lines: readonly LineToBox[],
  limits: BoxLimits,
  looks = LOOKS,
): InboundBoxes {
  const refused = boxes.flatMap(b => {
    const why = refusedBox(b.inner, b.tareMg, limits);
    return why ? [{ code: b.code, why }] : [];
  });
  const usable = boxes
    .filter(b => !refused.some(r => r.code === b.code))
    .map(b => ({ ...b, limitMg: Math.min(b.limitMg, limits.mostMg - b.tareMg) }));
  const pieces = lines.flatMap(piecesOf);
  const { parcels, unplaced } = planBoxes(usable, pieces, { fill: lookingAhead(looks) });
  return {
    boxes: parcels.map(({ box, placed, weightMg }) => ({
      box,
      placed,
      contents: contentsOf(placed, lines),
      weightMg,
      heavy: weightMg > limits.heavyMg,
    })),
    bound: boundOf(
      usable,
      pieces.filter(p => !unplaced.some(u => u.id === p.id)),
    ),
    left: unplaced.map(({ id, why }) => ({ id: lineOf(id), why })),
    refused,
  };
}

const CASE = ' case';
const lineOf = (piece: string): string => (piece.endsWith(CASE) ? piece.slice(0, -CASE.length) : piece);

/** A line as pieces: whole cases, and what does not fill one. */
export function piecesOf({ id, units, size, weightMg, fragile, upright, inCases, own }: LineToBox): Piece[] {
  const cases = inCases ? Math.floor(units / inCases.units) : 0;
  const single = units - cases * (inCases?.units ?? 0);
  const apart = own ? { apart: id } : {};
  const all: Piece[] = [];
  if (inCases && cases > 0)
    all.push({
      id: `${id}${CASE}`,
      quantity: cases,
      size: inCases.size,
      weightMg: inCases.weightMg,
      upright,
      ...apart,
    });
  if (single > 0) all.push({ id, quantity: single, size, weightMg, fragile, upright, ...apart });
  return all;
}

export function contentsOf(placed: readonly Placed[], lines: readonly LineToBox[]): InboundBox['contents'] {
  const pieces = group(placed, p => p.piece.id);
  const of = (id: string) => pieces.get(id)?.length ?? 0;
  return lines.flatMap(({ id, inCases }) => {
    const cases = of(`${id}${CASE}`);
    const units = of(id) + cases * (inCases?.units ?? 0);
    return units > 0 ? [{ id, units, cases }] : [];
  });
}

function boundOf(boxes: readonly Box[], pieces: readonly Piece[]): number {
  if (boxes.length === 0 || pieces.length === 0) return 0;
  const room = Math.max(...boxes.map(b => volumeOf(b.inner)));
  const load = Math.max(...boxes.map(b => b.limitMg));
  const sum = (of: (p: Piece) => number) => pieces.reduce((n, p) => n + of(p) * p.quantity, 0);
  const large = sum(p => (2 * volumeOf(p.size) > room || 2 * p.weightMg > load ? 1 : 0));
  return Math.max(
    Math.ceil(sum(p => volumeOf(p.size)) / room),
    Math.ceil(sum(p => p.weightMg) / load),
    large,
  );
}
