import { expect, test } from 'vitest';
import { guessColumns } from './columns.js';
import { PLACE_FIELDS, PURCHASE_FIELDS, readPlaceRows, readPurchaseRows } from './stockFiles.js';

const table = (text: string) => text.split('\n').map(l => l.split(','));

test('places: kinds by the words people use, twice is bad, no kind is a pick face', () => {
  const rows = table(
    'Location,Type,Zone,Holds\na-01-1,Pick face,Shelves,40\nA-01-3,bulk,,\nA-01-1,bin,,\nB-01-1,,,\nC-01-1,cellar,,\nD-01-1,bin,,0',
  );
  const read = readPlaceRows(rows, guessColumns(PLACE_FIELDS, rows[0]!));
  expect(read.items.map(i => [i.item.code, i.item.kind, i.item.capacity])).toEqual([
    ['A-01-1', 'bin', 40],
    ['A-01-3', 'reserve', null],
    ['B-01-1', 'bin', null],
  ]);
  expect(read.bad.map(b => [b.row, b.column])).toEqual([
    [4, 'Location'],
    [6, 'Type'],
    [7, 'Holds'],
  ]);
});

test('purchase orders: rows of one supplier and reference are one order, left out whole when one row is bad', () => {
  const rows = table(
    'Supplier,PO,SKU,Qty,Expected\nMill,7,jar,11,12/24/2026\nMill,7,lid,5,12/24/2026\nMill,8,jar,x,\nMill,8,lid,1,\nGlass,7,jar,1,',
  );
  const read = readPurchaseRows(rows, guessColumns(PURCHASE_FIELDS, rows[0]!));
  expect(read.items.map(i => i.item)).toEqual([
    {
      supplier: 'Mill',
      reference: '7',
      expected: '2026-12-24',
      lines: [
        { sku: 'JAR', quantity: 11 },
        { sku: 'LID', quantity: 5 },
      ],
    },
    { supplier: 'Glass', reference: '7', expected: null, lines: [{ sku: 'JAR', quantity: 1 }] },
  ]);
  expect(read.leftOut).toEqual([4, 5]);
});
