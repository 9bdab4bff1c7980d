import { afterEach, beforeEach, expect, test, vi } from 'vitest';

beforeEach(() => {
  const kept = new Map<string, string>();
  vi.stubGlobal('window', { addEventListener: () => {} });
  vi.stubGlobal('localStorage', {
    getItem: (name: string) => kept.get(name) ?? null,
    setItem: (name: string, value: string) => kept.set(name, value),
  });
});
afterEach(() => {
  vi.useRealTimers();
  vi.restoreAllMocks();
  vi.unstubAllGlobals();
  vi.resetModules();
});

test('times are told in the zone of the house, days without one', async () => {
  const { clock, day, moment, setHouseZone } = await import('./format.js');
  setHouseZone('America/New_York');
  expect(clock('2026-11-25T20:30:00.000Z')).toBe('15:30');
  expect(moment('2026-11-26T01:07:00.000Z')).toBe('Wed 25 Nov 20:07');
  expect(day('2026-11-25')).toBe('Wed 25 Nov');
  expect(day(null)).toBe('');
});

test('today is the day of the house, and a list of a thousand times makes no thousand formats', async () => {
  vi.useFakeTimers({ now: Date.parse('2026-11-26T01:07:00.000Z') });
  const made = vi.spyOn(Intl, 'DateTimeFormat');
  const { moment, setHouseZone, today } = await import('./format.js');
  setHouseZone('America/New_York');
  expect(today()).toBe('2026-11-25');
  for (let i = 0; i < 1000; i++) moment(new Date(i * 86_400_000).toISOString());
  expect(made).toHaveBeenCalledTimes(3);
  setHouseZone('Europe/Berlin');
  expect(today()).toBe('2026-11-26');
});

test('spans are told in hours and minutes, never below nothing', async () => {
  const { span } = await import('./format.js');
  expect([0, 59.6, 60, 143, -23].map(span)).toEqual([
    '0 min',
    '1 h 0 min',
    '1 h 0 min',
    '2 h 23 min',
    '23 min',
  ]);
});

test('weights and sizes are told in the units of the person, and another person has their own', async () => {
  const { size, weight } = await import('./format.js');
  const { looks } = await import('../theme/look.js');
  const box = { length: 2_540, width: 1_778, height: 1_270 };
  looks.of('ines');
  expect([weight(453_592), size(box)]).toEqual(['1 lb', '10 × 7 × 5 in']);
  looks.change({ units: 'metric' });
  expect([weight(453_592), size(box)]).toEqual(['454 g', '25.4 × 17.8 × 12.7 cm']);
  looks.of('tomas');
  expect(weight(453_592)).toBe('1 lb');
  looks.of('ines');
  expect(weight(453_592)).toBe('454 g');
});

test('a look that cannot be read is the plain one', async () => {
  localStorage.setItem('auk.look.odile', '{"text":');
  localStorage.setItem('auk.look.abel', '{"text":1000}');
  const { looks } = await import('../theme/look.js');
  for (const person of ['odile', 'abel']) {
    looks.of(person);
    expect(looks.now()).toEqual({ contrast: false, text: 100, units: 'imperial', still: false });
  }
});

test('a time of a day is found also on the days on which the clock is put forward or back', async () => {
  const { atClock } = await import('./atClock.js');
  const { clock } = await import('./format.js');
  const zone = 'America/New_York';
  expect(atClock('2026-11-25T20:30:00.000Z', '17:05', zone)).toBe('2026-11-25T22:05:00.000Z');
  expect(atClock('2026-11-25T20:30:00.000Z', '9:00', zone)).toBe('2026-11-25T14:00:00.000Z');
  // Back on 1 November at 2:00, forward on 8 March at 2:00.
  for (const from of [
    '2026-11-01T04:30:00.000Z',
    '2026-11-01T22:30:00.000Z',
    '2026-03-08T05:30:00.000Z',
    '2026-03-08T21:30:00.000Z',
  ])
    for (const time of ['00:15', '06:00', '17:30', '23:45']) {
      const at = atClock(from, time, zone)!;
      expect(clock(at, zone), `${time} of the day of ${from}`).toBe(time);
      expect(Math.abs(Date.parse(at) - Date.parse(from))).toBeLessThan(25 * 3_600_000);
    }
  // An hour that there is not that day.
  expect(clock(atClock('2026-03-08T21:30:00.000Z', '02:30', zone)!, zone)).toMatch(/^0[13]:30$/);
  for (const none of ['', '24:00', '7', '12:60', 'noon', '-1:00'])
    expect(atClock('2026-11-25T20:30:00.000Z', none, zone)).toBeNull();
});
