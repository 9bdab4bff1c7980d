import fc from 'fast-check';
import { expect, test } from 'vitest';
import type { KnownThing, Scan } from '../scans/scan.js';
import { type CountState, countScan, openCount } from './countSession.js';

let n = 0;
const PRODUCTS: Record<string, KnownThing> = {
  JAR: { kind: 'product', name: 'Jar', sku: 'JAR', units: 1 },
  CASE: { kind: 'product', name: 'Jar', sku: 'JAR', units: 12 },
  MITE: { kind: 'product', name: 'Mite strip', sku: 'MITE', units: 1, lots: true },
  '(01)09506000134352(10)L2': { kind: 'product', name: 'Mite strip', sku: 'MITE', units: 1, lots: true },
  '(01)09506000134352(10)L9': { kind: 'product', name: 'Mite strip', sku: 'MITE', units: 1, lots: true },
  'B-07-2': { kind: 'place', name: 'B-07-2' },
};
const scan = (text: string): Scan => ({
  id: String(++n),
  text,
  at: '2026-11-25T08:00:00.000Z',
  device: 'd',
  count: n,
  ...(PRODUCTS[text] && { known: PRODUCTS[text] }),
});
function run(from: CountState, texts: readonly string[]) {
  let [state, says, kind] = [from, '', ''];
  for (const t of texts) {
    const step = countScan(state, scan(t));
    ({ says, kind } = step.answer);
    state = step.state;
  }
  return { state, says, kind, counted: state.lines.map(l => l.counted) };
}
const open = openCount('A-01-1', 7, [
  { sku: 'JAR', name: 'Jar', lot: null },
  { sku: 'MITE', name: 'Mite strip', lot: 'L1' },
  { sku: 'MITE', name: 'Mite strip', lot: 'L2' },
]);

test('pieces, cases and typed numbers are counted; what nobody counted stays open', () => {
  const got = run(open, ['JAR', 'CASE', '5']);
  expect(got.says).toBe('18 × Jar.');
  expect(got.counted).toEqual([18, null, null]);
  expect(got.state.seen).toBe(7);
});

test('of several lots the code says which, else it is asked once, and the next pieces follow', () => {
  const asked = run(open, ['MITE']);
  expect(asked.says).toBe('Mite strip: which lot?');
  expect(asked.counted).toEqual([null, null, null]);
  expect(run(asked.state, ['L7']).kind).toBe('refused');
  const told = run(asked.state, ['l1', 'MITE', 'MITE']);
  expect(told.says).toBe('3 × Mite strip, lot L1.');
  expect(run(told.state, ['(01)09506000134352(10)L2']).counted).toEqual([null, 3, 1]);
  // A lot that the books do not know here is found goods, and a line of its own.
  expect(run(open, ['(01)09506000134352(10)L9']).state.lines.at(-1)).toEqual({
    sku: 'MITE',
    name: 'Mite strip',
    lot: 'L9',
    counted: 1,
  });
  expect(run(asked.state, ['AUK-UNDO']).state.asked).toBeNull();
});

test('what is no product, or nothing known, is refused by its name and changes nothing', () => {
  for (const [text, says] of [
    ['B-07-2', 'This is B-07-2, and nothing to count here.'],
    ['NO-SUCH', /^Nothing has the code NO-SUCH/],
    ['AUK-CLOSE', /does nothing while counting/],
    ['7', /Scan one piece first/],
    ['', /Nothing was read/],
  ] as const) {
    const got = run(open, [text]);
    expect(got.kind).toBe('refused');
    expect(got.says).toMatch(says);
    expect(got.state).toBe(open);
  }
});

test('undoing everything leads back to nothing counted', () => {
  const texts = fc.array(fc.constantFrom('JAR', 'CASE', '3', '(01)09506000134352(10)L2'), { maxLength: 20 });
  fc.assert(
    fc.property(texts, made => {
      const counted = run(open, made);
      const back = run(
        counted.state,
        counted.state.history.map(() => 'AUK-UNDO'),
      );
      expect(back.counted.every(c => c === null)).toBe(true);
      expect(run(back.state, ['AUK-UNDO']).kind).toBe('refused');
    }),
  );
});
