import { expect, test } from 'vitest';
import { rate } from '../rating/rate.js';
import { theirRates } from './theirRates.js';

const place = { country: 'US', postcode: '43215', point: null };

test('a network’s freight is rated as a service: so much a piece, each begun kilogram more; elsewhere it does not go', () => {
  const service = theirRates({ name: 'Pick-up', pieceMinor: 420, kilogramMinor: 38, days: 3 }, ['US']);
  const piece = {
    size: { length: 3_000, width: 2_000, height: 2_000 },
    weightMg: 9_500_000,
    from: place,
    to: place,
    residential: false,
  };
  const rated = rate(service, piece);
  expect(rated.ok && [rated.value.minor, rated.value.days]).toEqual([800, 3]);
  expect(rate(service, { ...piece, to: { ...place, country: 'DK' } }).ok).toBe(false);
  expect(rate(service, { ...piece, weightMg: 1_002_000_000 }).ok).toBe(false);
});
