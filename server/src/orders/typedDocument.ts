import { emptyAddress, type OrderDocument, splitDocument } from '@auk/core';
import { Forbidden } from '../http/problem.js';
import { type StoredOrder, skuOfKey } from '../records/records.module.js';

/** A document that says nothing yet, of the house's own country. */
export const emptyDocument = (country: string): OrderDocument => ({
  head: {
    mail: '',
    payment: 'paid',
    note: '',
    shippingMinor: 0,
    discountMinor: 0,
    paidMinor: 0,
    promised: null,
    shipBy: null,
    serviceAsked: '',
    pickUpPoint: '',
    weightOverrideMg: null,
    ...Object.fromEntries(Object.entries(emptyAddress(country)).map(([f, v]) => [`shipTo.${f}`, v])),
  },
  lines: {},
});

/** The document in two: what stays, and what goes along. */
export function divided(
  document: OrderDocument,
  lines: readonly { key: string; quantity: number }[],
): { stay: OrderDocument; go: OrderDocument } {
  const split = splitDocument(document, lines);
  if (split.ok) return split.value;
  if (split.problem.code === 'nothing stays')
    throw new Forbidden('Nothing would stay in the order.', 'Leave at least one unit in it.');
  throw new Forbidden(
    `${skuOfKey(split.problem.key)} has no ${split.problem.quantity} units to split off.`,
    'Look at the order again.',
  );
}

/** Units of a product in all lines of a document. */
export const lineOf = (d: OrderDocument, sku: string): number =>
  Object.entries(d.lines)
    .filter(([key]) => skuOfKey(key) === sku)
    .reduce((n, [, l]) => n + Number(l.quantity ?? 0), 0);

/** An order as its address is checked. */
export function receivedOf(order: StoredOrder) {
  const to = (f: string) => String(order.document.head[`shipTo.${f}`] ?? '');
  return {
    channelNumber: order.channelNumber,
    placedAt: null,
    mail: String(order.document.head.mail ?? ''),
    shipTo: {
      name: to('name'),
      company: to('company'),
      line1: to('line1'),
      line2: to('line2'),
      city: to('city'),
      region: to('region'),
      postcode: to('postcode'),
      country: to('country'),
      phone: to('phone'),
    },
  };
}
