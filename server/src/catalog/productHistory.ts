import type { Change } from '@auk/core';
import type { Tx } from '../database/db.js';
import { ProductEvent } from './productEvent.entity.js';

/** Longest text of an event. */
const LONGEST = 600;

/** Keeps in the history of a product what was done with it, by whom, and which fields changed. */
export const noteProduct = (
  tx: Tx,
  productId: string,
  says: string,
  changes: readonly Change[] | null = null,
): Promise<void> =>
  tx.insert(ProductEvent, [
    {
      productId,
      at: tx.at,
      personId: tx.personId,
      says: says.slice(0, LONGEST),
      changes: changes && JSON.stringify(changes),
    },
  ]);
