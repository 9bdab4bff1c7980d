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
  unitsOf,
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

/** Why nothing can be drawn. */
interface Why {
  why: string;
}

/** What the parcel at hand is to hold, in which box (none while none was chosen); it stays the same while pieces go in. */
interface Wish {
  pieces: Piece[];
  boxes: Box[];
  own: string | null;
  /** Room around what is fragile, in tenths of a millimetre. */
  padding: number;
}

/** Where the pieces lie in a box, and how many of them do not go into it. */
interface Laid {
  box: Box;
  placed: Placed[];
  rest: number;
}

/** How the parcel at hand is packed, with the piece that is next. */
export interface Layout extends Laid {
  /** The place in `placed` of the piece that goes in next; null when all are in. */
  next: number | null;
  /** Heights at which pieces stand, from the floor. */
  layers: number[];
}

/** Steps that a drawing may take: it must be there at once. */
const STEPS = 4_000;
/** What a parcel costs beside its box; it only keeps the drawing from sharing among boxes what one takes. */
const WAY_MINOR = 600;

/** What is to be laid out for the parcel at hand, or why that cannot be. */
export function wishOf(state: PackState): Wish | Why {
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
  return { pieces, boxes, own: parcel.boxCode, padding: state.choices.padding };
}

/** Lays the pieces out. This is the work; it is done anew only when the wish is another. */
export function lay(wish: Wish | Why): Laid | Why {
  if ('why' in wish) return wish;
  const { pieces, boxes, own, padding } = wish;
  const plan = (of: readonly Box[]) =>
    planBoxes(of, pieces, { cost: () => WAY_MINOR, steps: STEPS, padding }).parcels;
  const box = boxes.find(b => b.code === own);
  if (!box) {
    // No box was chosen: the smallest that takes all of it is proposed.
    const [one, ...more] = plan(boxes);
    return one && more.length === 0
      ? { box: one.box, placed: one.placed, rest: 0 }
      : { why: 'No box takes all of it. Scan the one you use.' };
  }
  const tried = tryBox(box, pieces, { steps: STEPS, padding });
  if (tried.fits === 'yes') return { box, placed: tried.placed, rest: 0 };
  const [first] = plan([box]);
  return first
    ? { box, placed: first.placed, rest: unitsOf(pieces) - first.placed.length }
    : { why: `Box ${box.name} takes none of it by its size.` };
}

/** The layout with what is in by now. */
export function layoutOf(laid: Laid | Why, state: PackState): Layout | Why {
  if ('why' in laid) return laid;
  const { holds } = parcelAtHand(state);
  const seen = new Map<string, number>();
  const next = laid.placed.findIndex(p => {
    const n = (seen.get(p.piece.id) ?? 0) + 1;
    seen.set(p.piece.id, n);
    return n > (holds[p.piece.id] ?? 0);
  });
  const layers = [...new Set(laid.placed.map(p => p.z))].sort((a, b) => a - b);
  return { ...laid, next: next === -1 ? null : next, layers };
}

/** Which of its sides a piece stands on, in words. */
export function lies({ piece, size }: Placed): string {
  if (size.height === piece.size.height) return 'upright';
  const sides = [piece.size.length, piece.size.width, piece.size.height].sort((a, b) => a - b);
  if (size.height === sides[0]) return 'flat';
  return size.height === sides[2] ? 'on end' : 'on its side';
}
