import type { Tx } from '../database/db.js';
import type { Lot } from './lot.entity.js';

export function addLot(
  tx: Tx,
  id: string,
  productId: string,
  code: string,
  expiry: string | null,
): Promise<number> {
  return tx.run('INSERT IGNORE INTO lot (id, productId, code, expiry) VALUES (?, ?, ?, ?)', [
    id,
    productId,
    code,
    expiry,
  ]);
}

export function lockLot(tx: Tx, productId: string, code: string): Promise<Pick<Lot, 'id' | 'expiry'> | null> {
  return tx.one(
    'SELECT id, CAST(expiry AS CHAR) AS expiry FROM lot WHERE productId = ? AND code = ? FOR UPDATE',
    [productId, code],
  );
}
