import { createRequire } from 'node:module';
import { addBusinessDays, isBusinessDay } from '@auk/core';
import { publicHolidays } from '@auk/server/carriers/publicHolidays';
import { expect, test } from 'vitest';

const require = createRequire(import.meta.url);
const federal = require('@18f/us-federal-holidays') as {
  isAHoliday: (day: Date, options: object) => boolean;
};

// Source: @18f/us-federal-holidays 4.0.0, made by another house than the table that we take holidays from.
test('business days of four years agree with an independent table of holidays', () => {
  const closed = new Set(publicHolidays('US', '2026-01-01', '2030-01-01').map(h => h.day));
  let at = Date.parse('2026-01-01T00:00:00Z');
  let days = 0;
  for (; at < Date.parse('2030-01-01T00:00:00Z'); at += 86_400_000) {
    const day = new Date(at).toISOString().slice(0, 10);
    const weekday = new Date(at).getUTCDay();
    const free = federal.isAHoliday(new Date(at), {
      utc: true,
      shiftSaturdayHolidays: true,
      shiftSundayHolidays: true,
    });
    const theirs = weekday !== 0 && weekday !== 6 && !free;
    expect(isBusinessDay(day, { closed }), day).toBe(theirs);
    if (theirs) days++;
  }
  // The same days counted one after the other end where all of them do.
  expect(addBusinessDays('2025-12-31', days, { closed }) < '2030-01-01').toBe(true);
  expect(addBusinessDays('2025-12-31', days + 1, { closed }) >= '2030-01-01').toBe(true);
});
