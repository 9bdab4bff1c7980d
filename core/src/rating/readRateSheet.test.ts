import { expect, test } from 'vitest';
import { readRateSheet } from './readRateSheet.js';

const SHEET = `
sheet,Test,USD,from 2026-01-01
service,g,Ground,step 1 lb
prices,g,1,2
zone,g,1,US,up to 150 mi,1
zone,g,2,US,,3
weight,g,1 lb,1.00,2.00
weight,g,2 lb,1.50,2.50
`;
const cells = (text: string) =>
  text
    .trim()
    .split('\n')
    .map(line => line.split(','));
/** What is said of the sheet with one row in place of another, or with a row more. */
const said = (row: string, instead?: string): string[] => {
  const read = readRateSheet(cells(instead ? SHEET.replace(instead, row) : `${SHEET.trim()}\n${row}`));
  return read.ok ? [] : read.problem.map(b => `${b.row}: ${b.why}`);
};

test('a sheet with all that a service may have is read whole', () => {
  const read = readRateSheet(
    cells(`${SHEET.trim().replace(
      'step 1 lb',
      'step 0.5 kg,divisor 5000 cm/kg,least 7.10,fuel 8.5 %,from 151 lb,side up to 48 in,girth up to 274 cm',
    )}
cubic,g,0.3,4.00,5.00
surcharge,*,bulky,weight over 50 lb,9.00
surcharge,g,far,postcode 967 968,3 %
surcharge,g,worth,value over 100 each 50,-1.00`)
      // Weights of this service are whole steps of half a kilogram.
      .map(r => (r[0] === 'weight' ? [r[0], r[1]!, r[2] === '1 lb' ? '0.5 kg' : '1 kg', ...r.slice(3)] : r)),
  );
  if (!read.ok) throw new Error(JSON.stringify(read.problem));
  expect(read.value).toMatchObject({ name: 'Test', currency: 'USD', from: '2026-01-01' });
  expect(read.value.services[0]).toMatchObject({
    step: { count: 0.5, unit: 'kg', mg: 500_000 },
    dim: { value: 5_000, unit: 'cm/kg' },
    leastMinor: 710,
    fuelPpm: 85_000,
    mostSide: 12_192,
    mostGirth: 27_400,
    zones: ['1', '2'],
    reaches: [
      { zone: '1', country: 'US', milesUpTo: 150, days: 1 },
      { zone: '2', country: 'US', days: 3 },
    ],
    cubic: [{ upToFeet: 0.3, prices: [400, 500] }],
    surcharges: [
      { name: 'bulky', minor: 900, when: { kind: 'weight' } },
      { name: 'far', ppm: 30_000, when: { kind: 'postcode', prefixes: ['967', '968'] } },
      { name: 'worth', minor: -100, when: { kind: 'value', overMinor: 10_000, eachMinor: 5_000 } },
    ],
  });
});

test.each([
  ['sheet,Again,USD,from 2026-01-01', undefined, '8: the sheet has been named already'],
  ['sheet,,USD,from 2026-01-01', 'sheet,Test,USD,from 2026-01-01', 'a name of up to 80 letters is wanted'],
  ['from 2026-13-01', 'from 2026-01-01', '1: "from 2026-13-01" is no day such as 2027-01-01'],
  ['service,G!,Ground', undefined, '8: a service has a code of small letters, digits and dashes'],
  ['service,g,Ground', undefined, '8: the service "g" stands twice'],
  ['service,h,', undefined, '8: a service has a name of up to 80 letters'],
  ['step 1 lb,speed 9', 'step 1 lb', '2: "speed 9" is none of step, divisor, least, fuel, from'],
  ['step 0 lb', 'step 1 lb', '2: "step 0 lb" cannot be read'],
  ['step 1 lb,side up to 4 yards', 'step 1 lb', '2: "side up to 4 yards" cannot be read'],
  ['step 1 lb,divisor 139', 'step 1 lb', '2: "divisor 139" cannot be read'],
  ['prices,g,1,1', 'prices,g,1,2', '3: the zones stand once each behind the service'],
  ['prices,g,3', undefined, '8: g has its zones already'],
  ['prices,nobody,1', undefined, '8: there is no service "nobody" above this row'],
  ['zone,g,1,USA,,1', undefined, '8: a country is written with its two letters'],
  ['zone,g,1,US,near,1', undefined, '8: "near" is neither "postcode 967 968" nor "up to 150 mi" nor empty'],
  ['zone,g,1,US,,soon', undefined, '8: "soon" is no number of business days'],
  ['zone,g,9,US,,1', undefined, '8: g has no prices for zone 9; its prices row stands above'],
  ['weight,g,heavy,1.00', undefined, '8: "heavy": '],
  ['cubic,g,0 cu ft,1.00', undefined, '8: "0 cu ft" is no volume such as 0.3 cu ft'],
  ['cubic,g,1 cu ft,1.00\ncubic,g,0.5,1.00', undefined, '9: the tier up to 0.5 overlaps the one above it'],
  ['surcharge,g,,home,1.00', undefined, '8: a surcharge has a name of up to 60 letters'],
  ['surcharge,g,odd,weight over nothing,1.00', undefined, '8: "weight over nothing" is none of always, home'],
  ['surcharge,g,odd,girth over far,1.00', undefined, '8: "girth over far" is none of always, home'],
  ['surcharge,g,odd,value over much each 1,1.00', undefined, '8: "value over much each 1" is none of always'],
  ['surcharge,g,odd,home,some', undefined, '8: "some" is neither an amount nor a share such as 2.5 %'],
  ['service,h,Second', undefined, 'h has no prices'],
  ['weight,g,1.5 lb,1.20,2.20', 'weight,g,1 lb,1.00,2.00', 'a weight of g is no whole number of its steps'],
])('a sheet is refused with the row and what is wanted: %s', (row, instead, says) => {
  expect(said(row, instead).join(' | ')).toContain(says);
});

test('prices before the zones they are for are refused, and all that is wrong is told at once', () => {
  const read = readRateSheet(
    cells('sheet,Test,USD,from 2026-01-01\nservice,g,Ground\nweight,g,1 lb,1.00\nzone,g,1,US,,x'),
  );
  if (read.ok) throw new Error('it was read');
  expect(read.problem.map(b => `${b.row}: ${b.why}`)).toEqual([
    '3: g needs its prices row first: it names the zones',
    '4: "x" is no number of business days',
    '2: g has no prices',
  ]);
});
