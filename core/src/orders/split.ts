import { apportion } from '../money/apportion.js';
import { fail, ok, type Result } from '../result.js';
import { documentTotals, type OrderDocument, type Value } from './document.js';

/** Units of a line that go into the other order. */
export interface Going {
  key: string;
  quantity: number;
}

/** Why an order cannot be divided so. */
export type SplitProblem =
  | { code: 'no such units'; key: string; quantity: number }
  | { code: 'nothing stays' };

/**
 * Divides an order's document into what stays and what goes. Each line's discount, shipping and tax (minor units) are shared by its
 * units, so that both parts' totals sum to the whole's; what was paid is shared by the parts' own totals, so that the balances sum to
 * the whole's and what was fully paid owes nothing in either part. Tax stands fixed on the lines of both parts from then on.
 * Example: of 3 units for 300 with 30 shipping, all paid, 1 unit goes with 100 of goods, 10 of shipping and 110 paid.
 */
export function splitDocument(
  whole: OrderDocument,
  going: readonly Going[],
): Result<{ stay: OrderDocument; go: OrderDocument }, SplitProblem> {
  const goes = new Map<string, number>();
  for (const { key, quantity } of going) goes.set(key, (goes.get(key) ?? 0) + quantity);
  for (const [key, quantity] of goes) {
    const line = whole.lines[key];
    if (!line || quantity < 0 || quantity > number(line.quantity))
      return fail({ code: 'no such units', key, quantity });
  }
  const totals = documentTotals(whole);
  const stay = part(whole);
  const go = part(whole);
  Object.entries(whole.lines).forEach(([key, line], i) => {
    const out = goes.get(key) ?? 0;
    const share = (n: number) => apportion(n, [number(line.quantity) - out, out]) as [number, number];
    const money = totals.lines[i]!;
    const taxed = line.taxMinor != null || line.taxPpm != null;
    const [discount, shipping, tax] = [share(money.discount), share(money.shipping), share(money.tax)];
    [stay, go].forEach((p, side) => {
      const quantity = side === 0 ? number(line.quantity) - out : out;
      p.total += quantity * number(line.priceMinor) - discount[side]! + shipping[side]! + tax[side]!;
      p.discount += discount[side]!;
      p.shipping += shipping[side]!;
      if (quantity > 0)
        p.document.lines[key] = { ...line, quantity, ...(taxed ? { taxMinor: tax[side]! } : {}) };
    });
  });
  if (Object.keys(stay.document.lines).length === 0) return fail({ code: 'nothing stays' });
  const paid = number(whole.head.paidMinor);
  const paidGo =
    paid === totals.total ? go.total : apportion(paid, [Math.max(0, stay.total), Math.max(0, go.total)])[1]!;
  return ok({ stay: headed(stay, paid - paidGo), go: headed(go, paidGo) });
}

interface Part {
  document: OrderDocument;
  total: number;
  discount: number;
  shipping: number;
}

const part = (whole: OrderDocument): Part => ({
  document: { head: { ...whole.head }, lines: {} },
  total: 0,
  discount: 0,
  shipping: 0,
});

function headed(p: Part, paidMinor: number): OrderDocument {
  Object.assign(p.document.head, { discountMinor: p.discount, shippingMinor: p.shipping, paidMinor });
  return p.document;
}

const number = (v: Value | undefined): number => Number(v ?? 0);
