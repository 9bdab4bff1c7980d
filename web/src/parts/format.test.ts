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
