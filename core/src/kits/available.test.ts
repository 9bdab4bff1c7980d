import fc from 'fast-check';
import { expect, test } from 'vitest';
import { available, freeAfter, missingFor, promiseTogether } from './available.js';
import type { Gathered, RecipePart } from './explode.js';
import { net } from './net.js';

const piece: Gathered = { kind: 'piece', recipeId: null, parts: [] };
const made = (kind: 'kit' | 'bundle', parts: [string, number][]): Gathered => ({
  kind,
  recipeId: 'r',
  parts: parts.map(([productId, quantity]) => ({ productId, quantity })),
});
const of = (productId: string, quantity: number): RecipePart => ({ productId, quantity });
const look = (things: Record<string, Gathered>) => (id: string) => things[id];
const free = (units: Record<string, number>) => (id: string) => units[id] ?? 0;

test('10 of each of four parts give 10 packs; one shipped, 9; 10 and 10 give 10', () => {
  const four = look({
    p: piece,
    q: piece,
    r: piece,
    s: piece,
    pack: made('bundle', [
      ['p', 1],
      ['q', 1],
      ['r', 1],
      ['s', 1],
    ]),
    pair: made('kit', [
      ['p', 1],
      ['q', 1],
    ]),
  });
  const all = (n: number) => free({ p: n, q: n, r: n, s: n });
  expect(available('pack', all(10), four)).toMatchObject({ value: { own: 0, makeable: 10 } });
  expect(available('pack', all(9), four)).toMatchObject({ value: { makeable: 9 } });
  expect(available('pair', all(10), four)).toMatchObject({ value: { own: 0, makeable: 10 } });
});

test('180 bundles of one A and two B, 219 B on hand, leave 141 B to buy', () => {
  const things = look({
    a: piece,
    b: piece,
    set: made('bundle', [
      ['a', 1],
      ['b', 2],
    ]),
  });
  const netted = net([of('set', 180)], free({ a: 180, b: 219 }), things);
  expect(netted.ok && [...netted.value.short]).toEqual([['b', 141]]);
});

test('a stocked kit inside is used before its parts, and shared parts are counted once', () => {
  const things = look({
    nail: piece,
    frame: made('kit', [['nail', 4]]),
    hive: made('kit', [
      ['frame', 10],
      ['nail', 20],
    ]),
  });
  const units = { nail: 100, frame: 12, hive: 2 };
  // Hive 3 takes 10 frames and 20 nails; hive 4 has 2 frames, makes 8 of 32 nails and needs 20: 72 of 80. A fifth takes 132 in all.
  expect(available('hive', free(units), things)).toEqual({
    ok: true,
    value: { own: 2, makeable: 2, limits: [of('nail', 32)] },
  });
  expect(missingFor('hive', 6, free(units), things)).toEqual({ ok: true, value: [of('nail', 92)] });
  const netted = net([of('hive', 4)], free(units), things);
  expect(netted.ok && Object.fromEntries(netted.value.builds)).toEqual({ hive: 2, frame: 8 });
});

test('wishes together: yes with the builds it takes, or the wish at which a part runs out', () => {
  const things = look({
    jar: piece,
    knife: piece,
    crate: made('kit', [['jar', 24]]),
    harvest: made('bundle', [
      ['jar', 24],
      ['knife', 1],
    ]),
  });
  const units = free({ jar: 100, knife: 9, crate: 1 });
  expect(promiseTogether([of('crate', 2), of('harvest', 3)], units, things)).toEqual({
    ok: true,
    value: { yes: true, builds: [of('crate', 1)] },
  });
  expect(promiseTogether([of('crate', 3), of('harvest', 3)], units, things)).toEqual({
    ok: true,
    value: { yes: false, at: 1, fits: 2, runsOut: [of('jar', 20)], short: [of('jar', 20)] },
  });
});

test('what is left after open wants', () => {
  const things = look({ jar: piece, crate: made('kit', [['jar', 24]]) });
  const left = freeAfter([of('jar', 10), of('crate', 2)], free({ jar: 50, crate: 1 }), things);
  expect([left('jar'), left('crate')]).toEqual([16, 0]);
});

test('50 levels deep, loops, and numbers beyond counting', () => {
  const deep: Record<string, Gathered> = { p0: piece };
  for (let i = 1; i <= 50; i++) deep[`p${i}`] = made('bundle', [[`p${i - 1}`, 2]]);
  const netted = net([of('p50', 1)], () => 0, look(deep));
  expect(netted.ok && netted.value.short.get('p0')).toBe(2 ** 50);
  expect(net([of('p50', 1000)], () => 0, look(deep))).toMatchObject({ problem: { code: 'too-many' } });
  const loop = look({ a: made('kit', [['b', 1]]), b: made('kit', [['a', 1]]) });
  expect(available('a', () => 0, loop)).toEqual({
    ok: false,
    problem: { code: 'loop', path: ['a', 'b', 'a'] },
  });
});

/** Small worlds: four pieces, two kits of pieces, a kit with a kit, a bundle over all. */
const world = fc
  .record({ q: fc.array(fc.integer({ min: 0, max: 3 }), { minLength: 14, maxLength: 14 }) })
  .map(({ q }) => {
    const ids = ['a', 'b', 'c', 'd', 'k', 'l', 'm'];
    const parts = (from: number, count: number): [string, number][] => {
      const all = ids.slice(0, count).map((id, i): [string, number] => [id, q[(from + i) % 14]!]);
      return all.some(([, n]) => n > 0) ? all.filter(([, n]) => n > 0) : [[ids[0]!, 1]];
    };
    const things: Record<string, Gathered> = { a: piece, b: piece, c: piece, d: piece };
    things.k = made('kit', parts(0, 3));
    things.l = made('kit', parts(3, 4));
    things.m = made('kit', parts(6, 5));
    things.z = made('bundle', parts(8, 7));
    return things;
  });
const stock = fc.record(
  Object.fromEntries('abcdklm'.split('').map(id => [id, fc.nat(30)])) as Record<string, fc.Arbitrary<number>>,
);

/** One unit after the other, by hand: from stock, else from its parts. */
function takeOne(id: string, units: Record<string, number>, things: Record<string, Gathered>): boolean {
  const thing = things[id]!;
  if (thing.kind !== 'bundle' && (units[id] ?? 0) > 0) {
    units[id]! -= 1;
    return true;
  }
  if (thing.parts.length === 0) return false;
  return thing.parts.every(p =>
    Array.from({ length: p.quantity }).every(() => takeOne(p.productId, units, things)),
  );
}

test('the makeable number is the one found by taking one after another, and one more lacks something', () => {
  fc.assert(
    fc.property(world, stock, fc.constantFrom('m', 'z'), (things, units, target) => {
      const found = available(target, free(units), look(things));
      if (!found.ok) return false;
      const most = found.value.own + found.value.makeable;
      const fitsAll = missingFor(target, most, free(units), look(things));
      const left = { ...units };
      let n = 0;
      while (n <= most && takeOne(target, left, things)) n++;
      // Taking one by one uses every kit before its parts as well, so it comes to the same number.
      return n === most && fitsAll.ok && fitsAll.value.length === 0 && found.value.limits.length > 0;
    }),
    { numRuns: 300 },
  );
});
