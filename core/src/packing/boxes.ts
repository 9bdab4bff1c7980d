import type { Size } from '../units/units.js';

/**
 * A kind of box: inner size in tenths of a millimetre, empty weight and most content weight in milligrams, price in house minor units.
 * A mailer is a flat pouch: `inner` is its length and width while it is empty and the most that it may be thick.
 */
export interface Box {
  code: string;
  name: string;
  inner: Size;
  tareMg: number;
  limitMg: number;
  priceMinor: number;
  kind?: 'box' | 'mailer';
  /** How many are there; null or absent when nobody counts them. */
  stock?: number | null;
}

/** A product to be packed, with how many of it: outer size in tenths of a millimetre, weight of one in milligrams. */
export interface Piece {
  id: string;
  size: Size;
  weightMg: number;
  quantity: number;
  /** Nothing may rest on it; it goes into no mailer, and padding is put around it. */
  fragile?: boolean;
  /** Its height stays upright. */
  upright?: boolean;
  /** It may be folded in half along its length, its width or both, and is thicker then. */
  foldable?: boolean;
  /** Nothing else is in its parcel. */
  alone?: boolean;
  /** What has the same mark goes together and with nothing else; absent where it may go with all that has none. */
  apart?: string;
  /** Most units of it in one parcel. */
  most?: number | null;
}

/** Where a corner is, from the left front lower corner of the box: x along its length, y along its width, z upwards. */
export interface Corner {
  x: number;
  y: number;
  z: number;
}

/** One piece where it lies: `size` is how long it is along x, y and z. */
export interface Placed extends Corner {
  piece: Piece;
  size: Size;
}

/** The least share of a piece's base that must stand on the floor or on other pieces. */
export const SUPPORT = 2 / 3;

/** Volume in cubic tenths of a millimetre (a double). */
export const volumeOf = (s: Size): number => s.length * s.width * s.height;

/** True when two pieces share some space. */
export function overlap(a: Corner & { size: Size }, b: Corner & { size: Size }): boolean {
  return overlapOnFloor(a, b) > 0 && a.z < b.z + b.size.height && b.z < a.z + a.size.height;
}

/** The area that two pieces have in common when looked at from above, in square tenths of a millimetre. */
export function overlapOnFloor(a: Corner & { size: Size }, b: Corner & { size: Size }): number {
  const x = Math.min(a.x + a.size.length, b.x + b.size.length) - Math.max(a.x, b.x);
  const y = Math.min(a.y + a.size.width, b.y + b.size.width) - Math.max(a.y, b.y);
  return x > 0 && y > 0 ? x * y : 0;
}

/** A piece's size with padding on every side where it is fragile. */
export function padded(piece: Piece, padding: number): Size {
  const more = piece.fragile ? 2 * padding : 0;
  const { length, width, height } = piece.size;
  return { length: length + more, width: width + more, height: height + more };
}

/** All ways in which a piece may lie, each once: turned as its facts allow, folded where it may be. */
export function waysToLie(piece: Piece, padding = 0): Size[] {
  const shapes = [padded(piece, padding)];
  if (piece.foldable) shapes.push(...folded(shapes[0]!));
  const ways = new Map<string, Size>();
  for (const { length: l, width: w, height: h } of shapes)
    for (const [length, width, height] of piece.upright
      ? [
          [l, w, h],
          [w, l, h],
        ]
      : [
          [l, w, h],
          [w, l, h],
          [l, h, w],
          [h, l, w],
          [w, h, l],
          [h, w, l],
        ])
      ways.set(`${length} ${width} ${height}`, { length: length!, width: width!, height: height! });
  return [...ways.values()];
}

function folded({ length, width, height }: Size): Size[] {
  const half = (side: number) => Math.ceil(side / 2);
  return [
    { length: half(length), width, height: 2 * height },
    { length, width: half(width), height: 2 * height },
    { length: half(length), width: half(width), height: 4 * height },
  ];
}

/**
 * The spaces that a box offers: its inside, or for a mailer what it takes at some thicknesses. What makes a pouch thicker makes it
 * shorter and narrower by as much.
 */
export function spacesOf(box: Box): Size[] {
  if (box.kind !== 'mailer') return [box.inner];
  const { length, width, height } = box.inner;
  return [1, 0.75, 0.5, 0.25].flatMap(share => {
    const thick = Math.floor(height * share);
    const space = { length: length - thick, width: width - thick, height: thick };
    return space.length > 0 && space.width > 0 && thick > 0 ? [space] : [];
  });
}

/** Units of a list of pieces. */
export const unitsOf = (pieces: readonly Piece[]): number => pieces.reduce((n, p) => n + p.quantity, 0);

/** Weight of a list of pieces, in milligrams. */
export const weightOf = (pieces: readonly Piece[]): number =>
  pieces.reduce((w, p) => w + p.weightMg * p.quantity, 0);
