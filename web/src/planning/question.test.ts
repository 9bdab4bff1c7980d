import type { PlanChoices } from '@auk/contract';
import { FIRST_TROLLEY } from '@auk/contract';
import { DateTime } from 'luxon';
import { expect, test } from 'vitest';
import { cutOffs, firstWish, questionOf, shiftEnds, wishOf } from './question.js';

const [noon, three] = ['2026-11-26T17:00:00.000Z', '2026-11-26T20:00:00.000Z'];
const leaving = (id: string, cutOff: string, orders: number) => ({
  id,
  carrier: 'c',
  name: 'n',
  cutOff,
  orders,
});
const choices: PlanChoices = {
  clear: 9,
  departures: [leaving('a', noon, 2), leaving('b', noon, 3), leaving('c', three, 4)],
  tags: [],
  areas: [],
  waiting: [],
  waitingOrders: 0,
  trolley: FIRST_TROLLEY,
  cells: 0,
  timesFrom: '',
};

test('leaving by a cut-off means all that leave until then', () => {
  expect(cutOffs(choices)).toEqual([
    { cutOff: noon, orders: 5 },
    { cutOff: three, orders: 9 },
  ]);
  const by = (cutOff: string) => questionOf({ ...firstWish(choices), by: cutOff }, choices, null).departures;
  expect([by(''), by(noon), by(three)]).toEqual([[], ['a', 'b'], ['a', 'b', 'c']]);
});

test('a plan shows the question it was made for, and asks it again', () => {
  const wish = { ...firstWish(choices), by: three, tag: 'gift', apart: true, pickers: 3, until: three };
  const question = questionOf(wish, choices, 'plan');
  expect(wishOf(question, choices)).toEqual(wish);
  expect(question.keep).toBe('plan');
});

test('a shift ends at a half hour, from the next one on', () => {
  expect(shiftEnds(DateTime.fromISO('2026-11-26T10:10:00Z'))[0]).toBe('2026-11-26T10:30:00.000Z');
  const ends = shiftEnds(DateTime.fromISO('2026-11-26T10:40:00Z'));
  expect([ends[0], ends.length]).toEqual(['2026-11-26T11:00:00.000Z', 24]);
});
