import { apportion } from '../money/apportion.js';
import { formatMoney } from '../money/money.js';

/** A label that was paid: of which order, by what it is grouped, its cost, and what the buyer paid for shipping of the whole order; all in house minor units. */
export interface PaidLabel {
  orderId: string;
  group: string;
  costMinor: number;
  paidMinor: number;
  /** For the way back of a parcel: it costs, and is no parcel more. */
  back: boolean;
}

export interface CostGroup {
  name: string;
  parcels: number;
  costMinor: number;
  paidMinor: number;
}

/**
 * What shipping cost beside what buyers paid for it, by group. What was paid for an order counts once: it is spread over its parcels by
 * their costs, so that groups add up to all that was paid. Groups stand in the order of their names.
 */
export function costsByGroup(labels: readonly PaidLabel[]): CostGroup[] {
  const orders = new Map<string, PaidLabel[]>();
  for (const l of labels) {
    const of = orders.get(l.orderId);
    if (of) of.push(l);
    else orders.set(l.orderId, [l]);
  }
  const groups = new Map<string, CostGroup>();
  for (const of of orders.values()) {
    const paid = apportion(
      of[0]!.paidMinor,
      of.map(l => Math.max(0, l.costMinor)),
    );
    of.forEach((l, i) => {
      const group = groups.get(l.group) ?? { name: l.group, parcels: 0, costMinor: 0, paidMinor: 0 };
      if (!l.back) group.parcels += 1;
      group.costMinor += l.costMinor;
      group.paidMinor += paid[i]!;
      groups.set(l.group, group);
    });
  }
  return [...groups.values()].sort((a, b) => a.name.localeCompare(b.name, 'en', { numeric: true }));
}

/** What is known of an order that cost more than its buyer paid; charges are of all its parcels, in house minor units. */
export interface LostOrder {
  paidMinor: number;
  parcels: number;
  /** Whether a label for the way back was bought. */
  back: boolean;
  /** Whether a parcel was paid by its volume. */
  byVolume: boolean;
  charges: readonly { name: string; minor: number }[];
}

/** Why an order lost money on its way, in words: what was not paid, how many parcels it took, and the dearest of what was added to carriage. */
export function whyLost(order: LostOrder, currency: string): string {
  const money = (minor: number) => formatMoney(minor, currency);
  const added = order.charges.slice(1).filter(c => c.minor > 0);
  const dearest = [...added].sort((a, b) => b.minor - a.minor)[0];
  const why = [
    order.paidMinor === 0 && 'shipping was free for the buyer',
    order.parcels > 1 && `it took ${order.parcels} parcels`,
    order.back && 'a return label was bought',
    order.byVolume && 'it was paid by volume',
    dearest && `${dearest.name} ${money(dearest.minor)}`,
  ].filter(Boolean);
  const text = why.join(', ') || 'carriage alone cost more';
  return `${text[0]!.toUpperCase()}${text.slice(1)}.`;
}
