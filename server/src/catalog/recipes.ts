import type { RecipePart as Part } from '@auk/core';
import { newId, type Tx } from '../database/db.js';
import { Recipe } from './recipe.entity.js';
import { RecipePart } from './recipePart.entity.js';

/** Stores a recipe as the next version of a product's; gives its id. The product is locked. */
export async function putRecipe(
  tx: Tx,
  productId: string,
  parts: readonly Part[],
  note: string,
): Promise<string> {
  const last = await tx.of(Recipe).findOne({ where: { productId }, order: { version: 'DESC' } });
  const id = newId();
  await tx.of(Recipe).insert({
    id,
    productId,
    version: (last?.version ?? 0) + 1,
    createdAt: tx.at,
    personId: tx.personId,
    note,
  });
  await tx
    .of(RecipePart)
    .insert(
      parts.map((p, position) => ({ recipeId: id, position, productId: p.productId, quantity: p.quantity })),
    );
  return id;
}
