import fc from 'fast-check';
import { expect, test } from 'vitest';
import { allocate, choosePlaces, type PlacedStock } from './allocate.js';

test('the most urgent is served first, then the older', () => {
  const want = (key: string, priority: number, age: number) => ({
    key,
    productId: 'p',
    quantity: 4,
    priority,
    age,
  });
  expect(allocate([want('late', 2, 1), want('young', 1, 2), want('old', 1, 1)], new Map([['p', 9]]))).toEqual(
    [
      { key: 'old', productId: 'p', quantity: 4, fromParts: 0 },
      { key: 'young', productId: 'p', quantity: 4, fromParts: 0 },
      { key: 'late', productId: 'p', quantity: 1, fromParts: 0 },
    ],
  );
});

test('never more than is free, never more than wanted, nothing left beside an open want', () => {
  const want = fc.record({
    key: fc.uuid(),
    productId: fc.constantFrom('p', 'q'),
    quantity: fc.integer({ min: 1, max: 20 }),
    priority: fc.nat(5),
    age: fc.nat(5),
  });
  fc.assert(
    fc.property(
      fc.uniqueArray(want, { selector: w => w.key }),
      fc.nat(60),
      fc.integer({ min: -5, max: 60 }),
      (wants, p, q) => {
        const free = new Map([
          ['p', p],
          ['q', q],
        ]);
        const served = allocate(wants, free);
        for (const id of ['p', 'q']) {
          const sum = served.filter(s => s.productId === id).reduce((n, s) => n + s.quantity, 0);
          const wanted = wants.filter(w => w.productId === id).reduce((n, w) => n + w.quantity, 0);
          if (sum !== Math.min(wanted, Math.max(0, free.get(id)!))) return false;
        }
        return served.every(s => s.quantity <= wants.find(w => w.key === s.key)!.quantity);
      },
    ),
  );
});

const bin = (placeId: string, onHand: number, more: Partial<PlacedStock> = {}): PlacedStock => ({
  placeId,
  lotId: null,
  expiry: null,
  onHand,
  held: 0,
  walk: 0,
  ...more,
});

test('first expired goes first, expired never, one place before two', () => {
  expect(
    choosePlaces(
      3,
      [
        bin('a', 9, { expiry: '2027-01-01' }),
        bin('b', 2, { expiry: '2026-12-01' }),
        bin('c', 9, { expiry: '2026-01-01' }),
      ],
      '2026-11-23',
    ),
  ).toEqual([
    { placeId: 'b', lotId: null, quantity: 2 },
    { placeId: 'a', lotId: null, quantity: 1 },
  ]);
  expect(choosePlaces(5, [bin('a', 3, { walk: 1 }), bin('b', 8, { walk: 2 })], '2026-11-23')).toEqual([
    { placeId: 'b', lotId: null, quantity: 5 },
  ]);
  expect(choosePlaces(5, [bin('a', 9, { held: 7 })], '2026-11-23')).toEqual([
    { placeId: 'a', lotId: null, quantity: 2 },
  ]);
});

test('an earlier promised day comes before entry order, and whole orders are promised all or nothing', () => {
  const want = (
    key: string,
    orderKey: string,
    productId: string,
    quantity: number,
    promised: string | null = null,
  ) => ({
    key,
    orderKey,
    productId,
    quantity,
    priority: 1,
    age: key.length,
    promised,
  });
  const free = new Map([
    ['p', 3],
    ['q', 1],
  ]);
  const wants = [
    want('a', 'one', 'p', 2),
    want('aa', 'one', 'q', 2),
    want('aaa', 'two', 'p', 3, '2026-12-01'),
  ];
  expect(allocate(wants, free).map(s => [s.key, s.quantity])).toEqual([
    ['aaa', 3],
    ['aa', 1],
  ]);
  const whole = allocate(
    [want('a', 'one', 'p', 2), want('aa', 'one', 'q', 2), want('aaa', 'two', 'p', 3)],
    free,
    'whole',
  );
  expect(whole.map(s => [s.key, s.quantity])).toEqual([['aaa', 3]]);
});

test('a kit is eked out with its parts where that is allowed', () => {
  const kit = {
    key: 'k',
    productId: 'kit',
    quantity: 5,
    priority: 1,
    age: 1,
    instead: [
      { productId: 'p', quantity: 2 },
      { productId: 'q', quantity: 1 },
    ],
  };
  const free = new Map([
    ['kit', 2],
    ['p', 5],
    ['q', 9],
  ]);
  expect(allocate([kit], free)).toEqual([{ key: 'k', productId: 'kit', quantity: 2, fromParts: 2 }]);
  expect(allocate([kit], free, 'whole')).toEqual([]);
});
