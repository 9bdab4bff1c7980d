import fc from 'fast-check';
import { expect, test } from 'vitest';
import { NEW_BOX, readBox, textOf } from './boxText.js';

const typed = {
  ...NEW_BOX,
  code: 'BX-7',
  name: 'B7',
  size: '12x9x4 in',
  tare: '4 oz',
  limit: '15 lb',
  price: '0.55',
};

test('a box is read as it is typed, and typed as it was read', () => {
  const read = readBox(typed, 'USD');
  expect(read).toEqual({
    ok: true,
    value: {
      code: 'BX-7',
      name: 'B7',
      kind: 'box',
      length: 3048,
      width: 2286,
      height: 1016,
      tareMg: 113398,
      limitMg: 6803886,
      priceMinor: 55,
      stock: null,
      retired: false,
    },
  });
  const again = read.ok && readBox(textOf({ ...read.value, retired: false }, 'USD'), 'USD');
  expect(again).toEqual(read);
});

test('a box of any measures, opened and saved unchanged, stays what it is', () => {
  const side = fc.integer({ min: 20, max: 20_000 });
  const box = fc.record({
    length: side,
    width: side,
    height: side,
    tareMg: fc.oneof(fc.constant(0), fc.integer({ min: 1_000, max: 5_000_000 })),
    limitMg: fc.integer({ min: 100_000, max: 900_000_000 }),
    priceMinor: fc.integer({ min: 0, max: 99_999 }),
    stock: fc.option(fc.integer({ min: 0, max: 9_999 })),
  });
  fc.assert(
    fc.property(box, fc.constantFrom('USD', 'JPY', 'KWD'), (b, currency) => {
      const row = { ...b, code: 'BX-7', name: 'B7', kind: 'box' as const, retired: false };
      expect(readBox(textOf(row, currency), currency)).toEqual({ ok: true, value: row });
    }),
    { numRuns: 500 },
  );
  // What reads back in inches and pounds is shown so.
  const inches = { length: 3048, width: 2286, height: 1016, tareMg: 113_398, limitMg: 6_803_886 };
  const row = {
    ...inches,
    code: 'BX-7',
    name: 'B7',
    kind: 'box' as const,
    priceMinor: 1,
    stock: null,
    retired: false,
  };
  expect(textOf(row, 'USD')).toMatchObject({ size: '12 × 9 × 4 in', tare: '4 oz', limit: '15 lb' });
  expect(textOf({ ...row, length: 3050, tareMg: 120_000 }, 'USD')).toMatchObject({
    size: '30.5 × 22.86 × 10.16 cm',
    tare: '120 g',
  });
});

test.each([
  [{ size: '12x9' }, 'Inner size: A size is three numbers and a unit, such as 11x9x14 in.'],
  [{ limit: 'much' }, 'Carries: A weight is a number and a unit, such as 1.2 kg or 2 lb 3 oz.'],
  [{ tare: 'no' }, 'Empty weight: A weight is a number and a unit, such as 1.2 kg or 2 lb 3 oz.'],
  [{ price: 'free' }, 'Price: an amount such as 1.40.'],
  [{ stock: '-1' }, 'In stock: a whole number, or nothing when nobody counts.'],
  [{ code: 'B7' }, 'Code: BX- and letters or digits, such as BX-7.'],
  [{ name: ' ' }, 'Name: how the box is called.'],
])('%o is refused with its field', (change, problem) => {
  expect(readBox({ ...typed, ...change }, 'USD')).toEqual({ ok: false, problem });
});
