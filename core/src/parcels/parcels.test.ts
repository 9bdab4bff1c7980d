import fc from 'fast-check';
import { expect, test } from 'vitest';
import { forecast, nextDeparture } from '../departures/departures.js';
import { milesBetween, zoneByMiles } from '../geo/distance.js';
import {
  addWorkingDays,
  billableSteps,
  lengthPlusGirth,
  rankOffers,
  rate,
  type ServiceRates,
} from '../rating/rate.js';
import { type LabelEvent, type LabelState, labelHolds, labelNext } from './label.js';

const cube = (inches: number) => ({ length: inches * 254, width: inches * 254, height: inches * 254 });
const CARD: ServiceRates = {
  service: 'g',
  name: 'Ground',
  step: 'lb',
  upTo: [1, 5, 20],
  prices: [
    [100, 200],
    [300, 400],
    [900, 1000],
  ],
  dimDivisor: 139,
  days: [1, 3],
  oversize: { overInches: 105, minor: 1850 },
  residentialMinor: 165,
};

test('billable weight is the greater of actual and dimensional, rounded up', () => {
  expect(billableSteps({ size: cube(12), weightMg: 453_592 }, 'lb', 139)).toEqual({
    steps: 13,
    byVolume: true,
  });
  expect(billableSteps({ size: cube(4), weightMg: 453_592 }, 'lb', 139)).toEqual({
    steps: 1,
    byVolume: false,
  });
  expect(lengthPlusGirth({ length: 2540, width: 5080, height: 2540 })).toBe(5080 + 4 * 2540);
});

test('charges are itemised and add up to the price', () => {
  const rated = rate(CARD, { size: cube(12), weightMg: 1e6, zone: 2, residential: true })!;
  expect(rated).toMatchObject({ minor: 1165, byVolume: true, days: 3 });
  expect(rated.charges.reduce((n, c) => n + c.minor, 0)).toBe(rated.minor);
  expect(rate(CARD, { size: cube(4), weightMg: 2e7, zone: 1, residential: false })).toBeNull();
  expect(
    rate(CARD, {
      size: { length: 90 * 254, width: 1000, height: 1000 },
      weightMg: 1e6,
      zone: 1,
      residential: false,
    })!.charges[1]!.minor,
  ).toBe(1850);
});

test('offers: those that keep the day, cheapest first; then the late, earliest first', () => {
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
  expect(addWorkingDays('2026-11-27', 1)).toBe('2026-11-30');
});

test('zones by distance', () => {
  expect([10, 50, 51, 300, 1801].map(zoneByMiles)).toEqual([1, 1, 2, 3, 8]);
  expect(milesBetween({ lat: 0, lon: 0 }, { lat: 0, lon: 0 })).toBe(0);
});

test('no run of events buys a label twice', () => {
  const happened = fc.constantFrom<LabelEvent>(
    { type: 'ask' },
    { type: 'answered bought', tracking: 't', minor: 1 },
    { type: 'answered refused', why: '' },
    { type: 'answered nothing', why: '' },
    { type: 'not found' },
    { type: 'ask void' },
    { type: 'answered voided' },
  );
  fc.assert(
    fc.property(fc.array(happened, { maxLength: 30 }), events => {
      let state: LabelState = 'intended';
      let bought = 0;
      for (const e of events) {
        const next = labelNext(state, e);
        if (!next.ok) continue;
        // Asking again is allowed only from "intended", which is reached again only when the carrier knows nothing of the key.
        if (e.type === 'ask' && state !== 'intended') return false;
        if (next.value === 'bought') bought++;
        state = next.value;
      }
      return bought <= 1 && labelHolds(state) === (state !== 'refused' && state !== 'voided');
    }),
  );
});

test('the next departure of a carrier, and what today’s pace says of it', () => {
  const d = (id: string, carrier: string, cutOff: string, open = true) => ({ id, carrier, cutOff, open });
  const all = [
    d('3', 'h', '2026-11-23T22:00:00Z'),
    d('1', 'h', '2026-11-23T18:00:00Z', false),
    d('2', 'r', '2026-11-23T19:00:00Z'),
  ];
  expect(nextDeparture(all, 'h', '2026-11-23T12:00:00Z')!.id).toBe('3');
  expect(nextDeparture(all, null, '2026-11-23T12:00:00Z')!.id).toBe('2');
  expect(nextDeparture(all, 'r', '2026-11-23T19:00:00Z')).toBeNull();
  expect(forecast({ unlabelled: 10, ahead: 10, perHour: 20, minutesLeft: 60 })).toEqual({
    readyIn: 30,
    spare: 30,
    miss: 0,
    word: 'on time',
  });
  expect(forecast({ unlabelled: 10, ahead: 19, perHour: 20, minutesLeft: 60 }).word).toBe('tight');
  expect(forecast({ unlabelled: 10, ahead: 30, perHour: 20, minutesLeft: 60 })).toMatchObject({
    miss: 10,
    word: 'will miss',
  });
  expect(forecast({ unlabelled: 0, ahead: 30, perHour: 0, minutesLeft: 60 }).word).toBe('on time');
  expect(forecast({ unlabelled: 2, ahead: 2, perHour: 0, minutesLeft: 60 }).word).toBe('tight');
});
