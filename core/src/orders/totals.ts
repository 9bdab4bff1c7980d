import { apportion } from '../money/apportion.js';
import { rateOf, timesRate } from '../money/round.js';

/** The money of one line. `taxMinor` is what the channel told, or null when Auk computes it from the rate (parts of a million). */
export interface PricedLine {
  quantity: number;
  priceMinor: number;
  taxPpm: number | null;
  taxMinor: number | null;
}

/** What an order's money follows from; amounts in minor units of one currency. The discount is one for the order, not negative. */
export interface PricedOrder {
  lines: readonly PricedLine[];
  shippingMinor: number;
  discountMinor: number;
}

/** One line's goods, its shares of discount and shipping, its tax, and their sum. */
export interface LineTotal {
  goods: number;
  discount: number;
  shipping: number;
  tax: number;
  total: number;
}

/** An order's money; what is still open of it is told by `openBalance`. */
export interface OrderTotals {
  lines: LineTotal[];
  goods: number;
  discount: number;
  shipping: number;
  tax: number;
  total: number;
}

/**
 * The money of an order. Discount and shipping are spread over the lines by their goods, exact to the minor unit; tax is taken per
 * line on its goods less its share of the discount, rounded on the line, halves away from zero; shipping is not taxed. The order's
 * total is the sum of its lines; without lines it is the shipping less the discount.
 */
export function orderTotals(order: PricedOrder): OrderTotals {
  const goods = order.lines.map(l => l.quantity * l.priceMinor);
  const discounts = apportion(order.discountMinor, goods);
  const shippings = apportion(order.shippingMinor, goods);
  const lines = order.lines.map((l, i): LineTotal => {
    const tax = l.taxMinor ?? timesRate(goods[i]! - discounts[i]!, l.taxPpm ?? 0);
    const [discount, shipping] = [discounts[i]!, shippings[i]!];
    return { goods: goods[i]!, discount, shipping, tax, total: goods[i]! - discount + shipping + tax };
  });
  const sum = (of: (l: LineTotal) => number) => lines.reduce((n, l) => n + of(l), 0);
  const total = lines.length === 0 ? order.shippingMinor - order.discountMinor : sum(l => l.total);
  return {
    lines,
    goods: sum(l => l.goods),
    discount: order.discountMinor,
    shipping: order.shippingMinor,
    tax: sum(l => l.tax),
    total,
  };
}

/** The rate of a line: its own, or the one that the channel's tax amounts to. */
export function lineRate(line: PricedLine): number {
  return line.taxPpm ?? rateOf(line.taxMinor ?? 0, line.quantity * line.priceMinor);
}
