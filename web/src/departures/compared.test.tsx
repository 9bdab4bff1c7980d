import type { HandoverView } from '@auk/contract';
import { expect, test } from 'vitest';
import { shown } from '../parts/shown.js';
import { Compared } from './parts/Compared.js';

const parcel = (no: number, more: Partial<HandoverView['parcels'][number]> = {}) =>
  ({
    no: `PA-${no}`,
    buyer: `Buyer ${no}`,
    scanned: false,
    held: null,
    ...more,
  }) as HandoverView['parcels'][number];
const words = (parcels: HandoverView['parcels'], strange: HandoverView['strange'] = []) =>
  shown(<Compared view={{ parcels, strange } as HandoverView} />).words;

test('what was bought and is not scanned is counted and named, the first eight of many', () => {
  expect(words([parcel(1), parcel(2, { scanned: true })])).toBe('○ Bought, not scanned: 1 PA-1 Buyer 1');
  const many = words(Array.from({ length: 10 }, (_, i) => parcel(i)));
  expect(many).toContain('○ Bought, not scanned: 10');
  expect(many).toContain('PA-7');
  expect(many).not.toContain('PA-8');
  expect(many).toContain('and 2 more parcels');
});

test('when all is scanned it says so, and nothing else', () => {
  expect(words([parcel(1, { scanned: true })])).toBe('✓ All that was bought is scanned');
  expect(words([])).toBe('✓ All that was bought is scanned');
});

test('what lies on the pallet and must not go is told with why, strangers by the last that was said', () => {
  const held = parcel(3, { scanned: true, held: 'Its order is cancelled.' });
  const strangers = [
    { what: 'PA-9', says: 'PA-9 goes with Redfen Parcel.' },
    { what: 'XYZ', says: 'Nobody knows this code.' },
  ];
  const all = words([held], strangers);
  expect(all).toContain('▲ Scanned, not expected: 3');
  expect(all).toContain('PA-3 Its order is cancelled.');
  // A code that its sentence names already is not told twice.
  expect(all.split('PA-9')).toHaveLength(2);
  expect(all).toContain('XYZ Nobody knows this code.');
});
