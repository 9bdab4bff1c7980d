import { seeded, shuffled } from '../random/seeded.js';
import type { Size } from '../units/units.js';
import { type Corner, SUPPORT } from './boxes.js';
import type { PlacedShape, Shape } from './shapes.js';

/**
 * Puts one piece after the other where there is room, at points that the pieces before them make (the extreme points of Crainic, Perboli
 * and Tadei, INFORMS Journal on Computing 20, 2008): lowest first, there farthest back and left, in the way in which it reaches least
 * far. The order of the pieces is tried by several measures, then by chance from a seed of its own; null when no order puts all in.
 */
export function placePoints(space: Size, shapes: readonly Shape[], orders: number): PlacedShape[] | null {
  const units = shapes.flatMap(s => Array.from({ length: s.count }, () => s));
  const random = seeded(units.length);
  for (let n = 0; n < orders; n++) {
    const measure = MEASURES[n];
    const order = measure ? [...units].sort((a, b) => measure(b) - measure(a)) : nearly(units, random);
    // What is fragile goes on top, in whatever order.
    const placed = place(space, [...order.filter(s => !s.fragile), ...order.filter(s => s.fragile)]);
    if (placed) return placed;
  }
  return null;
}

const longest = (s: Shape): number => Math.max(s.ways[0]!.length, s.ways[0]!.width, s.ways[0]!.height);
const largestFace = (s: Shape): number => s.volume / s.ways[0]!.height;
/** What comes first: the largest, the longest, the one with the largest face, the heaviest, the thickest. */
const MEASURES: readonly ((s: Shape) => number)[] = [
  s => s.volume,
  longest,
  largestFace,
  s => s.weightMg,
  s => s.ways[0]!.height,
];

/** By size, with neighbours exchanged by chance. */
function nearly(units: readonly Shape[], random: () => number): Shape[] {
  return shuffled(units, random)
    .map(shape => ({ shape, at: shape.volume * (0.4 + random()) }))
    .sort((a, b) => b.at - a.at)
    .map(u => u.shape);
}

function place(space: Size, order: readonly Shape[]): PlacedShape[] | null {
  const placed: PlacedShape[] = [];
  let points: Corner[] = [{ x: 0, y: 0, z: 0 }];
  for (const shape of order) {
    const found = bestPoint(space, placed, points, shape);
    if (!found) return null;
    placed.push(found);
    points = [...points.filter(p => !covers(found, p)), ...pointsOf(found, placed)].sort(byPoint);
  }
  return placed;
}

const byPoint = (a: Corner, b: Corner): number => a.z - b.z || a.y - b.y || a.x - b.x;

const covers = (b: PlacedShape, p: Corner): boolean =>
  p.x >= b.x &&
  p.x < b.x + b.size.length &&
  p.y >= b.y &&
  p.y < b.y + b.size.width &&
  p.z >= b.z &&
  p.z < b.z + b.size.height;

function bestPoint(
  space: Size,
  placed: readonly PlacedShape[],
  points: readonly Corner[],
  shape: Shape,
): PlacedShape | null {
  for (const at of points) {
    let best: PlacedShape | null = null;
    for (const size of shape.ways) {
      const put = { shape, ...at, size };
      if (!roomFor(space, placed, put)) continue;
      if (!best || reach(put) < reach(best)) best = put;
    }
    if (best) return best;
  }
  return null;
}

/** How far a piece reaches into the space: the less, the more is left beside and above it. */
const reach = (p: PlacedShape): number =>
  (p.z + p.size.height) * 4 + (p.y + p.size.width) * 2 + p.x + p.size.length;

/** True when a piece lies inside, shares no space, is carried, and rests on nothing fragile. */
export function roomFor(space: Size, placed: readonly PlacedShape[], p: PlacedShape): boolean {
  const { x, y, z, size } = p;
  if (x + size.length > space.length || y + size.width > space.width || z + size.height > space.height)
    return false;
  let carried = 0;
  for (const q of placed) {
    const top = q.z + q.size.height;
    if (top < z || q.z >= z + size.height) continue;
    const along = Math.min(x + size.length, q.x + q.size.length) - Math.max(x, q.x);
    if (along <= 0) continue;
    const across = Math.min(y + size.width, q.y + q.size.width) - Math.max(y, q.y);
    if (across <= 0) continue;
    if (top > z || q.shape.fragile) return false;
    carried += along * across;
  }
  return z === 0 || carried >= size.length * size.width * SUPPORT;
}

/** The points that a piece makes: at its right, before it and above it, each slid back to what lies there. */
function pointsOf(p: PlacedShape, placed: readonly PlacedShape[]): Corner[] {
  const right = { x: p.x + p.size.length, y: p.y, z: p.z };
  const before = { x: p.x, y: p.y + p.size.width, z: p.z };
  const above = { x: p.x, y: p.y, z: p.z + p.size.height };
  const points = [right, before];
  if (!p.shape.fragile) points.push(above);
  for (const point of [right, before]) points.push({ ...point, z: floorUnder(point, placed) });
  points.push({ ...right, y: 0 }, { ...before, x: 0 });
  return points;
}

/** The highest top below a point. */
function floorUnder(point: Corner, placed: readonly PlacedShape[]): number {
  let floor = 0;
  for (const q of placed) {
    const top = q.z + q.size.height;
    if (top <= point.z && top > floor && covers({ ...q, z: point.z }, point)) floor = top;
  }
  return floor;
}
