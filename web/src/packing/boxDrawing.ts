import {
  type Box,
  type PackState,
  type Piece,
  type Placed,
  packLineOpen,
  parcelAtHand,
  planBoxes,
  plannedOpen,
  tryBox,
  unitsOf,
} from '@auk/core';

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
    const open = Math.min(packLineOpen(l), plannedOpen(state, l.id) ?? packLineOpen(l));
    const quantity = (parcel.holds[l.id] ?? 0) + Math.max(0, open);
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
