import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { spreadLines } from './placement.js';
import {
  factsLacking,
  type Preparation,
  type PreparationRule,
  preparationCost,
  preparationsOf,
} from './preparation.js';
import { reconcileCount } from './reconcileCount.js';
import { INBOUND_STAGES, leastAdvanced } from './stage.js';
import { unitsToSend } from './toSend.js';

const rule = (needs: Preparation, when: string[], feeMinor: number | null = 30): PreparationRule => ({
  needs,
  when,
  feeMinor,
  materialMinor: 5,
  seconds: 20,
});
const RULES = [
  rule('label', []),
  rule('bag', ['powder', 'soft'], 80),
  rule('bubble', ['fragile']),
  rule('hazard papers', ['hazardous', 'battery'], null),
];
const product = (facts: Record<string, string | number | boolean>, more = {}) => ({
  sku: 'JAR-HEX-12',
  facts: { category: 'Jars', ...facts },
  size: { length: 900, width: 900, height: 1_200 },
  weightMg: 300_000,
  ...more,
});

describe('what is done to a unit before it goes', () => {
  const needs = (facts: Record<string, boolean>) => preparationsOf(product(facts), RULES).map(r => r.needs);

  test('follows from its properties, and a label is put on what is wrapped already', () => {
    expect(needs({})).toEqual(['label']);
    expect(needs({ fragile: true, powder: true })).toEqual(['bubble', 'bag', 'label']);
    expect(needs({ battery: true })).toEqual(['hazard papers', 'label']);
  });

  test('10 units at 0.80 are 8.00 where the network does it; by us it costs material and minutes', () => {
    const bag = RULES.filter(r => r.needs === 'bag');
    expect(preparationCost(bag, 10, 'network')).toEqual({ feeMinor: 800, materialMinor: 0, minutes: 0 });
    expect(preparationCost(bag, 10, 'us')).toEqual({ feeMinor: 0, materialMinor: 50, minutes: 4 });
    // What the network does not do we do.
    const papers = RULES.filter(r => r.needs === 'hazard papers');
    expect(preparationCost(papers, 3, 'network')).toEqual({ feeMinor: 0, materialMinor: 15, minutes: 1 });
  });

  test('facts that are missing are named, more of them for what is hazardous or crosses a border', () => {
    const missing = (facts: Record<string, string | number | boolean>, abroad = false, more = {}) =>
      factsLacking(product(facts, more), { abroad }).map(m => m.fact);
    expect(missing({})).toEqual([]);
    expect(missing({ category: '' }, false, { size: null, weightMg: 0 })).toEqual([
      'size',
      'weight',
      'category',
    ]);
    expect(missing({ hazardous: true, unNumber: 'UN 3261' })).toEqual(['hazardClass', 'hazardName']);
    expect(missing({}, true)).toEqual(['customsCode', 'customsWords', 'origin', 'valueMinor']);
  });
});

describe('how much to send', () => {
  const facts = { ratePerDay: 4, weeks: 6, there: 60, onTheWay: 20, free: 500, perCase: 12 };

  test('lasts the weeks, with what is there and on its way, in whole cases', () => {
    expect(unitsToSend(facts)).toEqual({ units: 96, wanted: 96, says: '' });
    expect(unitsToSend({ ...facts, perCase: null })).toMatchObject({ units: 88 });
    expect(unitsToSend({ ...facts, there: 200 })).toMatchObject({ units: 0, wanted: 0 });
    expect(unitsToSend({ ...facts, free: 50 })).toEqual({
      units: 48,
      wanted: 96,
      says: '96 would be wanted; 48 can go now.',
    });
    expect(unitsToSend({ ...facts, ratePerDay: null })).toMatchObject({ units: 0 });
  });

  test('is never more than is free or wanted, and less than wanted only where no further case is free', () => {
    fc.assert(
      fc.property(
        fc.record({
          ratePerDay: fc.double({ min: 0, max: 50, noNaN: true }),
          weeks: fc.integer({ min: 1, max: 26 }),
          there: fc.nat({ max: 900 }),
          onTheWay: fc.nat({ max: 900 }),
          free: fc.nat({ max: 2_000 }),
          perCase: fc.option(fc.integer({ min: 1, max: 48 })),
        }),
        f => {
          const { units, wanted } = unitsToSend(f);
          const each = f.perCase ?? 1;
          expect(units % each).toBe(0);
          expect(units).toBeLessThanOrEqual(Math.min(f.free, wanted));
          if (units < wanted) expect(units + each).toBeGreaterThan(f.free);
        },
      ),
    );
  });
});

test('a spread places every unit once, whole cases only, and gives no center a case more than its share asks', () => {
  const shares = fc
    .uniqueArray(fc.constantFrom('East', 'South', 'West', 'North'), { minLength: 1 })
    .chain(centers =>
      fc
        .array(fc.integer({ min: 1, max: 9 }), { minLength: centers.length, maxLength: centers.length })
        .map(parts => centers.map((center, i) => ({ center, share: parts[i]! }))),
    );
  const lines = fc.array(
    fc.record({ units: fc.nat({ max: 400 }), perCase: fc.integer({ min: 1, max: 24 }) }),
    {
      minLength: 1,
      maxLength: 5,
    },
  );
  fc.assert(
    fc.property(lines, shares, (all, demand) => {
      const placed = spreadLines(all, demand);
      const whole = demand.reduce((n, d) => n + d.share, 0);
      all.forEach(({ units, perCase }, line) => {
        const of = placed.map(p => p.units[line]!);
        expect(of.reduce((n, u) => n + u, 0)).toBe(units);
        const cases = Math.floor(units / perCase);
        placed.forEach(({ center, units: given }) => {
          const due = (cases * demand.find(d => d.center === center)!.share) / whole;
          const rest = center === demand[0]!.center ? units - cases * perCase : 0;
          expect((given[line]! - rest) % perCase).toBe(0);
          expect(Math.abs((given[line]! - rest) / perCase - due)).toBeLessThan(1);
        });
      });
    }),
  );
});

test('what was counted is told by box and product; parts of a count are one count', () => {
  const found = reconcileCount([
    { box: 'A', sku: 'JAR', sent: 24, counted: 20 },
    { box: 'A', sku: 'JAR', sent: 0, counted: 2 },
    { box: 'B', sku: 'JAR', sent: 12, counted: 14 },
    { box: 'B', sku: 'HAT', sent: 0, counted: 1 },
    { box: 'B', sku: 'LID', sent: 3, counted: 3 },
  ]);
  expect(found.differences).toEqual([
    { box: 'A', sku: 'JAR', missing: 2, surplus: 0, stranger: false },
    { box: 'B', sku: 'JAR', missing: 0, surplus: 2, stranger: false },
    { box: 'B', sku: 'HAT', missing: 0, surplus: 1, stranger: true },
  ]);
  // What lies in the wrong box is not missing of the product.
  expect(found.products.find(p => p.sku === 'JAR')).toEqual({ sku: 'JAR', sent: 36, counted: 36 });
  expect([found.sent, found.counted]).toEqual([39, 40]);
});

test('a shipment shows the least advanced of its parts that live', () => {
  expect(leastAdvanced(['Booked', 'Travelling', 'Cancelled'])).toBe('Booked');
  expect(leastAdvanced(['Cancelled', 'Cancelled'])).toBe('Cancelled');
  expect(leastAdvanced([])).toBe('Draft');
  for (const stage of INBOUND_STAGES) expect(leastAdvanced([stage])).toBe(stage);
});
