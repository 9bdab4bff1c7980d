import fc from 'fast-check';
import { expect, test } from 'vitest';
import { PROPOSE_FROM, Proposer, packUnits, pairLikeness } from './propose.js';

const product = (
  id: string,
  sku: string,
  name: string,
  barcodes: string[] = [],
  otherCodes: string[] = [],
) => ({ id, sku, name, barcodes, otherCodes });
const proposer = new Proposer([
  product('deep', 'HVB-DP-F', 'Deep hive body, pine, flat', ['00400000000012']),
  product('medium', 'HVB-MD-F', 'Medium hive body, pine, flat'),
  product('jar12', 'JAR-HEX-12', 'Honey jar, hex, 12 oz'),
  product('jar9', 'JAR-HEX-09', 'Honey jar, hex, 9 oz', [], ['OLD-JAR-9']),
  product('strips', 'MIT-STR-10', 'Mite strips, 10 pack'),
]);
const best = (channelSku: string, title: string, gtin = '') =>
  proposer.propose({ channelSku, title, gtin })[0];

test('an equal barcode is certain, whatever SKU and title say', () => {
  const found = best('X-99', 'Hive body', '00400000000012');
  expect(found).toMatchObject({ productId: 'deep', score: 1 });
  expect(found!.why[0]).toBe('same barcode');
});

test('another code the product is known by is nearly so', () => {
  expect(best('old-jar-9', 'Jar')!.why[0]).toBe('known by this code');
  expect(best('old-jar-9', 'Jar')).toMatchObject({
    productId: 'jar9',
    score: 0.95,
  });
});

test('likeness of SKU without the channel’s prefix, and of title, with the reasons', () => {
  expect(best('FM-JAR-HEX-12', 'Honey jar, hex, 12 oz')).toEqual({
    productId: 'jar12',
    score: 1,
    units: 1,
    why: ['SKU 100 % alike', 'title 100 % alike'],
  });
  const near = best('FM-HVB-DEEP-2', 'Deep hive body, pair, unassembled');
  expect(near).toMatchObject({ productId: 'deep', units: 2 });
  expect(near!.score).toBeGreaterThan(0.35);
});

test('nothing alike, nothing proposed', () => {
  expect(best('ZZ-1', 'Kitchen clock')).toBeUndefined();
});

test('units of one sale by the words of the title, unless the product is a pack itself', () => {
  expect(packUnits('Frames, pack of 10')).toBe(10);
  expect(packUnits('3 x smoker')).toBe(3);
  expect(packUnits('Deep hive body')).toBe(1);
  expect(best('MIT-STR-10', 'Mite strips, 10 pack')).toMatchObject({ productId: 'strips', units: 1 });
});

test('pair likeness: 1 for equal, 0 for nothing shared, symmetric', () => {
  expect(pairLikeness('NIGHT', 'NACHT')).toBeCloseTo(0.25, 10);
  expect(pairLikeness('A', '')).toBe(0);
  expect(pairLikeness('ABAB', 'AB')).toBe(pairLikeness('AB', 'ABAB'));
});

test('codes of other letters are compared as they are, and signs alone are like nothing', () => {
  const other = new Proposer([
    product('bee', '蜂-1', '蜂蜜', [], ['はちみつ']),
    product('wax', '蝋-1', 'Wax', [], ['みつろう', '--']),
  ]);
  expect(other.propose({ channelSku: 'みつろう', title: '', gtin: '' })).toMatchObject([
    { productId: 'wax', score: 0.95 },
  ]);
  expect(other.propose({ channelSku: 'FM-蜂-1', title: '', gtin: '' })[0]).toMatchObject({
    productId: 'bee',
  });
  for (const channelSku of ['***', '--', '名前', ''])
    expect(other.propose({ channelSku, title: '', gtin: '' }), channelSku).toEqual([]);
});

test('whatever a channel calls it: proposals come best first, from 0.35 to 1, each product once and each with a reason', () => {
  const text = fc.oneof(
    fc.constantFrom(
      'HVB-DP-F',
      'FM-JAR-HEX-12',
      'pair',
      'pack of 999',
      '0 pack',
      '3 x ',
      'Honey jar',
      '蜂蜜',
      '',
      '-',
    ),
    fc.string({ unit: 'binary', maxLength: 20 }),
  );
  const products = fc.array(
    fc.record({
      sku: text,
      name: text,
      barcodes: fc.constantFrom([], ['00400000000012'], ['']),
      otherCodes: fc.array(text, { maxLength: 2 }),
    }),
    { maxLength: 8 },
  );
  fc.assert(
    fc.property(
      products,
      text,
      text,
      fc.constantFrom('', '00400000000012'),
      (some, channelSku, title, gtin) => {
        const found = new Proposer(some.map((p, i) => ({ ...p, id: String(i) }))).propose({
          channelSku,
          title,
          gtin,
        });
        expect(found.length).toBeLessThanOrEqual(3);
        expect(new Set(found.map(f => f.productId)).size).toBe(found.length);
        found.forEach((f, i) => {
          expect(f.score).toBeGreaterThanOrEqual(PROPOSE_FROM);
          expect(f.score).toBeLessThanOrEqual(Math.min(1, found[i - 1]?.score ?? 1));
          expect(f.why.length).toBeGreaterThan(0);
          expect(f.units).toBeGreaterThanOrEqual(1);
          if (f.why[0] === 'same barcode') expect(some[Number(f.productId)]!.barcodes).toContain(gtin);
        });
      },
    ),
    { numRuns: 1_000 },
  );
});
