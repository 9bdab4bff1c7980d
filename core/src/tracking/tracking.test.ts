import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { isOver, type OnItsWay, TRACK_KINDS, type TrackEvent, trackedState, troubleOf } from './tracking.js';

const event = fc.record({
  at: fc.integer({ min: 0, max: 30 }).map(h => new Date(Date.UTC(2026, 10, 1, h)).toISOString()),
  kind: fc.constantFrom(...TRACK_KINDS),
  says: fc.constant('said'),
});
const at = (hour: number, kind: TrackEvent['kind'], says = ''): TrackEvent => ({
  at: new Date(Date.UTC(2026, 10, 2, hour)).toISOString(),
  kind,
  says,
});
const way = (more: Partial<OnItsWay>): OnItsWay => ({
  state: at(9, 'on the way'),
  arrives: '2026-11-06',
  promised: null,
  quietDays: 0,
  today: '2026-11-05',
  ...more,
});

describe('where a parcel stands', () => {
  test('the order of telling does not matter', () => {
    fc.assert(
      fc.property(fc.array(event, { maxLength: 8 }), events => {
        expect(trackedState([...events].reverse())).toEqual(trackedState(events));
      }),
    );
  });

  test('what is delivered or back stays so, whatever scans come after it', () => {
    fc.assert(
      fc.property(fc.array(event, { maxLength: 8 }), events => {
        const state = trackedState(events);
        expect(isOver(state?.kind ?? null)).toBe(events.some(e => isOver(e.kind)));
      }),
    );
    expect(trackedState([at(14, 'delivered'), at(18, 'on the way')])?.kind).toBe('delivered');
  });

  test('of two at one moment the one further along counts; of none there is none', () => {
    expect(trackedState([at(9, 'out for delivery'), at(9, 'on the way')])?.kind).toBe('out for delivery');
    expect(trackedState([])).toBeNull();
  });
});

describe('trouble on the way', () => {
  test('a parcel in time has none', () => expect(troubleOf(way({}))).toBeNull());

  test('late counts from the later of promise and arrival, and names the day', () => {
    expect(troubleOf(way({ today: '2026-11-07' }))).toEqual({
      trouble: 'late',
      says: 'It should have arrived by 2026-11-06.',
    });
    expect(troubleOf(way({ today: '2026-11-07', promised: '2026-11-08' }))).toBeNull();
    expect(troubleOf(way({ today: '2026-11-07', promised: '2026-11-03' }))?.trouble).toBe('late');
  });

  test('three silent business days are a stuck parcel, one that nobody heard of included', () => {
    expect(troubleOf(way({ quietDays: 2 }))).toBeNull();
    expect(troubleOf(way({ quietDays: 3, state: null }))?.trouble).toBe('stuck');
  });

  test('one that waits for its buyer is neither stuck nor late, one that comes back is said first', () => {
    const waits = at(9, 'waits for the buyer');
    expect(troubleOf(way({ state: waits, quietDays: 5, today: '2026-11-20' }))).toBeNull();
    const back = at(9, 'coming back', 'refused at the door');
    expect(troubleOf(way({ state: back, quietDays: 9 }))?.says).toBe(
      'It is coming back: refused at the door',
    );
    expect(troubleOf(way({ state: at(9, 'exception', 'damaged'), quietDays: 9 }))?.trouble).toBe('exception');
    expect(troubleOf(way({ state: at(9, 'delivered'), today: '2026-12-01', quietDays: 9 }))).toBeNull();
  });
});
