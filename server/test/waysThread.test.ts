import type { Box, LineToBox } from '@auk/core';
import { expect, test } from 'vitest';
import { planAside, type WaysTask } from '../src/inbound/waysThread.js';

const box: Box = {
  code: 'BX-1',
  name: 'Box',
  inner: { length: 3_000, width: 2_000, height: 1_500 },
  tareMg: 200_000,
  limitMg: 20_000_000,
  priceMinor: 60,
};
const jars = (units: number): LineToBox => ({
  id: 'jar',
  units,
  size: { length: 700, width: 700, height: 900 },
  weightMg: 400_000,
  fragile: false,
  upright: true,
  inCases: null,
  own: false,
});
const asked = (units: number): WaysTask => ({
  ways: null,
  boxes: [{ kinds: [box], lines: [jars(units)], limits: { mostMg: 22e6, mostSide: 6_000, heavyMg: 15e6 } }],
});
const unitsIn = async (task: WaysTask) =>
  (await planAside(task)).boxes[0]!.boxes.flatMap(b => b.contents).reduce((n, c) => n + c.units, 0);

test('boxes are planned in a thread; the same question is worked out once, another one anew', async () => {
  const first = planAside(asked(30));
  expect(planAside(asked(30))).toBe(first);
  expect(await unitsIn(asked(30))).toBe(30);
  expect(planAside(asked(31))).not.toBe(first);
  expect(await unitsIn(asked(31))).toBe(31);
  // What nobody asked for lately is not kept.
  for (let units = 1; units <= 8; units++) await planAside(asked(units));
  expect(planAside(asked(30))).not.toBe(first);
  expect(await unitsIn(asked(30))).toBe(30);
});

test('what cannot be planned is told each time it is asked, and is not remembered', async () => {
  const wrong = { ways: null, boxes: [null] } as unknown as WaysTask;
  await expect(planAside(wrong)).rejects.toThrow();
  await expect(planAside(wrong)).rejects.toThrow();
});
