import fc from 'fast-check';
import { expect, test } from 'vitest';
import { type CheckedOrder, checkOrder } from './check.js';
import { HOLDS, type Hold, orderStage, type StageFacts } from './stage.js';

const none = Object.fromEntries(HOLDS.map(h => [h, 0])) as Record<Hold, number>;
const facts = (more: Partial<StageFacts>): StageFacts => ({
  checked: true,
  cancelled: false,
  parked: false,
  elsewhere: 'no',
  stopReasons: 0,
  wanted: 5,
  held: none,
  closed: 0,
  labelled: 0,
  ...more,
});

test('the least advanced unit gives the word', () => {
  expect(orderStage(facts({}))).toBe('Short');
  expect(orderStage(facts({ held: { ...none, soft: 5 } }))).toBe('Clear');
  expect(orderStage(facts({ held: { ...none, soft: 1, picked: 4 } }))).toBe('Clear');
  expect(orderStage(facts({ held: { ...none, listed: 1, picked: 4 } }))).toBe('Listed');
  expect(orderStage(facts({ held: { ...none, packed: 5 } }))).toBe('Picked');
  expect(orderStage(facts({ held: { ...none, packed: 5 }, closed: 5 }))).toBe('Packed');
  expect(orderStage(facts({ held: { ...none, packed: 3, departed: 2 }, closed: 3, labelled: 3 }))).toBe(
    'Labelled',
  );
  expect(orderStage(facts({ held: { ...none, departed: 5 } }))).toBe('Departed');
});

test('flags come before progress, in their order', () => {
  const held = { ...none, soft: 5 };
  expect(orderStage(facts({ held, parked: true, stopReasons: 1 }))).toBe('Stopped');
  expect(orderStage(facts({ held, parked: true }))).toBe('Parked');
  expect(orderStage(facts({ held, checked: false }))).toBe('Incoming');
  expect(orderStage(facts({ held, cancelled: true, stopReasons: 2 }))).toBe('Cancelled');
});

test('every set of facts has a stage, and only all units away is Departed', () => {
  const n = fc.integer({ min: 0, max: 5 });
  fc.assert(
    fc.property(
      n,
      n,
      n,
      n,
      n,
      n,
      fc.integer({ min: 1, max: 5 }),
      (soft, listed, picked, sorted, packed, departed, wanted) => {
        const stage = orderStage(
          facts({
            wanted,
            held: { soft, listed, picked, sorted, packed, departed },
            closed: packed,
            labelled: packed,
          }),
        );
        return (stage === 'Departed') === departed >= wanted;
      },
    ),
  );
});

const good = { id: '1', sku: 'S', name: 'Smoker', stage: 'Live' as const, scannable: true, customsLacks: [] };
const order = (more: Partial<CheckedOrder> = {}): CheckedOrder => ({
  payment: 'paid',
  shipTo: {
    name: 'A',
    company: '',
    line1: '1 Road',
    line2: '',
    city: 'Boise',
    region: 'ID',
    postcode: '83702',
    country: 'US',
    phone: '',
  },
  home: 'US',
  suspicions: [],
  differences: [],
  letUncodedThrough: false,
  latinWanted: false,
  lines: [{ channelName: 'Web store', channelSku: 'W', title: 'T', product: good, parts: [good] }],
  ...more,
});
const tables = {
  isCountry: (c: string) => c === 'US' || c === 'NL',
  isPostcode: (p: string) => /^\d{5}$/.test(p),
};
const codes = (o: CheckedOrder) => checkOrder(o, tables).map(r => r.code);

test('each fault is one reason with a cure', () => {
  expect(codes(order())).toEqual([]);
  expect(codes(order({ lines: [] }))).toEqual(['nothing-ordered']);
  expect(codes(order({ payment: 'unpaid' }))).toEqual(['unpaid']);
  expect(codes(order({ payment: 'on delivery' }))).toEqual([]);
  expect(codes(order({ shipTo: { ...order().shipTo, country: 'XX' } }))).toEqual(['bad-country']);
  expect(codes(order({ shipTo: { ...order().shipTo, postcode: '4370', line1: 'x'.repeat(41) } }))).toEqual([
    'bad-postcode',
    'long-address',
  ]);
  const line = order().lines[0]!;
  expect(
    codes(
      order({
        lines: [
          { ...line, product: null, parts: null },
          { ...line, product: null, parts: null },
        ],
      }),
    ),
  ).toEqual(['unlinked-listing']);
  expect(codes(order({ lines: [{ ...line, parts: null }] }))).toEqual(['bad-recipe']);
  expect(codes(order({ lines: [{ ...line, product: { ...good, stage: 'Retired' } }] }))).toEqual([
    'retired-product',
  ]);
  const mute = { ...good, sku: 'M', scannable: false };
  expect(codes(order({ lines: [{ ...line, product: mute, parts: [mute] }] }))).toEqual(['no-code']);
  expect(
    codes(order({ letUncodedThrough: true, lines: [{ ...line, product: mute, parts: [mute] }] })),
  ).toEqual([]);
  expect(codes(order({ suspicions: [{ number: 'W-1', why: ['the same things'] }] }))).toEqual(['duplicate']);
  expect(codes(order({ differences: [{ field: 'mail', words: 'mail', ours: 'a', theirs: 'b' }] }))).toEqual([
    'channel-differs',
  ]);
  expect(checkOrder(order({ payment: 'unpaid' }), tables)[0]!.cure).toBe(
    'Wait for the payment, or cancel it.',
  );
  expect(checkOrder(order({ payment: 'refunded' }), tables)[0]!.cure).toBe(
    'Cancel it, or say that it was paid again.',
  );
});

test('an address in other letters stops the order only where Latin ones are wanted', () => {
  const greek = { ...order().shipTo, name: 'Μαρία Παππά', city: 'Αθήνα' };
  expect(codes(order({ shipTo: greek }))).toEqual([]);
  expect(codes(order({ shipTo: greek, latinWanted: true }))).toEqual(['not-latin']);
  expect(codes(order({ latinWanted: true }))).toEqual([]);
});

test('a parcel abroad wants a telephone and customs facts; at home it does not', () => {
  const bare = { ...good, customsLacks: ['customs code'] };
  const lines = [{ channelName: 'Web store', channelSku: 'W', title: 'T', product: bare, parts: [bare] }];
  const abroad = { ...order().shipTo, country: 'NL', region: '' };
  expect(codes(order({ lines }))).toEqual([]);
  expect(codes(order({ lines, shipTo: abroad }))).toEqual(['no-customs', 'no-phone']);
  expect(codes(order({ lines: order().lines, shipTo: { ...abroad, phone: '1' } }))).toEqual([]);
});

test('what a label needs: name, street, town, a region where the country has them; long lines are named one by one', () => {
  const to = order().shipTo;
  const stops = (shipTo: typeof to) =>
    checkOrder(order({ shipTo }), tables).map(r => `${r.code} ${r.subject}`);
  expect(stops({ ...to, line1: ' ' })).toEqual(['incomplete-address line1']);
  expect(stops({ ...to, region: '' })).toEqual(['incomplete-address region']);
  expect(stops({ ...to, name: 'x'.repeat(60), line2: '🐝'.repeat(40) })).toEqual(['long-address name']);
  expect(stops({ ...to, city: 'Llanfairpwllgwyngyllgogerychwyrndrobwll' })).toEqual(['long-address city']);
});
