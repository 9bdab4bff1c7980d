import type { Size } from '../units/units.js';
import { volumeOf } from './boxes.js';
import { covers, roomFor } from './placePoints.js';
import type { PlacedShape, Shape } from './shapes.js';

/** What a search came to: where all pieces lie, that they cannot, or that its steps were used up before it knew. */
export type Searched = { found: 'yes'; placed: PlacedShape[] } | { found: 'no' } | { found: 'unknown' };

/** Steps that are left; every place that is looked at takes one. */
export interface Steps {
  left: number;
}

/**
 * Looks for a way to put all shapes into a space, by trying places one after another in a fixed order: the next piece never lies lower
 * than the last one, on the same height never farther front, in the same row never farther left. So every arrangement is met once, and
 * what was passed by stays empty for good: as soon as more is passed by than may stay empty, the search turns back.
 *
 * Corners lie at *normal* places: sums of sides of other pieces (Christofides and Whitlock, Operations Research 25, 1977). With
 * `all` they are all tried, and 'no' means that no arrangement at normal places exists; without, only those where a piece touches what lies
 * there already, which finds more in the same time and proves nothing.
 */
export function searchSpace(space: Size, shapes: readonly Shape[], steps: Steps, all: boolean): Searched {
  const search = new Search(space, shapes, steps, all);
  if (search.slack < 0) return { found: 'no' };
  const found = search.next(0, 0, -1);
  if (found) return { found: 'yes', placed: search.placed };
  return search.outOfSteps || !all ? { found: 'unknown' } : { found: 'no' };
}

class Search {
  readonly placed: PlacedShape[] = [];
  readonly slack: number;
  outOfSteps = false;
  private readonly left: number[];
  private open: number;
  private readonly narrowest: number[];
  private readonly xs: number[];
  private readonly ys: number[];

  constructor(
    private readonly space: Size,
    private readonly shapes: readonly Shape[],
    private readonly steps: Steps,
    private readonly all: boolean,
  ) {
    this.left = shapes.map(s => s.count);
    this.narrowest = shapes.map(s => Math.min(...s.ways.map(w => w.width)));
    this.open = this.left.reduce((n, c) => n + c, 0);
    this.slack = volumeOf(space) - shapes.reduce((v, s) => v + s.volume * s.count, 0);
    this.xs = all ? normalPlaces(shapes, 'length', space.length) : [];
    this.ys = all ? normalPlaces(shapes, 'width', space.width) : [];
  }

  /** Puts the next piece at (x, y, z) or after it; true when all are in. */
  next(z0: number, y0: number, x0: number): boolean {
    if (this.open === 0) return true;
    const least = this.leastSides();
    for (const z of this.heights(z0)) {
      if (z + least.highest > this.space.height) return false;
      const below = this.emptyBelow(z);
      if (below > this.slack) return false;
      const thick = Math.min(this.nextTop(z), z + least.lowest) - z;
      const ys = this.rows(z);
      for (let j = 0; j < ys.length; j++) {
        const y = ys[j]!;
        if (z === z0 && y < y0) continue;
        const passed = below + this.emptyBefore(z, y) * thick;
        if (passed > this.slack) break;
        // A row that does not exist yet begins no nearer than the narrowest piece is wide.
        const deep = Math.min((ys[j + 1] ?? this.space.width) - y, this.all ? Infinity : least.narrowest);
        for (const x of this.columns(z, y)) {
          if (z === z0 && y === y0 && x <= x0) continue;
          if (this.steps.left-- <= 0) {
            this.outOfSteps = true;
            return false;
          }
          if (passed + this.emptyLeft(z, y, x, deep) * thick > this.slack) break;
          if (this.placed.some(p => covers(p, { x, y, z }))) continue;
          if (this.tryAt(x, y, z)) return true;
          if (this.outOfSteps) return false;
        }
      }
    }
    return false;
  }

  private tryAt(x: number, y: number, z: number): boolean {
    for (let i = 0; i < this.shapes.length; i++) {
      if (this.left[i] === 0) continue;
      const shape = this.shapes[i]!;
      for (const size of shape.ways) {
        if (this.steps.left-- <= 0) {
          this.outOfSteps = true;
          return false;
        }
        const put = { shape, x, y, z, size };
        if (!roomFor(this.space, this.placed, put)) continue;
        this.placed.push(put);
        this.left[i]!--;
        this.open--;
        if (this.next(z, y, x)) return true;
        this.open++;
        this.left[i]!++;
        this.placed.pop();
        if (this.outOfSteps) return false;
      }
    }
    return false;
  }

  /** Of what is still to be placed: the least height and side of any piece, and the largest of the pieces' least heights. */
  private leastSides(): { lowest: number; highest: number; narrowest: number } {
    let [lowest, highest, narrowest] = [Infinity, 0, Infinity];
    for (let i = 0; i < this.shapes.length; i++) {
      if (this.left[i] === 0) continue;
      // Ways are ordered from the lowest.
      const height = this.shapes[i]!.ways[0]!.height;
      lowest = Math.min(lowest, height);
      highest = Math.max(highest, height);
      narrowest = Math.min(narrowest, this.narrowest[i]!);
    }
    return { lowest, highest, narrowest };
  }

  /** The floor and the tops of what carries, from `from` upwards. */
  private heights(from: number): number[] {
    const tops = new Set(from === 0 ? [0] : []);
    for (const p of this.placed) {
      const top = p.z + p.size.height;
      if (top >= from && !p.shape.fragile) tops.add(top);
    }
    return [...tops].sort((a, b) => a - b);
  }

  private rows(z: number): number[] {
    if (this.all) return this.ys;
    const rows = new Set([0]);
    for (const p of this.placed)
      if (p.z + p.size.height >= z) {
        rows.add(p.y + p.size.width);
        rows.add(p.y);
      }
    return [...rows].sort((a, b) => a - b);
  }

  private columns(z: number, y: number): number[] {
    if (this.all) return this.xs;
    const columns = new Set([0]);
    for (const p of this.placed)
      if (p.z + p.size.height >= z && p.y + p.size.width >= y) {
        columns.add(p.x + p.size.length);
        columns.add(p.x);
      }
    return [...columns].sort((a, b) => a - b);
  }

  private nextTop(z: number): number {
    let next = this.space.height;
    for (const p of this.placed) {
      const top = p.z + p.size.height;
      if (top > z && top < next) next = top;
    }
    return next;
  }

  /** The empty volume below a height, which nothing reaches any more. */
  private emptyBelow(z: number): number {
    let filled = 0;
    for (const p of this.placed)
      filled += p.size.length * p.size.width * (Math.min(z, p.z + p.size.height) - Math.min(z, p.z));
    return this.space.length * this.space.width * z - filled;
  }

  /** The empty area at height z behind row y. */
  private emptyBefore(z: number, y: number): number {
    let filled = 0;
    for (const p of this.placed)
      if (p.z + p.size.height > z)
        filled += p.size.length * (Math.min(y, p.y + p.size.width) - Math.min(y, p.y));
    return this.space.length * y - filled;
  }

  /** The empty area at height z left of x, from row y as deep as `deep`. */
  private emptyLeft(z: number, y: number, x: number, deep: number): number {
    let filled = 0;
    for (const p of this.placed)
      if (p.z + p.size.height > z) {
        const across = Math.min(y + deep, p.y + p.size.width) - Math.max(y, p.y);
        const along = Math.min(x, p.x + p.size.length) - p.x;
        if (across > 0 && along > 0) filled += across * along;
      }
    return x * deep - filled;
  }
}

/** All sums of one side of some of the pieces, each turned in one way, that leave room for the narrowest piece. */
function normalPlaces(shapes: readonly Shape[], side: keyof Size, most: number): number[] {
  const sides = shapes.map(s => [...new Set(s.ways.map(w => w[side]))]);
  const last = most - Math.min(...sides.flat());
  let sums = new Set([0]);
  shapes.forEach((shape, i) => {
    for (let n = 0; n < shape.count; n++) {
      const more = new Set(sums);
      for (const sum of sums) for (const s of sides[i]!) if (sum + s <= last) more.add(sum + s);
      if (more.size === sums.size) break;
      sums = more;
    }
  });
  return [...sums].sort((a, b) => a - b);
}
