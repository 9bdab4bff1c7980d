import { expect, test } from 'vitest';
import { planInboundBoxes } from './inboundBoxes.js';
import { moveUnits } from './moveUnits.js';
import { box, LB, LIMITS, line } from './samples.js';

const KINDS = [box('S', 8, 8, 8, 60), box('L', 16, 12, 12, 150)];
const LINES = [line('A', 20), line('B', 12, { weightMg: 3 * LB })];
const planned = planInboundBoxes(KINDS, LINES, LIMITS).boxes;
const unitsOf = (boxes: { contents: { id: string; units: number }[] }[], id: string) =>
  boxes.flatMap(b => b.contents.filter(c => c.id === id)).reduce((n, c) => n + c.units, 0);

test('units go from one box into another or a new one; none is lost, and an emptied box is gone', () => {
  expect(planned.length).toBeGreaterThan(1);
  const from = planned.findIndex(b => b.contents.some(c => c.id === 'A'));
  const here = planned[from]!.contents.find(c => c.id === 'A')!.units;
  const apart = moveUnits(planned, { line: 'A', units: 1, from, to: null }, KINDS, LINES, LIMITS);
  if (!apart.ok) throw new Error(apart.problem);
  expect(apart.value).toHaveLength(planned.length + 1);
  expect(apart.value.at(-1)).toMatchObject({
    box: { code: 'S' },
    contents: [{ id: 'A', units: 1, cases: 0 }],
  });
  expect([unitsOf(apart.value, 'A'), unitsOf(apart.value, 'B')]).toEqual([20, 12]);
  const back = moveUnits(
    apart.value,
    { line: 'A', units: 1, from: planned.length, to: from },
    KINDS,
    LINES,
    LIMITS,
  );
  if (!back.ok) throw new Error(back.problem);
  expect(back.value).toHaveLength(planned.length);
  expect(back.value[from]!.contents.find(c => c.id === 'A')!.units).toBe(here);
});

test('what does not fit, weighs too much or is not there is refused in a sentence', () => {
  const one = [{ box: KINDS[0]!, contents: [{ id: 'A', units: 4, cases: 0 }] }];
  const two = [...one, { box: KINDS[0]!, contents: [{ id: 'A', units: 4, cases: 0 }] }];
  const says = (result: ReturnType<typeof moveUnits>) => (result.ok ? '' : result.problem);
  expect(says(moveUnits(one, { line: 'A', units: 9, from: 0, to: null }, KINDS, LINES, LIMITS))).toBe(
    '4 units of it lie in box 1.',
  );
  expect(says(moveUnits(one, { line: 'A', units: 1, from: 0, to: 7 }, KINDS, LINES, LIMITS))).toBe(
    'There is no such box.',
  );
  expect(says(moveUnits(two, { line: 'A', units: 4, from: 0, to: 1 }, KINDS, LINES, LIMITS))).toBe(
    'Box 2: not all of it goes in.',
  );
  const light = { ...LIMITS, mostMg: 6 * LB };
  expect(says(moveUnits(two, { line: 'A', units: 2, from: 0, to: 1 }, KINDS, LINES, light))).toContain(
    'Box 2: it would weigh 7 lb',
  );
});
