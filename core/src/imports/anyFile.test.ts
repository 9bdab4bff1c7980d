import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { type FieldSpec, guessColumns, type Mapping } from './columns.js';
import { LAYOUT_FIELDS, readLayoutFile } from './layoutFile.js';
import { ORDER_FIELDS, readOrderRows } from './orderFile.js';
import {
  LISTING_FIELDS,
  PRODUCT_FIELDS,
  RECIPE_FIELDS,
  readListingRows,
  readProductRows,
  readRecipeRows,
  readStockRows,
  STOCK_FIELDS,
} from './otherFiles.js';
import type { FileRead } from './rowReader.js';
import {
  PLACE_FIELDS,
  PURCHASE_FIELDS,
  readPlaceRows,
  readPurchaseRows,
  readSentRows,
  SENT_FIELDS,
} from './stockFiles.js';

type Rows = readonly (readonly string[])[];
interface Reader {
  fields: readonly FieldSpec[];
  read: (rows: Rows, mapping: Mapping) => FileRead<unknown>;
}

const READERS: Record<string, Reader> = {
  orders: { fields: ORDER_FIELDS, read: (rows, m) => readOrderRows(rows, m, 'USD') },
  products: { fields: PRODUCT_FIELDS, read: (rows, m) => readProductRows(rows, m, 'USD') },
  listings: { fields: LISTING_FIELDS, read: (rows, m) => readListingRows(rows, m, 'USD') },
  recipes: { fields: RECIPE_FIELDS, read: readRecipeRows },
  'counted stock': { fields: STOCK_FIELDS, read: readStockRows },
  places: { fields: PLACE_FIELDS, read: readPlaceRows },
  'purchase orders': { fields: PURCHASE_FIELDS, read: readPurchaseRows },
  'what suppliers sent': { fields: SENT_FIELDS, read: readSentRows },
  'the floor': { fields: LAYOUT_FIELDS, read: readLayoutFile },
};

/** What stands in cells: what is meant, what is nearly meant, and what programs stumble over. */
const CELLS = [
  ...['', ' ', '1', '2', '12', '-3', '0', '1.0', '1,000', '1.000', '2.5', '1e3', '0x10', '10001', '1000001'],
  ...['12.50', '1.234,50', '$3', 'free', '12 lb', '1.2 kg', '0.0001 g', '11.5 in', '30 cm', '9 miles'],
  ...['2026-11-23', '23.11.2026', '11/23/2026', '13/13/2026', '0026-01-01', '9999-12-31T23:00-10:00', 'soon'],
  ...['yes', 'no', 'perhaps', 'paid', 'unpaid', 'bin', 'reserve', 'aisle', 'cross', 'start', 'place', 'left'],
  ...[
    'none',
    'kit',
    'Live',
    'USD',
    'eur',
    'U$D',
    'US',
    'JAR-1',
    'jar-1',
    'LID-2',
    'A-01-1',
    '00012345678905',
  ],
  ...['constructor', '__proto__', 'toString', 'hasOwnProperty', 'NaN', 'null', '=1+1', '<b>', 'é'],
  ...['ß'.repeat(60), 'x'.repeat(61), 'x'.repeat(501), '😀'.repeat(60), '\u0000', '\ud800', 'RE 100', '#'],
];
const cell = fc.oneof(fc.constantFrom(...CELLS), fc.string({ unit: 'binary', maxLength: 20 }));

function fileOf(fields: readonly FieldSpec[]): fc.Arbitrary<string[][]> {
  const heading = fc.subarray(
    fields.map(f => f.headings[0]!),
    { minLength: 1 },
  );
  return heading.chain(headings =>
    fc
      .array(fc.array(cell, { minLength: 0, maxLength: headings.length + 1 }), { maxLength: 8 })
      .map(rows => [headings, ...rows]),
  );
}

/** Everything that a file gave, as plain values. */
function* leaves(value: unknown): Generator<unknown> {
  if (value !== null && typeof value === 'object') for (const v of Object.values(value)) yield* leaves(v);
  else yield value;
}

/** How long the texts of a file may become; a house keeps no longer ones. */
const LONGEST = 500;

describe.each(Object.entries(READERS))('any file of %s', (_, { fields, read }) => {
  test('is read or named row by row, and never something in between', () => {
    fc.assert(
      fc.property(fileOf(fields), rows => {
        const given = JSON.stringify(rows);
        const mapping = guessColumns(fields, rows[0]!);
        const { items, bad, leftOut } = read(rows, mapping);
        const filled = rows.flatMap((r, i) => (i > 0 && r.some(c => c.trim() !== '') ? [i + 1] : []));
        // Every bad cell is of a row that is there, says why, and its row is left out.
        for (const b of bad) {
          expect(filled).toContain(b.row);
          expect(b.why.length).toBeGreaterThan(3);
          expect(leftOut).toContain(b.row);
        }
        for (const { row } of items) {
          expect(filled).toContain(row);
          expect(leftOut).not.toContain(row);
        }
        if (leftOut.length > 0) expect(bad.length).toBeGreaterThan(0);
        // What was read are whole numbers and texts of bounded length: nothing that a database would stumble over.
        for (const leaf of leaves(items.map(i => i.item))) {
          expect(['string', 'number', 'boolean', 'object']).toContain(typeof leaf);
          if (typeof leaf === 'number') expect(Number.isSafeInteger(leaf)).toBe(true);
          if (typeof leaf === 'string') expect([...leaf].length).toBeLessThanOrEqual(LONGEST);
        }
        expect(JSON.stringify(rows)).toBe(given);
        expect(read(rows, mapping)).toEqual({ items, bad, leftOut });
      }),
      { numRuns: 400 },
    );
  });

  test('keeps its good rows when bad ones stand beside them', () => {
    fc.assert(
      fc.property(fileOf(fields), rows => {
        const mapping = guessColumns(fields, rows[0]!);
        const first = read(rows, mapping);
        const out = new Set(first.leftOut);
        const again = read(
          rows.filter((_r, i) => !out.has(i + 1)),
          mapping,
        );
        expect(again.items.map(i => i.item)).toEqual(first.items.map(i => i.item));
        expect(again.leftOut).toEqual([]);
      }),
      { numRuns: 200 },
    );
  });
});

test('codes are measured as they are kept: in capitals, of which some letters have two', () => {
  const rows = [
    ['kit', 'part', 'quantity'],
    ['ß'.repeat(40), 'LID', '1'],
  ];
  const read = readRecipeRows(rows, guessColumns(RECIPE_FIELDS, rows[0]!));
  expect(read.items).toEqual([]);
  expect(read.bad[0]).toMatchObject({ row: 2, column: 'kit', why: 'longer than 60 characters' });
});

test('a count of three noughts behind a separator is not guessed', () => {
  const rows = [
    ['sku', 'place', 'counted'],
    ...['1.000', '1,000', '12,000', '5.00', '5,0', '7'].map(n => ['JAR', n, n]),
  ];
  const read = readStockRows(rows, guessColumns(STOCK_FIELDS, rows[0]!));
  expect(read.items.map(i => (i.item as { quantity: number }).quantity)).toEqual([5, 5, 7]);
  expect(read.bad.map(b => b.why)).toEqual([
    'may be 1 or 1000: write it without a separator',
    'may be 1 or 1000: write it without a separator',
    'may be 12 or 12000: write it without a separator',
  ]);
});
