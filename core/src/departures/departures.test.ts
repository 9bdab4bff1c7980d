import fc from 'fast-check';
import { expect, test } from 'vitest';
import { addBusinessDays, isBusinessDay } from './businessDays.js';
import { type PlannableDeparture, planDeparture } from './departures.js';
import { arrivesInstead, businessDaysUntil } from './later.js';

const day = fc
  .integer({ min: 0, max: 1500 })
  .map(n => new Date(Date.parse('2026-01-01T00:00:00Z') + n * 86_400_000).toISOString().slice(0, 10));

test('business days are counted as they are added', () => {
  fc.assert(
    fc.property(
      day,
      fc.integer({ min: 1, max: 40 }),
      fc.uniqueArray(day, { maxLength: 30 }),
      (from, n, off) => {
        const calendar = { closed: new Set(off) };
        const there = addBusinessDays(from, n, calendar);
        expect(businessDaysUntil(from, there, calendar)).toBe(n);
        expect(isBusinessDay(there, calendar)).toBe(true);
      },
    ),
  );
  expect(businessDaysUntil('2026-11-27', '2026-11-30')).toBe(1);
  expect(businessDaysUntil('2026-11-27', '2026-11-27')).toBe(0);
});

test('what leaves a day later arrives as many business days later, over weekends and days off', () => {
  const was = { leaves: '2026-11-25', arrives: '2026-11-27' };
  expect(arrivesInstead(was, '2026-11-25')).toBe('2026-11-27');
  expect(arrivesInstead(was, '2026-11-26')).toBe('2026-11-30');
  expect(arrivesInstead(was, '2026-11-26', { closed: new Set(['2026-11-26', '2026-11-30']) })).toBe(
    '2026-11-27',
  );
  fc.assert(
    fc.property(day, fc.integer({ min: 0, max: 9 }), fc.integer({ min: 0, max: 5 }), (leaves, n, later) => {
      const arrives = addBusinessDays(leaves, n);
      const moved = addBusinessDays(leaves, later);
      expect(arrivesInstead({ leaves, arrives }, moved) >= arrives || moved < leaves).toBe(true);
    }),
  );
});

test('before a label is bought an order is planned with the carrier of the least limit that takes it', () => {
  const at = (id: string, planUpToMg: number | null, hour: number): PlannableDeparture => ({
    id,
    carrier: id,
    cutOff: `2026-11-25T${hour}:00:00Z`,
    open: true,
    planUpToMg,
  });
  const all = [at('light', 1_000, 17), at('heavy', 9_000, 15), at('never', null, 13)];
  const now = '2026-11-25T12:00:00Z';
  expect(planDeparture(all, 500, now)?.id).toBe('light');
  expect(planDeparture(all, 5_000, now)?.id).toBe('heavy');
  // Nobody takes so much, or the carrier comes no more: the next that leaves at all.
  expect(planDeparture(all, 50_000, now)?.id).toBe('never');
  expect(planDeparture(all, 500, '2026-11-25T17:30:00Z')).toBeNull();
  expect(planDeparture([], 500, now)).toBeNull();
});
