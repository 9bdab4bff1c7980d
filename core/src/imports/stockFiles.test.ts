import { expect, test } from 'vitest';
import { guessColumns } from './columns.js';
import {
  PLACE_FIELDS,
  PURCHASE_FIELDS,
  readPlaceRows,
  readPurchaseRows,
  readSentRows,
  SENT_FIELDS,
} from './stockFiles.js';

const table = (text: string) => text.split('\n').map(l => l.split(','));

test('places: kinds by the words people use, twice is bad, no kind is a pick face', () => {
  const rows = table(
    'Location,Type,Zone,Holds\na-01-1,Pick face,Shelves,40\nA-01-3,bulk,,\nA-01-1,bin,,\nB-01-1,,,\nC-01-1,cellar,,\nD-01-1,bin,,0\nE-01-1,棚,,',
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
    [8, 'Type'],
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

test('what suppliers sent: a row an order; twice, or a tracking number that is none, is bad', () => {
  const rows = table(
    'PO Number,Carrier,Tracking\nPO-7,Redfen,RE 100\nOR-9,Heron,HQ-200\nPO-7,Redfen,RE 101\nOR-10,Heron,#\nOR-11,,X12\n,Heron,X13',
  );
  const read = readSentRows(rows, guessColumns(SENT_FIELDS, rows[0]!));
  expect(read.items.map(i => [i.row, i.item])).toEqual([
    [2, { order: 'PO-7', carrier: 'Redfen', tracking: 'RE 100' }],
    [3, { order: 'OR-9', carrier: 'Heron', tracking: 'HQ-200' }],
  ]);
  expect(read.bad.map(b => [b.row, b.column])).toEqual([
    [4, 'PO Number'],
    [5, 'Tracking'],
    [6, 'Carrier'],
    [7, 'PO Number'],
  ]);
});

test('purchase orders: one product twice in an order is bad', () => {
  const rows = table('Supplier,PO,SKU,Qty\nMill,7,jar,1\nMill,7,JAR,2');
  const read = readPurchaseRows(rows, guessColumns(PURCHASE_FIELDS, rows[0]!));
  expect(read.items).toEqual([]);
  expect(JSON.stringify(read.bad)).toContain('stands twice in order 7');
});
