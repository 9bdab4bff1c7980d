import type { Walks } from '../picking/walks.js';
import { seeded, shuffled } from '../random/seeded.js';
import { best, covered } from './likeness.js';
import {
  type Batch,
  batchOf,
  type CarryLimits,
  carries,
  fitTogether,
  type OrderToPick,
} from './orderBatch.js';

/** How many batches are tried for an order, and how many orders of each to change places with: those that share most ways. */
const NEAR_BATCHES = 6;
const NEAR_ORDERS = 3;

/**
 * What a search may use: `steps` walks may be measured; `perWalk` is the distance that setting up a walk is worth; `late` counts what
 * a plan makes late and comes before any distance.
 */
export interface SearchOptions {
  seed: number;
  steps: number;
  perWalk: number;
  late(batches: readonly Batch[]): number;
  shouldStop(): boolean;
  progress?(batches: readonly Batch[]): void;
}

/**
 * Batches made shorter by local search: an order moves to another batch, two orders change places, two batches become one, one becomes
 * two. The first change that makes fewer orders late, or none more and the walks shorter, is made; the search ends when a round over
 * all orders finds none, when its steps are used up, or when it is told to stop. Seeded: the same input gives the same batches.
 */
export function improveBatches(
  walks: Walks,
  orders: readonly OrderToPick[],
  limits: CarryLimits,
  start: readonly Batch[],
  options: SearchOptions,
): Batch[] {
  const search = new Search(walks, orders, limits, [...start], options);
  const random = seeded(options.seed);
  const all = start.flatMap(b => b.orders);
  for (let better = true; better && !search.over; ) {
    better = search.joinAny();
    for (const o of shuffled(all, random)) {
      if (search.over) break;
      if (search.tryOrder(o)) better = true;
    }
    better = search.splitLate() || better;
    options.progress?.(search.batches);
  }
  return search.batches;
}

class Search {
  private steps = 0;
  private late: number;
  private readonly at: Map<number, number>;

  constructor(
    private readonly walks: Walks,
    private readonly orders: readonly OrderToPick[],
    private readonly limits: CarryLimits,
    readonly batches: Batch[],
    private readonly options: SearchOptions,
  ) {
    this.late = options.late(batches);
    this.at = new Map(batches.flatMap((b, i) => b.orders.map(o => [o, i] as const)));
  }

  get over(): boolean {
    return this.steps >= this.options.steps || this.options.shouldStop();
  }

  /** Moves an order to another batch, or lets it change places with an order there. */
  tryOrder(o: number): boolean {
    const from = this.at.get(o)!;
    const a = this.batches[from]!;
    const rest = a.orders.filter(x => x !== o);
    const without = rest.length > 0 ? this.measure(rest) : null;
    for (const to of this.near(o, from)) {
      const b = this.batches[to]!;
      const own = this.orders[o]!;
      if (this.canTake(b, own, null)) {
        if (this.change([from, to], [without, this.measure([...b.orders, o])])) return true;
      }
      for (const p of this.nearOrders(b, a)) {
        const other = this.orders[p]!;
        if (!this.canTake(b, own, other) || !this.canTake(a, other, own)) continue;
        const swapped = [this.measure([...rest, p]), this.measure([...b.orders.filter(x => x !== p), o])];
        if (this.change([from, to], swapped)) return true;
      }
    }
    return false;
  }

  /** Joins the first two batches that may be one and are shorter so. */
  joinAny(): boolean {
    for (let i = 0; i < this.batches.length; i++)
      for (let j = i + 1; j < this.batches.length && !this.over; j++) {
        const [a, b] = [this.batches[i]!, this.batches[j]!];
        if (!fitTogether(this.limits, a, b)) continue;
        if (this.change([i, j], [this.measure([...a.orders, ...b.orders]), null])) return true;
      }
    return false;
  }

  /** Where something would be late: takes what is due first out of its batch, so that it can go earlier. */
  splitLate(): boolean {
    if (this.late === 0) return false;
    for (let i = 0; i < this.batches.length && !this.over; i++) {
      const a = this.batches[i]!;
      const first = a.orders.filter(o => (this.orders[o]!.due ?? Infinity) === a.due);
      const then = a.orders.filter(o => !first.includes(o));
      const middle = a.orders.length >> 1;
      const halves = then.length > 0 ? [first, then] : [a.orders.slice(0, middle), a.orders.slice(middle)];
      if (halves.some(h => h.length === 0)) continue;
      if (
        this.change(
          [i],
          halves.map(h => this.measure(h)),
        )
      )
        return true;
    }
    return false;
  }

  private measure(orders: readonly number[]): Batch {
    this.steps++;
    return batchOf(this.walks, this.orders, orders);
  }

  /** Puts new batches in place of old ones when that makes fewer orders late, or none more and the walks shorter. */
  private change(old: readonly number[], fresh: readonly (Batch | null)[]): boolean {
    const made = fresh.filter(b => b !== null);
    const fewer = this.options.perWalk * (old.length - made.length);
    const shorter = sum(old.map(i => this.batches[i]!)) - sum(made) + fewer;
    if (shorter <= 0 && this.late === 0) return false;
    const next = [...this.batches.filter((_, i) => !old.includes(i)), ...made];
    const late = this.options.late(next);
    if (late > this.late || (late === this.late && shorter <= 0)) return false;
    this.late = late;
    this.batches.splice(0, this.batches.length, ...next);
    this.at.clear();
    this.batches.forEach((b, i) => {
      for (const o of b.orders) this.at.set(o, i);
    });
    return true;
  }

  private canTake(b: Batch, order: OrderToPick, instead: OrderToPick | null): boolean {
    return (
      b.apart === order.apart &&
      carries(this.limits, {
        orders: b.orders.length + (instead ? 0 : 1),
        totes: b.totes + order.totes - (instead?.totes ?? 0),
        volume: b.volume + order.volume - (instead?.volume ?? 0),
        weight: b.weight + order.weight - (instead?.weight ?? 0),
      })
    );
  }

  private near(o: number, but: number): number[] {
    const { visit } = this.orders[o]!;
    return best(
      this.batches.map((b, i) => ({ of: i, score: i === but ? -Infinity : covered(visit, b.visit) })),
      NEAR_BATCHES,
    ).filter(i => i !== but);
  }

  private nearOrders(b: Batch, a: Batch): number[] {
    return best(
      b.orders.map(p => ({ of: p, score: covered(this.orders[p]!.visit, a.visit) })),
      NEAR_ORDERS,
    );
  }
}

const sum = (batches: readonly Batch[]): number => batches.reduce((n, b) => n + b.distance, 0);
