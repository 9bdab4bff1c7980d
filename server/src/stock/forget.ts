import type { Tx } from '../database/db.js';
import { ProductStock } from './productStock.entity.js';

/** Forgets that a product has stock, before it is deleted; it never had any. */
export async function forgetProduct(tx: Tx, productId: string): Promise<void> {
  await tx.of(ProductStock).delete({ productId });
}
