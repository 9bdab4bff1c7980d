import { canonicalCode } from '../barcode/parseScan.js';
import type { FactValue, ProductStage } from '../catalog/facts.js';
import { PRODUCT_FACTS } from '../catalog/facts.js';
import type { FieldSpec, Mapping } from './columns.js';
import { type FileRead, type RowReader, readRows } from './rowReader.js';

type Rows = readonly (readonly string[])[];

/** A word in a cell that empties a field; an empty cell leaves the field as it is. */
export const EMPTIES = 'none';

/** What a row of a product file changes: only the fields whose cell is filled. A null empties the field. */
export interface ProductRowRead {
  sku: string;
  fields: Record<string, FactValue>;
  codes: { code: string; units: number }[];
}

/** Fields that a file of products can fill. Weights and sides without a unit count in pounds and inches. */
export const PRODUCT_FIELDS: readonly FieldSpec[] = [
  {
    field: 'sku',
    words: 'SKU',
    headings: ['sku', 'articlenumber', 'itemsku', 'productcode'],
    required: true,
  },
  { field: 'name', words: 'name', headings: ['name', 'title', 'productname', 'description'] },
  { field: 'kind', words: 'kind', headings: ['kind', 'type'] },
  { field: 'stage', words: 'stage', headings: ['stage', 'status'] },
  { field: 'hint', words: 'hint for pickers', headings: ['hint', 'hintforpickers', 'lookalike'] },
  { field: 'code', words: 'barcode', headings: ['barcode', 'gtin', 'ean', 'upc', 'code'] },
  { field: 'caseCode', words: 'case code', headings: ['casecode', 'casebarcode'] },
  { field: 'caseUnits', words: 'units a case', headings: ['unitsacase', 'casequantity', 'unitspercase'] },
  { field: 'weightMg', words: 'weight', headings: ['weight', 'netweight'] },
  { field: 'packedWeightMg', words: 'packed weight', headings: ['packedweight', 'grossweight'] },
  { field: 'length', words: 'length', headings: ['length', 'packedlength'] },
  { field: 'width', words: 'width', headings: ['width', 'packedwidth'] },
  { field: 'height', words: 'height', headings: ['height', 'packedheight'] },
  ...PRODUCT_FACTS.map(f => ({ field: f.key, words: f.words, headings: f.headings })),
];

/** Reads a file of products (heading first). One row a product; the same SKU twice is bad. */
export function readProductRows(rows: Rows, mapping: Mapping, currency: string): FileRead<ProductRowRead> {
  const seen = new Set<string>();
  return readRows(rows, mapping, [], r => {
    r.need('sku');
    const sku = r.code('sku', 60);
    if (seen.has(sku)) r.say('sku', 'stands in the file twice');
    seen.add(sku);
    return { sku, fields: productFields(r, currency), codes: productCodes(r) };
  });
}

function productFields(r: RowReader, currency: string): Record<string, FactValue> {
  const fields: Record<string, FactValue> = {};
  const put = (field: string, read: () => FactValue) => {
    if (r.has(field)) fields[field] = r.raw(field).toLowerCase() === EMPTIES ? null : read();
  };
  put('name', () => r.text('name', 120));
  put('hint', () => r.text('hint', 120));
  put('kind', () => oneOf(r, 'kind', ['piece', 'kit', 'bundle']));
  put('stage', () => oneOf(r, 'stage', ['Unproven', 'Live', 'Retired'] satisfies ProductStage[]));
  for (const f of ['weightMg', 'packedWeightMg']) put(f, () => r.weight(f, 'lb'));
  for (const f of ['length', 'width', 'height']) put(f, () => r.side(f, 'in'));
  for (const f of PRODUCT_FACTS)
    put(f.key, () => {
      if (f.kind === 'flag') return r.yes(f.key);
      if (f.kind === 'money') return r.money(f.key, currency);
      return f.kind === 'count' ? r.whole(f.key, 1, f.most!) : r.text(f.key, f.most!);
    });
  return fields;
}

function oneOf(r: RowReader, field: string, words: readonly string[]): string | null {
  const found = words.find(w => w.toLowerCase() === r.raw(field).toLowerCase());
  if (!found) r.say(field, `is not ${words.join(', ')}`);
  return found ?? null;
}

function productCodes(r: RowReader): { code: string; units: number }[] {
  const codes = r.has('code') ? [{ code: r.code('code', 100, canonicalCode), units: 1 }] : [];
  if (!r.has('caseCode')) return codes;
  r.need('caseUnits');
  return [...codes, { code: r.code('caseCode', 100, canonicalCode), units: r.whole('caseUnits', 2, 10_000) }];
}

/** What a row of a listing file says: how a channel sells something, and the product it is linked to (empty leaves the link). */
export interface ListingRowRead {
  channelSku: string;
  title: string | null;
  gtin: string | null;
  priceMinor: number | null;
  productSku: string | null;
  units: number | null;
}

/** Fields that a file of listings can fill. */
export const LISTING_FIELDS: readonly FieldSpec[] = [
  {
    field: 'channelSku',
    words: "the channel's SKU",
    headings: ['channelsku', 'listingsku', 'sellersku', 'thechannelssku', 'listing', 'sku'],
    required: true,
  },
  { field: 'title', words: 'title', headings: ['title', 'name', 'itemtitle', 'description'] },
  { field: 'gtin', words: 'barcode', headings: ['gtin', 'barcode', 'ean', 'upc'] },
  { field: 'price', words: 'price', headings: ['price', 'unitprice', 'listprice'] },
  {
    field: 'product',
    words: 'product (our SKU)',
    headings: ['product', 'productsku', 'oursku', 'productoursku', 'linkedto', 'housesku'],
  },
  { field: 'units', words: 'units a sale', headings: ['units', 'unitsasale', 'packquantity', 'multiple'] },
];

/** Reads a file of listings of one channel (heading first). */
export function readListingRows(rows: Rows, mapping: Mapping, currency: string): FileRead<ListingRowRead> {
  const seen = new Set<string>();
  return readRows(rows, mapping, [], r => {
    r.need('channelSku');
    const channelSku = r.text('channelSku', 60);
    if (seen.has(channelSku)) r.say('channelSku', 'stands in the file twice');
    seen.add(channelSku);
    return {
      channelSku,
      title: r.text('title', 200) || null,
      gtin: r.has('gtin') ? r.code('gtin', 100, canonicalCode) : null,
      priceMinor: r.has('price') ? r.money('price', currency) : null,
      productSku: r.code('product', 60) || null,
      units: r.has('units') ? r.whole('units', 1, 1_000) : null,
    };
  });
}

/** One part of a recipe as a file tells it: rows of one kit or bundle belong together. */
export interface RecipeRowRead {
  sku: string;
  parts: { sku: string; quantity: number }[];
}

/** Fields that a file of recipes can fill: one row a part. */
export const RECIPE_FIELDS: readonly FieldSpec[] = [
  {
    field: 'sku',
    words: 'kit or bundle (SKU)',
    headings: ['kit', 'bundle', 'kitsku', 'bundlesku', 'kitorbundle', 'parent', 'sku'],
    required: true,
  },
  {
    field: 'part',
    words: 'part (SKU)',
    headings: ['part', 'partsku', 'component', 'componentsku', 'child'],
    required: true,
  },
  { field: 'quantity', words: 'quantity', headings: ['quantity', 'qty', 'count', 'units'], required: true },
];

/** Reads a file of recipes (heading first); a recipe with a bad row is left out whole. A part twice in one recipe is bad. */
export function readRecipeRows(rows: Rows, mapping: Mapping): FileRead<RecipeRowRead> {
  const seen = new Set<string>();
  const read = readRows(
    rows,
    mapping,
    [],
    (r): RecipeRowRead => {
      r.need('sku', 'part', 'quantity');
      const [sku, part] = [r.code('sku', 60), r.code('part', 60)];
      if (seen.has(`${sku}\n${part}`)) r.say('part', `stands twice in the recipe of ${sku}`);
      seen.add(`${sku}\n${part}`);
      return { sku, parts: [{ sku: part, quantity: r.whole('quantity', 1, 10_000) }] };
    },
    i => i.sku,
  );
  const recipes = new Map<string, { row: number; item: RecipeRowRead }>();
  for (const { row, item } of read.items) {
    const known = recipes.get(item.sku);
    if (known) known.item.parts.push(...item.parts);
    else recipes.set(item.sku, { row, item });
  }
  return { ...read, items: [...recipes.values()] };
}

/** A counted quantity of a product in a place. */
export interface StockRowRead {
  sku: string;
  place: string;
  quantity: number;
}

/** Fields that a file of stock can fill: what was counted where. */
export const STOCK_FIELDS: readonly FieldSpec[] = [
  { field: 'sku', words: 'SKU', headings: ['sku', 'product', 'articlenumber'], required: true },
  { field: 'place', words: 'place', headings: ['place', 'bin', 'location', 'shelf'], required: true },
  {
    field: 'quantity',
    words: 'counted',
    headings: ['counted', 'quantity', 'qty', 'onhand', 'stock', 'count'],
    required: true,
  },
];

/** Reads a file of counted stock (heading first). The same product in the same place twice is bad. */
export function readStockRows(rows: Rows, mapping: Mapping): FileRead<StockRowRead> {
  const seen = new Set<string>();
  return readRows(rows, mapping, [], r => {
    r.need('sku', 'place', 'quantity');
    const [sku, place] = [r.code('sku', 60), r.code('place', 20)];
    if (seen.has(`${sku}\n${place}`)) r.say('place', `stands twice with ${sku}`);
    seen.add(`${sku}\n${place}`);
    return { sku, place, quantity: r.whole('quantity', 0, 1_000_000) };
  });
}
