import { type Mapping, RECIPE_FIELDS, type RecipeRowRead, readRecipeRows } from '@auk/core';
import { Injectable } from '@nestjs/common';
import type { Tx } from '../database/db.js';
import { Recipes } from '../kits/kits.module.js';
import type { Product } from '../products/products.module.js';
import { CatalogService } from '../products/products.module.js';
import type { Table } from '../reference/table.js';
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

/** Recipes of kits and bundles: a changed recipe becomes a new version; orders that are here keep theirs. */
@Injectable()
export class RecipesImport implements Importer {
  readonly kind = 'recipes';
  readonly fields = RECIPE_FIELDS;
  readonly ofChannel = false;

  constructor(
    private readonly catalog: CatalogService,
    private readonly recipes: Recipes,
  ) {}

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
    const parts = item.parts.map(p => ({ productId: bySku.get(p.sku)?.id ?? p.sku, quantity: p.quantity }));
    const why = this.recipes.refusal(product, parts, products);
    if (why) return refused(row, item.sku, why);
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
    if (commit) await this.recipes.put(tx, product, parts, 'From a file');
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
