import type { Sql } from '../database/db.js';
import type { PickStop } from '../lists/pickStop.entity.js';
import type { Parcel } from '../parcels/parcel.entity.js';
import type { Allocation } from '../stock/allocation.entity.js';

/** What of an order lies in its parcels in the house, by part, stop and parcel. */
export function packedOf(
  sql: Sql,
  orderId: string,
): Promise<
  (Pick<Allocation, 'partId' | 'productId' | 'quantity' | 'stopKey'> &
    Pick<PickStop, 'lotId'> &
    Pick<Parcel, 'no' | 'placeId' | 'closedAt'> & { parcelId: string })[]
> {
  return sql.rows(
    `SELECT a.partId, a.productId, a.quantity, a.stopKey, s.lotId, c.id AS parcelId, c.no, c.placeId, c.closedAt FROM allocation a JOIN parcel c ON c.id = a.parcelKey JOIN pickStop s ON s.id = a.stopKey
       WHERE a.orderId = ? AND a.hold = 'packed' AND a.quantity > 0 ORDER BY a.partId, c.closedAt IS NOT NULL, c.seq DESC, a.stopKey`,
    [orderId],
  );
}

export async function parcelIdsOf(sql: Sql, orderId: string): Promise<string[]> {
  const rows = await sql.rows<Pick<Parcel, 'id'>>('SELECT id FROM parcel WHERE orderId = ?', [orderId]);
  return rows.map(r => r.id);
}
