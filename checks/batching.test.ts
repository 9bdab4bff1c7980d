import {
  batchOf,
  type CarryLimits,
  distanceBound,
  improveBatches,
  type Layout,
  type OrderToPick,
  savingsBatches,
  seeded,
  walksOf,
} from '@auk/core';
import highs from 'highs';
import { expect, test } from 'vitest';

// Small plans against the optimum of a mixed-integer program (set partitioning: each order in one batch, least total distance), solved
// by HiGHS from the package registry. Every batch that a trolley carries is a column, with its exact walk.

const LIMITS: CarryLimits = { orders: 3, totes: 3, volume: 1e9, weight: 1e9 };

function randomCase(seed: number) {
  const random = seeded(seed);
  const roll = (n: number) => Math.floor(random() * n);
  const aisles = 4 + roll(6);
  const ys = roll(2) === 0 ? [0, 300_000] : [0, 150_000, 300_000];
  const layout: Layout = {
    aisles: Array.from({ length: aisles }, (_, i) => ({
      code: `A${i}`,
      x: i * 30_000,
      from: 0,
      to: 300_000,
    })),
    crossAisles: ys.map((y, i) => ({ code: `C${i}`, y, from: 0, to: aisles * 30_000 })),
    start: { cross: 0, along: 0 },
    end: { cross: 0, along: roll(2) * 60_000 },
  };
  const walks = walksOf(layout);
  const orders: OrderToPick[] = Array.from({ length: 8 + roll(4) }, (_, i) => {
    const stops = 1 + roll(4);
    const spots = Array.from({ length: stops }, () => ({
      aisle: roll(aisles),
      along: 5_000 + 10_000 * roll(30),
    }));
    return {
      id: `${i}`,
      visit: walks.visit(spots),
      stops,
      units: stops,
      totes: roll(6) === 0 ? 2 : 1,
      volume: 0,
      weight: 0,
      due: null,
      apart: '',
    };
  });
  return { layout, walks, orders };
}

function* batchesOf(orders: readonly OrderToPick[]): Generator<number[]> {
  for (let bits = 1; bits < 1 << orders.length; bits++) {
    const own = orders.map((_, i) => i).filter(i => bits & (1 << i));
    if (own.length <= LIMITS.orders && own.reduce((n, i) => n + orders[i]!.totes, 0) <= LIMITS.totes)
      yield own;
  }
}

/** The least total distance, by HiGHS. */
async function optimum(walks: ReturnType<typeof walksOf>, orders: readonly OrderToPick[]): Promise<number> {
  const solver = await highs();
  const columns = [...batchesOf(orders)];
  const cost = columns.map(c => batchOf(walks, orders, c).distance);
  const terms = (of: (column: number[], i: number) => number) =>
    columns.flatMap((c, i) => (of(c, i) ? [`${of(c, i)} b${i}`] : [])).join(' + ');
  const rows = orders.map((_, o) => ` o${o}: ${terms(c => (c.includes(o) ? 1 : 0))} = 1`);
  const program = `Minimize\n total: ${terms((_, i) => cost[i]!)}\nSubject To\n${rows.join('\n')}\nBinary\n ${columns.map((_, i) => `b${i}`).join(' ')}\nEnd`;
  const solved = solver.solve(program, { mip_rel_gap: 0 });
  expect(solved.Status).toBe('Optimal');
  return Math.round(solved.ObjectiveValue);
}

test('40 small plans lie at most 3 % above the optimum on average, and the bound never above it', async () => {
  const gaps: number[] = [];
  const shares: number[] = [];
  for (let seed = 1; seed <= 40; seed++) {
    const { layout, walks, orders } = randomCase(seed);
    const best = await optimum(walks, orders);
    const options = { seed: 1, steps: 20_000, perWalk: 0, late: () => 0, shouldStop: () => false };
    const all = orders.map((_, i) => i);
    const first = savingsBatches(walks, orders, all, LIMITS, 0, () => false);
    const plan = improveBatches(walks, orders, LIMITS, first, options);
    const total = plan.reduce((n, b) => n + b.distance, 0);
    const bound = distanceBound(walks, layout, orders, LIMITS);
    expect(plan.flatMap(b => b.orders).sort((a, b) => a - b)).toEqual(orders.map((_, i) => i));
    expect(bound).toBeLessThanOrEqual(best);
    expect(total).toBeGreaterThanOrEqual(best);
    gaps.push(total / best - 1);
    shares.push(bound / best);
  }
  const mean = (of: number[]) => of.reduce((n, x) => n + x, 0) / of.length;
  console.info(
    `gap ${(100 * mean(gaps)).toFixed(2)} % on average, ${(100 * Math.max(...gaps)).toFixed(1)} % at most; bound ${mean(shares).toFixed(3)} of the optimum, ${Math.min(...shares).toFixed(3)} at least`,
  );
  expect(mean(gaps)).toBeLessThanOrEqual(0.03);
});
