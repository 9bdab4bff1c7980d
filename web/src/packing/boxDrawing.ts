import {
  type Box,
  type Corner,
  type PackState,
  type Piece,
  type Placed,
  packLineOpen,
  parcelAtHand,
  planBoxes,
  type Size,
  tryBox,
} from '@auk/core';

/** A point of the drawing. */
export interface Point {
  x: number;
  y: number;
}

const COS = Math.cos(Math.PI / 6);
const SIN = Math.sin(Math.PI / 6);

/** Where a corner of the box is drawn, seen from its front right upper corner. */
export const project = ({ x, y, z }: Corner): Point => ({ x: (x - y) * COS, y: (x + y) * SIN - z });

/** The three faces of a block that are seen: top, left (its front), right. */
export function facesOf({ x, y, z }: Corner, { length, width, height }: Size): Point[][] {
  const at = (dx: number, dy: number, dz: number) => project({ x: x + dx, y: y + dy, z: z + dz });
  return [
    [at(0, 0, height), at(length, 0, height), at(length, width, height), at(0, width, height)],
    [at(0, width, 0), at(length, width, 0), at(length, width, height), at(0, width, height)],
    [at(length, 0, 0), at(length, width, 0), at(length, width, height), at(length, 0, height)],
  ];
}

/** Blocks in the order in which they are drawn: what is behind or under another comes before it. */
export function backToFront<T extends Corner & { size: Size }>(blocks: readonly T[]): T[] {
  const hides = (a: T, b: T) =>
    a.x + a.size.length <= b.x || a.y + a.size.width <= b.y || a.z + a.size.height <= b.z;
  const left = [...blocks];
  const sorted: T[] = [];
  while (left.length > 0) {
    // One that is behind all others of what is left; there always is one, as blocks share no space (the first, should there be none).
    const i = left.findIndex(a => left.every(b => a === b || !hides(b, a) || hides(a, b)));
    sorted.push(...left.splice(Math.max(0, i), 1));
  }
  return sorted;
}

/** How the pieces of the parcel at hand lie: in its own box, or in the one that is proposed; with which one is next. */
export interface Layout {
  box: Box;
  placed: Placed[];
  /** The place in `placed` of the piece that goes in next; null when all are in. */
  next: number | null;
  /** Heights at which pieces stand, from the floor. */
  layers: number[];
  /** What of the order does not go into this parcel. */
  rest: number;
}

/** Steps that a drawing may take: it must be there at once. */
const STEPS = 4_000;
/** What a parcel costs beside its box; it only keeps the drawing from sharing among boxes what one takes. */
const WAY_MINOR = 600;

/** The layout of the parcel at hand, or why none can be drawn. */
export function layoutOf(state: PackState): Layout | { why: string } {
  const parcel = parcelAtHand(state);
  const pieces: Piece[] = [];
  for (const l of state.lines) {
    const quantity = (parcel.holds[l.id] ?? 0) + Math.max(0, packLineOpen(l));
    if (quantity === 0) continue;
    if (!l.piece?.size)
      return {
        why: `${l.product.name} has no size: no box can be proposed. Measure it, and type it such as 11x9x14 in.`,
      };
    pieces.push({ ...l.piece, id: l.id, size: l.piece.size, quantity });
  }
  if (pieces.length === 0) return { why: 'Nothing is to be packed.' };
  const boxes = state.boxes.flatMap(b => (b.inner ? [{ ...b, inner: b.inner, priceMinor: 0 }] : []));
  const own = boxes.find(b => b.code === parcel.boxCode);
  if (!own) {
    // No box was chosen: the smallest that takes all of it is proposed.
    const [one, ...more] = planBoxes(boxes, pieces, { cost: () => WAY_MINOR, steps: STEPS }).parcels;
    return one && more.length === 0
      ? laid(one.box, one.placed, state, 0)
      : { why: 'No box takes all of it. Scan the one you use.' };
  }
  const tried = tryBox(own, pieces, { steps: STEPS });
  if (tried.fits === 'yes') return laid(own, tried.placed, state, 0);
  const [first] = planBoxes([own], pieces, { cost: () => WAY_MINOR, steps: STEPS }).parcels;
  const units = pieces.reduce((n, p) => n + p.quantity, 0);
  return first
    ? laid(own, first.placed, state, units - first.placed.length)
    : { why: `Box ${own.name} takes none of it by its size.` };
}

function laid(box: Box, placed: Placed[], state: PackState, rest: number): Layout {
  const { holds } = parcelAtHand(state);
  const seen = new Map<string, number>();
  const next = placed.findIndex(p => {
    const n = (seen.get(p.piece.id) ?? 0) + 1;
    seen.set(p.piece.id, n);
    return n > (holds[p.piece.id] ?? 0);
  });
  const layers = [...new Set(placed.map(p => p.z))].sort((a, b) => a - b);
  return { box, placed, next: next === -1 ? null : next, layers, rest };
}

/** Which of its sides a piece stands on, in words. */
export function lies({ piece, size }: Placed): string {
  if (size.height === piece.size.height) return 'upright';
  const sides = [piece.size.length, piece.size.width, piece.size.height].sort((a, b) => a - b);
  if (size.height === sides[0]) return 'flat';
  return size.height === sides[2] ? 'on end' : 'on its side';
}
