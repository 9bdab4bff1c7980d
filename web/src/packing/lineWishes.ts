import type { LineIn, OrderView } from '@auk/contract';

/** A line of an order as somebody at the bench wishes it; without a key it is new. `before` is how many it had. */
export interface LineWish {
  key: string | null;
  sku: string;
  name: string;
  before: number;
  quantity: number;
  /** Null for the price at which the product is sold. */
  priceMinor: number | null;
}

/** What an order wants now, as wishes that change nothing. A line of packs goes by its own SKU: one piece more is not one pack more. */
export const wishesOf = (order: OrderView): LineWish[] =>
  order.lines.map(l => ({
    key: l.key,
    sku: l.product && l.units === 1 ? l.product.sku : l.channelSku,
    name: l.title,
    before: l.quantity,
    quantity: l.quantity,
    priceMinor: l.priceMinor,
  }));

/** Some units more or (negative) fewer of a line, never fewer than none. A new line of which none is wanted goes. */
export const moreOf = (wishes: readonly LineWish[], at: number, units: number): LineWish[] =>
  wishes
    .map((w, i) => (i === at ? { ...w, quantity: Math.max(0, w.quantity + units) } : w))
    .filter(w => w.key !== null || w.quantity > 0);

type Sold = Pick<LineWish, 'sku' | 'name'>;

/** One more of a product: of the line that has it, or as a new line at its own price. */
export function oneMore(wishes: readonly LineWish[], product: Sold): LineWish[] {
  const at = wishes.findIndex(w => w.sku === product.sku);
  if (at !== -1) return moreOf(wishes, at, 1);
  return [...wishes, { ...product, key: null, before: 0, quantity: 1, priceMinor: null }];
}

/** One fewer of a product; null when no line of it is left. */
export function oneFewer(wishes: readonly LineWish[], sku: string): LineWish[] | null {
  const at = wishes.findIndex(w => w.sku === sku && w.quantity > 0);
  return at === -1 ? null : moreOf(wishes, at, -1);
}

/** All of a line in another product. The buyer pays for it what the line cost, so that nothing is owed. */
export function instead(wishes: readonly LineWish[], at: number, product: Sold): LineWish[] {
  const { quantity, priceMinor } = wishes[at]!;
  const without = moreOf(wishes, at, -quantity);
  return [...without, { ...product, key: null, before: 0, quantity, priceMinor }];
}

/** The edit that makes an order what is wished; empty when nothing is. */
export const editOf = (wishes: readonly LineWish[]): LineIn[] =>
  wishes
    .filter(w => w.quantity !== w.before)
    .map(({ key, sku, quantity, priceMinor }): LineIn => {
      if (key === null) return { sku, quantity, ...(priceMinor !== null && { priceMinor }) };
      return quantity === 0 ? { key, remove: true } : { key, quantity };
    });
