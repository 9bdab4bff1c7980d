import { expect, test } from 'vitest';
import { handingMinor } from './handing.js';

const CHARGES = { fetchMinor: 4_500, homeMinor: 6_500, hardMinor: 8_000, bringTo: '12 Foundry Road' };

test('fetching costs what it takes, and more from a home or a place that is hard to reach', () => {
  expect(handingMinor(CHARGES, 'fetched', 'dock')).toBe(4_500);
  expect(handingMinor(CHARGES, 'fetched', 'home')).toBe(11_000);
  expect(handingMinor(CHARGES, 'fetched', 'hard to reach')).toBe(12_500);
});

test('what is brought costs nothing, where it may be brought', () => {
  expect(handingMinor(CHARGES, 'brought', 'home')).toBe(0);
  expect(handingMinor({ ...CHARGES, bringTo: null }, 'brought', 'dock')).toBeNull();
});
