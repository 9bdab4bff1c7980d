import fc from 'fast-check';
import { expect, test } from 'vitest';
import { cursorOf, keyOf, readCursor } from '../src/orders/cursor.js';
import { SORTS } from '../src/orders/filter.queries.js';

const sorts = Object.values(SORTS);
const anyCursor = fc.oneof(
  fc.string(),
  fc.stringMatching(/^[\dT:.eE+Z~-]{0,30}$/),
  fc
    .tuple(fc.constantFrom('1e999', '-1e999', 'NaN', '2026-13-45T99:99:99Z', ''), fc.string())
    .map(c => c.join('~')),
  fc.string().map(s => `${s}~1e999`),
);

test('whatever comes as a cursor, what it stands for can be asked of the database', () => {
  fc.assert(
    fc.property(anyCursor, fc.constantFrom(...sorts), (text, sort) => {
      const { no, key } = keyOf(sort, readCursor(text));
      expect(Number.isSafeInteger(no)).toBe(true);
      if (typeof key === 'number') expect(Number.isFinite(key)).toBe(true);
      if (key instanceof Date) expect(Number.isNaN(key.getTime())).toBe(false);
    }),
  );
});

test('a cursor stands for the row that it was written of', () => {
  const [no, placed] = [4_711, new Date('2026-11-27T08:15:30.125Z')];
  const again = (sort: (typeof sorts)[number], key: unknown) =>
    keyOf(sort, readCursor(cursorOf(sort, { no, key })));
  expect(again(SORTS.newest, no)).toMatchObject({ no, key: no });
  expect(again(SORTS.total, -1_995)).toMatchObject({ no, key: -1_995 });
  expect(again(SORTS.placed, placed)).toMatchObject({ no, key: placed });
  expect(again(SORTS.promised, '2026-12-01')).toMatchObject({ no, key: '2026-12-01' });
  expect(again(SORTS.placed, null)).toMatchObject({ no, key: null });
});
