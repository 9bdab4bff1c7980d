import { In } from 'typeorm';
import type { Sql, Tx } from '../database/db.js';
import { SentElsewhere } from './sentElsewhere.entity.js';

/** Who sends an order to the buyer in the house's stead; null when the house does. */
export const sentElsewhere = (sql: Sql, orderId: string): Promise<SentElsewhere | null> =>
  sql.of(SentElsewhere).findOneBy({ orderId });

export const isElsewhere = (sql: Sql, orderId: string): Promise<boolean> =>
  sql.of(SentElsewhere).existsBy({ orderId });

/** Those of some orders that somebody else sends. */
export async function elsewhereOf(sql: Sql, orderIds: readonly string[]): Promise<Set<string>> {
  if (orderIds.length === 0) return new Set();
  const rows = await sql.of(SentElsewhere).find({
    where: { orderId: In([...new Set(orderIds)]) },
    select: { orderId: true },
  });
  return new Set(rows.map(r => r.orderId));
}

/** Notes that somebody else sends an order. Its stage follows when it is refreshed. */
export const sendElsewhere = (
  tx: Tx,
  orderId: string,
  by: { supplierId: string } | { center: string },
): Promise<void> => tx.insert(SentElsewhere, [{ orderId, ...by, at: tx.at }]);

/** What became of it there. */
export async function changeElsewhere(
  tx: Tx,
  orderId: string,
  columns: Partial<Pick<SentElsewhere, 'purchaseOrderId' | 'placedAt' | 'leftAt' | 'why'>>,
): Promise<void> {
  await tx.of(SentElsewhere).update({ orderId }, columns);
}

/** The house sends it after all. */
export async function sendFromHere(tx: Tx, orderId: string): Promise<void> {
  await tx.of(SentElsewhere).delete({ orderId });
}
