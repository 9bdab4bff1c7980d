import fc from 'fast-check';
import { expect, test } from 'vitest';
import { expiryDay } from './expiryDay.js';

test.each([
  ['2027-03-31', '2027-03-31'],
  ['31.03.2027', '2027-03-31'],
  ['31 Mar 2027', '2027-03-31'],
  ['Mar 31, 2027', '2027-03-31'],
  ['270331', '2027-03-31'],
  ['270200', '2027-02-28'],
  ['2027-05', '2027-05-31'],
  ['03/2027', '2027-03-31'],
  ['2.2028', '2028-02-29'],
  ['03/31/2027', '2027-03-31'],
  ['31/03/2027', '2027-03-31'],
  ['04/04/2027', '2027-04-04'],
])('an expiry typed as %s is %s', (typed, day) => {
  expect(expiryDay(typed, 2026)).toBe(day);
});

test.each([
  '2027-02-30',
  '13/2027',
  '00/2027',
  '2027-13',
  '03/04/2027',
  'soon',
  '',
  '271399',
  '0027-03',
  '31.31.2027',
])('no expiry, or one of two, is taken from "%s"', typed => {
  expect(expiryDay(typed, 2026)).toBeNull();
});

test('every day of this century is read back from the ways in which it may be written', () => {
  fc.assert(
    fc.property(
      fc.date({ min: new Date('2000-01-01'), max: new Date('2099-12-31'), noInvalidDate: true }),
      date => {
        const iso = date.toISOString().slice(0, 10);
        const [y, m, d] = iso.split('-') as [string, string, string];
        for (const typed of [iso, `${d}.${m}.${y}`, `${Number(d)}.${Number(m)}.${y}`])
          expect(expiryDay(typed, 2026), typed).toBe(iso);
        const last = new Date(Date.UTC(Number(y), Number(m), 0)).toISOString().slice(0, 10);
        expect([`${m}/${y}`, `${Number(m)}.${y}`, `${y}-${m}`].map(t => expiryDay(t, 2026))).toEqual([
          last,
          last,
          last,
        ]);
      },
    ),
  );
});
