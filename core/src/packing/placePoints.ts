import { seeded, shuffled } from '../random/seeded.js';
import type { Size } from '../units/units.js';
import { type Corner, SUPPORT } from './boxes.js';
import type { PlacedShape, Shape } from './shapes.js';

/**
 * Puts one piece after the other where there is room, at points that the pieces before them make (the extreme points of Crainic, Perboli
 * and Tadei, INFORMS Journal on Computing 20, 2008), in the way in which it reaches least far: at first lowest, then farthest back and left; when
 * that fails, along other axes first. The order of the pieces is tried by several measures, then by chance from a seed of its own; null when no order puts all in.
 */
export function placePoints(space: Size, shapes: readonly Shape[], orders: number): PlacedShape[] | null {
  const units = shapes.flatMap(s => Array.from({ length: s.count }, () => s));
  const random = seeded(units.length);
  for (let n = 0; n < orders; n++) {
    const measure = MEASURES[n];
    const order = measure ? [...units].sort((a, b) => measure(b) - measure(a)) : nearly(units, random);
    // What is fragile goes on top; when that fails, where its size takes it.
    const late = measure || n % 2 === 0;
    const last = late ? [...order.filter(s => !s.fragile), ...order.filter(s => s.fragile)] : order;
    const placed = place(space, last, REACHES[n % REACHES.length]!);
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

type Axis = 'x' | 'y' | 'z';
type Reach = readonly [x: number, y: number, z: number];
/** What it costs to reach far along x, y and z: the way to lie that costs least is taken. The first lays all flat. */
const REACHES: readonly Reach[] = [
  [1, 2, 3],
  [1, 3, 2],
  [3, 1, 2],
  [2, 3, 1],
  [3, 2, 1],
  [2, 1, 3],
];

/** By size, with neighbours exchanged by chance. */
function nearly(units: readonly Shape[], random: () => number): Shape[] {
  return shuffled(units, random)
    .map(shape => ({ shape, at: shape.volume * (0.4 + random()) }))
    .sort((a, b) => b.at - a.at)
    .map(u => u.shape);
}

function place(space: Size, order: readonly Shape[], reach: Reach): PlacedShape[] | null {
  const placed: PlacedShape[] = [];
  // Points are tried nearest first along the axis that costs most, then along the others.
  const [a, b, c] = (['x', 'y', 'z'] as const)
    .map((axis, i) => ({ axis, costs: reach[i]! }))
    .sort((p, q) => q.costs - p.costs)
    .map(o => o.axis) as [Axis, Axis, Axis];
  const nearest = (p: Corner, q: Corner) => p[a] - q[a] || p[b] - q[b] || p[c] - q[c];
  let points: Corner[] = [{ x: 0, y: 0, z: 0 }];
  for (const shape of order) {
    const found = bestPoint(space, placed, points, shape, reach);
    if (!found) return null;
    placed.push(found);
    points = [...points.filter(p => !covers(found, p)), ...pointsOf(found, placed)].sort(nearest);
  }
  return placed;
}

/** True when a point lies within a piece; its far sides are outside. */
export const covers = (b: PlacedShape, p: Corner): boolean =>
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
  reach: Reach,
): PlacedShape | null {
  for (const at of points) {
    let best: PlacedShape | null = null;
    for (const size of shape.ways) {
      const put = { shape, ...at, size };
      if (!roomFor(space, placed, put)) continue;
      if (!best || far(put, reach) < far(best, reach)) best = put;
    }
    if (best) return best;
  }
  return null;
}

/** How far a piece reaches into the space: the less, the more is left beside and above it. */
const far = (p: PlacedShape, [x, y, z]: Reach): number =>
  (p.x + p.size.length) * x + (p.y + p.size.width) * y + (p.z + p.size.height) * z;

/** True when a piece lies inside, shares no space, is carried, and rests on nothing fragile. */
export function roomFor(space: Size, placed: readonly PlacedShape[], p: PlacedShape): boolean {
  const { x, y, z, size } = p;
  if (x + size.length > space.length || y + size.width > space.width || z + size.height > space.height)
    return false;
  let carried = 0;
  for (const q of placed) {
    const top = q.z + q.size.height;
    if (top < z || q.z > z + size.height || (q.z === z + size.height && !p.shape.fragile)) continue;
    const along = Math.min(x + size.length, q.x + q.size.length) - Math.max(x, q.x);
    if (along <= 0) continue;
    const across = Math.min(y + size.width, q.y + q.size.width) - Math.max(y, q.y);
    if (across <= 0) continue;
    // It shares space, stands on what is fragile, or is fragile and would be under what lies there.
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
