import type { Tx } from '../database/db.js';

export function addWanted(tx: Tx, units: number, orderId: string, productId: string): Promise<number> {
  return tx.run(
    'UPDATE linePart SET quantity = quantity + ? WHERE orderId = ? AND productId = ? AND kitId IS NULL AND quantity > 0 ORDER BY id LIMIT 1',
    [units, orderId, productId],
  );
}

export function wantUsedOnly(tx: Tx, orderId: string): Promise<number> {
  return tx.run(
    "UPDATE linePart p SET p.made = 0, p.quantity = (SELECT COALESCE(SUM(a.quantity), 0) FROM allocation a WHERE a.partId = p.id AND a.hold = 'departed') WHERE p.orderId = ?",
    [orderId],
  );
}
