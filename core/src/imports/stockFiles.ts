import type { FieldSpec, Mapping } from './columns.js';
import { type FileRead, readRows } from './rowReader.js';

type Rows = readonly (readonly string[])[];

/** Kinds of places that files can bring, with the words people use for them. */
const PLACE_WORDS = new Map(
  Object.entries({
    bin: 'bin',
    pickface: 'bin',
    pick: 'bin',
    reserve: 'reserve',
    bulk: 'reserve',
    dock: 'dock',
    staging: 'staging',
    bench: 'bench',
    quarantine: 'quarantine',
  } as const),
);

/** A place of a file. */
export interface PlaceRowRead {
  code: string;
  kind: 'bin' | 'reserve' | 'dock' | 'staging' | 'bench' | 'quarantine';
  zone: string;
  capacity: number | null;
}

/** Fields that a file of places can fill. */
export const PLACE_FIELDS: readonly FieldSpec[] = [
  { field: 'code', words: 'place', headings: ['place', 'code', 'location', 'placecode'], required: true },
  { field: 'kind', words: 'kind', headings: ['kind', 'type', 'use'] },
  { field: 'zone', words: 'zone', headings: ['zone', 'area'] },
  { field: 'capacity', words: 'holds', headings: ['capacity', 'holds', 'mostunits', 'units'] },
];

/** Reads a file of places (heading first). A place without a kind is a pick face; one that stands twice is bad. */
export function readPlaceRows(rows: Rows, mapping: Mapping): FileRead<PlaceRowRead> {
  const seen = new Set<string>();
  return readRows(rows, mapping, [], r => {
    r.need('code');
    const code = r.code('code', 20);
    if (seen.has(code)) r.say('code', 'stands twice in the file');
    seen.add(code);
    const word = r.raw('kind').toLowerCase();
    const kind = word === '' ? 'bin' : PLACE_WORDS.get(word.replace(/[^a-z]/g, ''));
    if (!kind) r.say('kind', 'is not pick face, reserve, dock, staging, bench or quarantine');
    return {
      code,
      kind: kind ?? 'bin',
      zone: r.text('zone', 20),
      capacity: r.has('capacity') ? r.whole('capacity', 1, 1_000_000) : null,
    };
  });
}

/** A purchase order of a file: all rows of one supplier and reference. */
export interface PurchaseRowRead {
  supplier: string;
  reference: string;
  expected: string | null;
  lines: { sku: string; quantity: number }[];
}

/** Fields that a file of purchase orders can fill. */
export const PURCHASE_FIELDS: readonly FieldSpec[] = [
  { field: 'supplier', words: 'supplier', headings: ['supplier', 'vendor', 'from'], required: true },
  {
    field: 'reference',
    words: 'reference',
    headings: ['reference', 'ponumber', 'po', 'ordernumber', 'order'],
    required: true,
  },
  { field: 'sku', words: 'SKU', headings: ['sku', 'product', 'articlenumber', 'item'], required: true },
  { field: 'quantity', words: 'quantity', headings: ['quantity', 'qty', 'units', 'ordered'], required: true },
  { field: 'expected', words: 'expected', headings: ['expected', 'expectedday', 'due', 'arrives', 'eta'] },
];

/** Reads a file of purchase orders (heading first); one with a bad row is left out whole. A product twice in one order is bad. */
export function readPurchaseRows(rows: Rows, mapping: Mapping): FileRead<PurchaseRowRead> {
  const keyOf = (i: { supplier: string; reference: string }) => `${i.supplier}\n${i.reference}`;
  const seen = new Set<string>();
  const read = readRows(
    rows,
    mapping,
    ['expected'],
    (r): PurchaseRowRead => {
      r.need('supplier', 'reference', 'sku', 'quantity');
      const item = { supplier: r.text('supplier', 80), reference: r.text('reference', 60) };
      const sku = r.code('sku', 60);
      if (seen.has(`${keyOf(item)}\n${sku}`)) r.say('sku', `stands twice in order ${item.reference}`);
      seen.add(`${keyOf(item)}\n${sku}`);
      return {
        ...item,
        expected: r.moment('expected')?.slice(0, 10) ?? null,
        lines: [{ sku, quantity: r.whole('quantity', 1, 1_000_000) }],
      };
    },
    keyOf,
  );
  const orders = new Map<string, { row: number; item: PurchaseRowRead }>();
  for (const { row, item } of read.items) {
    const known = orders.get(keyOf(item));
    if (known) known.item.lines.push(...item.lines);
    else orders.set(keyOf(item), { row, item });
  }
  return { ...read, items: [...orders.values()] };
}

/** What a supplier tells of an order that left there. */
export interface SentRowRead {
  /** Ours (`OR-7`), the channel's, or the number of the purchase order (`PO-7`). */
  order: string;
  carrier: string;
  tracking: string;
}

/** Fields that a file of what suppliers sent can fill. */
export const SENT_FIELDS: readonly FieldSpec[] = [
  {
    field: 'order',
    words: 'order',
    headings: ['order', 'ordernumber', 'purchaseorder', 'ponumber', 'po', 'reference'],
    required: true,
  },
  { field: 'carrier', words: 'carrier', headings: ['carrier', 'carriername', 'by'], required: true },
  {
    field: 'tracking',
    words: 'tracking number',
    headings: ['trackingnumber', 'tracking', 'trackingcode'],
    required: true,
  },
];

/** Reads a file of what suppliers sent (heading first): a row an order. One that stands twice is bad. */
export function readSentRows(rows: Rows, mapping: Mapping): FileRead<SentRowRead> {
  const seen = new Set<string>();
  return readRows(rows, mapping, [], r => {
    r.need('order', 'carrier', 'tracking');
    const order = r.text('order', 48);
    if (seen.has(order)) r.say('order', 'stands twice');
    seen.add(order);
    const tracking = r.text('tracking', 40);
    if (!/^[A-Za-z0-9 -]{3,40}$/.test(tracking))
      r.say('tracking', 'is made of 3 to 40 letters, digits, spaces and hyphens');
    return { order, carrier: r.text('carrier', 60), tracking };
  });
}
