import { together, type Visit } from '../picking/visit.js';
import type { Walks } from '../picking/walks.js';

/**
 * An order as the planner of pick lists sees it. `visit` are its places (`Walks.visit`); `totes` how many it fills; volume in cubic
 * millimetres, weight in milligrams; `due` the seconds from now until which it must be picked, null when nothing presses. Orders are
 * put together only where `apart` is the same (areas of the house).
 */
export interface OrderToPick {
  id: string;
  visit: Visit;
  stops: number;
  units: number;
  totes: number;
  volume: number;
  weight: number;
  due: number | null;
  apart: string;
}

/** What one walk can carry. `orders` limits a batch that is sorted at a wall with so many cells. */
export interface CarryLimits {
  orders: number;
  totes: number;
  volume: number;
  weight: number;
}

/** Orders picked on one walk. `orders` are positions in the planner's orders, ascending. Never changed, only replaced. */
export interface Batch {
  orders: readonly number[];
  visit: Visit;
  distance: number;
  totes: number;
  volume: number;
  weight: number;
  stops: number;
  units: number;
  /** The earliest of its orders' dues. */
  due: number;
  apart: string;
}

/** A batch of the given orders. */
export function batchOf(walks: Walks, all: readonly OrderToPick[], orders: readonly number[]): Batch {
  const own = orders.map(o => all[o]!);
  const sum = (of: (o: OrderToPick) => number) => own.reduce((n, o) => n + of(o), 0);
  const visit = together(own.map(o => o.visit));
  return {
    orders: [...orders].sort((a, b) => a - b),
    visit,
    distance: walks.distance(visit),
    totes: sum(o => o.totes),
    volume: sum(o => o.volume),
    weight: sum(o => o.weight),
    stops: sum(o => o.stops),
    units: sum(o => o.units),
    due: Math.min(...own.map(o => o.due ?? Infinity)),
    apart: own[0]!.apart,
  };
}

/** What a walk with these orders carries. */
export function batchLoad(orders: readonly Pick<OrderToPick, 'totes' | 'volume' | 'weight'>[]): CarryLimits {
  const sum = (of: 'totes' | 'volume' | 'weight') => orders.reduce((n, o) => n + o[of], 0);
  return { orders: orders.length, totes: sum('totes'), volume: sum('volume'), weight: sum('weight') };
}

/** True when a walk can carry so much. */
export const carries = (limits: CarryLimits, load: CarryLimits): boolean =>
  load.orders <= limits.orders &&
  load.totes <= limits.totes &&
  load.volume <= limits.volume &&
  load.weight <= limits.weight;

/** True when two batches may be walked as one. */
export const fitTogether = (limits: CarryLimits, a: Batch, b: Batch): boolean =>
  a.apart === b.apart &&
  carries(limits, {
    orders: a.orders.length + b.orders.length,
    totes: a.totes + b.totes,
    volume: a.volume + b.volume,
    weight: a.weight + b.weight,
  });
