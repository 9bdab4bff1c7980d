import fc from 'fast-check';
import { expect, test } from 'vitest';
import { sampleProduct } from '../catalog/scanProduct.sample.js';
import { lettersOf } from '../picking/layout.js';
import type { Scan } from '../scans/scan.js';
import { type HeapLine, inCell, openSort, type SortState, sortDone, sortScan } from './sortSession.js';
import { MOST_WALLS, nextWall, wallCells } from './wall.js';

let made = 0;
const scan = (text: string, known?: Scan['known']): Scan => ({
  id: String(++made),
  text,
  at: '2026-11-23T08:00:00.000Z',
  device: 'd',
  count: made,
  ...(known && { known }),
});
const line = (id: string, sku: string, orderNo: string, wanted: number): HeapLine => ({
  id,
  product: sampleProduct(sku, 6),
  orderNo,
  wanted,
  sorted: 0,
});
const cells = (n: number) =>
  wallCells('A', 1, n).map(c => ({ id: c.code, code: c.code, mark: c.mark, orderNo: null }));
const open = (n = 3) =>
  openSort('A', 'TR-1', cells(n), [
    line('l1', 'FRAME', 'OR-1', 2),
    line('l2', 'LIDTOP', 'OR-2', 1),
    line('l3', 'FRAME', 'OR-2', 8),
    line('l4', 'SMOKER', 'OR-1', 1),
  ]);
const play = (from: SortState, ...texts: string[]) => {
  let step = sortScan(from, scan(texts[0]!));
  for (const t of texts.slice(1)) step = sortScan(step.state, scan(t));
  return step;
};

test('a product lights the cell of the most urgent order that wants it', () => {
  const first = play(open(), 'FRAME');
  expect(first.answer).toMatchObject({ tone: 'right', says: 'Cell 1. 2 more to come.' });
  expect(first.effects).toEqual([{ type: 'sort', lineId: 'l1', cellId: 'CE-A01', units: 1 }]);
  const second = play(first.state, 'FRAME', 'FRAME');
  expect(second.answer.says).toBe('Cell 2. 8 more to come.');
  expect(second.state.lit).toMatchObject({ cell: 1, line: 2 });
  const whole = play(second.state, 'SMOKER');
  expect(whole.answer).toMatchObject({ tone: 'complete', says: 'Cell 1. OR-1 is whole.' });
});

test('a case goes to whoever wants a whole case; a number and ALL put more into the lit cell', () => {
  const box = play(open(), 'CASE-FRAME');
  expect(box.effects).toMatchObject([{ lineId: 'l3', units: 6 }]);
  expect(box.answer.says).toBe('6 into cell 1. 3 more to come.');
  expect(play(box.state, '3').answer.says).toBe('Too many: cell 1 wants only 2 more of frame.');
  expect(play(box.state, 'AUK-ALL').effects).toMatchObject([{ lineId: 'l3', units: 2 }]);
  expect(play(box.state, 'CASE-FRAME').answer.says).toBe('That code counts 6, and no order wants so many.');
  expect(play(open(), '2').answer.tone).toBe('wrong');
});

test('the cell may be scanned, and a wrong one is said', () => {
  const lit = play(open(), 'LIDTOP');
  expect(play(lit.state, 'CE-A02').answer.says).toBe('That is cell 2; it goes into 1.');
  expect(play(lit.state, 'CE-A01').answer.says).toBe('Right cell, 1.');
  expect(play(lit.state, 'CE-A01', 'CE-A01').answer.tone).toBe('wrong');
});

test('what is not of the heap, what is too many, and a full wall are refused with what to do', () => {
  expect(play(open(), 'HONEY').answer.says).toBe('Nothing of this heap has the code HONEY.');
  const known = sortScan(open(), scan('4006381333931', { kind: 'product', name: 'Honey jar' }));
  expect(known.answer.says).toBe('Honey jar is not of this heap.');
  expect(play(open(), 'SMOKER', 'SMOKER').answer.says).toBe(
    'All smoker of this heap is sorted; this one is too many.',
  );
  const full = play(open(1), 'SMOKER', 'LIDTOP');
  expect(full.answer).toMatchObject({ tone: 'wrong', says: 'All 1 cell of wall A hold an order.' });
});

test('undo takes the last piece out and frees a cell that it had opened', () => {
  const { state } = play(open(), 'FRAME', 'LIDTOP');
  const undone = play(state, 'AUK-UNDO');
  expect(undone.answer.says).toBe('Undone: take 1 piece of lidtop out of cell 2.');
  expect(undone.state.cells.map(c => c.orderNo)).toEqual(['OR-1', null, null]);
  expect(undone.effects).toMatchObject([{ lineId: 'l2', units: -1 }]);
});

test('whatever is scanned, no line gets more than it wants, no two orders share a cell, and effects add up', () => {
  const text = fc.constantFrom(
    'FRAME',
    'CASE-FRAME',
    'LIDTOP',
    'SMOKER',
    '2',
    'AUK-ALL',
    'AUK-UNDO',
    'CE-A01',
    'CE-A02',
    'X',
  );
  fc.assert(
    fc.property(fc.array(text, { maxLength: 30 }), fc.integer({ min: 1, max: 3 }), (texts, n) => {
      let state = open(n);
      const sum = new Map<string, number>();
      for (const t of texts) {
        const step = sortScan(state, scan(t));
        if (step.answer.kind === 'refused' && step.state !== state) return false;
        for (const e of step.effects) sum.set(e.lineId, (sum.get(e.lineId) ?? 0) + e.units);
        state = step.state;
      }
      const held = state.cells.flatMap(c => c.orderNo ?? []);
      return (
        new Set(held).size === held.length &&
        state.lines.every(l => l.sorted >= 0 && l.sorted <= l.wanted && (sum.get(l.id) ?? 0) === l.sorted) &&
        held.every(o => inCell(state, o).sorted > 0) &&
        sortDone(state) === state.lines.every(l => l.sorted === l.wanted)
      );
    }),
    { numRuns: 400 },
  );
});

test('walls are lettered and their cells numbered row by row', () => {
  expect(wallCells('B', 2, 2)).toEqual([
    { code: 'CE-B01', mark: '1', row: 1, column: 1 },
    { code: 'CE-B02', mark: '2', row: 1, column: 2 },
    { code: 'CE-B03', mark: '3', row: 2, column: 1 },
    { code: 'CE-B04', mark: '4', row: 2, column: 2 },
  ]);
  expect(nextWall(['A', 'C'])).toBe('B');
  const all = Array.from({ length: MOST_WALLS }, (_, i) => lettersOf(i));
  expect(nextWall(all.slice(0, -1))).toBe('ZZ');
  expect(nextWall(all)).toBeNull();
});
