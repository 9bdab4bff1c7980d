import type { Address } from './address.js';
import { ADDRESS_FIELDS } from './address.js';
import { type OrderTotals, orderTotals } from './totals.js';

/** A plain value of a field. Money is in minor units, days are ISO, rates in parts of a million. */
export type Value = string | number | null;

/** What an order says, flat: head fields, and lines by a key that stays the same when the channel sends the order again. */
export interface OrderDocument {
  head: Record<string, Value>;
  lines: Record<string, Record<string, Value>>;
}

/** One field that differs. `line` is the key of a line, null for the head; field '' is the whole line that came or went. */
export interface Change {
  line: string | null;
  field: string;
  before: Value;
  after: Value;
}

/** An order as a source tells it. `taxMinor` is the tax of a whole line where the source tells it. */
export interface ReceivedOrder {
  channelNumber: string;
  placedAt: string | null;
  mail: string;
  shipTo: Address;
  payment: 'unpaid' | 'paid' | 'part refunded' | 'refunded' | 'on delivery';
  currency: string;
  shippingMinor: number;
  discountMinor?: number;
  promised: string | null;
  note: string;
  billTo?: Address | null;
  serviceAsked?: string;
  /** Grows with every change at the source, where the source tells it; older news than known are passed over. */
  revision?: number;
  /** Fields of the document that the source says nothing of (a file without their column): what is here stays. Those of lines begin with `line.`. */
  silent?: string[];
  shipBy?: string | null;
  lines: ReceivedLine[];
}

export interface ReceivedLine {
  channelSku: string;
  title: string;
  quantity: number;
  priceMinor: number;
  taxMinor?: number;
}

/** Words for the fields of a document, as people read them. */
export const FIELD_WORDS: Record<string, string> = {
  ...Object.fromEntries(
    ADDRESS_FIELDS.flatMap(([f, w]) => [
      [`shipTo.${f}`, w],
      [`billTo.${f}`, `${w} of the bill`],
    ]),
  ),
  mail: 'mail',
  payment: 'payment',
  note: "the buyer's note",
  shippingMinor: 'shipping',
  discountMinor: 'discount',
  paidMinor: 'paid',
  promised: 'promised day',
  shipBy: 'ship-by day',
  serviceAsked: 'service asked for',
  weightOverrideMg: 'weight of the order',
  quantity: 'quantity',
  priceMinor: 'price',
  taxMinor: 'tax',
  taxPpm: 'tax rate',
  weightMg: 'weight of the line',
  leaveOut: 'may be left out',
  title: 'title',
  channelSku: 'SKU',
};

/** The keys of lines: the channel's SKU, and which one of that SKU it is, from 1. */
export function lineKeys(lines: readonly { channelSku: string }[]): string[] {
  const seen = new Map<string, number>();
  return lines.map(l => {
    const n = (seen.get(l.channelSku) ?? 0) + 1;
    seen.set(l.channelSku, n);
    return `${l.channelSku}#${n}`;
  });
}

/** What an order as told must have been paid: all of it when it is paid or part refunded, else nothing. */
export function paidOf(r: ReceivedOrder): number {
  if (r.payment !== 'paid' && r.payment !== 'part refunded') return 0;
  const lines = r.lines.map(l => ({ ...l, taxPpm: null, taxMinor: l.taxMinor ?? null }));
  return orderTotals({
    lines,
    shippingMinor: r.shippingMinor,
    discountMinor: r.discountMinor ?? 0,
  }).total;
}

/** The document of an order as its channel tells it. */
export function documentOf(r: ReceivedOrder): OrderDocument {
  const keys = lineKeys(r.lines);
  return {
    head: {
      mail: r.mail,
      payment: r.payment,
      note: r.note,
      shippingMinor: r.shippingMinor,
      discountMinor: r.discountMinor ?? 0,
      paidMinor: paidOf(r),
      promised: r.promised,
      shipBy: r.shipBy ?? null,
      serviceAsked: r.serviceAsked ?? '',
      ...Object.fromEntries(ADDRESS_FIELDS.map(([f]) => [`shipTo.${f}`, r.shipTo[f]])),
      ...Object.fromEntries(ADDRESS_FIELDS.map(([f]) => [`billTo.${f}`, r.billTo?.[f] ?? ''])),
    },
    lines: Object.fromEntries(
      r.lines.map((l, i) => [
        keys[i]!,
        { title: l.title, quantity: l.quantity, priceMinor: l.priceMinor, taxMinor: l.taxMinor ?? null },
      ]),
    ),
  };
}

/** All differences of two documents, head first, then lines in the order of the second with what went at the end. */
export function diffDocuments(before: OrderDocument, after: OrderDocument): Change[] {
  const keys = [...new Set([...Object.keys(after.lines), ...Object.keys(before.lines)])];
  return [
    ...diffFields(null, before.head, after.head),
    ...keys.flatMap(key => {
      const [b, a] = [before.lines[key], after.lines[key]];
      if (b && a) return diffFields(key, b, a);
      return [{ line: key, field: '', before: b ? lineWords(b) : null, after: a ? lineWords(a) : null }];
    }),
  ];
}

const lineWords = (l: Record<string, Value>): string => `${l.quantity} × ${l.title}`;

function diffFields(
  line: string | null,
  before: Record<string, Value>,
  after: Record<string, Value>,
): Change[] {
  return [...new Set([...Object.keys(after), ...Object.keys(before)])]
    .filter(f => (before[f] ?? null) !== (after[f] ?? null))
    .map(field => ({ line, field, before: before[field] ?? null, after: after[field] ?? null }));
}

/** What a source tells, with the fields that it is silent about filled from what is known (`before`: the base, or what stands here). */
export function toldOver(
  before: OrderDocument,
  theirs: OrderDocument,
  silent: readonly string[],
): OrderDocument {
  if (silent.length === 0) return theirs;
  const keep = (from: Record<string, Value> | undefined, to: Record<string, Value>, prefix: string) => {
    const filled = { ...to };
    for (const f of silent)
      if (f.startsWith('line.') === (prefix !== '') && from && f.slice(prefix.length) in from)
        filled[f.slice(prefix.length)] = from[f.slice(prefix.length)]!;
    return filled;
  };
  return {
    head: keep(before.head, theirs.head, ''),
    lines: Object.fromEntries(
      Object.entries(theirs.lines).map(([k, l]) => [k, keep(before.lines[k], l, 'line.')]),
    ),
  };
}

/** The money of a document: each line by its own rate, or by the tax that the channel told. */
export function documentTotals(d: OrderDocument): OrderTotals {
  const number = (v: Value | undefined) => Number(v ?? 0);
  return orderTotals({
    shippingMinor: number(d.head.shippingMinor),
    discountMinor: number(d.head.discountMinor),
    lines: Object.values(d.lines).map(l => ({
      quantity: number(l.quantity),
      priceMinor: number(l.priceMinor),
      taxPpm: l.taxPpm == null ? null : Number(l.taxPpm),
      taxMinor: l.taxMinor == null ? null : Number(l.taxMinor),
    })),
  });
}
