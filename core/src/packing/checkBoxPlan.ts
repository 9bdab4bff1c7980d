import type { Size } from '../units/units.js';
import {
  type Box,
  overlap,
  overlapOnFloor,
  type Piece,
  type Placed,
  padded,
  SUPPORT,
  spacesOf,
  waysToLie,
} from './boxes.js';

/** A box with what lies in it, in the order in which it goes in. */
export interface PackedBox {
  box: Box;
  placed: readonly Placed[];
}

/**
 * Checks a plan anew, knowing nothing of how it was made: every piece is in once; each lies as it may; all are inside; no two share
 * space; each is carried; nothing rests on what is fragile; no box is too heavy; who ships alone is alone, and what is
 * kept apart with nothing else; no parcel holds more of a
 * product than it may; and each piece can be put in from above, in the order given. Gives what is wrong, in words; empty when nothing is.
 */
export function checkBoxPlan(pieces: readonly Piece[], boxes: readonly PackedBox[], padding = 0): string[] {
  const wrong: string[] = [];
  for (const piece of pieces) {
    const isIt = ({ piece: { id, apart } }: Placed) => id === piece.id && apart === piece.apart;
    const packed = boxes.reduce((n, b) => n + b.placed.filter(isIt).length, 0);
    if (packed !== piece.quantity) wrong.push(`${packed} of ${piece.quantity} ${piece.id} are in a box.`);
  }
  for (const b of boxes) wrong.push(...checkBox(b, padding));
  return wrong;
}

function checkBox({ box, placed }: PackedBox, padding: number): string[] {
  const wrong: string[] = [];
  const says = (text: string) => wrong.push(`${box.code}: ${text}`);
  for (const p of placed) if (!mayLieSo(p, padding)) says(`${p.piece.id} lies in a way that it may not.`);
  if (!spacesOf(box).some(space => placed.every(p => inside(p, space)))) says('not all of it is inside.');
  placed.forEach((p, i) => {
    for (const q of placed.slice(0, i)) {
      if (overlap(p, q)) says(`${p.piece.id} and ${q.piece.id} share space.`);
      if (overlapOnFloor(p, q) > 0 && q.z >= p.z + p.size.height)
        says(`${p.piece.id} would have to pass through ${q.piece.id}.`);
    }
    const below = placed.filter(q => q.z + q.size.height === p.z && overlapOnFloor(p, q) > 0);
    for (const q of below)
      if (q.piece.fragile) says(`${p.piece.id} rests on ${q.piece.id}, which is fragile.`);
    const carried = below.reduce((area, q) => area + overlapOnFloor(p, q), 0);
    if (p.z > 0 && carried < p.size.length * p.size.width * SUPPORT) says(`${p.piece.id} is not carried.`);
  });
  if (placed.reduce((w, p) => w + p.piece.weightMg, 0) > box.limitMg) says('it is too heavy.');
  const kinds = new Set(placed.map(p => p.piece.id));
  for (const id of kinds) {
    const of = placed.filter(p => p.piece.id === id);
    const { alone, most } = of[0]!.piece;
    if (alone && placed.length > 1) says(`${id} ships alone.`);
    if (of[0]!.piece.apart !== placed[0]!.piece.apart) says(`${id} has a parcel of its own.`);
    if (most && of.length > most) says(`${of.length} ${id} are in it, and ${most} at most may be.`);
  }
  if (box.kind === 'mailer' && placed.some(p => p.piece.fragile)) says('what is fragile is in a mailer.');
  return wrong;
}

const inside = (p: Placed, space: Size): boolean =>
  p.x >= 0 &&
  p.y >= 0 &&
  p.z >= 0 &&
  p.x + p.size.length <= space.length &&
  p.y + p.size.width <= space.width &&
  p.z + p.size.height <= space.height;

function mayLieSo(p: Placed, padding: number): boolean {
  const sides = (s: Size) => [s.length, s.width, s.height];
  if (p.piece.foldable)
    return waysToLie(p.piece, padding).some(w => sides(w).every((side, i) => side === sides(p.size)[i]));
  const own = padded(p.piece, padding);
  if (p.piece.upright && p.size.height !== own.height) return false;
  const [a, b] = [sides(own).sort((x, y) => x - y), sides(p.size).sort((x, y) => x - y)];
  return a.every((side, i) => side === b[i]);
}
