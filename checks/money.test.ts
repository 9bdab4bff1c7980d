import { cubicInches, makeable, parseSize, rate } from '@auk/core';
import { CARRIERS } from '@auk/demo';
import { expect, test } from 'vitest';

// Common practice of the trade; no published source.
test('8 x 8 x 8 in is 0.296 cubic feet; 10 of each of four parts make 10 packs and 9 after one', () => {
  const size = parseSize('8x8x8 in');
  expect(size.ok && (cubicInches(size.value) / 1728).toFixed(3)).toBe('0.296');
  const parts = ['a', 'b', 'c', 'd'].map(productId => ({ productId, quantity: 1 }));
  expect([makeable(parts, () => 10), makeable(parts, () => 9)]).toEqual([10, 9]);
});

test('every cell of the demo’s rate cards is the sum of its itemised charges, and grows with weight and zone', () => {
  for (const carrier of CARRIERS)
    for (const card of carrier.services) {
      const price = (weightMg: number, zone: number) =>
        rate(card, { size: { length: 1000, width: 1000, height: 1000 }, weightMg, zone, residential: true })!;
      for (const zone of [1, 4, 8]) {
        const [light, heavy] = [price(100_000, zone), price(400_000, zone)];
        expect(light.charges.reduce((n, c) => n + c.minor, 0)).toBe(light.minor);
        expect(heavy.minor).toBeGreaterThanOrEqual(light.minor);
        if (zone > 1) expect(light.minor).toBeGreaterThan(price(100_000, 1).minor);
      }
    }
});
