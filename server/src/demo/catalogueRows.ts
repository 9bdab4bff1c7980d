import { canonicalCode } from '@auk/core';
import { CATALOGUE, CHANNELS, WAREHOUSE } from '@auk/demo';
import { newId, type Tx } from '../database/db.js';
import { BUILDS, HAND, INBOUND } from '../records/records.module.js';

/** What the demo sells and where, by the ids of its rows. */
export interface CatalogueIds {
  products: Map<string, string>;
  channels: Map<string, string>;
}

/** What a declaration asks of nearly all the demo sells: tools and woodware of beekeeping. */
const CUSTOMS = { customsCode: '442199', origin: 'US' };

/** Writes products with codes and recipes, and channels with their listings. */
export async function insertCatalogue(tx: Tx): Promise<CatalogueIds> {
  const products = new Map(CATALOGUE.map(p => [p.sku, newId()]));
  await insertProducts(tx, products);
  await insertRecipes(tx, products);
  const channels = await insertChannels(tx);
  await tx.insert(
    'listing',
    CHANNELS.flatMap(c =>
      CATALOGUE.map(p => ({
        id: newId(),
        channelId: channels.get(c.code)!,
        channelSku: c.skuPrefix + p.sku,
        title: p.name,
        priceMinor: Math.round(p.dollars * 100),
        productId: products.get(p.sku)!,
      })),
    ),
  );
  return { products, channels };
}

async function insertProducts(tx: Tx, id: ReadonlyMap<string, string>): Promise<void> {
  const tenths = (inches: number) => Math.round(inches * 254);
  await tx.insert(
    'product',
    CATALOGUE.map(p => ({
      id: id.get(p.sku)!,
      sku: p.sku,
      name: p.name,
      kind: p.kind,
      stage: 'Live',
      weightMg: p.lb ? Math.round(p.lb * 453_592.37) : null,
      length: p.kind === 'bundle' ? null : tenths(p.inches[0]),
      width: p.kind === 'bundle' ? null : tenths(p.inches[1]),
      height: p.kind === 'bundle' ? null : tenths(p.inches[2]),
      facts: JSON.stringify({
        valueMinor: Math.round(p.dollars * 60),
        ...(p.kind === 'bundle' ? {} : CUSTOMS),
        ...p.facts,
      }),
      hint: p.hint,
      picture: p.picture,
      kitPolicy: 'stock',
    })),
  );
  await tx.insert(
    'productCode',
    CATALOGUE.flatMap(p => [
      { code: canonicalCode(p.gtin), productId: id.get(p.sku)!, units: 1 },
      ...(p.caseOf ? [{ code: `CASE-${p.sku}`, productId: id.get(p.sku)!, units: p.caseOf }] : []),
    ]),
  );
}

async function insertRecipes(tx: Tx, id: ReadonlyMap<string, string>): Promise<void> {
  const recipes = CATALOGUE.filter(p => p.parts.length > 0).map(p => ({ id: newId(), product: p }));
  await tx.insert(
    'recipe',
    recipes.map(r => ({
      id: r.id,
      productId: id.get(r.product.sku)!,
      version: 1,
      createdAt: tx.at,
      personId: null,
    })),
  );
  await tx.insert(
    'recipePart',
    recipes.flatMap(r =>
      r.product.parts.map(([sku, quantity], position) => ({
        recipeId: r.id,
        position,
        productId: id.get(sku)!,
        quantity,
      })),
    ),
  );
}

/** The house's own channels, beside those that sell. */
const OWN = [
  [BUILDS, 'Builds'],
  [INBOUND, 'Inbound'],
  [HAND, 'By hand'],
] as const;

async function insertChannels(tx: Tx): Promise<Map<string, string>> {
  const channels = CHANNELS.map(c => ({
    id: newId(),
    code: c.code,
    name: c.name,
    brand: c.brand,
    currency: 'USD',
    sender: JSON.stringify(c.sender),
  }));
  const own = OWN.map(([code, name]) => ({
    id: newId(),
    code,
    name,
    brand: 'Skepside Bee Supply',
    currency: 'USD',
    sender: JSON.stringify(WAREHOUSE.sender),
  }));
  await tx.insert('channel', [...channels, ...own]);
  return new Map(channels.map(c => [c.code, c.id]));
}
