import fc from 'fast-check';
import { expect, test } from 'vitest';
import {
  type Arrangement,
  arranged,
  borderMoved,
  type Column,
  ownArrangement,
  shownColumns,
} from './column.js';

const column = (id: string, more: Partial<Column<string>> = {}): Column<string> => ({
  id,
  head: id.toUpperCase(),
  cell: r => r,
  ...more,
});
const COLUMNS = [
  column('sign', { fixed: true, width: 3 }),
  column('name', { width: 30 }),
  column('place'),
  column('units', { right: true }),
  column('mail', { hidden: true }),
  column('acts', { fixed: true }),
];
const ids = (a: Arrangement) => shownColumns(COLUMNS, a).map(c => c.id);

test('a list shows its columns as they are written, without those that wait to be chosen', () => {
  expect(ids(ownArrangement(COLUMNS))).toEqual(['sign', 'name', 'place', 'units', 'acts']);
  expect(arranged(null, COLUMNS)).toEqual(ownArrangement(COLUMNS));
});

test('what a person has arranged stands, whatever columns went or came since', () => {
  const kept = { order: ['units', 'gone', 'name'], hidden: ['name', 'gone'], widths: { name: 12, gone: 4 } };
  const a = arranged(kept, COLUMNS);
  expect(a.order).toEqual(['units', 'name', 'place', 'mail']);
  expect(a.hidden).toEqual(['name', 'mail']);
  expect(a.widths.name).toBe(12);
  expect(a.widths.place).toBe(10);
  expect(ids(a)).toEqual(['sign', 'units', 'place', 'acts']);
});

test('fixed columns keep their side, whatever order is kept', () => {
  fc.assert(
    fc.property(
      fc.shuffledSubarray(['name', 'place', 'units', 'mail'], { minLength: 4 }),
      fc.subarray(['name', 'place', 'units', 'mail'], { maxLength: 3 }),
      (order, hidden) => {
        const shown = ids(arranged({ order, hidden, widths: {} }, COLUMNS));
        expect(shown[0]).toBe('sign');
        expect(shown.at(-1)).toBe('acts');
        expect(shown.slice(1, -1)).toEqual(order.filter(id => !hidden.includes(id)));
      },
    ),
  );
});

test('moving a border changes two neighbours, keeps their sum, and hides neither', () => {
  const own = ownArrangement(COLUMNS);
  const shown = shownColumns(COLUMNS, own);
  fc.assert(
    fc.property(
      fc.constantFrom('sign', 'name', 'place', 'units'),
      fc.double({ min: -2, max: 2, noNaN: true }),
      (id, by) => {
        const moved = borderMoved(shown, own, id, by);
        const next = shown[shown.findIndex(c => c.id === id) + 1]!.id;
        const all = shown.reduce((sum, c) => sum + own.widths[c.id]!, 0);
        expect(moved.widths[id]! + moved.widths[next]!).toBeCloseTo(own.widths[id]! + own.widths[next]!, 9);
        for (const c of shown) {
          if (c.id === id || c.id === next)
            expect(moved.widths[c.id]!).toBeGreaterThanOrEqual(
              Math.min(own.widths[c.id]!, all * 0.03) - 1e-9,
            );
          else expect(moved.widths[c.id]).toBe(own.widths[c.id]);
        }
      },
    ),
  );
  expect(borderMoved(shown, own, 'acts', 0.1)).toBe(own);
});
