import { expect, test } from 'vitest';
import { missingFacts, ownStage } from '../catalog/facts.js';
import { guessColumns } from './columns.js';
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

const rows = (text: string) => text.split('\n').map(l => l.split('|'));

test('products: filled cells change, empty ones leave, "none" empties; units are read or meant', () => {
  const table = rows(
    'SKU|Name|Weight|Length|Fragile|Warning|Barcode|Case code|Units a case\njar-1|Jar|0.42 lb|2,7|yes|none|4006381333931|C-1|12\nlid-1||||||||',
  );
  const read = readProductRows(table, guessColumns(PRODUCT_FIELDS, table[0]!), 'USD');
  expect(read.bad).toEqual([]);
  expect(read.items[0]!.item).toEqual({
    sku: 'JAR-1',
    fields: { name: 'Jar', weightMg: 190_509, length: 686, fragile: true, warning: null },
    codes: [
      { code: '04006381333931', units: 1 },
      { code: 'C-1', units: 12 },
    ],
  });
  expect(read.items[1]!.item).toEqual({ sku: 'LID-1', fields: {}, codes: [] });
});

test('products: what is bad is named by column', () => {
  const table = rows('SKU|Stage|Weight|Fragile|Length\nA|Alive|heavy|maybe|-3\nA||||');
  const read = readProductRows(table, guessColumns(PRODUCT_FIELDS, table[0]!), 'USD');
  expect(read.items).toEqual([]);
  expect(read.bad.map(b => b.column)).toEqual(['Stage', 'Weight', 'Length', 'Fragile', 'SKU']);
  expect(read.leftOut).toEqual([2, 3]);
});

test('listings: link by our SKU and units a sale', () => {
  const table = rows('Listing|Title|Price|Our SKU|Units\nFM-1|Two jars|2.70|jar-1|2\nFM-1|x|||');
  const read = readListingRows(table, guessColumns(LISTING_FIELDS, table[0]!), 'USD');
  expect(read.items.map(i => i.item)).toEqual([
    { channelSku: 'FM-1', title: 'Two jars', gtin: null, priceMinor: 270, productSku: 'JAR-1', units: 2 },
  ]);
  expect(read.bad[0]).toMatchObject({ row: 3, why: 'stands in the file twice' });
});

test('recipes: rows of one kit belong together, and one bad row keeps all of it out', () => {
  const table = rows('Kit|Part|Qty\nK|a|2\nK|b|1\nL|a|0\nL|b|1\nM|a|1\nM|a|2');
  const read = readRecipeRows(table, guessColumns(RECIPE_FIELDS, table[0]!));
  expect(read.items.map(i => i.item)).toEqual([
    {
      sku: 'K',
      parts: [
        { sku: 'A', quantity: 2 },
        { sku: 'B', quantity: 1 },
      ],
    },
  ]);
  expect(read.leftOut).toEqual([4, 5, 6, 7]);
});

test('stock: counted where, zero counts, halves do not', () => {
  const table = rows('Product|Bin|Counted\njar|a-01-1|0\njar|a-01-2|1.5\nlid|a-01-1|12.0');
  const read = readStockRows(table, guessColumns(STOCK_FIELDS, table[0]!));
  expect(read.items.map(i => i.item)).toEqual([
    { sku: 'JAR', place: 'A-01-1', quantity: 0 },
    { sku: 'LID', place: 'A-01-1', quantity: 12 },
  ]);
  expect(read.leftOut).toEqual([3]);
});

const held = {
  kind: 'piece' as const,
  stage: 'Live' as const,
  weightMg: 1,
  hasSize: true,
  barcodes: 1,
  parts: 0,
  picture: true,
};

test('missing facts say what they cost; a bundle and a retired product lack little', () => {
  const facts = { customsCode: '442190', origin: 'US', valueMinor: 100 };
  expect(missingFacts({ ...held, facts })).toEqual([]);
  expect(missingFacts({ ...held, facts, hasSize: false }).map(m => m.costs)).toEqual([
    'no size: boxes cannot be proposed',
  ]);
  expect(missingFacts({ ...held, facts: {}, barcodes: 0, weightMg: null }).map(m => m.fact)).toEqual([
    'code',
    'weight',
    'customs',
    'value',
  ]);
  expect(missingFacts({ ...held, kind: 'bundle', facts: {}, barcodes: 0 }).map(m => m.fact)).toEqual([
    'recipe',
  ]);
  expect(missingFacts({ ...held, stage: 'Retired', facts: {}, barcodes: 0 })).toEqual([]);
});

test('a product is Unproven until something of it can be scanned', () => {
  expect(ownStage({ kind: 'piece', stage: 'Unproven', barcodes: 1 })).toBe('Live');
  expect(ownStage({ kind: 'kit', stage: 'Live', barcodes: 0 })).toBe('Unproven');
  expect(ownStage({ kind: 'bundle', stage: 'Live', barcodes: 0 })).toBe('Live');
  expect(ownStage({ kind: 'piece', stage: 'Retired', barcodes: 0 })).toBe('Retired');
});
