import type { Size } from '../units/units.js';
import { volumeOf } from './boxes.js';
import { FILL_RULES, fillSpace } from './fillSpace.js';
import { roomFor } from './placePoints.js';
import { type Steps, searchSpace } from './searchSpace.js';
import type { PlacedShape, Shape } from './shapes.js';

/** Shapes that were put together face to face and are moved as one: where each lies in it, and how long it is along x, y and z. */
interface Joined extends Shape {
  base: Size;
  parts: PlacedShape[];
}

type Axis = 'x' | 'y' | 'z';
const SIDE: Record<Axis, keyof Size> = { x: 'length', y: 'width', z: 'height' };
/** Ways to turn a thing: which of its axes come to lie along x, y and z. The first two keep it upright. */
const TURNS: readonly (readonly [Axis, Axis, Axis])[] = [
  ['x', 'y', 'z'],
  ['y', 'x', 'z'],
  ['x', 'z', 'y'],
  ['z', 'x', 'y'],
  ['y', 'z', 'x'],
  ['z', 'y', 'x'],
];

/** What looking at two things costs, in steps. */
const STEPS_OF_PAIR = 4;
/** Steps of the search that follows each way of joining. */
const STEPS_EACH = 1_500;

/**
 * Looks for a way to fill a space nearly full: pieces that share a whole face are put together and moved as one, until what is left is
 * few enough to be searched. It goes through the ways of joining, those first whose faces fit fewest others, as long as there are steps.
 * It finds what was cut out of one block, whatever the cuts; null proves nothing.
 */
export function joinFaces(space: Size, shapes: readonly Shape[], steps: Steps): PlacedShape[] | null {
  const things = shapes.flatMap(s => Array.from({ length: s.count }, () => single(s)));
  const seen = new Set<string>();
  const look = (all: readonly Joined[]): PlacedShape[] | null => {
    const key = keyOf(all);
    if (seen.has(key) || steps.left <= 0) return null;
    seen.add(key);
    if (all.length < things.length) {
      const placed = place(space, all, steps);
      if (placed) return placed;
    }
    for (const joined of joins(space, all, steps)) {
      const found = look(joined);
      if (found || steps.left <= 0) return found;
    }
    return null;
  };
  return look(things);
}

/** A few things are put into the space; null when that was not found, or when a part of one would not be carried. */
function place(space: Size, things: readonly Joined[], steps: Steps): PlacedShape[] | null {
  const good = (placed: readonly PlacedShape[]): PlacedShape[] | null => {
    // A thing is carried as a whole; each part of it must be, too.
    const parts = placed.flatMap(apart).sort((a, b) => a.z - b.z);
    return parts.every((p, n) => roomFor(space, parts.slice(0, n), p)) ? parts : null;
  };
  for (const rule of FILL_RULES.slice(0, 3)) {
    steps.left -= things.length;
    const filled = fillSpace(space, things, rule);
    const parts = filled.length === things.length ? good(filled) : null;
    if (parts) return parts;
  }
  if (things.length > 7) return null;
  const budget = { left: Math.min(STEPS_EACH, steps.left) };
  const before = budget.left;
  const searched = searchSpace(space, things, budget, false);
  steps.left -= before - Math.max(0, budget.left);
  return searched.found === 'yes' ? good(searched.placed) : null;
}

function single(shape: Shape): Joined {
  const base = shape.ways[0]!;
  return { ...shape, count: 1, base, parts: [{ shape, x: 0, y: 0, z: 0, size: base }] };
}

const sidesOf = (s: Size): number[] => [s.length, s.width, s.height];

function keyOf(things: readonly Joined[]): string {
  return things
    .map(
      t => `${sidesOf(t.base).sort((a, b) => a - b)}${t.fragile ? 'f' : ''}${t.upright ? t.base.height : ''}`,
    )
    .sort()
    .join(' ');
}

/** Every list of things in which two are joined, those first of which the common face is rarest. */
function joins(space: Size, things: readonly Joined[], steps: Steps): Joined[][] {
  const common = new Map<number, number>();
  for (const t of things)
    for (const side of new Set(sidesOf(t.base))) common.set(side, (common.get(side) ?? 0) + 1);
  const found = new Map<string, { rare: number; things: Joined[] }>();
  for (let i = 0; i < things.length; i++)
    for (let j = i + 1; j < things.length; j++) {
      steps.left -= STEPS_OF_PAIR;
      for (const joined of joinTwo(things[i]!, things[j]!)) {
        if (!fitsIn(space, joined)) continue;
        const list = [...things.slice(0, i), ...things.slice(i + 1, j), ...things.slice(j + 1), joined.thing];
        const key = keyOf(list);
        const rare = joined.face.reduce((n, side) => n * common.get(side)!, 1);
        const known = found.get(key);
        if (!known || rare < known.rare) found.set(key, { rare, things: list });
      }
    }
  return [...found.values()].sort((a, b) => a.rare - b.rare).map(f => f.things);
}

const fitsIn = (space: Size, { thing }: { thing: Joined }): boolean =>
  thing.ways.some(w => w.length <= space.length && w.width <= space.width && w.height <= space.height);

/** The ways in which two things make one block: beside each other, or one on the other where it may carry. */
function joinTwo(a: Joined, b: Joined): { thing: Joined; face: number[] }[] {
  if (!a.rigid || !b.rigid || a.fragile !== b.fragile) return [];
  const made: { thing: Joined; face: number[] }[] = [];
  const known = new Set<string>();
  const upright = a.upright || b.upright || a.fragile;
  for (const s of turned(a))
    for (const t of turned(b))
      for (const axis of ['x', 'z'] as const) {
        const [one, other]: Axis[] = axis === 'x' ? ['y', 'z'] : ['x', 'y'];
        // Things that may be turned freely are joined beside each other only: turned, that is also one on the other.
        if (axis === 'z' && (!upright || a.fragile)) continue;
        if (s.base[SIDE[one!]] !== t.base[SIDE[one!]] || s.base[SIDE[other!]] !== t.base[SIDE[other!]])
          continue;
        const base = { ...s.base, [SIDE[axis]]: s.base[SIDE[axis]] + t.base[SIDE[axis]] };
        const key = upright
          ? sidesOf(base).join(' ')
          : sidesOf(base)
              .sort((p, q) => p - q)
              .join(' ');
        if (known.has(key)) continue;
        known.add(key);
        const moved = t.parts.map(p => ({ ...p, [axis]: p[axis] + s.base[SIDE[axis]] }));
        made.push({
          thing: {
            ...a,
            upright,
            base,
            parts: [...s.parts, ...moved],
            ways: waysOf(base, upright),
            volume: volumeOf(base),
            weightMg: a.weightMg + b.weightMg,
          },
          face: [s.base[SIDE[one!]], s.base[SIDE[other!]]],
        });
      }
  return made;
}

function waysOf(base: Size, upright: boolean): Size[] {
  const ways = new Map<string, Size>();
  for (const turn of TURNS.slice(0, upright ? 2 : 6)) {
    const size = turnedSize(base, turn);
    ways.set(sidesOf(size).join(' '), size);
  }
  return [...ways.values()].sort((a, b) => a.height - b.height);
}

const turnedSize = (s: Size, [x, y, z]: (typeof TURNS)[number]): Size => ({
  length: s[SIDE[x]],
  width: s[SIDE[y]],
  height: s[SIDE[z]],
});

function turn(
  { base, parts }: Pick<Joined, 'base' | 'parts'>,
  t: (typeof TURNS)[number],
): Pick<Joined, 'base' | 'parts'> {
  return {
    base: turnedSize(base, t),
    parts: parts.map(p => ({
      shape: p.shape,
      x: p[t[0]],
      y: p[t[1]],
      z: p[t[2]],
      size: turnedSize(p.size, t),
    })),
  };
}

const turned = (j: Joined): Pick<Joined, 'base' | 'parts'>[] =>
  TURNS.slice(0, j.upright ? 2 : 6).map(t => turn(j, t));

/** The parts of a thing that was put somewhere, each where it lies in the space. */
function apart(p: PlacedShape): PlacedShape[] {
  const thing = p.shape as Joined;
  const lies = turned(thing).find(t => sidesOf(t.base).every((side, i) => side === sidesOf(p.size)[i]))!;
  return lies.parts.map(q => ({ ...q, x: q.x + p.x, y: q.y + p.y, z: q.z + p.z }));
}
