import { explode, type Mapping, RECIPE_FIELDS, type RecipeRowRead, readRecipeRows } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { CatalogService } from '../catalog/catalog.service.js';
import type { Product } from '../catalog/product.js';
import { newId, type Tx } from '../database/db.js';
import {
  dataRows,
  type Importer,
  type Outcome,
  oneByOne,
  type ReadFile,
  refused,
  stateOf,
  whole,
} from './importer.js';
import type { Table } from './table.js';

/** Recipes of kits and bundles: a changed recipe becomes a new version; orders that are here keep theirs. */
@Injectable()
export class RecipesImport implements Importer {
  readonly kind = 'recipes';
  readonly fields = RECIPE_FIELDS;
  readonly ofChannel = false;

  constructor(private readonly catalog: CatalogService) {}

  read(table: Table, mapping: Mapping): ReadFile {
    return oneByOne(readRecipeRows(table, mapping), dataRows(table), async tx => {
      const products = await this.catalog.products(tx);
      const bySku = new Map([...products.values()].map(p => [p.sku, p]));
      return (item, row, inTx, commit) => this.one(inTx, item, row, products, bySku, commit);
    });
  }

  private async one(
    tx: Tx,
    item: RecipeRowRead,
    row: number,
    products: Map<string, Product>,
    bySku: Map<string, Product>,
    commit: boolean,
  ): Promise<Outcome> {
    const product = bySku.get(item.sku);
    if (!product) return refused(row, item.sku, `No product has the SKU ${item.sku}. Bring it in first.`);
    if (product.kind === 'piece')
      return refused(
        row,
        item.sku,
        `${product.name} is a piece, not a kit or bundle. Change its kind first.`,
      );
    const missing = item.parts.find(p => !bySku.has(p.sku));
    if (missing) return refused(row, item.sku, `Its part ${missing.sku} is no product. Bring it in first.`);
    const parts = item.parts.map(p => ({ productId: bySku.get(p.sku)!.id, quantity: p.quantity }));
    const loop = explode(product.id, 1, id =>
      id === product.id ? { kind: 'bundle', recipeId: null, parts } : withParts(products.get(id)),
    );
    if (!loop.ok && loop.problem.code === 'loop')
      return refused(
        row,
        item.sku,
        `It would contain itself: ${loop.problem.path.map(id => products.get(id)!.sku).join(' > ')}.`,
      );
    const wordsOf = (list: readonly { productId: string; quantity: number }[]) =>
      list
        .map(p => `${p.quantity} × ${products.get(p.productId)!.sku}`)
        .sort()
        .join(', ');
    const changes =
      wordsOf(product.recipe.parts) === wordsOf(parts)
        ? []
        : [whole(wordsOf(product.recipe.parts) || null, wordsOf(parts))];
    const isNew = product.recipe.parts.length === 0;
    if (commit && changes.length > 0) {
      const { version } = (await tx.one<{ version: number }>(
        'SELECT COALESCE(MAX(version), 0) + 1 AS version FROM recipe WHERE productId = ?',
        [product.id],
      ))!;
      const recipeId = newId();
      await tx.insert('recipe', [
        { id: recipeId, productId: product.id, version, createdAt: tx.at, personId: tx.personId },
      ]);
      await tx.insert(
        'recipePart',
        parts.map((p, position) => ({ recipeId, position, ...p })),
      );
      product.recipe = { kind: product.kind, recipeId, parts };
    }
    return {
      row,
      name: item.sku,
      about: product.name,
      state: stateOf(isNew, changes),
      says: isNew ? '' : 'orders that are here keep their recipe',
      changes,
    };
  }
}

/** A kit is looked into like a bundle, so that loops through kits are found too. */
const withParts = (p: Product | undefined) =>
  p && { ...p.recipe, kind: p.recipe.parts.length > 0 ? ('bundle' as const) : ('piece' as const) };
