import fc from 'fast-check';
import { expect, test } from 'vitest';
import { addBusinessDays } from '../departures/businessDays.js';
import { MG } from '../units/units.js';
import { rankOffers } from './offers.js';
import { billableWeight, billedAs, isByVolume, type RatedParcel, rate } from './rate.js';
import { lengthPlusGirth, type RateSheet } from './rateSheet.js';
import { readRateSheet } from './readRateSheet.js';
import { reachOf } from './zones.js';

const cube = (inches: number) => ({ length: inches * 254, width: inches * 254, height: inches * 254 });
const rows = (text: string): string[][] =>
  text
    .trim()
    .split('\n')
    .map(line => line.split(',').map(c => c.trim()));

const SHEET = `
sheet, Test, USD, from 2026-01-01
service, g, Ground, step 1 lb, divisor 139 in/lb, fuel 10 %, girth up to 165 in
prices, g, 1, 2, X
zone, g, 1, US, up to 150 mi, 1
zone, g, 2, US, up to 9000 mi, 3
zone, g, X, US, postcode 967 99, 6
weight, g, 1 lb, 1.00, 2.00, 9.00
weight, g, 5 lb, 3.00, 4.00, 12.00
weight, g, 20 lb, 9.00, 10.00
cubic, g, 0.1 cu ft, 0.90, 1.90
cubic, g, 0.5 cu ft, 2.50, 3.50
surcharge, g, home address, home, 1.65
surcharge, g, long, girth over 105 in, 18.50
surcharge, g, signature, signature, 3.00
surcharge, g, declared value, value over 100 each 100, 1.00
surcharge, g, season, always, 2.5 %
surcharge, g, counter, drop-off, -0.50
`;
const sheetOf = (text: string): RateSheet => {
  const read = readRateSheet(rows(text));
  if (!read.ok) throw new Error(JSON.stringify(read.problem));
  return read.value;
};
const GROUND = sheetOf(SHEET).services[0]!;
const place = (postcode: string, lat: number) => ({ country: 'US', postcode, point: { lat, lon: -82 } });
const parcel = (more: Partial<RatedParcel> = {}): RatedParcel => ({
  size: cube(12),
  weightMg: 1e6,
  from: place('43701', 40),
  to: place('10001', 43),
  residential: false,
  ...more,
});
const rated = (p: RatedParcel) => {
  const got = rate(GROUND, p);
  if (!got.ok) throw new Error(got.problem);
  return got.value;
};

test('billable weight is the greater of actual and dimensional, rounded up to the step', () => {
  expect(billableWeight({ size: cube(12), weightMg: 453_592 }, GROUND.step, GROUND.dim)).toMatchObject({
    says: '13 lb',
    why: 'volume',
  });
  expect(billableWeight({ size: cube(4), weightMg: 453_592 }, GROUND.step, GROUND.dim)).toMatchObject({
    says: '1 lb',
    why: 'weight',
  });
  const half = { count: 0.5, unit: 'kg', mg: 500_000 } as const;
  const metric = { size: { length: 5000, width: 4000, height: 3000 }, weightMg: 2_000_000 };
  // 60,000 cubic centimetres by 5000 are 12 kg.
  expect(billableWeight(metric, half, { value: 5000, unit: 'cm/kg' }).says).toBe('12 kg');
  expect(billableWeight(metric, half, null).says).toBe('2 kg');
  expect(lengthPlusGirth({ length: 2540, width: 5080, height: 2540 })).toBe(5080 + 4 * 2540);
});

test('words that are kept with a label tell whether it was paid by size', () => {
  const words = (['volume', 'cubic', 'weight'] as const).map(why =>
    billedAs({ says: why === 'cubic' ? '0.3 cu ft' : '13 lb', why }),
  );
  expect(words).toEqual(['13 lb by volume', '0.3 cu ft', '13 lb']);
  expect(words.map(isByVolume)).toEqual([true, true, false]);
  expect(isByVolume('by agreement')).toBe(false);
});

test('charges are itemised in the order of the sheet, and fuel is a share of all of them', () => {
  const got = rated(
    parcel({ residential: true, options: { signature: true, valueMinor: 25_000, dropOff: true } }),
  );
  // 13 lb by volume to zone 2, a foot cubed is over the last tier.
  expect(got.charges).toEqual([
    { name: '13 lb to zone 2', minor: 1000 },
    { name: 'home address', minor: 165 },
    { name: 'signature', minor: 300 },
    { name: 'declared value', minor: 200 },
    { name: 'season', minor: 25 },
    { name: 'counter', minor: -50 },
    { name: 'fuel', minor: 164 },
  ]);
  expect(got).toMatchObject({ minor: 1804, zone: '2', days: 3, billable: { why: 'volume' } });
});

test('a cubic tier counts where it is cheaper than the weight', () => {
  // 8 x 8 x 8 in is 0.296 cubic feet: the tier up to 0.5 at 3.50 against 4.00 for 4 lb.
  expect(rated(parcel({ size: cube(8) })).billable).toMatchObject({ says: '0.5 cu ft', why: 'cubic' });
  expect(rated(parcel({ size: cube(4), weightMg: 400_000 })).charges[0]!.minor).toBe(190);
  expect(
    rated(parcel({ size: cube(8), weightMg: 453_000, to: place('43215', 40.1) })).charges[0]!.minor,
  ).toBe(250);
});

test('what a service does not take is refused with why', () => {
  const why = (p: Partial<RatedParcel>) => {
    const got = rate(GROUND, parcel(p));
    return got.ok ? 'taken' : got.problem;
  };
  expect(why({ size: cube(4), weightMg: 2e7 })).toBe('the parcel is too heavy');
  expect(why({ size: { length: 150 * 254, width: 2540, height: 2540 } })).toBe('the parcel is too large');
  expect(why({ to: { country: 'NL', postcode: '1011AB', point: null } })).toBe('Ground does not go there');
  expect(why({ to: { country: 'US', postcode: '10001', point: null } })).toBe('Ground does not go there');
  expect(why({ options: { saturday: true } })).toBe('Ground does not deliver on Saturdays');
  expect(why({ options: { cashMinor: 100 } })).toBe('Ground takes no money at the door');
  // Zone X has no price above 5 lb.
  expect(why({ to: place('96701', 21), size: cube(4), weightMg: 5e6 })).toBe('the parcel is too heavy');
});

test('zones: the longest prefix, else the least distance, else the whole country', () => {
  const reaches = [
    { zone: 'all', country: 'US', days: 5 },
    { zone: 'far', country: 'US', milesUpTo: 600, days: 3 },
    { zone: 'near', country: 'US', milesUpTo: 300, days: 2 },
    { zone: 'isles', country: 'US', prefix: '9', days: 7 },
    { zone: 'town', country: 'US', prefix: '967', days: 6 },
  ];
  const at = (postcode: string, lat: number) =>
    reachOf(reaches, place('43701', 40), place(postcode, lat))?.zone;
  expect([at('10001', 43), at('10001', 46), at('10001', 60), at('96701', 40), at('90001', 40)]).toEqual([
    'near',
    'far',
    'all',
    'town',
    'isles',
  ]);
  expect(reachOf(reaches, place('43701', 40), { country: 'US', postcode: '10001', point: null })?.zone).toBe(
    'all',
  );
});

test('the charges always sum to the price, and heavier or larger is never cheaper by weight', () => {
  const byWeight = { ...GROUND, cubic: [] };
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 20 }),
      fc.integer({ min: 1, max: 20_000_000 }),
      fc.integer({ min: 0, max: 3_000_000 }),
      fc.boolean(),
      (side, weightMg, more, residential) => {
        const light = rate(byWeight, parcel({ size: cube(side), weightMg, residential }));
        const heavy = rate(byWeight, parcel({ size: cube(side), weightMg: weightMg + more, residential }));
        if (!light.ok) return !heavy.ok;
        expect(light.value.charges.reduce((n, c) => n + c.minor, 0)).toBe(light.value.minor);
        if (heavy.ok) expect(heavy.value.minor).toBeGreaterThanOrEqual(light.value.minor);
        return true;
      },
    ),
  );
});

test('a sheet with gaps, overlaps or commas for points is refused with the row and the cure', () => {
  const bad = (text: string) => {
    const read = readRateSheet(rows(text));
    return read.ok ? [] : read.problem.map(b => `${b.row}: ${b.why}`);
  };
  const changed = (from: string, to: string) => bad(SHEET.replace(from, to));
  expect(changed('weight, g, 5 lb, 3.00, 4.00, 12.00', 'weight, g, 5 lb, 3,00, 4,00, 12,00')).toEqual([
    '8: 6 prices for 3 zones; if cents stand behind a comma, part the columns with semicolons or write points',
  ]);
  expect(changed('weight, g, 5 lb', 'weight, g, 1 lb')[0]).toBe(
    '8: the row up to 1 lb overlaps the one above it; weights go upwards',
  );
  expect(changed('4.00, 12.00', ', 12.00')).toEqual([
    '2: g has a gap in zone 2: a price is missing between two others',
  ]);
  expect(changed('zone, g, X, US, postcode 967 99, 6', '# nothing')).toEqual([
    '2: nothing says which addresses are in zone X of g',
  ]);
  expect(changed('2.00, 9.00', 'two, 9.00')).toEqual(['7: "two" in zone 2 is no price such as 7.10']);
  expect(changed('surcharge, g, season, always', 'surcharge, g, season, often')[0]).toMatch(
    /^16: "often" is none of/,
  );
  expect(changed('sheet, Test, USD', 'sheet, Test, dollars')[0]).toMatch(/"dollars" is no currency/);
  expect(changed('step 1 lb', 'step 1 stone')[0]).toMatch(/"step 1 stone" cannot be read/);
  expect(bad('')).toEqual([
    '1: the first row is: sheet, name, currency, day from',
    '0: there is no service in it',
  ]);
  expect(bad('weight, g, 1 lb, 2')[0]).toMatch(/first row is/);
});

test('no cells of any kind break the reader', () => {
  const word = fc.oneof(
    fc.constantFrom(
      'sheet',
      'service',
      'prices',
      'zone',
      'weight',
      'cubic',
      'surcharge',
      '*',
      'g',
      '1 lb',
      '1.00',
      'US',
      'home',
    ),
    fc.string({ maxLength: 12 }),
  );
  fc.assert(
    fc.property(fc.array(fc.array(word, { minLength: 1, maxLength: 6 }), { maxLength: 12 }), cells => {
      const read = readRateSheet([...rows(SHEET), ...cells]);
      return read.ok || read.problem.every(b => b.row >= 0 && b.why.length > 5);
    }),
  );
});

test('offers: those that keep the day, cheapest first; then the late, earliest first; cheapest in time and fastest are marked', () => {
  const offer = (service: string, minor: number, arrives: string) => ({
    carrier: 'c',
    service,
    minor,
    arrives,
  });
  const ranked = rankOffers(
    [
      offer('slow', 100, '2026-11-30'),
      offer('fast', 900, '2026-11-24'),
      offer('good', 500, '2026-11-25'),
      offer('late', 50, '2026-12-02'),
    ],
    '2026-11-25',
  );
  expect(ranked.map(o => o.service)).toEqual(['good', 'fast', 'slow', 'late']);
  expect(ranked.filter(o => o.cheapest).map(o => o.service)).toEqual(['good']);
  expect(ranked.filter(o => o.fastest).map(o => o.service)).toEqual(['fast']);
  expect(rankOffers([offer('late', 50, '2026-12-02')], '2026-11-25')[0]).toMatchObject({
    cheapest: false,
    fastest: true,
  });
});

test('business days pass over weekends and holidays; a Saturday counts only as the day of arrival', () => {
  const closed = new Set(['2026-11-26']);
  expect(addBusinessDays('2026-11-27', 1)).toBe('2026-11-30');
  expect(addBusinessDays('2026-11-25', 1, { closed })).toBe('2026-11-27');
  expect(addBusinessDays('2026-11-26', 0, { closed })).toBe('2026-11-27');
  expect(addBusinessDays('2026-11-27', 1, { saturdays: true })).toBe('2026-11-28');
  expect(addBusinessDays('2026-11-27', 2, { saturdays: true })).toBe('2026-12-01');
  expect(addBusinessDays('2026-11-28', 0)).toBe('2026-11-30');
});

test('a step is what the sheet says', () => {
  expect(GROUND.step).toEqual({ count: 1, unit: 'lb', mg: MG.lb });
});
