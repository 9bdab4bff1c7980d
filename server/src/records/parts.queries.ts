import type { Tx } from '../database/db.js';

export function partToMade(tx: Tx, units: number, kitPartId: string): Promise<number> {
  return tx.run('UPDATE linePart SET quantity = quantity - ?, made = made + ? WHERE id = ?', [
    units,
    units,
    kitPartId,
  ]);
}

export function insertPartOf(
  tx: Tx,
  partId: string,
  productId: string,
  quantity: number,
  kitPartId: string,
): Promise<number> {
  return tx.run(
    'INSERT INTO linePart (id, lineId, orderId, shipmentId, productId, quantity, kitId, optional) SELECT ?, lineId, orderId, shipmentId, ?, ?, productId, optional FROM linePart WHERE id = ?',
    [partId, productId, quantity, kitPartId],
  );
}
