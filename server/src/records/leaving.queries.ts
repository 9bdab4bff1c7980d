import type { Tx } from '../database/db.js';

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
