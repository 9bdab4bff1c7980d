import { expect, test } from 'vitest';
import { TOKENS } from '../../theme/tokens.js';
import { csvOf, figure, type Series } from './figure.js';

const due: Series = {
  name: 'Due by their cut-offs',
  tone: 'ink',
  dashed: true,
  steps: true,
  values: [0, 4, 9],
};
const labelled: Series = { name: 'Labelled', tone: 'done', values: [0, 3, null] };

test('lines wear the colours of the theme, dashed and in steps where they say so', () => {
  const { data } = figure(['07:00', '08:00', '09:00'], [labelled, due], TOKENS.dark, 1);
  expect(data).toMatchObject([
    { name: 'Labelled', line: { color: TOKENS.dark.done } },
    { name: 'Due by their cut-offs', line: { color: TOKENS.dark.ink, dash: 'dash', shape: 'hv' } },
  ]);
  expect(data[0]).not.toHaveProperty('line.dash');
  expect(data[0]!.y).toEqual([0, 3, null]);
});

test('days stand on an axis of time, words on one of their own from the first to the last', () => {
  const days = figure(['2026-11-01', '2026-11-02'], [labelled], TOKENS.desk, 1).layout.xaxis;
  expect(days).toMatchObject({ type: 'date', tickformat: '%-d %b' });
  const hours = figure(['07:00', '08:00', '09:00'], [labelled], TOKENS.desk, 1).layout.xaxis;
  expect(hours).toMatchObject({ type: 'category', range: [0, 2] });
});

test('text grows with the size that a person chose', () => {
  const at = (scale: number) => figure(['07:00'], [labelled], TOKENS.desk, scale).layout;
  expect(at(1.5).font.size).toBe(1.5 * at(1).font.size);
  expect(at(1.5).margin.l).toBeGreaterThan(at(1).margin.l);
});

test('values go out one row a place, with what has none left empty and commas kept within quotes', () => {
  expect(csvOf(['07:00', '08:00', '09:00'], 'By', [labelled, { ...due, name: 'Due, in all' }])).toBe(
    'By,Labelled,"Due, in all"\n07:00,0,0\n08:00,3,4\n09:00,,9\n',
  );
});

test('bars of two series stand beside each other, in the colours of the theme', () => {
  const spent: Series = { name: 'Spent', tone: 'ink', bars: true, values: [4, 5] };
  const { data, layout } = figure(
    ['Heron Post', 'Redfen'],
    [spent, { ...spent, tone: 'done' }],
    TOKENS.desk,
    1,
  );
  expect(data.map(d => [d.type, 'marker' in d && d.marker.color])).toEqual([
    ['bar', TOKENS.desk.ink],
    ['bar', TOKENS.desk.done],
  ]);
  expect(layout).toMatchObject({ barmode: 'group' });
  expect(layout.xaxis).not.toHaveProperty('range');
});
