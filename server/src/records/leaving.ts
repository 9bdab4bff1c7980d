import type { Tx } from '../database/db.js';

/** Plans orders, and their shipments, for a departure (null: none is known yet). */
export async function leaveWith(
  tx: Tx,
  orderIds: readonly string[],
  departureId: string | null,
): Promise<void> {
  if (orderIds.length === 0) return;
  await tx.run(
    'UPDATE orders SET departureId = ?, leavesAt = (SELECT cutOff FROM departure WHERE id = ?) WHERE id IN (?)',
    [departureId, departureId, orderIds],
  );
  await tx.run('UPDATE shipment SET departureId = ? WHERE orderId IN (?)', [departureId, orderIds]);
}
