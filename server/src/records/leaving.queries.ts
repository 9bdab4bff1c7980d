import type { Sql, Tx } from '../database/db.js';

export function setDeparture(
  tx: Tx,
  departureId: string | null,
  orderIds: readonly string[],
): Promise<number> {
  return tx.run(
    'UPDATE orders SET departureId = ?, leavesAt = (SELECT cutOff FROM departure WHERE id = ?) WHERE id IN (?)',
    [departureId, departureId, orderIds],
  );
}

/** What an order weighs by its products, in milligrams. */
export async function weightOf(sql: Sql, orderId: string): Promise<number> {
  const row = await sql.one<{ weightMg: number }>(
    'SELECT COALESCE(SUM(p.quantity * COALESCE(x.weightMg, 0)), 0) AS weightMg FROM linePart p JOIN product x ON x.id = p.productId WHERE p.orderId = ?',
    [orderId],
  );
  return Number(row!.weightMg);
}

/** Orders leave when their departures do: after cut-offs were moved. */
export function leavesAgain(tx: Tx, departureIds: readonly string[]): Promise<number> {
  return tx.run(
    'UPDATE orders o JOIN departure d ON d.id = o.departureId SET o.leavesAt = d.cutOff WHERE d.id IN (?)',
    [departureIds],
  );
}
