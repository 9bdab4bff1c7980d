import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { compareWays, lostUntil, type WayFacts } from './ways.js';

const way = (more: Partial<WayFacts>): WayFacts => ({
  network: 'Fernway Centers',
  placement: 'one dock',
  form: 'parcels',
  carrier: 'Redfen Parcel',
  rates: 'theirs',
  feeMinor: 0,
  preparationMinor: 2_880,
  freightMinor: 9_630,
  materialMinor: 0,
  storageMinor: 0,
  minutes: 60,
  days: 9,
  ...more,
});
const sale = { ratePerDay: 2, earnsMinor: 500, there: 10, units: 100 };

describe('what a day sooner is worth', () => {
  test('only days without stock count, never more than is sent, and nothing where nobody knows', () => {
    expect(lostUntil(sale, 9)).toBe(8 * 500);
    expect(lostUntil(sale, 5)).toBe(0);
    expect(lostUntil({ ...sale, units: 3 }, 9)).toBe(3 * 500);
    expect(lostUntil({ ...sale, ratePerDay: null }, 9)).toBeNull();
    expect(lostUntil({ ...sale, earnsMinor: null }, 9)).toBeNull();
    expect(lostUntil({ ...sale, ratePerDay: 0 }, 9)).toBe(0);
  });

  test('a later day is never worth more, more stock there never less', () => {
    fc.assert(
      fc.property(
        fc.nat({ max: 60 }),
        fc.nat({ max: 60 }),
        fc.nat({ max: 200 }),
        fc.nat({ max: 50 }),
        (d, more, there, rate) => {
          const at = (days: number, extra: number) =>
            lostUntil({ ...sale, ratePerDay: rate, there: there + extra }, days)!;
          expect(at(d + more, 0)).toBeGreaterThanOrEqual(at(d, 0));
          expect(at(d, more)).toBeLessThanOrEqual(at(d, 0));
        },
      ),
    );
  });
});

describe('ways beside each other', () => {
  test('the best by what it costs and what is lost comes first; a dear one may win by its days', () => {
    const slow = way({});
    const fast = way({ placement: 'spread', feeMinor: 6_180, freightMinor: 11_870, days: 3 });
    const without = compareWays([fast, slow], [{ ...sale, there: 1_000 }]);
    expect(without.ways.map(w => [w.days, w.best])).toEqual([
      [9, true],
      [3, false],
    ]);
    const { ways, unknown } = compareWays([slow, fast], [{ ...sale, ratePerDay: 10, units: 412 }]);
    expect(ways[0]).toMatchObject({
      days: 3,
      best: true,
      sumMinor: 20_930,
      lostMinor: 10_000,
      soonerMinor: 30_000,
    });
    // 209.30 for 412 units are 0.51 a unit.
    expect((ways[0]!.perUnit / 100).toFixed(2)).toBe('0.51');
    expect(unknown).toBe(0);
    expect(compareWays([slow], [{ ...sale, ratePerDay: null }])).toMatchObject({
      unknown: 1,
      ways: [{ lostMinor: 0 }],
    });
  });

  test('of two that are as dear the sooner, then the one with less work; and that is said', () => {
    const says = (...ways: WayFacts[]) => compareWays(ways, [{ ...sale, there: 1_000 }]).ways[0]!.says;
    expect(says(way({ days: 9 }), way({ days: 7 }))).toBe(
      'as dear as Redfen Parcel, one dock, parcels; 2 days sooner',
    );
    expect(says(way({ minutes: 61 }), way({}))).toMatch(/; 1 minute less work$/);
    expect(says(way({}), way({}))).toMatch(/neither is sooner/);
    expect(says(way({}), way({ freightMinor: 1 }))).toBe('');
  });

  test('24 ways and more keep their sums, whatever their order', () => {
    const many = (['one dock', 'spread'] as const).flatMap(placement =>
      (['parcels', 'pallets'] as const).flatMap(form =>
        ['Redfen Parcel', 'Heron Post', 'Stonewater Freight'].flatMap((carrier, i) =>
          (['theirs', 'ours'] as const).map((rates, j) =>
            way({ placement, form, carrier, rates, freightMinor: 5_000 + 700 * i + 300 * j, days: 3 + i }),
          ),
        ),
      ),
    );
    expect(many).toHaveLength(24);
    const table = compareWays(many, [sale]);
    expect(compareWays([...many].reverse(), [sale]).ways.map(w => w.totalMinor)).toEqual(
      table.ways.map(w => w.totalMinor),
    );
    expect(table.ways.filter(w => w.best)).toHaveLength(1);
    for (const w of table.ways) expect(w.totalMinor).toBe(w.sumMinor + w.lostMinor);
  });

  test('none is none', () => expect(compareWays([], [])).toEqual({ ways: [], unknown: 0 }));
});
