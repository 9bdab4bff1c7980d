import type { PlanView } from '@auk/contract';
import { expect, test } from 'vitest';
import { shown } from '../parts/shown.js';
import { Figures } from './parts/Figures.js';

const list = (released: string | null) => ({ released }) as PlanView['lists'][number];
const plan = (more: Partial<PlanView>): PlanView =>
  ({
    method: 'cluster',
    metres: 1_500,
    boundMetres: 1_250,
    singlyMetres: 3_000,
    firstComeMetres: 2_000,
    exact: true,
    minutes: 84,
    late: 0,
    lateAlready: 0,
    lists: [list(null), list(null)],
    compared: [],
    ...more,
  }) as PlanView;
const figures = (more: Partial<PlanView> = {}) => shown(<Figures plan={plan(more)} />).words;

test('a plan tells what is walked, against what it would be otherwise, and how far it can be from the best', () => {
  const words = figures();
  expect(words).toContain('1.50 km walked in all, each walk the shortest there is');
  expect(words).toContain('0.50 of the same orders one by one, up and down the aisles (3.00 km)');
  expect(words).toContain('0.75 of trolleys filled as orders came (2.00 km)');
  expect(words).toContain('+ 20 % above what no plan can go below (1.25 km)');
  expect(words).toContain('84 min of all pickers together, ✓ nothing late');
});

test('what nobody can say is not said: no measure, no bound, walks that are not proven', () => {
  const words = figures({ singlyMetres: null, firstComeMetres: 0, boundMetres: 0, exact: false });
  expect(words).toBe(
    '1.50 km walked in all, each walk improved step by step 84 min of all pickers together, ✓ nothing late',
  );
  // A plan that is below the bound by a rounding is at it.
  expect(figures({ metres: 1_249 })).toContain('+ 0 %');
});

test('what will be late is counted, with what is late whatever is done; of released lists nothing is foretold', () => {
  expect(figures({ late: 7, lateAlready: 5 })).toContain('✕ 7 late, 5 of them whatever is done');
  expect(figures({ late: 7 })).toMatch(/✕ 7 late$/);
  expect(figures({ late: 7, lists: [list('PL-1'), list(null)] })).toContain('✕ 7 late');
  expect(figures({ late: 7, lists: [list('PL-1'), list('PL-2')] })).toMatch(
    /84 min of all pickers together$/,
  );
});

test('other methods stand beside, the one that was chosen does not', () => {
  const compared = (['cluster', 'single', 'batch'] as const).map((method, i) => ({
    method,
    lists: 3 + i,
    metres: 1_000 * (i + 1),
    minutes: 80 + i,
    late: i,
  })) as PlanView['compared'];
  const words = figures({ compared });
  expect(words).toContain('81 min one by one instead: 4 lists, 2.00 km, 1 late');
  expect(words).toContain('82 min as one heap instead: 5 lists, 3.00 km, 2 late');
  expect(words).not.toContain('by trolley instead');
});
