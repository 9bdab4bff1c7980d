import { type Layout, type Spot, walksOf } from '@auk/core';
import { expect, test } from 'vitest';

// Shortest walks against the dynamic program of Held and Karp (Journal of SIAM 10, 1962), written here on a metric of its own: it
// knows nothing of aisles' parity, only how far two points are apart when one walks along aisles and cross aisles.

interface Point {
  x: number;
  y: number;
}
interface Floor {
  xs: number[];
  ys: number[];
}

function apart(floor: Floor, a: Point, b: Point): number {
  const across = Math.abs(a.x - b.x);
  const onAisle = [a, b].some(p => floor.xs.includes(p.x));
  if (across === 0 && onAisle) return Math.abs(a.y - b.y);
  if (onAisle || a.y === b.y)
    return across + Math.min(...floor.ys.map(y => Math.abs(a.y - y) + Math.abs(b.y - y)));
  // Both stand beside the aisles, on two cross aisles: some aisle must be walked.
  return Math.abs(a.y - b.y) + Math.min(...floor.xs.map(x => Math.abs(a.x - x) + Math.abs(b.x - x)));
}

/** The shortest way from `from` through all points to `to`. */
function heldKarp(floor: Floor, from: Point, points: readonly Point[], to: Point): number {
  const n = points.length;
  if (n === 0) return apart(floor, from, to);
  const between = points.map(a => points.map(b => apart(floor, a, b)));
  const best = new Float64Array((1 << n) * n).fill(Infinity);
  points.forEach((p, i) => {
    best[(1 << i) * n + i] = apart(floor, from, p);
  });
  for (let seen = 1; seen < 1 << n; seen++)
    for (let last = 0; last < n; last++) {
      const so = best[seen * n + last]!;
      if (so === Infinity) continue;
      for (let next = 0; next < n; next++) {
        if (seen & (1 << next)) continue;
        const at = (seen | (1 << next)) * n + next;
        best[at] = Math.min(best[at]!, so + between[last]![next]!);
      }
    }
  return Math.min(...points.map((p, i) => best[((1 << n) - 1) * n + i]! + apart(floor, p, to)));
}

/** Seeded numbers from 0 to below n (mulberry32). */
function dice(seed: number): (n: number) => number {
  let a = seed;
  return n => {
    a = (a + 0x6d2b79f5) | 0;
    let t = Math.imul(a ^ (a >>> 15), 1 | a);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return Math.floor((((t ^ (t >>> 14)) >>> 0) / 4294967296) * n);
  };
}

/** A random house of so many cross aisles, a start, an end and stops, in the core's form and as plain points. */
function randomCase(roll: (n: number) => number, crossings: number) {
  const widths = Array.from({ length: 1 + roll(7) }, () => 1 + roll(9));
  const xs = widths.map((_, i) => 20 + widths.slice(0, i).reduce((n, w) => n + w, 0));
  const blocks = Array.from({ length: crossings - 1 }, () => 4 + roll(30));
  const ys = Array.from({ length: crossings }, (_, i) => blocks.slice(0, i).reduce((n, b) => n + b, 0));
  const layout: Layout = {
    aisles: xs.map((x, i) => ({ code: `A${i}`, x, from: ys[0]!, to: ys.at(-1)! })),
    crossAisles: ys.map((y, i) => ({ code: `C${i}`, y, from: 0, to: 200 })),
    start: { cross: 0, along: 0 },
    end: { cross: 0, along: 0 },
  };
  const anywhere = (): Spot =>
    roll(2) === 0
      ? { aisle: roll(xs.length), along: roll(ys.at(-1)! + 1) }
      : { cross: roll(ys.length), along: roll(110) };
  layout.start = anywhere();
  layout.end = roll(2) === 0 ? layout.start : anywhere();
  const spots = Array.from({ length: roll(13) }, () => ({
    aisle: roll(xs.length),
    along: roll(ys.at(-1)! + 1),
  }));
  return { layout, floor: { xs, ys }, spots };
}

const pointIn = (layout: Layout, spot: Spot): Point =>
  'aisle' in spot
    ? { x: layout.aisles[spot.aisle]!.x, y: layout.aisles[spot.aisle]!.from + spot.along }
    : { x: layout.crossAisles[spot.cross]!.from + spot.along, y: layout.crossAisles[spot.cross]!.y };

for (const [blocks, crossings] of [
  ['one block', 2],
  ['two blocks', 3],
] as const) {
  test(`2,000 random walks of ${blocks} are as short as Held and Karp's`, () => {
    const roll = dice(crossings);
    for (let i = 0; i < 2000; i++) {
      const { layout, floor, spots } = randomCase(roll, crossings);
      const walks = walksOf(layout);
      expect(walks.exact).toBe(true);
      const [start, end] = [pointIn(layout, layout.start), pointIn(layout, layout.end)];
      const points = spots.map(s => pointIn(layout, s));
      const walk = walks.walk(spots);
      const optimum = heldKarp(floor, start, points, end);
      const what = JSON.stringify({ layout, spots });
      expect(walk.distance, what).toBe(optimum);
      expect(walks.distance(walks.visit(spots)), what).toBe(optimum);
      // The order it gives, walked from point to point, is as short, and what is drawn has the length that is said.
      expect(
        [...walk.order].sort((a, b) => a - b),
        what,
      ).toEqual(spots.map((_, k) => k));
      const stops = [start, ...walk.order.map(k => points[k]!), end];
      expect(
        length(stops, (a, b) => apart(floor, a, b)),
        what,
      ).toBe(optimum);
      expect(
        length(walk.path, (a, b) => Math.abs(a.x - b.x) + Math.abs(a.y - b.y)),
        what,
      ).toBe(optimum);
    }
  });
}

const length = (points: readonly Point[], metric: (a: Point, b: Point) => number): number =>
  points.slice(1).reduce((sum, p, i) => sum + metric(points[i]!, p), 0);
