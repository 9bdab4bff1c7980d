import fc from 'fast-check';
import { expect, test } from 'vitest';
import { documentOf, documentTotals } from './document.js';
import { exampleOrder } from './exampleOrder.js';
import { applied, newsOf, touchesGoods } from './news.js';

const order = (underWay: boolean, now = exampleOrder()) => ({
  base: documentOf(exampleOrder()),
  document: documentOf(now),
  underWay,
});
const more = exampleOrder({
  note: 'ring twice',
  lines: [{ channelSku: 'A', title: 'Jar', quantity: 5, priceMinor: 100 }],
});

test('before the floor has it, everything new is taken', () => {
  const news = newsOf(order(false), more);
  expect(news.conflicts).toEqual([]);
  expect(news.after.lines['A#1']!.quantity).toBe(5);
  expect(news.after.head).toMatchObject({ note: 'ring twice', paidMinor: 1000 });
});

test('under way, goods and address wait for a person; notes and money do not', () => {
  {
    const news = newsOf(order(true), {
      ...more,
      shipTo: { ...more.shipTo, line1: '2 Road', phone: '555-0100' },
    });
    expect(news.after.lines['A#1']!.quantity).toBe(2);
    expect(news.after.head).toMatchObject({
      note: 'ring twice',
      'shipTo.line1': '1 Road',
      'shipTo.phone': '555-0100',
    });
    expect(news.conflicts.map(c => `${c.line ?? ''} ${c.field}`.trim())).toEqual([
      'shipTo.line1',
      'A#1 quantity',
    ]);
  }
});

test('the same news again are none, under way or not', () => {
  const ways = fc.boolean();
  const quantity = fc.integer({ min: 1, max: 50 });
  fc.assert(
    fc.property(ways, quantity, fc.string({ maxLength: 8 }), (underWay, n, note) => {
      const said = exampleOrder({ note, lines: [{ ...exampleOrder().lines[0]!, quantity: n }] });
      const first = newsOf(order(underWay), said);
      const again = newsOf({ base: first.theirs, document: first.after, underWay }, said);
      expect(again.taken).toEqual([]);
      expect(again.conflicts).toEqual([]);
    }),
  );
});

test('an order from before bases were kept takes the channel’s word', () => {
  const news = newsOf({ ...order(false), base: null }, more);
  expect(news.after.lines['A#1']!.quantity).toBe(5);
  expect(news.conflicts).toEqual([]);
});

test('what touches goods: lines and quantities, the address but not its telephone, the declared weight', () => {
  const change = (line: string | null, field: string) => ({ line, field, before: null, after: null });
  expect(
    [
      change('A#1', ''),
      change('A#1', 'quantity'),
      change(null, 'shipTo.city'),
      change(null, 'weightOverrideMg'),
    ].every(touchesGoods),
  ).toBe(true);
  expect(
    [
      change('A#1', 'priceMinor'),
      change(null, 'shipTo.phone'),
      change(null, 'billTo.city'),
      change(null, 'note'),
    ].some(touchesGoods),
  ).toBe(false);
});

test('applying changes copies, and leaves whole lines alone', () => {
  const before = documentOf(exampleOrder());
  const after = applied(before, [
    { line: null, field: 'note', before: '', after: 'x' },
    { line: 'A#1', field: 'quantity', before: 2, after: 3 },
    { line: 'B#1', field: 'quantity', before: 2, after: 3 },
    { line: 'A#1', field: '', before: '2 × Jar', after: null },
  ]);
  expect([after.head.note, after.lines['A#1']!.quantity, Object.keys(after.lines)]).toEqual([
    'x',
    3,
    ['A#1'],
  ]);
  expect([before.head.note, before.lines['A#1']!.quantity]).toEqual(['', 2]);
});

test('the money of a document is that of its lines', () => {
  expect(documentTotals(documentOf(exampleOrder()))).toMatchObject({
    goods: 200,
    shipping: 500,
    total: 700,
  });
});
