import { expect, test } from 'vitest';
import { walkTo } from './walking.js';

test('the cursor walks within the list', () => {
  expect(walkTo('ArrowDown', 0, 3, 10)).toBe(1);
  expect(walkTo('ArrowDown', 2, 3, 10)).toBe(2);
  expect(walkTo('ArrowUp', 0, 3, 10)).toBe(0);
  expect(walkTo('PageDown', 1, 50, 10)).toBe(11);
  expect(walkTo('End', 1, 50, 10)).toBe(49);
  expect(walkTo('x', 1, 50, 10)).toBeNull();
});
