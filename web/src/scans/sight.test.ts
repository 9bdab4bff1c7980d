import { expect, test } from 'vitest';
import { Sight } from './sight.js';

test('a code counts once while it stays in sight, also when single pictures miss it', () => {
  const sight = new Sight();
  const seen = [['A'], ['A'], [], ['A'], [], [], [], ['A']].map(codes => sight.see(codes));
  expect(seen).toEqual([['A'], [], [], [], [], [], [], []]);
});

test('out of sight for some pictures it counts again; two codes count each for itself', () => {
  const sight = new Sight();
  expect(sight.see(['A', 'B', 'A'])).toEqual(['A', 'B']);
  for (let i = 0; i < 4; i++) expect(sight.see(['B'])).toEqual([]);
  expect(sight.see(['A', 'B'])).toEqual(['A']);
});
