import type { Sql } from '../database/db.js';
import type { Parcel } from '../parcels/parcel.entity.js';

export function openParcelOf(
  sql: Sql,
  orderId: string,
): Promise<(Pick<Parcel, 'no' | 'closedAt' | 'aheadAt'> & { state: string | null; units: number }) | null> {
  return sql.one(
    `SELECT c.no, c.closedAt, c.aheadAt, b.state, (SELECT COALESCE(SUM(a.quantity), 0) FROM allocation a WHERE a.parcelKey = c.id AND a.hold = 'packed') AS units
       FROM parcel c LEFT JOIN label b ON b.liveParcel = c.id WHERE c.orderId = ? AND c.departedAt IS NULL AND (c.aheadAt IS NULL OR b.id IS NOT NULL) ORDER BY b.state IS NULL, c.closedAt IS NOT NULL, c.no LIMIT 1`,
    [orderId],
  );
}
