import type { KitView, RecipeVersion } from '@auk/contract';
import { expect, test } from 'vitest';
import { shown } from '../parts/shown.js';
import { Recipe, Version } from './parts/Recipe.js';

const version = (more: Partial<RecipeVersion>): RecipeVersion =>
  ({
    version: 2,
    at: '2026-11-25T08:00:00.000Z',
    person: 'Ada',
    note: '',
    parts: [
      { sku: 'BODY', name: 'Hive body', quantity: 1 },
      { sku: 'FRAME', name: 'Frame', quantity: 10 },
    ],
    changes: [],
    ...more,
  }) as RecipeVersion;

test('a recipe tells how many of each part are in one, how many are free, and which of them limit', () => {
  const kit = {
    versions: [version({})],
    frees: { FRAME: 40 },
    limits: [{ sku: 'BODY' }],
  } as unknown as KitView;
  const { words, markup } = shown(<Recipe kit={kit} />);
  expect(words).toMatch(/1 × Hive body BODY 0 ▲ limits how many can be made/);
  expect(words).toMatch(/10 × Frame FRAME 40$/);
  expect(markup).toContain('href="/products/BODY"');
});

test('a version tells who made it and what it changed, a first one what it is made of', () => {
  const said = (more: Partial<RecipeVersion>) => shown(<Version version={version(more)} />).words;
  expect(said({ version: 1 })).toMatch(/Version 1 · .* · Ada 1 × Hive body, 10 × Frame$/);
  const changes = [
    { sku: 'BODY', before: 1, after: 2 },
    { sku: 'LID', before: 0, after: 1 },
    { sku: 'FRAME', before: 10, after: 0 },
  ] as RecipeVersion['changes'];
  const words = said({ person: null, note: 'More room.', changes });
  expect(words).toContain('Auk · “More room.”');
  expect(words).toContain('BODY: 1 → 2, 1 × LID added, 10 × FRAME taken out');
});
