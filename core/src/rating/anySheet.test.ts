import fc from 'fast-check';
import { expect, test } from 'vitest';
import { readBill } from '../costs/readBill.js';
import { MG } from '../units/units.js';
import { type RatedParcel, rate } from './rate.js';
import { readRateSheet } from './readRateSheet.js';

const SHEET = `
sheet,Test,USD,from 2026-01-01
service,g,Ground,step 1 lb,divisor 139 in/lb,least 7.10,fuel 8.5 %,side up to 48 in,girth up to 165 in
prices,g,1,2
zone,g,1,US,up to 150 mi,1
zone,g,2,US,,3
weight,g,1 lb,1.00,2.00
weight,g,20 lb,1.50,2.50
weight,g,150 lb,11.50,
cubic,g,0.3,0.90,1.90
service,a,Air,step 0.5 kg,divisor 5000 cm/kg,from 1 lb
prices,a,X,Y
zone,a,X,US,postcode 967 968,2
zone,a,Y,CA,,4
weight,a,0.5 kg,10.00,20.00
weight,a,30 kg,90.00,120.00
surcharge,*,bulky,weight over 50 lb,9.00
surcharge,g,far,postcode 967 968,3 %
surcharge,g,worth,value over 100 each 50,1.00
surcharge,a,long,side over 40 in,5.00
surcharge,*,rebate,always,-0.25
surcharge,a,signed,signature,2.50
`
  .trim()
  .split('\n')
  .map(line => line.split(','));
const BILL = [
  ['Tracking', 'Service', 'Weight', 'Unit', 'Amount', 'Fuel'],
  ['RE100200300', 'Ground', '2', 'lb', '12.50', '0.80'],
  ['RE100200301', 'Air', '1.2 kg', '', '8.00', ''],
];

/** What may stand in a cell instead. */
const CELLS = [
  ...[
    '',
    ' ',
    '*',
    'g',
    'a',
    'h',
    '1',
    '2',
    'X',
    'US',
    'USA',
    '0',
    '-1',
    '0.00',
    '-500.00',
    '1e9',
    '0 lb',
    '1 lb',
  ],
  ...[
    '99999 lb',
    '0.5 kg',
    'step 0 lb',
    'step 7 oz',
    'divisor 0 in/lb',
    'divisor 1 cm/kg',
    'fuel -50 %',
    'fuel 9999 %',
  ],
  ...[
    'least -1',
    'side up to 0 in',
    'up to -5 mi',
    'up to 9999 mi',
    'postcode',
    'postcode 9',
    '1000 %',
    '-100 %',
  ],
  ...[
    'always',
    'home',
    'value over 0 each 0',
    'value over 0 each 0.01',
    'weight over 0 lb',
    'girth over 1 in',
    'cash',
  ],
  ...[
    'sheet',
    'service',
    'prices',
    'zone',
    'weight',
    'cubic',
    'surcharge',
    'constructor',
    '__proto__',
    '\u0000',
    'é',
  ],
  ...[
    '9'.repeat(30),
    'x'.repeat(500),
    'from 2026-02-30',
    'from 9999-01-01',
    'Tracking',
    'Amount',
    'ß'.repeat(90),
  ],
];
const change = fc.record({
  how: fc.constantFrom('cell', 'cell', 'cell', 'drop', 'twice', 'swap', 'short'),
  row: fc.nat(30),
  other: fc.nat(30),
  at: fc.nat(8),
  to: fc.oneof(fc.constantFrom(...CELLS), fc.string({ unit: 'binary', maxLength: 12 })),
});
type Change = typeof change extends fc.Arbitrary<infer C> ? C : never;

function changed(rows: readonly string[][], changes: readonly Change[]): string[][] {
  const now = rows.map(r => [...r]);
  for (const { how, row, other, at, to } of changes) {
    if (now.length === 0) break;
    const [i, j] = [row % now.length, other % now.length];
    if (how === 'cell') now[i]![at % (now[i]!.length + 1)] = to;
    else if (how === 'drop') now.splice(i, 1);
    else if (how === 'twice') now.splice(j, 0, [...now[i]!]);
    else if (how === 'swap') [now[i], now[j]] = [now[j]!, now[i]!];
    else now[i]!.length = at % (now[i]!.length + 1);
  }
  return now;
}

const parcel: fc.Arbitrary<RatedParcel> = fc.record({
  size: fc.record({
    length: fc.integer({ min: 10, max: 20_000 }),
    width: fc.integer({ min: 10, max: 8_000 }),
    height: fc.integer({ min: 10, max: 8_000 }),
  }),
  weightMg: fc.integer({ min: 1, max: 80 * MG.kg }),
  from: fc.constant({ country: 'US', postcode: '83702', point: { lat: 43.6, lon: -116.2 } }),
  to: fc.constantFrom(
    { country: 'US', postcode: '83704', point: { lat: 43.6, lon: -116.3 } },
    { country: 'US', postcode: '96701', point: { lat: 21.3, lon: -157.8 } },
    { country: 'CA', postcode: 'K1A0B1', point: null },
  ),
  residential: fc.boolean(),
  options: fc.constantFrom({}, { valueMinor: 50_000 }, { signature: true }, { cashMinor: 100 }),
});

test('a rate sheet is read or refused row by row, whatever stands in it; by what was read no price is less than nothing', () => {
  fc.assert(
    fc.property(
      fc.array(change, { minLength: 1, maxLength: 4 }),
      fc.array(parcel, { minLength: 4, maxLength: 4 }),
      (changes, parcels) => {
        const rows = changed(SHEET, changes);
        const read = readRateSheet(rows);
        if (!read.ok) {
          expect(read.problem.length).toBeGreaterThan(0);
          for (const { row, why } of read.problem) {
            expect(row).toBeGreaterThanOrEqual(1);
            expect(row).toBeLessThanOrEqual(Math.max(1, rows.length));
            expect(why.length).toBeGreaterThan(5);
            expect(why.length).toBeLessThan(400);
          }
          return;
        }
        expect(readRateSheet(rows)).toEqual(read);
        for (const card of read.value.services)
          for (const p of parcels) {
            const rated = rate(card, p);
            if (!rated.ok) continue;
            const { minor, charges, days } = rated.value;
            expect(Number.isSafeInteger(minor)).toBe(true);
            expect(minor).toBeGreaterThanOrEqual(0);
            expect(charges.reduce((n, c) => n + c.minor, 0)).toBe(minor);
            expect(Number.isInteger(days) && days >= 0).toBe(true);
          }
      },
    ),
    { numRuns: 3_000 },
  );
});

test('a heavier parcel costs no less, and one that is too heavy is refused', () => {
  const read = readRateSheet(SHEET);
  if (!read.ok) throw new Error(JSON.stringify(read.problem));
  fc.assert(
    fc.property(parcel, fc.integer({ min: 0, max: 60 * MG.kg }), (p, more) => {
      for (const card of read.value.services) {
        const [light, heavy] = [rate(card, p), rate(card, { ...p, weightMg: p.weightMg + more })];
        if (light.ok && heavy.ok) expect(heavy.value.minor).toBeGreaterThanOrEqual(light.value.minor);
        if (!light.ok && !light.problem.includes('too light')) expect(heavy.ok).toBe(false);
      }
    }),
    { numRuns: 1_000 },
  );
});

test('a bill is read or refused row by row, whatever stands in it', () => {
  fc.assert(
    fc.property(fc.array(change, { minLength: 1, maxLength: 4 }), changes => {
      const rows = changed(BILL, changes);
      const read = readBill(rows, 'USD');
      if (!read.ok) {
        for (const { row, why } of read.problem) {
          expect(row).toBeLessThanOrEqual(Math.max(1, rows.length));
          expect(why).toMatch(/\.$/);
        }
        return;
      }
      for (const line of read.value) {
        expect(line.tracking).toMatch(/^[\x21-\x7e]{5,40}$/);
        expect(Number.isSafeInteger(line.minor)).toBe(true);
        expect([...line.service].length).toBeLessThanOrEqual(80);
        for (const c of line.charges) {
          expect(Number.isSafeInteger(c.minor) && c.minor !== 0).toBe(true);
          expect([...c.name].length).toBeLessThanOrEqual(80);
        }
      }
    }),
    { numRuns: 3_000 },
  );
});
