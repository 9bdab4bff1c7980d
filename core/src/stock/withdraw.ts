/** A promise of units to a part of an order. `since` grows with the time it was made. */
export interface SoftPromise {
  key: string;
  quantity: number;
  since: number;
}

/**
 * Takes back `units` from promises because stock turned out to be less than promised: the newest promise first, ties by key; the
 * last one partly. Gives units by key, together `units` or all there is.
 */
export function withdraw(promises: readonly SoftPromise[], units: number): { key: string; units: number }[] {
  const taken: { key: string; units: number }[] = [];
  let left = units;
  const newest = [...promises].sort((a, b) => b.since - a.since || (a.key < b.key ? 1 : -1));
  for (const p of newest) {
    if (left <= 0) break;
    const n = Math.min(left, p.quantity);
    if (n > 0) taken.push({ key: p.key, units: n });
    left -= n;
  }
  return taken;
}
