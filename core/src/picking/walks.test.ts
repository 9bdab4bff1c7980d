import fc from 'fast-check';
import { expect, test } from 'vitest';
import { improvedTour } from './improvedTour.js';
import { insertStop } from './insertStop.js';
import { evenLayout, type Layout, layoutProblems, lettersOf, type Spot } from './layout.js';
import { type PlainWay, plainWalks } from './plainWalks.js';
import { pathThrough, walksOf } from './walks.js';

const even = evenLayout({ aisles: 5, length: 200_000, pitch: 30_000, middle: 90_000 });
const spots = fc.array(
  fc.record({ aisle: fc.integer({ min: 0, max: 4 }), along: fc.integer({ min: 0, max: 200_000 }) }),
  { maxLength: 14 },
);

test('no plain walk is shorter than the exact one, and a further stop never makes a walk shorter', () => {
  for (const layout of [even, evenLayout({ aisles: 5, length: 200_000, pitch: 30_000 })]) {
    const [walks, plain] = [walksOf(layout), plainWalks(layout)!];
    fc.assert(
      fc.property(spots, spots, (some, more) => {
        const exact = walks.distance(walks.visit(some));
        const ways: PlainWay[] = ['S-shape', 'return', 'largest gap'];
        for (const way of ways) expect(plain(walks.visit(some), way)).toBeGreaterThanOrEqual(exact);
        expect(walks.distance(walks.visit([...some, ...more]))).toBeGreaterThanOrEqual(exact);
      }),
    );
  }
});

test('plain walks by hand', () => {
  const layout = evenLayout({ aisles: 4, length: 100_000, pitch: 30_000 });
  const [walks, plain] = [walksOf(layout), plainWalks(layout)!];
  const visit = walks.visit([
    { aisle: 0, along: 20_000 },
    { aisle: 1, along: 90_000 },
    { aisle: 2, along: 40_000 },
  ]);
  // Up A, down B, up C as far as the pick and back; twice 60 across.
  expect(plain(visit, 'S-shape')).toBe(100_000 + 100_000 + 80_000 + 120_000);
  expect(plain(visit, 'return')).toBe(40_000 + 180_000 + 80_000 + 120_000);
  // Up A, into B from the back, down C.
  expect(plain(visit, 'largest gap')).toBe(100_000 + 20_000 + 100_000 + 120_000);
  expect(plain(walks.visit([]), 'S-shape')).toBe(0);
});

/** Two blocks of different reach, joined by one cross aisle: no exact method knows this floor. */
const odd: Layout = {
  aisles: [
    { code: 'A', x: 0, from: 0, to: 100_000 },
    { code: 'B', x: 30_000, from: 0, to: 100_000 },
    { code: 'C', x: 60_000, from: 100_000, to: 250_000 },
    { code: 'D', x: 90_000, from: 60_000, to: 250_000 },
  ],
  crossAisles: [
    { code: 'FRONT', y: 0, from: 0, to: 30_000 },
    { code: 'MIDDLE', y: 100_000, from: 0, to: 90_000 },
    { code: 'BACK', y: 250_000, from: 60_000, to: 90_000 },
  ],
  start: { cross: 0, along: 0 },
  end: { cross: 1, along: 90_000 },
};

const spotAt = (aisle: number, along: number): Spot => ({ aisle, along });

test('any other layout is walked too: every spot once, drawn as long as it says', () => {
  expect(layoutProblems(odd)).toEqual([]);
  const walks = walksOf(odd);
  expect(walks.exact).toBe(false);
  const spot = fc.integer({ min: 0, max: 3 }).chain(
    (aisle): fc.Arbitrary<Spot> =>
      fc.record({
        aisle: fc.constant(aisle),
        along: fc.integer({ min: 0, max: odd.aisles[aisle]!.to - odd.aisles[aisle]!.from }),
      }),
  );
  fc.assert(
    fc.property(fc.array(spot, { maxLength: 10 }), all => {
      const { order, distance, path } = walks.walk(all);
      expect([...order].sort((a, b) => a - b)).toEqual(all.map((_, i) => i));
      const drawn = path
        .slice(1)
        .reduce((n, p, i) => n + Math.abs(p.x - path[i]!.x) + Math.abs(p.y - path[i]!.y), 0);
      expect(drawn).toBe(distance);
      expect(walks.distance(walks.visit(all))).toBe(distance);
    }),
    {
      // Listed otherwise, these were walked otherwise once, and a little longer.
      examples: [[[spotAt(1, 15), spotAt(1, 80_333), spotAt(1, 0), spotAt(0, 80_333)]]],
    },
  );
  // Up A, across to D, up to its end, and back to where D meets the middle: by hand.
  expect(walks.walk([{ aisle: 3, along: 190_000 }]).distance).toBe(100_000 + 90_000 + 150_000 + 150_000);
});

test('on an even floor the improved tours are close to the exact walks and never shorter', () => {
  const exact = walksOf(even);
  const metric = (a: Spot, b: Spot) => walksOf({ ...even, start: a, end: b }).distance([]);
  fc.assert(
    fc.property(spots, all => {
      const tour = improvedTour(
        all.map(a => all.map(b => metric(a, b))),
        all.map(s => metric(even.start, s)),
        all.map(s => metric(s, even.end)),
      );
      const best = exact.distance(exact.visit(all));
      expect(tour.distance).toBeGreaterThanOrEqual(best);
      expect(tour.distance).toBeLessThanOrEqual(1.25 * best);
    }),
    { numRuns: 30 },
  );
});

test('what keeps a layout from being walked is named', () => {
  const codes = (layout: Layout) => layoutProblems(layout).map(p => `${p.code} ${p.of}`);
  expect(codes(even)).toEqual([]);
  expect(codes({ ...even, aisles: [] })).toEqual(['no aisles ']);
  expect(codes({ ...odd, aisles: odd.aisles.map(a => (a.code === 'B' ? { ...a, to: 0 } : a)) })).toEqual([
    'zero length B',
  ]);
  expect(codes({ ...odd, crossAisles: odd.crossAisles.map(c => ({ ...c, code: 'X' })) })).toEqual([
    'twice X',
    'twice X',
  ]);
  expect(
    codes({ ...odd, crossAisles: odd.crossAisles.filter(c => c.code !== 'MIDDLE'), end: odd.start }),
  ).toEqual(['island C', 'island D', 'island BACK']);
  expect(codes({ ...odd, start: { aisle: 9, along: 0 }, end: { cross: 0, along: 99_000 } })).toEqual([
    'off the floor start',
    'off the floor end',
  ]);
  expect(codes({ ...even, aisles: even.aisles.map(a => (a.code === 'B' ? { ...a, x: 0 } : a)) })).toEqual([
    'overlap B',
  ]);
  expect([0, 25, 26, 701].map(lettersOf)).toEqual(['A', 'Z', 'AA', 'ZZ']);
});

test('a way through spots as they come goes by the crossings', () => {
  const layout = evenLayout({ aisles: 3, length: 100_000, pitch: 30_000 });
  const path = pathThrough(layout, [
    { aisle: 1, along: 90_000 },
    { aisle: 1, along: 40_000 },
    { aisle: 2, along: 80_000 },
  ]);
  const corners = path.map(p => `${p.x / 1000},${p.y / 1000}`).filter((p, i, all) => p !== all[i - 1]);
  expect(corners).toEqual(['0,0', '30,0', '30,90', '30,40', '30,100', '60,100', '60,80']);
});

test('one more stop goes where it costs the fewest steps', () => {
  const layout = evenLayout({ aisles: 4, length: 100_000, pitch: 30_000 });
  const at = (aisle: number, along: number) => ({ aisle, along });
  const rest = [at(1, 20_000), at(3, 5_000)];
  expect(insertStop(layout, at(0, 10_000), rest, at(1, 10_000))).toBe(0);
  expect(insertStop(layout, at(0, 10_000), rest, at(2, 1_000))).toBe(1);
  expect(insertStop(layout, at(0, 10_000), rest, at(3, 4_000))).toBe(1);
  expect(insertStop(layout, at(0, 10_000), [], at(3, 4_000))).toBe(0);
  // No other position is cheaper, by measuring every walk whole.
  const length = (spots: Spot[]) => {
    const path = pathThrough(layout, spots);
    return path.slice(1).reduce((n, p, i) => n + Math.abs(p.x - path[i]!.x) + Math.abs(p.y - path[i]!.y), 0);
  };
  const spot = fc.record({
    aisle: fc.integer({ min: 0, max: 3 }),
    along: fc.integer({ min: 0, max: 100_000 }),
  });
  fc.assert(
    fc.property(spot, fc.array(spot, { maxLength: 6 }), spot, (from, others, stop) => {
      const chosen = insertStop(layout, from, others, stop);
      const walk = (i: number) => length([from, ...others.slice(0, i), stop, ...others.slice(i), layout.end]);
      return others.every((_, i) => walk(chosen) <= walk(i)) && walk(chosen) <= walk(others.length);
    }),
    { numRuns: 300 },
  );
});
