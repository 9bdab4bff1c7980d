import { lockAll } from '../database/locks.js';
import { lockProduct, newestVersion, type OlderLine, openLinesOf, partsOfLines } from './recipes.queries.js';

export type { OlderLine } from './recipes.queries.js';

import type { RecipeIn } from '@auk/contract';
import { checkRecipe, count, type RecipePart, type RecipeProblem, recipeChanges } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { ProductsService, putRecipe } from '../catalog/catalog.module.js';
import { Db, type Doer, type Sql, type Tx } from '../database/db.js';
import { Forbidden, NotHere, TooLate } from '../http/problem.js';
import { OrderChecks } from '../intake/intake.module.js';
import type { Product } from '../products/products.module.js';
import { CatalogService, Matches } from '../products/products.module.js';
import { event, OrderWriter, ordersUnderWay, productsOf, toHistory } from '../records/records.module.js';
import { Reservations } from '../reservations/reservations.module.js';

/** Recipes in versions: a change makes a new one, orders that are here keep theirs until somebody moves them. */
@Injectable()
export class Recipes {
  constructor(
    private readonly db: Db,
    private readonly catalog: CatalogService,
    private readonly products: ProductsService,
    private readonly writer: OrderWriter,
    private readonly checks: OrderChecks,
    private readonly reservations: Reservations,
  ) {}

  /** A person's change of a recipe. */
  save(sku: string, input: RecipeIn, doer: Doer): Promise<void> {
    return this.db.tx(doer, async tx => {
      const products = await this.catalog.skusWithParts(tx, [
        sku.toUpperCase(),
        ...input.parts.map(p => p.sku),
      ]);
      const bySku = new Map([...products.values()].map(p => [p.sku, p]));
      const product = bySku.get(sku.toUpperCase());
      if (!product) throw new NotHere(`The product ${sku.slice(0, 60)}`);
      await lockProduct(tx, product.id);
      const { version } = (await newestVersion(tx, product.id))!;
      if (version !== input.version)
        throw new TooLate(
          `The recipe of ${product.name} has version ${version} by now; you looked at ${input.version}.`,
          'Look at it again, then repeat the change.',
        );
      const parts = input.parts.map(p => ({
        productId: bySku.get(p.sku)?.id ?? p.sku,
        quantity: p.quantity,
      }));
      const why = this.refusal(product, parts, products);
      if (why) throw new Forbidden(why, 'Correct the recipe and save it again.');
      if (!(await this.put(tx, product, parts, input.note)))
        throw new Forbidden('Nothing in the recipe is different.', 'Change a part or a quantity first.');
      await tx.tell('catalog', product.id);
    });
  }

  /** Why parts cannot be the recipe of a product, in a sentence; null when they can. */
  refusal(
    product: Product,
    parts: readonly RecipePart[],
    products: ReadonlyMap<string, Product>,
  ): string | null {
    if (product.kind === 'piece')
      return `${product.name} is a piece, not a kit or bundle. Change its kind first.`;
    const problem = checkRecipe(product.id, parts, id => {
      const p = products.get(id);
      return p && { ...p.recipe, retired: p.stage === 'Retired' };
    });
    return problem && words(problem, id => products.get(id)?.sku ?? id);
  }

  /** Stores a judged recipe as a new version. False when nothing is different. */
  async put(tx: Tx, product: Product, parts: readonly RecipePart[], note: string): Promise<boolean> {
    if (recipeChanges(product.recipe.parts, parts).length === 0) return false;
    const recipeId = await putRecipe(tx, product.id, parts, note);
    product.recipe = { kind: product.kind, recipeId, parts: [...parts] };
    return true;
  }

  setPolicy(sku: string, kitPolicy: Product['kitPolicy'], doer: Doer): Promise<void> {
    return this.db.tx(doer, async tx => {
      const product = await this.products.locked(tx, sku.toUpperCase());
      if (product.kind !== 'kit')
        throw new Forbidden(
          `${product.name} is a ${product.kind}; only kits have stock of their own to eke out.`,
          'Choose a kit.',
        );
      await this.products.setKitPolicy(tx, product.id, kitPolicy);
      await this.reservations.reserveAgain(tx, [product.id]);
      await tx.tell('catalog', product.id);
    });
  }

  /** Lines of open orders that hold a product with other parts than its newest recipe gives. */
  async older(sql: Sql, productId: string, products: Map<string, Product>): Promise<OlderLine[]> {
    const holders = [...products.values()].filter(
      p => p.kind === 'bundle' && (p.id === productId || reaches(p, productId, products)),
    );
    if (holders.length === 0) return [];
    const lines = await openLinesOf(
      sql,
      holders.map(h => h.id),
    );
    const parts = await partsOfLines(
      sql,
      lines.map(l => l.lineId),
    );
    const matches = new Matches(products, new Map());
    return lines.filter(l => {
      const has = parts.filter(p => p.lineId === l.lineId);
      const wants = (matches.partsOf(l.productId, l.units) ?? []).map(p => ({
        ...p,
        quantity: p.quantity * l.quantity,
      }));
      return recipeChanges(has, wants).length > 0;
    });
  }

  /** Moves chosen orders to the newest recipe of a product, all or none. What is on a list already cannot be moved. */
  moveOrders(sku: string, orderIds: readonly string[], doer: Doer): Promise<{ moved: number }> {
    return this.db.tx(doer, async tx => {
      const products = await this.catalog.products(tx);
      const product = [...products.values()].find(p => p.sku === sku.toUpperCase());
      if (!product) throw new NotHere(`The product ${sku.slice(0, 60)}`);
      const ofOrders = await Promise.all(orderIds.map(id => productsOf(tx, id)));
      await lockAll(tx, { orders: orderIds, productStock: ofOrders.flat() });
      const lines = (await this.older(tx, product.id, products)).filter(l => orderIds.includes(l.orderId));
      const underWay = await ordersUnderWay(tx, orderIds);
      const late = lines.find(l => underWay.includes(l.orderId));
      if (late)
        throw new Forbidden(
          `${late.channelNumber} is ${late.stage} with its old parts already.`,
          'Leave it out of the choice; it keeps the recipe it was picked by.',
        );
      const matches = new Matches(products, new Map());
      const freed: string[] = [];
      for (const l of lines) {
        const holder = products.get(l.productId)!;
        const parts = matches.partsOf(holder.id, l.units);
        if (!parts) continue;
        freed.push(
          ...(await this.writer.newRecipe(
            tx,
            { id: l.orderId },
            { id: l.lineId, quantity: l.quantity },
            {
              id: holder.recipe.recipeId!,
              parts,
            },
          )),
        );
      }
      const moved = [...new Set(lines.map(l => l.orderId))].sort();
      await toHistory(
        tx,
        moved.map(id => event(tx, id, 'recipe', `Moved to the newest recipe of ${product.name}.`)),
      );
      if (moved.length > 0) await this.checks.recheck(tx, moved);
      await this.reservations.reserveAgain(tx, freed);
      await tx.tell('orders', '');
      return { moved: moved.length };
    });
  }
}

/** Whether a bundle's recipe reaches a product through bundles; a kit inside is taken whole and not looked into. */
function reaches(bundle: Product, productId: string, products: ReadonlyMap<string, Product>): boolean {
  return bundle.recipe.parts.some(p => {
    const part = products.get(p.productId);
    return part?.kind === 'bundle' && (part.id === productId || reaches(part, productId, products));
  });
}

/** A recipe's fault as a sentence. */
function words(problem: RecipeProblem, skuOf: (id: string) => string): string {
  switch (problem.code) {
    case 'empty':
      return 'A recipe needs at least one part.';
    case 'bad-quantity':
      return `${skuOf(problem.productId)} needs a whole, positive quantity, and not ${problem.quantity}.`;
    case 'twice':
      return `${skuOf(problem.productId)} stands twice in the recipe.`;
    case 'unknown-part':
      return `Its part ${skuOf(problem.productId)} is no product. Bring it in first.`;
    case 'retired-part':
      return `Its part ${skuOf(problem.productId)} is retired.`;
    case 'loop':
      return `It would contain itself: ${problem.path.map(skuOf).join(' > ')}.`;
    case 'too-deep':
      return `It would be ${count(problem.levels, 'level')} of recipes deep, which nobody can build.`;
  }
}
