import fc from 'fast-check';
import { expect, test } from 'vitest';
import { forecast, nextDeparture } from '../departures/departures.js';
import { milesBetween, zoneByMiles } from '../geo/distance.js';
import { contradiction, type LabelEvent, type LabelState, labelHolds, labelNext } from './label.js';

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
    { type: 'doubted', why: '' },
    { type: 'asked anew' },
    { type: 'called off', why: '' },
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

test('an answer that contradicts what was asked is not believed; another price is', () => {
  const asked = { service: 'ground', currency: 'USD' };
  const told = { ...asked, tracking: 'RF1' };
  const says = (change: Partial<typeof told>, otherHas: string | null = null) =>
    contradiction({ asked, told: { ...told, ...change }, otherHas });
  expect(says({})).toBeNull();
  expect(says({ currency: 'EUR' })).toBe('It answered a price in EUR, and USD was asked for.');
  expect(says({ service: 'two-day' })).toBe('It sold two-day, and ground was asked for.');
  expect(says({}, 'PA-7')).toBe('It answered the number RF1, which PA-7 has already.');
});

test('what nobody can prove holds the parcel, until a person has it asked anew, given up, or found', () => {
  const from = (type: LabelEvent['type']) =>
    labelNext('doubtful', { type, why: '', tracking: '', minor: 0 } as LabelEvent);
  expect(labelHolds('doubtful')).toBe(true);
  expect(from('asked anew')).toEqual({ ok: true, value: 'intended' });
  expect(from('called off')).toEqual({ ok: true, value: 'refused' });
  expect(from('answered bought')).toEqual({ ok: true, value: 'bought' });
  // It is never asked for again by itself.
  expect(from('ask').ok).toBe(false);
  expect(from('not found').ok).toBe(false);
});
