import type { RecipePart } from '../kits/explode.js';

/**
 * What a part of an order still wants of a product. Lower `priority` (the departure) is served first, then the earlier `promised`
 * day (none last), then lower `age` (entry order). `orderKey` groups the wants of one order; `instead` is what one unit is made of
 * when its own stock may be eked out with parts.
 */
export interface Want {
  key: string;
  productId: string;
  quantity: number;
  priority: number;
  age: number;
  orderKey?: string;
  promised?: string | null;
  instead?: readonly RecipePart[];
}

/** A promise of free stock to a want: units of the product itself, and units gathered from its parts instead. */
export interface Promised {
  key: string;
  productId: string;
  quantity: number;
  fromParts: number;
}

/** `partly`: an order takes what there is. `whole`: an order is promised everything it still wants, or nothing. */
export type ReserveMode = 'partly' | 'whole';

/**
 * Soft reservation: serves wants from free stock, most urgent first, ties by key. `free` gives units by product and is not changed.
 * Never promises more than is free; what is promised already is no want and is never taken away, so a later run is stable.
 */
export function allocate(
  wants: readonly Want[],
  free: ReadonlyMap<string, number>,
  mode: ReserveMode = 'partly',
): Promised[] {
  const left = new Map(free);
  const order = [...wants].sort(byUrgency);
  if (mode === 'partly') return order.flatMap(w => serve(w, left) ?? []);
  const orders = new Map<string, Want[]>();
  for (const w of order) {
    const key = w.orderKey ?? w.key;
    const of = orders.get(key);
    if (of) of.push(w);
    else orders.set(key, [w]);
  }
  return [...orders.values()].flatMap(of => serveWhole(of, left));
}

function byUrgency(a: Want, b: Want): number {
  const [dayA, dayB] = [a.promised ?? '9', b.promised ?? '9'];
  return (
    a.priority - b.priority ||
    (dayA < dayB ? -1 : dayA > dayB ? 1 : 0) ||
    a.age - b.age ||
    (a.key < b.key ? -1 : a.key > b.key ? 1 : 0)
  );
}

/** Takes what a want can get out of `left`: own stock first, then whole units from parts. Null when that is nothing. */
function serve(want: Want, left: Map<string, number>): Promised | null {
  const at = (id: string) => Math.max(0, left.get(id) ?? 0);
  const quantity = Math.min(want.quantity, at(want.productId));
  if (quantity > 0) left.set(want.productId, at(want.productId) - quantity);
  const parts = want.instead ?? [];
  const fromParts =
    parts.length === 0
      ? 0
      : Math.min(want.quantity - quantity, ...parts.map(p => Math.floor(at(p.productId) / p.quantity)));
  for (const p of fromParts > 0 ? parts : []) left.set(p.productId, at(p.productId) - fromParts * p.quantity);
  return quantity + fromParts > 0 ? { key: want.key, productId: want.productId, quantity, fromParts } : null;
}

/** Serves all wants of an order wholly, or puts back what it took and serves none. */
function serveWhole(wants: readonly Want[], left: Map<string, number>): Promised[] {
  const touched = new Set(wants.flatMap(w => [w.productId, ...(w.instead ?? []).map(p => p.productId)]));
  const before = [...touched].map(id => [id, left.get(id)] as const);
  const served: Promised[] = [];
  for (const w of wants) {
    const got = serve(w, left);
    if (got && got.quantity + got.fromParts === w.quantity) served.push(got);
    else {
      for (const [id, n] of before) if (n !== undefined) left.set(id, n);
      return [];
    }
  }
  return served;
}

/** Stock of one product in one place and lot; `expiry` is an ISO day or null. `held` is already listed for others. */
export interface PlacedStock {
  placeId: string;
  lotId: string | null;
  expiry: string | null;
  onHand: number;
  held: number;
  walk: number;
  /** Lower is taken from first: pick faces before reserve, reserve before the dock. */
  rank?: number;
  /** How far it is from what else is taken; nearer is taken from first. */
  near?: number;
}

/** Units taken from one place and lot. */
export interface PlacedPick {
  placeId: string;
  lotId: string | null;
  quantity: number;
}

/**
 * Chooses places for units of a product at release: first expired first out (no expiry last), lots expired by `today` (ISO day)
 * never, then the place's rank, then the place that holds all of it, then what is near, then walking order. Gives what it finds; the sum may be less than wanted.
 */
export function choosePlaces(quantity: number, stock: readonly PlacedStock[], today: string): PlacedPick[] {
  const free = (s: PlacedStock) => s.onHand - s.held;
  const usable = stock.filter(s => free(s) > 0 && (s.expiry === null || s.expiry > today));
  const whole = (s: PlacedStock) => (free(s) >= quantity ? 0 : 1);
  // Two that nobody knows the way to are equally near.
  const nearer = (a: PlacedStock, b: PlacedStock) =>
    (a.near ?? 0) === (b.near ?? 0) ? 0 : (a.near ?? 0) - (b.near ?? 0);
  usable.sort(
    (a, b) =>
      (a.expiry ?? '9').localeCompare(b.expiry ?? '9') ||
      (a.rank ?? 0) - (b.rank ?? 0) ||
      whole(a) - whole(b) ||
      nearer(a, b) ||
      a.walk - b.walk,
  );
  const picks: PlacedPick[] = [];
  let left = quantity;
  for (const s of usable) {
    if (left === 0) break;
    const n = Math.min(left, free(s));
    picks.push({ placeId: s.placeId, lotId: s.lotId, quantity: n });
    left -= n;
  }
  return picks;
}
