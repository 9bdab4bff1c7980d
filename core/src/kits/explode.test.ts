import { expect, test } from 'vitest';
import { explode, type Gathered, makeable } from './explode.js';

const things: Record<string, Gathered> = {
  jar: { kind: 'piece', recipeId: null, parts: [] },
  knife: { kind: 'piece', recipeId: null, parts: [] },
  hive: { kind: 'kit', recipeId: 'r1', parts: [{ productId: 'jar', quantity: 9 }] },
  harvest: {
    kind: 'bundle',
    recipeId: 'r2',
    parts: [
      { productId: 'jar', quantity: 24 },
      { productId: 'knife', quantity: 1 },
    ],
  },
  year: {
    kind: 'bundle',
    recipeId: 'r3',
    parts: [
      { productId: 'harvest', quantity: 2 },
      { productId: 'hive', quantity: 1 },
      { productId: 'jar', quantity: 1 },
    ],
  },
  a: { kind: 'bundle', recipeId: 'r4', parts: [{ productId: 'b', quantity: 1 }] },
  b: { kind: 'bundle', recipeId: 'r5', parts: [{ productId: 'a', quantity: 1 }] },
  gone: { kind: 'bundle', recipeId: 'r6', parts: [{ productId: 'nowhere', quantity: 1 }] },
  bare: { kind: 'bundle', recipeId: null, parts: [] },
};
const look = (id: string) => things[id];

test('bundles break into parts at any depth, kits stay whole, shared parts are added', () => {
  expect(explode('year', 3, look)).toEqual({
    ok: true,
    value: [
      { productId: 'jar', quantity: 147 },
      { productId: 'knife', quantity: 6 },
      { productId: 'hive', quantity: 3 },
    ],
  });
});

test('loops, unknown parts and missing recipes are told', () => {
  expect(explode('a', 1, look)).toEqual({ ok: false, problem: { code: 'loop', path: ['a', 'b', 'a'] } });
  expect(explode('gone', 1, look)).toEqual({
    ok: false,
    problem: { code: 'unknown-part', productId: 'nowhere' },
  });
  expect(explode('bare', 1, look)).toEqual({ ok: false, problem: { code: 'no-recipe', productId: 'bare' } });
});

test('10 of each of four parts make 10 packs; one shipped, 9', () => {
  const parts = ['p', 'q', 'r', 's'].map(productId => ({ productId, quantity: 1 }));
  expect(makeable(parts, () => 10)).toBe(10);
  expect(makeable(parts, () => 9)).toBe(9);
  expect(makeable([{ productId: 'p', quantity: 3 }], () => 10)).toBe(3);
  expect(makeable([], () => 10)).toBe(0);
});
