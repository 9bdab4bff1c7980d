import { PAYMENTS, type Payment } from '../orders/check.js';
import type { ReceivedOrder } from '../orders/document.js';
import type { FieldSpec, Mapping } from './columns.js';
import { type FileRead, type RowReader, readRows } from './rowReader.js';

/** Most units one line may have. */
export const MOST_UNITS = 10_000;

const field = (name: string, words: string, headings: string[], required = false): FieldSpec => ({
  field: name,
  words,
  headings,
  required,
});

/** Fields that a file of orders can fill. */
export const ORDER_FIELDS: readonly FieldSpec[] = [
  field(
    'number',
    'order number',
    ['order', 'ordernumber', 'orderno', 'orderid', 'number', 'saleno', 'reference'],
    true,
  ),
  field('placedAt', 'placed', ['placed', 'placedat', 'date', 'orderdate', 'ordered', 'soldon', 'time']),
  field(
    'buyer',
    'buyer',
    ['buyer', 'buyername', 'name', 'recipient', 'shipname', 'shipto', 'customer', 'fullname'],
    true,
  ),
  field('mail', 'mail', ['mail', 'email', 'buyeremail', 'contact']),
  field('phone', 'telephone', ['phone', 'telephone', 'tel', 'buyerphone']),
  field('company', 'company', ['company', 'firm']),
  field('line1', 'street', ['address', 'address1', 'street', 'line1', 'shipaddress1', 'addressline1'], true),
  field('line2', 'second line', ['address2', 'line2', 'street2', 'addressline2', 'apartment', 'secondline']),
  field('city', 'town', ['city', 'town', 'shipcity']),
  field('region', 'region', ['state', 'region', 'province', 'shipstate']),
  field('postcode', 'postcode', ['postcode', 'zip', 'zipcode', 'postalcode', 'shipzip'], true),
  field('country', 'country', ['country', 'countrycode', 'shipcountry']),
  field('sku', 'SKU', ['sku', 'itemsku', 'articlenumber', 'item', 'code', 'listing'], true),
  field('title', 'title', ['title', 'itemtitle', 'product', 'description', 'itemname']),
  field('quantity', 'quantity', ['quantity', 'qty', 'count', 'pieces', 'units'], true),
  field('price', 'price each', ['price', 'unitprice', 'itemprice', 'each', 'priceeach']),
  field('tax', 'tax of the line', ['tax', 'salestax', 'vat', 'taxoftheline', 'linetax']),
  field('shipping', 'shipping', ['shipping', 'shippingpaid', 'postage', 'delivery', 'shippingcharged']),
  field('discount', 'discount', ['discount', 'rebate', 'couponamount']),
  field('currency', 'currency', ['currency']),
  field('payment', 'payment', ['payment', 'paymentstate', 'paid', 'status']),
  field('service', 'service asked for', ['service', 'shippingservice', 'serviceaskedfor', 'shipmethod']),
  field('shipBy', 'ship by', ['shipby', 'shipbydate', 'latestship']),
  field('promised', 'promised', ['promised', 'deliverby', 'promisedby', 'arriveby', 'latestdelivery']),
  field('note', "the buyer's note", ['note', 'buyernote', 'message', 'giftmessage']),
];

/** Which field of an order's document each field of a file fills; a file without the column is silent about it. */
const DOCUMENT_FIELD: Record<string, string> = {
  mail: 'mail',
  phone: 'shipTo.phone',
  company: 'shipTo.company',
  line2: 'shipTo.line2',
  city: 'shipTo.city',
  region: 'shipTo.region',
  country: 'shipTo.country',
  title: 'line.title',
  price: 'line.priceMinor',
  tax: 'line.taxMinor',
  shipping: 'shippingMinor',
  discount: 'discountMinor',
  payment: 'payment',
  service: 'serviceAsked',
  shipBy: 'shipBy',
  promised: 'promised',
  note: 'note',
};

const DATES = ['placedAt', 'promised', 'shipBy'];

/**
 * Reads the rows of an order file (heading first). Rows of one number are lines of one order; an order with any bad row is left
 * out whole, so that nothing is imported by halves. Returns the good orders in file order and every bad row with column, value and why.
 */
export function readOrderRows(
  rows: readonly (readonly string[])[],
  mapping: Mapping,
  defaultCurrency: string,
): FileRead<ReceivedOrder> {
  const silent = Object.keys(DOCUMENT_FIELD)
    .filter(f => mapping[f] === undefined)
    .map(f => DOCUMENT_FIELD[f]!);
  const read = readRows(
    rows,
    mapping,
    DATES,
    r => ({ ...readLine(r, defaultCurrency), ...(silent.length > 0 ? { silent } : {}) }),
    o => o.channelNumber,
  );
  const orders = new Map<string, { row: number; item: ReceivedOrder }>();
  for (const { row, item } of read.items) {
    const known = orders.get(item.channelNumber);
    if (known) known.item.lines.push(...item.lines);
    else orders.set(item.channelNumber, { row, item });
  }
  return { ...read, items: [...orders.values()] };
}

function readLine(r: RowReader, defaultCurrency: string): ReceivedOrder {
  r.need(...ORDER_FIELDS.filter(f => f.required).map(f => f.field));
  const currency = r.raw('currency').toUpperCase() || defaultCurrency;
  if (!/^[A-Z]{3}$/.test(currency)) r.say('currency', 'is not a currency code such as USD');
  return {
    channelNumber: r.text('number', 40),
    placedAt: r.moment('placedAt'),
    mail: r.text('mail', 120),
    payment: payment(r),
    currency,
    shippingMinor: r.money('shipping', currency),
    discountMinor: r.money('discount', currency),
    serviceAsked: r.text('service', 60),
    shipBy: r.moment('shipBy')?.slice(0, 10) ?? null,
    promised: r.moment('promised')?.slice(0, 10) ?? null,
    note: r.text('note', 500),
    shipTo: {
      name: r.text('buyer', 80),
      company: r.text('company', 80),
      line1: r.text('line1', 120),
      line2: r.text('line2', 120),
      city: r.text('city', 80),
      region: r.text('region', 40),
      postcode: r.text('postcode', 16),
      country: r.code('country', 40) || 'US',
      phone: r.text('phone', 40),
    },
    lines: [
      {
        channelSku: r.text('sku', 60),
        title: r.text('title', 200) || r.raw('sku'),
        quantity: r.whole('quantity', 1, MOST_UNITS),
        priceMinor: r.money('price', currency),
        ...(r.has('tax') ? { taxMinor: r.money('tax', currency) } : {}),
      },
    ],
  };
}

function payment(r: RowReader): Payment {
  const plain = r.raw('payment').toLowerCase();
  if (['', 'paid', 'yes', 'true', 'complete', 'completed'].includes(plain)) return 'paid';
  if (['unpaid', 'no', 'false', 'pending'].includes(plain)) return 'unpaid';
  const known = PAYMENTS.find(p => p === plain);
  if (!known) r.say('payment', `is not a payment state: ${PAYMENTS.join(', ')}`);
  return known ?? 'unpaid';
}
