import type { Corner, Size } from '@auk/core';

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
