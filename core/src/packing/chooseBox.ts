import type { Size } from '../units/units.js';

/** A kind of box: inner size, empty weight and most content weight in milligrams, price in house minor units. */
export interface Box {
  code: string;
  name: string;
  inner: Size;
  tareMg: number;
  limitMg: number;
  priceMinor: number;
}

/** A piece to be packed, with how many of it. */
export interface Piece {
  size: Size;
  weightMg: number;
  quantity: number;
}

/** Share of a box's volume that loose pieces may fill in the simple fit. */
const FILL = 0.85;

/**
 * The smallest box (by volume, then price, then code) whose sides take every single piece in some orientation, whose volume
 * holds all of them at 85 % fill, and whose limit bears them. Null when none does. This is the simple fit: it does not lay pieces out.
 */
export function chooseBox(boxes: readonly Box[], pieces: readonly Piece[]): Box | null {
  const volume = pieces.reduce((v, p) => v + volumeOf(p.size) * p.quantity, 0);
  const weight = pieces.reduce((w, p) => w + p.weightMg * p.quantity, 0);
  const fits = boxes.filter(
    b =>
      pieces.every(p => fitsInside(p.size, b.inner)) &&
      volume <= volumeOf(b.inner) * FILL &&
      weight <= b.limitMg,
  );
  return (
    fits.sort(
      (a, b) =>
        volumeOf(a.inner) - volumeOf(b.inner) || a.priceMinor - b.priceMinor || a.code.localeCompare(b.code),
    )[0] ?? null
  );
}

/** Volume in cubic tenths of a millimetre (a double). */
export const volumeOf = (s: Size): number => s.length * s.width * s.height;

/** True when a piece goes into a box along the axes, in the best orientation. */
export function fitsInside(piece: Size, box: Size): boolean {
  const sorted = (s: Size) => [s.length, s.width, s.height].sort((a, b) => a - b);
  const [p, b] = [sorted(piece), sorted(box)];
  return p.every((side, i) => side <= b[i]!);
}
