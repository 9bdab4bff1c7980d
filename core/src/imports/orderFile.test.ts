import { expect, test } from 'vitest';
import { dateOrder, isoMoment } from '../days/dates.js';
import { guessColumns, missingFields } from './columns.js';
import { ORDER_FIELDS, readOrderRows } from './orderFile.js';

const WEB = [
  'Order number',
  'Buyer name',
  'E-mail',
  'Address 1',
  'City',
  'State',
  'Zip',
  'SKU',
  'Item title',
  'Qty',
  'Unit price',
  'Deliver by',
];
const row = (number: string, more: Partial<Record<string, string>> = {}) =>
  WEB.map(
    h =>
      more[h] ??
      {
        'Order number': number,
        'Buyer name': 'Ruth',
        'Address 1': '1 Road',
        City: 'Boise',
        State: 'ID',
        Zip: '83702',
        SKU: 'JAR',
        'Item title': 'Jar',
        Qty: '2',
        'Unit price': '1.35',
      }[h] ??
      '',
  );
const guess = (headings: string[]) => guessColumns(ORDER_FIELDS, headings);
const missing = (headings: string[]) => missingFields(ORDER_FIELDS, guess(headings)).map(f => f.field);
function read(...rows: string[][]) {
  const { items, bad, leftOut } = readOrderRows([WEB, ...rows], guess(WEB), 'USD');
  return { orders: items.map(i => i.item), bad, leftOut };
}

test('headings of two channels are understood, by whole words first and then by parts', () => {
  expect(missing(WEB)).toEqual([]);
  expect(
    missing(['SALE NO', 'ship to', 'Street', 'postal code', 'article number', 'pieces', 'each']),
  ).toEqual([]);
  expect(
    missing([
      'Your order number',
      'Recipient of it',
      'Street of delivery',
      'Postcode (ship)',
      'SKU',
      'Quantity sold',
    ]),
  ).toEqual([]);
  expect(missing(['colour', 'size'])).toContain('number');
});

test('a heading that stands twice serves once, the first of them', () => {
  expect(guess(['SKU', 'SKU', 'Title'])).toMatchObject({ sku: 0, title: 2 });
});

test('rows of one number are lines of one order', () => {
  const { orders, bad } = read(row('W-1'), row('W-1', { SKU: 'LID' }), row('W-2'));
  expect(bad).toEqual([]);
  expect(orders.map(o => [o.channelNumber, o.lines.length])).toEqual([
    ['W-1', 2],
    ['W-2', 1],
  ]);
  expect(orders[0]!.lines[0]).toEqual({ channelSku: 'JAR', title: 'Jar', quantity: 2, priceMinor: 135 });
});

test('a bad row keeps its whole order out, and says row, column, value and why', () => {
  const { orders, bad, leftOut } = read(
    row('W-1'),
    row('W-1', { Qty: '-3' }),
    row('W-2', { 'Unit price': 'cheap' }),
    row('W-3'),
  );
  expect(orders.map(o => o.channelNumber)).toEqual(['W-3']);
  expect(leftOut).toEqual([2, 3, 4]);
  expect(bad).toEqual([
    { row: 3, column: 'Qty', value: '-3', why: 'is not a whole number from 1 to 10000' },
    expect.objectContaining({ row: 4, column: 'Unit price', value: 'cheap' }),
  ]);
});

test('quantities that are no quantities', () => {
  for (const bad of ['0', '1.5', '1e9', '999999999999', 'x', ' '])
    expect(read(row('W-1', { Qty: bad })).orders, bad).toEqual([]);
});

test('days are days, in many forms', () => {
  expect(isoMoment('11/25/2026')).toBe('2026-11-25T00:00:00.000Z');
  expect(isoMoment('25/11/2026', 'day first')).toBe('2026-11-25T00:00:00.000Z');
  expect(isoMoment('25.11.2026')).toBe('2026-11-25T00:00:00.000Z');
  expect(isoMoment('25 Nov 2026')).toBe('2026-11-25T00:00:00.000Z');
  expect(isoMoment('November 5, 2026 7:05')).toBe('2026-11-05T07:05:00.000Z');
  expect(isoMoment('2026-11-25 08:30')).toBe('2026-11-25T08:30:00.000Z');
  expect(isoMoment('2026-11-25T08:30:00+02:00')).toBe('2026-11-25T06:30:00.000Z');
  for (const bad of ['2026-02-30', '13/13/2026', 'soon', '2026-11-25 25:00', '3 Foo 2026', ''])
    expect(isoMoment(bad), bad).toBeNull();
});

test('a column shows by one of its dates which number is the day', () => {
  expect(dateOrder(['3/4/2026', '25/4/2026'])).toBe('day first');
  expect(dateOrder(['3/4/2026', '4/25/2026', ''])).toBe('month first');
  const dated = (day: string) => row(day, { 'Deliver by': day });
  expect(read(dated('24/12/2026'), dated('03/12/2026')).orders.map(o => o.promised)).toEqual([
    '2026-12-24',
    '2026-12-03',
  ]);
});

test('decimal comma in a price', () => {
  expect(read(row('W-1', { 'Unit price': '1.234,50' })).orders[0]!.lines[0]!.priceMinor).toBe(123_450);
});
