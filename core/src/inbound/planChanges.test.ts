import fc from 'fast-check';
import { expect, test } from 'vitest';
import { type PlanPart, planBeyond, planChangeSays, planChanges } from './planChanges.js';

const at = (center: string, ...lines: [sku: string, units: number][]): PlanPart => ({
  center,
  lines: lines.map(([sku, units]) => ({ sku, units })),
});

test('units that move to another center are told, what becomes less first', () => {
  const before = [at('Columbus', ['A', 30], ['B', 5]), at('Albany', ['A', 2])];
  const now = [at('Reno', ['A', 12]), at('Columbus', ['A', 18], ['B', 5]), at('Albany', ['A', 2])];
  const changes = planChanges(before, now);
  expect(changes).toEqual([
    { center: 'Columbus', sku: 'A', before: 30, now: 18 },
    { center: 'Reno', sku: 'A', before: 0, now: 12 },
  ]);
  expect(planChangeSays(changes[0]!)).toBe('18 instead of 30 × A to Columbus');
});

test('a center that stands in two parts counts together, and the order of a plan changes nothing', () => {
  expect(planChanges([at('Reno', ['A', 4]), at('Reno', ['A', 6])], [at('Reno', ['A', 10])])).toEqual([]);
});

test('what is left beside parts that stand is the rest of each center', () => {
  const now = [at('Columbus', ['A', 18], ['B', 5]), at('Reno', ['A', 12])];
  expect(planBeyond(now, [at('Columbus', ['A', 10], ['B', 5])])).toEqual([
    at('Columbus', ['A', 8]),
    at('Reno', ['A', 12]),
  ]);
  expect(planBeyond(now, now)).toEqual([]);
});

test('a plan is never otherwise than itself, and what stands and what is left come to the plan', () => {
  const plan = fc.array(
    fc
      .tuple(
        fc.constantFrom('Columbus', 'Reno', 'Albany'),
        fc.uniqueArray(fc.tuple(fc.constantFrom('A', 'B', 'C'), fc.integer({ min: 1, max: 40 })), {
          selector: ([sku]) => sku,
          minLength: 1,
        }),
      )
      .map(([center, lines]) => at(center, ...lines)),
    { maxLength: 6 },
  );
  fc.assert(
    fc.property(plan, parts => {
      expect(planChanges(parts, [...parts].reverse())).toEqual([]);
      const once = parts.filter((p, i) => parts.findIndex(x => x.center === p.center) === i);
      const stands = once.slice(0, 1);
      expect(planChanges(once, [...stands, ...planBeyond(once, stands)])).toEqual([]);
    }),
  );
});
