/** What one shipment still wants of a product. Lower `priority` is served first, then lower `age` (entry order). */
export interface Want {
  key: string;
  productId: string;
  quantity: number;
  priority: number;
  age: number;
}

/** A promise of free stock to a want. */
export interface Promised {
  key: string;
  productId: string;
  quantity: number;
}

/**
 * Soft reservation: serves wants from free stock, most urgent first, ties by age, then by key; partly where it does not last.
 * `free` gives units by product and is not changed. Never promises more than is free.
 */
export function allocate(wants: readonly Want[], free: ReadonlyMap<string, number>): Promised[] {
  const left = new Map(free);
  const served: Promised[] = [];
  const order = [...wants].sort(
    (a, b) => a.priority - b.priority || a.age - b.age || (a.key < b.key ? -1 : a.key > b.key ? 1 : 0),
  );
  for (const w of order) {
    const quantity = Math.min(w.quantity, Math.max(0, left.get(w.productId) ?? 0));
    if (quantity === 0) continue;
    left.set(w.productId, left.get(w.productId)! - quantity);
    served.push({ key: w.key, productId: w.productId, quantity });
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
}

/** Units taken from one place and lot. */
export interface PlacedPick {
  placeId: string;
  lotId: string | null;
  quantity: number;
}

/**
 * Chooses places for units of a product at release: first expired first out (no expiry last), expired lots never, then the
 * place that holds all of it, then walking order. `today` is an ISO day. Gives what it finds; the sum may be less than wanted.
 */
export function choosePlaces(quantity: number, stock: readonly PlacedStock[], today: string): PlacedPick[] {
  const free = (s: PlacedStock) => s.onHand - s.held;
  const usable = stock.filter(s => free(s) > 0 && (s.expiry === null || s.expiry > today));
  const whole = (s: PlacedStock) => (free(s) >= quantity ? 0 : 1);
  usable.sort(
    (a, b) => (a.expiry ?? '9').localeCompare(b.expiry ?? '9') || whole(a) - whole(b) || a.walk - b.walk,
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
