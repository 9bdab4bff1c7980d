import { gridOf } from '../picking/grid.js';
import type { Layout } from '../picking/layout.js';
import { together, type Visit } from '../picking/visit.js';
import type { Walks } from '../picking/walks.js';
import { type CarryLimits, carries, type OrderToPick } from './orderBatch.js';

/** Up to so many orders, walks of all pairs are measured for the bound. */
const ALL_PAIRS = 250;

/**
 * A distance that no plan of these orders can go below, in tenths of a millimetre: the larger of two bounds.
 *
 * *By shares.* Let a plan's batches be S, walk(S) the shortest walk through S, and w > 0 any weights of the orders. Each walk is shared
 * out among its orders by weight, so the plan is as long as the sum over orders o of walk(S(o)) w(o) / w(S(o)). Leaving out stops
 * never lengthens a shortest walk, so walk(S) is at least walk({o, q}) for every q in S. If S holds k others beside o, the longest of
 * these pairs is at least the k-th shortest of all pairs with o, and w(S) is at most w(o) and the k largest other weights. So the
 * share of o is at least the least, over all k that fit, of pair(k) w(o) / (w(o) + the k largest). With weights all equal and with
 * walk({o}) as weight this gives two bounds; both hold.
 *
 * *By ways* (one or two blocks, start and end on cross aisles). A walk is no shorter than what it walks in each stretch of an aisle and
 * between each two columns, taken apart. In a stretch, a batch walks at least what its most demanding order wants there; sort the
 * orders by that, and as no batch holds more than m orders, the demands that count are at least those at the places 1, m + 1, 2m + 1
 * and so on. Between two columns, every batch with a stop beyond walks there and back, and there are at least as many such
 * batches as its orders divided by m.
 */
export function distanceBound(
  walks: Walks,
  layout: Layout,
  orders: readonly OrderToPick[],
  limits: CarryLimits,
): number {
  const m = mostTogether(orders, limits);
  const alone = orders.map(o => walks.distance(o.visit));
  const even = byShares(
    walks,
    orders,
    alone,
    alone.map(() => 1),
    m,
  );
  // Walks are whole numbers, and so are plans; the hundredth takes up what adding fractions may have rounded up.
  return Math.ceil(
    -0.01 + Math.max(even, byShares(walks, orders, alone, alone, m), byWays(layout, orders, m)),
  );
}

/** The most orders that any batch can hold: those that take least room, by each limit alone. */
function mostTogether(orders: readonly OrderToPick[], limits: CarryLimits): number {
  const none = { orders: 0, totes: 0, volume: 0, weight: 0 };
  const most = (of: 'totes' | 'volume' | 'weight') => {
    const sizes = orders.map(o => o[of]).sort((a, b) => a - b);
    let sum = 0;
    let n = 0;
    while (n < sizes.length && carries(limits, { ...none, orders: n + 1, [of]: sum + sizes[n]! }))
      sum += sizes[n++]!;
    return n;
  };
  // What is too large for any walk is taken alone.
  return Math.max(1, Math.min(most('totes'), most('volume'), most('weight')));
}

function byShares(
  walks: Walks,
  orders: readonly OrderToPick[],
  alone: readonly number[],
  weights: readonly number[],
  m: number,
): number {
  if (orders.length > ALL_PAIRS) return alone.reduce((n, d) => n + d, 0) / m;
  const heaviest = weights.map((w, i) => ({ w, i })).sort((a, b) => b.w - a.w);
  return orders.reduce((sum, o, i) => {
    const pairs = orders
      .flatMap((q, j) =>
        j === i || q.apart !== o.apart ? [] : [walks.distance(together([o.visit, q.visit]))],
      )
      .sort((a, b) => a - b);
    const others = heaviest.filter(h => h.i !== i);
    let least = alone[i]!;
    let weight = weights[i]!;
    for (let k = 1; k < m && k <= pairs.length; k++) {
      weight += others[k - 1]!.w;
      if (weight > 0) least = Math.min(least, (pairs[k - 1]! * weights[i]!) / weight);
    }
    return sum + least;
  }, 0);
}

function byWays(layout: Layout, orders: readonly OrderToPick[], m: number): number {
  if ('aisle' in layout.start || 'aisle' in layout.end) return 0;
  const grid = gridOf(layout, [layout.start, layout.end]);
  if (!grid) return 0;
  const columnOf = (spot: { cross: number; along: number }) =>
    grid.columns.findIndex(c => c.x === layout.crossAisles[spot.cross]!.from + spot.along);
  const ends = [columnOf(layout.start), columnOf(layout.end)];
  let bound = 0;
  grid.columns.forEach((column, c) => {
    for (let block = 0; block + 1 < grid.ys.length; block++)
      bound += everyMth(
        orders.map(o => least(o.visit, c, grid.ys[block]!, grid.ys[block + 1]!)),
        m,
      );
    const next = grid.columns[c + 1];
    if (!next) return;
    const width = next.x - column.x;
    const batches = Math.ceil(orders.filter(o => beyond(o.visit, c, ends)).length / m);
    const passing = ends[0]! <= c === ends[1]! <= c ? 2 * batches : Math.ceil(orders.length / m);
    bound += width * passing;
  });
  return bound;
}

/** Whether an order has a stop on the side of the gap behind a column where the walk neither begins nor ends. */
function beyond(visit: Visit, column: number, ends: readonly number[]): boolean {
  const right = ends.every(e => e <= column);
  return visit.some((ys, c) => ys && (right ? c > column : c <= column));
}

/** The least that a walk coming from the crossings walks in a stretch: once through, or there and back but for the widest gap. */
function least(visit: Visit, column: number, low: number, high: number): number {
  const ys = (visit[column] ?? []).filter(y => low < y && y < high);
  if (ys.length === 0) return 0;
  const nodes = [low, ...ys, high];
  const widest = Math.max(...nodes.slice(1).map((y, i) => y - nodes[i]!));
  return Math.min(high - low, 2 * (high - low - widest));
}

const everyMth = (demands: readonly number[], m: number): number =>
  [...demands].sort((a, b) => b - a).reduce((sum, d, i) => (i % m === 0 ? sum + d : sum), 0);
