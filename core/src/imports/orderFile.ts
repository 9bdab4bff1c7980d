import { parseAmount } from '../money/money.js';
import type { Address, CheckedOrder } from '../orders/check.js';

/** Fields that a file of orders can fill. */
export const ORDER_FIELDS = [
  'number',
  'placedAt',
  'buyer',
  'mail',
  'phone',
  'company',
  'line1',
  'line2',
  'city',
  'region',
  'postcode',
  'country',
  'sku',
  'title',
  'quantity',
  'price',
  'shipping',
  'currency',
  'payment',
  'promised',
  'note',
] as const;
export type OrderField = (typeof ORDER_FIELDS)[number];

/** Words by which headings are guessed; compared in lower case without spaces and signs. */
const HEADINGS: Record<OrderField, string[]> = {
  number: ['order', 'ordernumber', 'orderno', 'orderid', 'number', 'saleno', 'reference'],
  placedAt: ['placed', 'placedat', 'date', 'orderdate', 'ordered', 'soldon', 'time'],
  buyer: ['buyer', 'buyername', 'name', 'recipient', 'shipname', 'shipto', 'customer', 'fullname'],
  mail: ['mail', 'email', 'buyeremail', 'contact'],
  phone: ['phone', 'telephone', 'tel', 'buyerphone'],
  company: ['company', 'firm'],
  line1: ['address', 'address1', 'street', 'line1', 'shipaddress1', 'addressline1'],
  line2: ['address2', 'line2', 'street2', 'addressline2', 'apartment'],
  city: ['city', 'town', 'shipcity'],
  region: ['state', 'region', 'province', 'shipstate'],
  postcode: ['postcode', 'zip', 'zipcode', 'postalcode', 'shipzip'],
  country: ['country', 'countrycode', 'shipcountry'],
  sku: ['sku', 'itemsku', 'articlenumber', 'item', 'code', 'listing'],
  title: ['title', 'itemtitle', 'product', 'description', 'itemname'],
  quantity: ['quantity', 'qty', 'count', 'pieces', 'units'],
  price: ['price', 'unitprice', 'itemprice', 'each'],
  shipping: ['shipping', 'shippingpaid', 'postage', 'delivery', 'shippingcharged'],
  currency: ['currency'],
  payment: ['payment', 'paymentstate', 'paid', 'status'],
  promised: ['promised', 'deliverby', 'promisedby', 'arriveby', 'latestdelivery'],
  note: ['note', 'buyernote', 'message', 'giftmessage'],
};
const REQUIRED: OrderField[] = ['number', 'buyer', 'line1', 'postcode', 'sku', 'quantity'];

/** Which column (from 0) fills which field. */
export type OrderMapping = Partial<Record<OrderField, number>>;

/** Guesses the mapping from headings; each column serves one field, each field takes the first fitting column. `missing` names required fields without a column. */
export function guessMapping(headings: readonly string[]): { mapping: OrderMapping; missing: OrderField[] } {
  const plain = headings.map(h => h.toLowerCase().replace(/[^a-z0-9]/g, ''));
  const mapping: OrderMapping = {};
  for (const field of ORDER_FIELDS) {
    const at = HEADINGS[field]
      .map(word => plain.indexOf(word))
      .find(i => i !== -1 && !Object.values(mapping).includes(i));
    if (at !== undefined) mapping[field] = at;
  }
  return { mapping, missing: REQUIRED.filter(f => mapping[f] === undefined) };
}

/** A row that cannot be imported. `row` counts as a spreadsheet shows it: the heading is row 1. */
export interface BadRow {
  row: number;
  column: string;
  value: string;
  why: string;
}

/** An order as a source tells it; money in minor units, days ISO. */
export interface ReceivedOrder {
  channelNumber: string;
  placedAt: string | null;
  mail: string;
  shipTo: Address;
  payment: CheckedOrder['payment'];
  currency: string;
  shippingMinor: number;
  promised: string | null;
  note: string;
  lines: { channelSku: string; title: string; quantity: number; priceMinor: number }[];
}

/** Most units one line may have. */
export const MOST_UNITS = 10_000;

/**
 * Reads the rows of an order file (heading first). Rows of one number are lines of one order; an order with any bad row is left
 * out whole, so that nothing is imported by halves. Returns the good orders in file order and every bad row with column, value and why.
 */
export function readOrderRows(
  rows: readonly (readonly string[])[],
  mapping: OrderMapping,
  defaultCurrency: string,
): { orders: ReceivedOrder[]; bad: BadRow[] } {
  const headings = rows[0] ?? [];
  const orders = new Map<string, ReceivedOrder>();
  const bad: BadRow[] = [];
  const spoiled = new Set<string>();
  rows.slice(1).forEach((cells, i) => {
    if (cells.every(c => c.trim() === '')) return;
    const read = rowReader(cells, mapping, defaultCurrency);
    for (const p of read.problems)
      bad.push({
        row: i + 2,
        column: p.field === null ? '' : (headings[mapping[p.field] ?? -1] ?? p.field),
        value: p.value.slice(0, 80),
        why: p.why,
      });
    const number = read.order.channelNumber;
    if (read.problems.length > 0) {
      if (number) spoiled.add(number);
      return;
    }
    const known = orders.get(number);
    if (known) known.lines.push(...read.order.lines);
    else orders.set(number, read.order);
  });
  return { orders: [...orders.values()].filter(o => !spoiled.has(o.channelNumber)), bad };
}

interface RowProblem {
  field: OrderField | null;
  value: string;
  why: string;
}

function rowReader(
  cells: readonly string[],
  mapping: OrderMapping,
  defaultCurrency: string,
): { order: ReceivedOrder; problems: RowProblem[] } {
  const problems: RowProblem[] = [];
  const raw = (f: OrderField) => (mapping[f] === undefined ? '' : (cells[mapping[f]!] ?? '').trim());
  const say = (field: OrderField, why: string) => problems.push({ field, value: raw(field), why });
  const text = (f: OrderField, most: number) => {
    if (raw(f).length > most) say(f, `longer than ${most} characters`);
    return raw(f);
  };
  for (const f of REQUIRED) if (raw(f) === '') say(f, 'is empty and needed');
  const currency = raw('currency').toUpperCase() || defaultCurrency;
  if (!/^[A-Z]{3}$/.test(currency)) say('currency', 'is not a currency code such as USD');
  const money = (f: OrderField) => {
    if (raw(f) === '') return 0;
    const amount = parseAmount(raw(f), currency);
    if (!amount.ok) say(f, amount.problem);
    else if (amount.value < 0) say(f, 'is less than nothing');
    return amount.ok ? amount.value : 0;
  };
  const quantity = Number(raw('quantity'));
  if (raw('quantity') !== '' && !(Number.isInteger(quantity) && quantity >= 1 && quantity <= MOST_UNITS))
    say('quantity', `is not a whole number from 1 to ${MOST_UNITS}`);
  const day = (f: OrderField) => {
    if (raw(f) === '') return null;
    const iso = isoMoment(raw(f));
    if (!iso) say(f, 'is not a date such as 2026-11-23 or 11/23/2026');
    return iso;
  };
  const order: ReceivedOrder = {
    channelNumber: text('number', 40),
    placedAt: day('placedAt'),
    mail: text('mail', 120),
    payment: payment(raw('payment'), why => say('payment', why)),
    currency,
    shippingMinor: money('shipping'),
    promised: day('promised')?.slice(0, 10) ?? null,
    note: text('note', 500),
    shipTo: {
      name: text('buyer', 80),
      company: text('company', 80),
      line1: text('line1', 120),
      line2: text('line2', 120),
      city: text('city', 80),
      region: text('region', 40),
      postcode: text('postcode', 16),
      country: text('country', 40).toUpperCase() || 'US',
      phone: text('phone', 40),
    },
    lines: [
      {
        channelSku: text('sku', 60),
        title: text('title', 200) || raw('sku'),
        quantity,
        priceMinor: money('price'),
      },
    ],
  };
  return { order, problems };
}

function payment(text: string, say: (why: string) => void): CheckedOrder['payment'] {
  const plain = text.toLowerCase();
  if (['', 'paid', 'yes', 'true', 'complete', 'completed'].includes(plain)) return 'paid';
  if (['unpaid', 'no', 'false', 'pending'].includes(plain)) return 'unpaid';
  if (plain === 'refunded' || plain === 'part refunded' || plain === 'on delivery') return plain;
  say('is not a payment state: paid, unpaid, part refunded, refunded or on delivery');
  return 'unpaid';
}

/** An ISO moment of "2026-11-23", "2026-11-23T08:00:00Z", "2026-11-23 08:00" or "11/23/2026"; days are midnight UTC. Null for anything else or no such day. */
export function isoMoment(text: string): string | null {
  const iso = /^(\d{4})-(\d{2})-(\d{2})(?:[T ](\d{2}):(\d{2})(?::(\d{2})(?:\.\d+)?)?Z?)?$/.exec(text);
  const us = /^(\d{1,2})\/(\d{1,2})\/(\d{4})$/.exec(text);
  const [y, mo, d] = iso ? [iso[1], iso[2], iso[3]].map(Number) : us ? [us[3], us[1], us[2]].map(Number) : [];
  if (y === undefined || mo === undefined || d === undefined) return null;
  const [h, mi, s] = [iso?.[4], iso?.[5], iso?.[6]].map(n => Number(n ?? 0)) as [number, number, number];
  const date = new Date(Date.UTC(y, mo - 1, d, h, mi, s));
  const same = date.getUTCMonth() === mo - 1 && date.getUTCDate() === d && h < 24 && mi < 60 && s < 60;
  return same ? date.toISOString() : null;
}
