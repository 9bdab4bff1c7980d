import { expect, test } from 'vitest';
import { proposeBuilds } from './proposeBuilds.js';
import { checkRecipe, type PartFacts, recipeChanges } from './recipe.js';

const thing = (parts: [string, number][] = [], more: Partial<PartFacts> = {}): PartFacts => ({
  kind: parts.length > 0 ? 'kit' : 'piece',
  recipeId: null,
  parts: parts.map(([productId, quantity]) => ({ productId, quantity })),
  retired: false,
  ...more,
});
const of = (productId: string, quantity: number) => ({ productId, quantity });

test('a recipe needs parts that are there, named once, in whole positive units', () => {
  const look = (id: string) => ({ jar: thing(), old: thing([], { retired: true }) })[id];
  expect(checkRecipe('k', [], look)).toEqual({ code: 'empty' });
  expect(checkRecipe('k', [of('jar', 0)], look)).toMatchObject({ code: 'bad-quantity' });
  expect(checkRecipe('k', [of('jar', 1.5)], look)).toMatchObject({ code: 'bad-quantity' });
  expect(checkRecipe('k', [of('jar', 1), of('jar', 2)], look)).toMatchObject({ code: 'twice' });
  expect(checkRecipe('k', [of('nowhere', 1)], look)).toMatchObject({ code: 'unknown-part' });
  expect(checkRecipe('k', [of('old', 1)], look)).toEqual({ code: 'retired-part', productId: 'old' });
  expect(checkRecipe('k', [of('jar', 9)], look)).toBeNull();
});

test('a loop is spelled out, also through others; diamonds are no loop', () => {
  const things: Record<string, PartFacts> = {
    k: thing([['x', 1]]),
    x: thing([['y', 1]]),
    y: thing([['k', 2]]),
    p: thing(),
    left: thing([['p', 1]]),
    right: thing([['p', 1]]),
  };
  const look = (id: string) => things[id];
  expect(checkRecipe('k', [of('k', 1)], look)).toEqual({ code: 'loop', path: ['k', 'k'] });
  expect(checkRecipe('k', [of('p', 1), of('x', 1)], look)).toEqual({
    code: 'loop',
    path: ['k', 'x', 'y', 'k'],
  });
  expect(checkRecipe('n', [of('left', 1), of('right', 1)], look)).toBeNull();
});

test('50 levels are a recipe, 51 a mistake', () => {
  const look = (id: string): PartFacts | undefined => {
    const n = Number(id);
    return n === 0 ? thing() : thing([[String(n - 1), 1]]);
  };
  expect(checkRecipe('top', [of('49', 1)], look)).toBeNull();
  expect(checkRecipe('top', [of('50', 1)], look)).toEqual({ code: 'too-deep', levels: 51 });
});

test('versions differ by part, not by order', () => {
  expect(recipeChanges([of('a', 1), of('b', 2)], [of('b', 2), of('a', 1)])).toEqual([]);
  expect(recipeChanges([of('a', 1), of('b', 2)], [of('a', 3), of('c', 1)])).toEqual([
    { productId: 'a', before: 1, after: 3 },
    { productId: 'b', before: 2, after: 0 },
    { productId: 'c', before: 0, after: 1 },
  ]);
});

test('builds are proposed for open orders and least stock; the more urgent has the shared part first', () => {
  const things: Record<string, PartFacts> = {
    p: thing(),
    a: thing([['p', 2]]),
    b: thing([['p', 3]]),
    c: thing([['p', 1]]),
  };
  const need = { least: 0, free: 0, building: 0, unserved: 0, priority: 9 };
  const proposed = proposeBuilds(
    [
      { ...need, productId: 'a', unserved: 4, priority: 2 },
      { ...need, productId: 'b', least: 3, free: 1, priority: 1 },
      { ...need, productId: 'c', least: 5, free: 2, building: 3 },
    ],
    id => (id === 'p' ? 9 : 0),
    id => things[id],
  );
  expect(proposed).toEqual([
    { productId: 'b', quantity: 2, now: 2, limits: [] },
    { productId: 'a', quantity: 4, now: 1, limits: [of('p', 5)] },
  ]);
});
