import fc from 'fast-check';
import { expect, test } from 'vitest';
import {
  diffDocuments,
  documentOf,
  lineKeys,
  type OrderDocument,
  type ReceivedOrder,
  toldOver,
} from './document.js';
import { exampleOrder } from './exampleOrder.js';
import { mergeDocuments } from './merge.js';

const value = fc.constantFrom(1, 2, 3, 'a', null);
const fields = fc.dictionary(fc.constantFrom('quantity', 'priceMinor', 'title'), value, { maxKeys: 3 });
const document: fc.Arbitrary<OrderDocument> = fc.record({
  head: fc.dictionary(fc.constantFrom('mail', 'payment', 'note', 'shipTo.city'), value, { maxKeys: 4 }),
  lines: fc.dictionary(fc.constantFrom('A#1', 'A#2', 'B#1'), fields, { maxKeys: 3 }),
});
const equal = (a: OrderDocument, b: OrderDocument) => expect(diffDocuments(a, b)).toEqual([]);

test('laws: a side that changed nothing yields, and agreement is no conflict', () => {
  fc.assert(
    fc.property(document, document, (base, x) => {
      const taken = mergeDocuments(base, base, x);
      equal(taken.document, x);
      const kept = mergeDocuments(base, x, base);
      equal(kept.document, x);
      const agreed = mergeDocuments(base, x, x);
      equal(agreed.document, x);
      expect([taken, kept, agreed].flatMap(m => m.conflicts)).toEqual([]);
      expect(kept.taken).toEqual([]);
    }),
  );
});

test('laws: conflicts are the same seen from either side, and without one the sides may be swapped', () => {
  fc.assert(
    fc.property(document, document, document, (base, ours, theirs) => {
      const [a, b] = [mergeDocuments(base, ours, theirs), mergeDocuments(base, theirs, ours)];
      const names = (m: typeof a) => m.conflicts.map(c => `${c.line} ${c.field}`).sort();
      expect(names(a)).toEqual(names(b));
      if (a.conflicts.length === 0) equal(a.document, b.document);
    }),
  );
});

test('laws: merging the same news again changes nothing more', () => {
  fc.assert(
    fc.property(document, document, document, (base, ours, theirs) => {
      const once = mergeDocuments(base, ours, theirs);
      const again = mergeDocuments(theirs, once.document, theirs);
      equal(again.document, once.document);
      expect(again.taken).toEqual([]);
    }),
  );
});

const received = (more: Partial<ReceivedOrder> = {}): ReceivedOrder =>
  exampleOrder({
    lines: [
      { channelSku: 'A', title: 'Jar', quantity: 2, priceMinor: 100 },
      { channelSku: 'A', title: 'Jar', quantity: 1, priceMinor: 90 },
    ],
    ...more,
  });

test('two lines of one SKU keep apart', () => {
  expect(lineKeys(received().lines)).toEqual(['A#1', 'A#2']);
});

test('our corrected postcode stays when the channel changes the quantity', () => {
  const base = documentOf(received());
  const ours = { ...base, head: { ...base.head, 'shipTo.postcode': '83703' } };
  const theirs = documentOf(
    received({ lines: [{ ...received().lines[0]!, quantity: 5 }, received().lines[1]!] }),
  );
  const merged = mergeDocuments(base, ours, theirs);
  expect(merged.conflicts).toEqual([]);
  expect(merged.document.head['shipTo.postcode']).toBe('83703');
  expect(merged.taken).toEqual([
    { line: null, field: 'paidMinor', before: 790, after: 1090 },
    { line: 'A#1', field: 'quantity', before: 2, after: 5 },
  ]);
});

test('a line changed here and taken away there is left to a person, ours stands', () => {
  const base = documentOf(received());
  const ours = { ...base, lines: { ...base.lines, 'A#2': { ...base.lines['A#2']!, quantity: 4 } } };
  const theirs = documentOf(received({ lines: [received().lines[0]!] }));
  const merged = mergeDocuments(base, ours, theirs);
  expect(merged.conflicts).toEqual([
    { line: 'A#2', field: '', base: '1 × Jar', ours: '4 × Jar', theirs: null },
  ]);
  expect(merged.document.lines['A#2']!.quantity).toBe(4);
});

test('a source that is silent about a field leaves what is known', () => {
  const before = documentOf(received({ promised: '2026-11-25', mail: 'kept@mail.example' }));
  const silent = documentOf(
    received({ promised: null, mail: '', note: 'new', lines: [{ ...received().lines[0]!, priceMinor: 0 }] }),
  );
  const told = toldOver(before, silent, ['promised', 'mail', 'line.priceMinor']);
  expect(told.head).toMatchObject({ promised: '2026-11-25', mail: 'kept@mail.example', note: 'new' });
  expect(told.lines['A#1']!.priceMinor).toBe(100);
  expect(Object.keys(told.lines)).toEqual(['A#1']);
});
