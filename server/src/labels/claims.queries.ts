import type { ClaimView } from '@auk/contract';
import type { Sql } from '../database/db.js';

const CLAIMS_SHOWN = 200;

/** Claims that are open, and the last that were closed. */
export async function claimsOf(sql: Sql): Promise<ClaimView[]> {
  const rows = await sql.rows<Omit<ClaimView, 'parcel' | 'at'> & { no: number; at: Date }>(
    `SELECT r.id, r.kind, r.state, r.minor, r.currency, r.why, COALESCE(r.tracking, b.tracking) AS tracking, r.at, c.no, b.carrierName, c.orderId
     FROM refundClaim r JOIN label b ON b.id = r.labelId JOIN parcel c ON c.id = b.parcelId ORDER BY r.state <> 'open', r.at DESC LIMIT ${CLAIMS_SHOWN}`,
  );
  return rows.map(({ no, at, ...r }) => ({ ...r, at: at.toISOString(), parcel: `PA-${no}` }));
}
