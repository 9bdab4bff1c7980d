import fc from 'fast-check';
import { expect, test } from 'vitest';
import { evenLayout, type Layout, type Spot } from '../picking/layout.js';
import { together } from '../picking/visit.js';
import { walksOf } from '../picking/walks.js';
import { seeded } from '../random/seeded.js';
import { distanceBound } from './distanceBound.js';
import { improveBatches } from './improveBatches.js';
import { batchOf, type CarryLimits, type OrderToPick } from './orderBatch.js';
import { FIRST_TIMES } from './pickTimes.js';
import { comparePlans, planLists } from './plan.js';
import { savingsBatches } from './savings.js';
import { giveOut } from './shifts.js';

const TROLLEY: CarryLimits = { orders: 4, totes: 4, volume: 1000, weight: 1000 };

/** Orders of one to four stops, some due soon, some large. */
function house(
  seed: number,
  n: number,
  layout: Layout = evenLayout({ aisles: 6, length: 200_000, pitch: 30_000 }),
) {
  const random = seeded(seed);
  const roll = (below: number) => Math.floor(random() * below);
  const walks = walksOf(layout);
  const orders = Array.from({ length: n }, (_, i): OrderToPick => {
    const spots: Spot[] = Array.from({ length: 1 + roll(4) }, () => ({
      aisle: roll(layout.aisles.length),
      along: roll(150_000),
    }));
    return {
      id: `o${i}`,
      visit: walks.visit(spots),
      stops: spots.length,
      units: spots.length === 1 ? 1 : spots.length + roll(3),
      totes: 1 + (roll(5) === 0 ? 1 : 0),
      volume: 50 + roll(300),
      weight: 20 + roll(200),
      due: [null, 3_000, 9_000][roll(3)]!,
      apart: roll(6) === 0 ? 'cold' : '',
    };
  });
  return { layout, walks, orders };
}

const question = (seed: number, n: number) => ({
  ...house(seed, n),
  limits: TROLLEY,
  cells: 4,
  shifts: [{ until: null }, { until: 7_200 }],
  times: FIRST_TIMES,
  seed: 1,
  steps: 2_000,
});
const never = () => false;

test('every order is on one list, every list can be carried, and nothing lies below the bound', () => {
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 1e6 }), fc.integer({ min: 0, max: 24 }), (seed, n) => {
      const q = question(seed, n);
      for (const plan of comparePlans(q, ['cluster', 'batch', 'single'], never)) {
        expect(plan.lists.flatMap(l => l.orders).sort((a, b) => a - b)).toEqual(q.orders.map((_, i) => i));
        for (const list of plan.lists) {
          expect(list.distance).toBe(batchOf(q.walks, q.orders, list.orders).distance);
          expect(new Set(list.orders.map(o => q.orders[o]!.apart)).size).toBe(1);
          if (plan.method === 'single') expect(list.orders.length).toBe(1);
          if (!list.tooLarge)
            expect([
              list.orders.length <= 4,
              list.totes <= 4,
              list.volume <= 1000,
              list.weight <= 1000,
            ]).not.toContain(false);
        }
        expect(plan.distance).toBeGreaterThanOrEqual(plan.bound);
        expect(plan.distance).toBeLessThanOrEqual(plan.singly!);
      }
    }),
    { numRuns: 40 },
  );
});

test('the same seed gives the same plan, and a plan that is stopped at once is whole', () => {
  const q = { ...question(7, 30), method: 'cluster' as const };
  expect(planLists(q, never)).toEqual(planLists(q, never));
  const stopped = planLists(q, () => true);
  expect(stopped.lists.flatMap(l => l.orders).length).toBe(30);
  expect(stopped.distance).toBeGreaterThanOrEqual(planLists(q, never).distance);
});

test('improving makes nothing longer and nothing later', () => {
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 1e6 }), seed => {
      const { walks, orders } = house(seed, 16);
      const all = orders.map((_, i) => i);
      const first = savingsBatches(walks, orders, all, TROLLEY, 0, never);
      const late = (batches: readonly { due: number }[]) => batches.filter(b => b.due < 5_000).length;
      const better = improveBatches(walks, orders, TROLLEY, first, {
        seed,
        steps: 500,
        perWalk: 0,
        late,
        shouldStop: never,
      });
      const length = (batches: readonly { distance: number }[]) =>
        batches.reduce((n, b) => n + b.distance, 0);
      expect(late(better)).toBeLessThanOrEqual(late(first));
      if (late(better) === late(first)) expect(length(better)).toBeLessThanOrEqual(length(first));
    }),
    { numRuns: 40 },
  );
});

test('what is urgent is not held up by what is not', () => {
  const { layout, walks } = house(1, 0);
  const order = (id: string, aisle: number, along: number, due: number | null): OrderToPick => ({
    id,
    visit: walks.visit([{ aisle, along }]),
    stops: 1,
    units: 1,
    totes: 1,
    volume: 1,
    weight: 1,
    due,
    apart: '',
  });
  // Walked together the two would take 90 + 2 * 20 + 2 * 15 + 2 * 11 seconds, which is too long for the first.
  const orders = [order('soon', 0, 100_000, 125), order('later', 5, 100_000, null)];
  const plan = planLists(
    {
      layout,
      walks,
      orders,
      limits: TROLLEY,
      cells: 12,
      method: 'cluster',
      shifts: [{ until: null }],
      times: FIRST_TIMES,
      seed: 1,
      steps: 100,
    },
    never,
  );
  expect(plan.late).toBe(0);
  expect(plan.lists.map(l => l.orders)).toEqual([[0], [1]]);
});

test('an order that no trolley carries is a list of its own, and says so', () => {
  const q = question(3, 6);
  const orders = q.orders.map((o, i) => (i === 2 ? { ...o, weight: 50_000 } : o));
  const plan = planLists({ ...q, orders, method: 'cluster' }, never);
  expect(plan.lists.filter(l => l.tooLarge).map(l => l.orders)).toEqual([[2]]);
});

test('in a batch, orders of one piece are kept apart and need no sorting', () => {
  const q = { ...question(5, 20), cells: 20, limits: { ...TROLLEY, orders: 20, volume: 1e9, weight: 1e9 } };
  const plan = planLists({ ...q, method: 'batch' }, never);
  for (const list of plan.lists) expect(new Set(list.orders.map(o => q.orders[o]!.units === 1)).size).toBe(1);
});

test('walks go to whoever is free first, the urgent ones first, and not past the end of a shift', () => {
  const walks = [
    { seconds: 100, due: Infinity },
    { seconds: 100, due: 500 },
    { seconds: 300, due: 400 },
    { seconds: 900, due: Infinity },
  ];
  expect(giveOut(walks, [{ until: 450 }, { until: null }])).toEqual([
    { picker: 1, finish: 200 },
    { picker: 1, finish: 100 },
    { picker: 0, finish: 300 },
    { picker: 1, finish: 1100 },
  ]);
  expect(giveOut(walks.slice(0, 1), [])).toEqual([null]);
});

test('the bound holds against every way to share out six orders', () => {
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 1e6 }), fc.constantFrom(undefined, 80_000), (seed, middle) => {
      const layout = evenLayout({ aisles: 5, length: 200_000, pitch: 30_000, ...(middle && { middle }) });
      const { walks, orders } = house(seed, 6, { ...layout, end: { cross: 0, along: 60_000 } });
      const same = orders.map(o => ({ ...o, apart: '', totes: 1, volume: 0, weight: 0 }));
      const limits = { ...TROLLEY, orders: 3 };
      const bound = distanceBound(walks, { ...layout, end: { cross: 0, along: 60_000 } }, same, limits);
      expect(bound).toBeLessThanOrEqual(shortest(same, [0, 1, 2, 3, 4, 5], v => walks.distance(v)));
    }),
    { numRuns: 25 },
  );
});

/** The least total distance of all ways to share out orders to walks of three at most, by trying all. */
function shortest(
  orders: readonly OrderToPick[],
  left: readonly number[],
  walk: (visit: OrderToPick['visit']) => number,
): number {
  const [first, ...others] = left;
  if (first === undefined) return 0;
  let least = Infinity;
  for (let bits = 0; bits < 1 << others.length; bits++) {
    const own = [first, ...others.filter((_, i) => bits & (1 << i))];
    if (own.length > 3) continue;
    const rest = left.filter(o => !own.includes(o));
    least = Math.min(least, walk(together(own.map(o => orders[o]!.visit))) + shortest(orders, rest, walk));
  }
  return least;
}
