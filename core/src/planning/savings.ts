import { together } from '../picking/visit.js';
import type { Walks } from '../picking/walks.js';
import { best, shared } from './likeness.js';
import { type Batch, batchOf, type CarryLimits, fitTogether, type OrderToPick } from './orderBatch.js';

/** Batches that may still be joined, each known by a number that is never used again. */
interface Joinable {
  saved: number;
  a: number;
  b: number;
}

/** From this many orders on, only the likeliest partners of each are measured. */
const ALL_PAIRS = 200;
const PARTNERS = 32;

/**
 * Batches by savings (Clarke and Wright, Operations Research 12, 1964, with savings computed anew after each joining): of all pairs
 * that may be walked as one, the pair that saves the most distance is joined, until none saves any. `which` orders are joined;
 * `perWalk` is the distance that setting up a walk is worth. Only orders of equal `due` are joined here. Equal savings: the pair with the lower numbers. Above 200 orders, pairs are limited to the 32 likeliest of each.
 * `shouldStop` ends it early; what is joined until then is kept.
 */
export function savingsBatches(
  walks: Walks,
  orders: readonly OrderToPick[],
  which: readonly number[],
  limits: CarryLimits,
  perWalk: number,
  shouldStop: () => boolean,
): Batch[] {
  const batches = new Map(which.map(i => [i, batchOf(walks, orders, [i])]));
  const partners = likely(orders, which);
  const heap = new Heap();
  const offer = (a: number, b: number) => {
    const [p, q] = [batches.get(a)!, batches.get(b)!];
    if (p.due !== q.due || !fitTogether(limits, p, q)) return;
    const saved = perWalk + p.distance + q.distance - walks.distance(together([p.visit, q.visit]));
    if (saved > 0) heap.add({ saved, a, b });
  };
  for (const [a, of] of partners) for (const b of of) if (a < b && !shouldStop()) offer(a, b);
  let fresh = orders.length;
  for (let best = heap.take(); best && !shouldStop(); best = heap.take()) {
    const { a, b } = best;
    const [p, q] = [batches.get(a), batches.get(b)];
    if (!p || !q) continue;
    batches.delete(a);
    batches.delete(b);
    batches.set(fresh, batchOf(walks, orders, [...p.orders, ...q.orders]));
    const of = new Set([...partners.get(a)!, ...partners.get(b)!].filter(n => batches.has(n)));
    partners.set(fresh, of);
    for (const n of of) {
      partners.get(n)!.add(fresh);
      offer(n, fresh);
    }
    partners.delete(a);
    partners.delete(b);
    fresh++;
  }
  return [...batches.values()];
}

/** For each order the ones worth measuring, both ways. */
function likely(orders: readonly OrderToPick[], which: readonly number[]): Map<number, Set<number>> {
  const partners = new Map(which.map(i => [i, new Set<number>()]));
  const few = which.length <= ALL_PAIRS;
  for (const [i, a] of which.entries()) {
    const others = few ? which.slice(i + 1) : nearest(orders, which, a);
    for (const b of others) {
      partners.get(a)!.add(b);
      partners.get(b)!.add(a);
    }
  }
  return partners;
}

/** The orders that share most with one: by ways both go on, less those that only one does. */
function nearest(orders: readonly OrderToPick[], which: readonly number[], a: number): number[] {
  const { visit } = orders[a]!;
  const scored = which.map(of => ({ of, score: of === a ? -Infinity : shared(visit, orders[of]!.visit) }));
  return best(scored, PARTNERS).filter(b => b !== a);
}

/** Pairs by what they save, the most first. */
class Heap {
  private readonly items: Joinable[] = [];

  add(item: Joinable): void {
    const { items } = this;
    let at = items.push(item) - 1;
    for (let up = (at - 1) >> 1; at > 0 && before(items[at]!, items[up]!); up = (at - 1) >> 1) {
      [items[at], items[up]] = [items[up]!, items[at]!];
      at = up;
    }
  }

  take(): Joinable | undefined {
    const { items } = this;
    const top = items[0];
    const last = items.pop();
    if (items.length === 0 || !last) return top;
    items[0] = last;
    for (let at = 0; ; ) {
      const [left, right] = [2 * at + 1, 2 * at + 2];
      let first = at;
      if (left < items.length && before(items[left]!, items[first]!)) first = left;
      if (right < items.length && before(items[right]!, items[first]!)) first = right;
      if (first === at) return top;
      [items[at], items[first]] = [items[first]!, items[at]!];
      at = first;
    }
  }
}

const before = (p: Joinable, q: Joinable): boolean =>
  p.saved > q.saved || (p.saved === q.saved && (p.a < q.a || (p.a === q.a && p.b < q.b)));
