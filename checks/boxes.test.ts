import {
  type Box,
  checkBoxPlan,
  lookingAhead,
  type Piece,
  planBoxes,
  type Size,
  seeded,
  tryBox,
} from '@auk/core';
import { expect, test } from 'vitest';
import { anOrder, BOXES, boxesByLibrary, cost, cut, libraryCost } from '../bench/boxes.mjs';

// Box plans against an exhaustive search of our own writing that knows nothing of the planner, and against binpackingjs 4.1.0 (after
// Dube and Kanavathy, Optimizing Three-Dimensional Bin Packing Through Simulation, 2006).

const box = (code: string, length: number, width: number, height: number, priceMinor: number): Box => ({
  code,
  name: code,
  inner: { length, width, height },
  tareMg: 0,
  limitMg: 1e9,
  priceMinor,
});
const piece = (id: string, size: Size, more: Partial<Piece> = {}): Piece => ({
  id,
  size,
  weightMg: 1_000,
  quantity: 1,
  ...more,
});

type Lies = { at: [number, number, number]; size: [number, number, number]; fragile: boolean };

/**
 * True when the pieces fit into the space. Every order of pieces, every way to turn them and every whole-numbered corner is tried: sides
 * are whole numbers, so these hold all sums of sides, the normal places.
 */
function fitsByTrying(space: Size, pieces: readonly Piece[]): boolean {
  const [L, W, H] = [space.length, space.width, space.height];
  const lies: Lies[] = [];
  const units = pieces.flatMap(p => Array.from({ length: p.quantity }, () => p));
  const used = units.map(() => false);
  if (units.reduce((v, u) => v + u.size.length * u.size.width * u.size.height, 0) > L * W * H) return false;
  /** Puts the next one at the cell `from` or after it; cells are counted along x, then y, then z. Any arrangement can be listed so. */
  const goesOn = (from: number): boolean => {
    if (used.every(Boolean)) return true;
    for (let i = 0; i < units.length; i++) {
      if (used[i]) continue;
      // Of like units the first that is left stands for all.
      if (units.some((u, j) => j < i && !used[j] && u.id === units[i]!.id)) continue;
      used[i] = true;
      for (const size of turns(units[i]!))
        for (let cell = from; cell < L * W * H; cell++) {
          const at: Lies['at'] = [cell % L, Math.floor(cell / L) % W, Math.floor(cell / (L * W))];
          if (at[0] + size[0] > L || at[1] + size[1] > W || at[2] + size[2] > H) continue;
          const put: Lies = { at, size, fragile: units[i]!.fragile ?? false };
          if (!mayLie(put, lies)) continue;
          lies.push(put);
          if (goesOn(cell + 1)) return true;
          lies.pop();
        }
      used[i] = false;
    }
    return false;
  };
  return goesOn(0);
}

function turns(p: Piece): [number, number, number][] {
  const { length: a, width: b, height: c } = p.size;
  const all: [number, number, number][] = p.upright
    ? [
        [a, b, c],
        [b, a, c],
      ]
    : [
        [a, b, c],
        [a, c, b],
        [b, a, c],
        [b, c, a],
        [c, a, b],
        [c, b, a],
      ];
  return [...new Map(all.map(t => [t.join(), t])).values()];
}

function mayLie(p: Lies, lies: readonly Lies[]): boolean {
  const common = (q: Lies, axis: number) =>
    Math.min(p.at[axis]! + p.size[axis]!, q.at[axis]! + q.size[axis]!) - Math.max(p.at[axis]!, q.at[axis]!);
  let carried = 0;
  for (const q of lies) {
    if (common(q, 0) <= 0 || common(q, 1) <= 0) continue;
    if (common(q, 2) > 0) return false;
    if (q.at[2] + q.size[2] !== p.at[2]) continue;
    if (q.fragile) return false;
    carried += common(q, 0) * common(q, 1);
  }
  return p.at[2] === 0 || carried * 3 >= p.size[0] * p.size[1] * 2;
}

const TINY = [box('A', 3, 3, 2, 30), box('B', 4, 3, 2, 36), box('C', 4, 3, 3, 41), box('D', 4, 4, 3, 55)];

test('for up to six pieces a plan costs what the best of all arrangements costs', () => {
  const random = seeded(3);
  const upTo = (n: number) => 1 + Math.floor(random() * n);
  let several = 0;
  for (let n = 0; n < 150; n++) {
    const pieces: Piece[] = [];
    for (let left = upTo(6); left > 0; ) {
      const quantity = Math.min(left, upTo(2));
      const size = { length: upTo(4), width: upTo(3), height: upTo(3) };
      pieces.push(
        piece(`P${pieces.length}`, size, { quantity, fragile: random() < 0.15, upright: random() < 0.2 }),
      );
      left -= quantity;
    }
    const best = Math.min(...TINY.map(b => (fitsByTrying(b.inner, pieces) ? b.priceMinor : Infinity)));
    const plan = planBoxes(TINY, pieces, { cost: b => 1_000 + b.priceMinor });
    expect(
      checkBoxPlan(
        pieces.filter(p => !plan.unplaced.some(u => u.id === p.id)),
        plan.parcels,
      ),
    ).toEqual([]);
    if (plan.parcels.length === 1 && plan.unplaced.length === 0)
      expect({ n, cost: plan.costMinor }).toEqual({ n, cost: 1_000 + best });
    else {
      several++;
      expect({ n, best }).toEqual({ n, best: Infinity });
    }
  }
  expect(several).toBeGreaterThan(10);
}, 120_000);

test('what was cut out of a full box is found to fit it', () => {
  const random = seeded(7);
  const whole = box('A', 6_000, 4_000, 3_000, 1);
  let found = 0;
  for (let n = 0; n < 300; n++) {
    const pieces = cut(whole.inner, 4 + (n % 9), random);
    const tried = tryBox(whole, pieces);
    expect(tried.fits).not.toBe('no');
    if (tried.fits !== 'yes') continue;
    expect(checkBoxPlan(pieces, [{ box: whole, placed: tried.placed }])).toEqual([]);
    found++;
  }
  expect(found / 300).toBeGreaterThanOrEqual(0.85);
}, 120_000);

test('no sound arrangement of an independent library costs less', () => {
  const random = seeded(12);
  let sound = 0;
  for (let n = 0; n < 250; n++) {
    const pieces = anOrder(random);
    const plan = planBoxes(BOXES, pieces, { cost });
    if (plan.unplaced.length > 0) continue;
    const library = libraryCost(BOXES, pieces);
    if (library === Infinity) continue;
    sound++;
    expect({ n, cost: plan.costMinor }).toEqual({ n, cost: Math.min(plan.costMinor, library) });
  }
  expect(sound).toBeGreaterThan(150);
}, 120_000);

// Source: binpackingjs 4.1.0, given as many boxes as there are pieces.
test('a shipment never takes more boxes than an independent library gives it, and its plan is sound', () => {
  const one = BOXES.filter(b => b.kind !== 'mailer').sort((a, b) => b.inner.length - a.inner.length)[0]!;
  const wide = { ...one, limitMg: 1e9 };
  const random = seeded(23);
  const between = (least: number, most: number) => least + Math.floor(random() * (most - least));
  for (let i = 0; i < 12; i++) {
    const pieces = Array.from({ length: 8 }, (_, k) =>
      piece(
        `p${k}`,
        {
          length: between(600, 1_600),
          width: between(500, 1_200),
          height: between(300, 900),
        },
        { quantity: between(3, 12) },
      ),
    );
    const plan = planBoxes([wide], pieces, { fill: lookingAhead(6) });
    expect(checkBoxPlan(pieces, plan.parcels)).toEqual([]);
    expect(plan.parcels.length).toBeLessThanOrEqual(boxesByLibrary(wide, pieces));
  }
});
