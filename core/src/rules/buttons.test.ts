import { expect, test } from 'vitest';
import { STAGES, type Stage } from '../orders/stage.js';
import { ACTION_NAMES, ACTIONS, type ActionName } from './actions.js';
import { tooLate } from './buttons.js';

const late = (action: ActionName, stage: Stage) => tooLate({ do: [{ do: action }] }, stage);

test('a button comes too late for what its moments have passed', () => {
  expect(late('first', 'Clear')).toBeNull();
  expect(late('first', 'Listed')).toBe('It is too late to let it go first: the order is on a pick list.');
  expect(late('box', 'Picked')).toBeNull();
  expect(late('box', 'Packed')).toBe('It is too late to pack in: the order is packed.');
  expect(late('send by', 'Packed')).toBeNull();
  expect(late('send by', 'Labelled')).toBe('It is too late to send by: the order is labelled.');
  expect(late('tag', 'Departed')).toBeNull();
  expect(late('tag', 'Cancelled')).toBe('It is too late to tag it: the order is cancelled.');
});

test('of several things the first that is too late is told; what stands before picking is never too late', () => {
  expect(tooLate({ do: [{ do: 'tag' }, { do: 'box' }, { do: 'first' }] }, 'Departed')).toContain('pack in');
  for (const action of ACTION_NAMES)
    for (const stage of ['Stopped', 'Parked', 'Short', 'Clear'] as const)
      expect(late(action, stage)).toBeNull();
});

test('every action is closed from some stage on, and stays closed', () => {
  const on: Stage[] = ['Clear', 'Listed', 'Picked', 'Packed', 'Labelled', 'Departed', 'Cancelled'];
  expect(on.every(s => STAGES.includes(s))).toBe(true);
  for (const action of ACTION_NAMES) {
    const closed = on.map(stage => late(action, stage) !== null);
    expect(closed.at(-1)).toBe(true);
    expect(closed.join()).toBe([...closed].sort().join());
    // As long as an order is at a moment at which it may stand, it is not too late.
    const { moments } = ACTIONS[action];
    if ((moments as readonly string[]).includes('packed')) expect(late(action, 'Packed')).toBeNull();
  }
});
