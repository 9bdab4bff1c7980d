import { expect, test } from 'vitest';
import { guessMapping, isoMoment, readOrderRows } from './orderFile.js';

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
const read = (...rows: string[][]) => readOrderRows([WEB, ...rows], guessMapping(WEB).mapping, 'USD');

test('headings of two channels are understood', () => {
  expect(guessMapping(WEB).missing).toEqual([]);
  expect(
    guessMapping(['SALE NO', 'ship to', 'Street', 'postal code', 'article number', 'pieces', 'each']).missing,
  ).toEqual([]);
  expect(guessMapping(['colour', 'size']).missing).toContain('number');
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
  const { orders, bad } = read(
    row('W-1'),
    row('W-1', { Qty: '-3' }),
    row('W-2', { 'Unit price': 'cheap' }),
    row('W-3'),
  );
  expect(orders.map(o => o.channelNumber)).toEqual(['W-3']);
  expect(bad).toEqual([
    { row: 3, column: 'Qty', value: '-3', why: 'is not a whole number from 1 to 10000' },
    expect.objectContaining({ row: 4, column: 'Unit price', value: 'cheap' }),
  ]);
});

test('quantities that are no quantities', () => {
  for (const bad of ['0', '1.5', '1e9', '999999999999', 'x', ' '])
    expect(read(row('W-1', { Qty: bad })).orders, bad).toEqual([]);
});

test('days are days', () => {
  expect(isoMoment('11/25/2026')).toBe('2026-11-25T00:00:00.000Z');
  expect(isoMoment('2026-11-25 08:30')).toBe('2026-11-25T08:30:00.000Z');
  for (const bad of ['2026-02-30', '13/13/2026', 'soon', '2026-11-25 25:00'])
    expect(isoMoment(bad), bad).toBeNull();
});
