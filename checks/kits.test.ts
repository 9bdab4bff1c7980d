import { available, type Gathered, net, promiseTogether, type RecipePart, seeded } from '@auk/core';
import loadHighs from 'highs';
import { expect, test } from 'vitest';

interface World {
  things: Map<string, Gathered>;
  free: Map<string, number>;
  wishes: RecipePart[];
}

/** A small random house: pieces, kits of pieces and kits, bundles of all; stock; wishes for some of them. */
function makeWorld(seed: number): World {
  const random = seeded(seed);
  const below = (n: number) => Math.floor(random() * n);
  const things = new Map<string, Gathered>();
  const free = new Map<string, number>();
  const ids = ['a', 'b', 'c', 'd', 'k', 'l', 'm', 'x', 'y'];
  ids.forEach((id, i) => {
    const kind = i < 4 ? 'piece' : i < 7 ? 'kit' : 'bundle';
    const parts = ids
      .slice(0, i)
      .filter(() => kind !== 'piece' && below(3) === 0)
      .map(productId => ({ productId, quantity: 1 + below(3) }));
    if (kind !== 'piece' && parts.length === 0) parts.push({ productId: 'a', quantity: 1 });
    things.set(id, { kind, recipeId: kind === 'piece' ? null : 'r', parts });
    if (kind !== 'bundle') free.set(id, below(kind === 'piece' ? 60 : 6));
  });
  const wishes = ids.filter(() => below(2) === 1).map(productId => ({ productId, quantity: 1 + below(6) }));
  return { things, free, wishes };
}

/**
 * The same question as an integer program: how many of each kit and bundle to make so that, of every product, stock and what is
 * made cover the wishes and what makings take; of the last wish as many as possible. Null when not even none of it fits.
 */
function program({ things, free, wishes }: World, last: string | null): string {
  const made = [...things].filter(([, t]) => t.kind !== 'piece').map(([id]) => id);
  const rows = [...things.keys()].map(id => {
    const takes = made.flatMap(m => {
      const part = things.get(m)!.parts.find(p => p.productId === id);
      return part ? [`- ${part.quantity} made_${m}`] : [];
    });
    const own = made.includes(id) ? [`+ made_${id}`] : [];
    const wanted = wishes.filter(w => w.productId === id).reduce((n, w) => n + w.quantity, 0);
    const more = last === id ? ['- most'] : [];
    return ` p_${id}: ${[...own, ...takes, ...more, '+ 0 most'].join(' ')} >= ${wanted - (free.get(id) ?? 0)}`;
  });
  const general = [...made.map(m => `made_${m}`), 'most'].join(' ');
  return `Maximize\n obj: most\nSubject To\n${rows.join('\n')}\nBounds\n 0 <= most <= 1000\n${made.map(m => ` 0 <= made_${m} <= 10000`).join('\n')}\nGeneral\n ${general}\nEnd`;
}

const highs = await loadHighs();
const solve = (world: World, last: string | null): number | null => {
  const { Status, ObjectiveValue } = highs.solve(program(world, last));
  return Status === 'Optimal' ? Math.round(ObjectiveValue) : null;
};

// Source: the registry solver highs 1.15.3 (exact integer programs).
test('joint promises agree with an integer program on 400 random small houses', { timeout: 120_000 }, () => {
  let [yes, no] = [0, 0];
  for (let seed = 1; seed <= 400; seed++) {
    const world = makeWorld(seed);
    if (world.wishes.length === 0) continue;
    const look = (id: string) => world.things.get(id);
    const answer = promiseTogether(world.wishes, id => world.free.get(id) ?? 0, look);
    expect(answer.ok).toBe(true);
    if (!answer.ok) return;
    const feasible = solve(world, null) !== null;
    expect(answer.value.yes, `house ${seed}`).toBe(feasible);
    if (answer.value.yes) {
      yes++;
      continue;
    }
    no++;
    const { at, fits } = answer.value;
    const before = { ...world, wishes: world.wishes.slice(0, at) };
    expect(solve(before, world.wishes[at]!.productId), `house ${seed}, wish ${at}`).toBe(fits);
  }
  expect(Math.min(yes, no)).toBeGreaterThan(50);
});

// Source: the registry solver highs 1.15.3.
test('how many of a nested kit there can be agrees with an integer program', { timeout: 120_000 }, () => {
  for (let seed = 1_000; seed < 1_200; seed++) {
    const world = { ...makeWorld(seed), wishes: [] };
    for (const id of ['l', 'm', 'y']) {
      const found = available(
        id,
        p => world.free.get(p) ?? 0,
        p => world.things.get(p),
      );
      if (!found.ok) throw new Error(found.problem.code);
      expect(found.value.own + found.value.makeable, `house ${seed}, ${id}`).toBe(
        Math.min(1000, solve(world, id)!),
      );
    }
  }
});

// Common practice of the trade; no published source.
test('the numbers of the trade: 10 of four parts, 9 after one; 10 and 10; 180 bundles with 219 on hand lack 141', () => {
  const things = new Map<string, Gathered>(
    ['a', 'b', 'c', 'd'].map(id => [id, { kind: 'piece', recipeId: null, parts: [] }]),
  );
  const one = (productId: string) => ({ productId, quantity: 1 });
  things.set('pack', { kind: 'bundle', recipeId: 'r', parts: ['a', 'b', 'c', 'd'].map(one) });
  things.set('kit', { kind: 'kit', recipeId: 'r', parts: ['a', 'b'].map(one) });
  things.set('set', { kind: 'bundle', recipeId: 'r', parts: [one('a'), { productId: 'b', quantity: 2 }] });
  const look = (id: string) => things.get(id);
  const of = (id: string, n: number) => {
    const found = available(id, p => (p === 'kit' ? 0 : n), look);
    return found.ok ? found.value.makeable : -1;
  };
  expect([of('pack', 10), of('pack', 9), of('kit', 10)]).toEqual([10, 9, 10]);
  const netted = net([{ productId: 'set', quantity: 180 }], id => (id === 'b' ? 219 : 180), look);
  expect(netted.ok && netted.value.short.get('b')).toBe(141);
});
