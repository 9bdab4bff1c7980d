import { expect, test } from 'vitest';
import { carried, type KnownThing, type Scan } from '../scans/scan.js';
import { type BuildState, buildScan, openBuild } from './buildSession.js';

let n = 0;
const scan = (text: string, known?: KnownThing): Scan => ({
  id: String(++n),
  text,
  at: '2026-11-25T08:00:00.000Z',
  device: 'd',
  count: n,
  ...(known && { known }),
});
const open = openBuild('BU-7', { sku: 'KIT', name: 'Tool kit', codes: [{ code: 'CASE-KIT', units: 6 }] });
const SHELF: KnownThing = { kind: 'place', name: 'B-07-2' };
function run(from: BuildState, scans: readonly Scan[]) {
  const [first, ...rest] = scans;
  return rest.reduce((step, s) => buildScan(step.state, s), buildScan(from, first!));
}

test('the kit’s own codes count what is made, a place says where it goes, undo takes the last back', () => {
  const done = run(open, [scan('kit'), scan('CASE-KIT'), scan('2'), scan('b-07-2', SHELF)]);
  expect(done.answer.says).toBe('They go to B-07-2.');
  expect(done.state).toMatchObject({ made: 9, to: 'B-07-2' });
  expect(run(done.state, [scan('KIT')]).answer.says).toBe('10 × Tool kit made, for B-07-2.');
  const back = run(done.state, [scan('AUK-UNDO'), scan('AUK-UNDO')]);
  expect(back.state).toMatchObject({ made: 7, to: null });
  expect(run(open, [scan('AUK-UNDO')]).answer.kind).toBe('refused');
});

test('anything else is refused by its name', () => {
  const stranger = run(open, [scan('C-SMK', { kind: 'product', name: 'Smoker', sku: 'SMK' })]);
  expect(stranger.answer.says).toBe('This is Smoker; it is neither this kit nor a place.');
  expect(run(open, [scan('NO-SUCH')]).answer.says).toMatch(/Nothing has the code NO-SUCH/);
  // A number counts as more of what was made; before the first it says nothing.
  expect(run(open, [scan('3')]).answer.kind).toBe('refused');
  expect(run(open, [scan('3')]).state).toBe(open);
});

test('the state of a session goes over version by version; a newer one is not understood', () => {
  const steps = {
    3: (s: unknown) => ({ ...(s as object), c: 3 }),
    4: (s: unknown) => ({ ...(s as object), d: 4 }),
  };
  expect(carried({ a: 1 }, 1, steps, 4)).toEqual({ a: 1, c: 3, d: 4 });
  expect(carried({ a: 1 }, 3, steps, 4)).toEqual({ a: 1, d: 4 });
  expect(carried({ a: 1 }, 4, steps, 4)).toEqual({ a: 1 });
  expect(carried({ a: 1 }, 5, steps, 4)).toBeNull();
});
