import type { Sql, Tx } from '../database/db.js';
import type { Parcel } from '../parcels/parcel.entity.js';
import type { Lot } from '../stock/lot.entity.js';
import type { Place } from '../stock/place.entity.js';
import type { ReturnedPiece } from './returnedPiece.entity.js';
import type { ReturnReceipt } from './returnReceipt.entity.js';

/** The parcel that a code names: its own number, or the number of a label that it has or had. */
export function parcelNamed(
  sql: Sql,
  no: number,
  code: string,
): Promise<Pick<Parcel, 'id' | 'no' | 'orderId'> | null> {
  return sql.one(
    `(SELECT id, no, orderId FROM parcel WHERE no = ?)
       UNION ALL (SELECT c.id, c.no, c.orderId FROM label b JOIN parcel c ON c.id = b.parcelId WHERE b.tracking = ? ORDER BY b.liveParcel IS NULL, b.intendedAt DESC LIMIT 1) LIMIT 1`,
    [no, code],
  );
}

export function lockSent(
  tx: Tx,
  parcelId: string,
): Promise<Pick<Parcel, 'id' | 'no' | 'orderId' | 'shipmentId' | 'departedAt'> | null> {
  return tx.one('SELECT id, no, orderId, shipmentId, departedAt FROM parcel WHERE id = ? FOR UPDATE', [
    parcelId,
  ]);
}

/** What left in a parcel, by line, product and lot. */
export function sentIn(
  sql: Sql,
  parcelId: string,
): Promise<(Pick<ReturnedPiece, 'lineId' | 'productId' | 'lotId'> & { n: number })[]> {
  return sql.rows(
    `SELECT t.lineId, a.productId, s.lotId, CAST(SUM(a.quantity) AS SIGNED) AS n FROM allocation a JOIN linePart t ON t.id = a.partId JOIN pickStop s ON s.id = a.stopKey
     WHERE a.parcelKey = ? AND a.hold = 'departed' AND a.quantity > 0 GROUP BY t.lineId, a.productId, s.lotId ORDER BY t.lineId, a.productId, s.lotId`,
    [parcelId],
  );
}

/** What the channel of a returned parcel's order is told; a split order goes by the number of the order it was split off. */
export function returnToTell(
  sql: Sql,
  receiptId: string,
): Promise<{
  parcelId: string;
  orderId: string;
  channelId: string;
  channel: string;
  channelNumber: string;
  tracking: string | null;
} | null> {
  return sql.one(
    `SELECT c.id AS parcelId, o.id AS orderId, h.id AS channelId, h.code AS channel, COALESCE(s.channelNumber, o.channelNumber) AS channelNumber, b.tracking
       FROM returnReceipt r JOIN parcel c ON c.id = r.parcelId JOIN orders o ON o.id = c.orderId LEFT JOIN orders s ON s.id = o.splitOfId
       JOIN channel h ON h.id = o.channelId LEFT JOIN label b ON b.liveParcel = c.id WHERE r.id = ?`,
    [receiptId],
  );
}

export function piecesToTell(
  sql: Sql,
  receiptId: string,
): Promise<{ channelSku: string; sku: string; quantity: number; judged: ReturnedPiece['judged'] }[]> {
  return sql.rows(
    `SELECT l.channelSku, p.sku, CAST(SUM(x.quantity) AS SIGNED) AS quantity, x.judged FROM returnedPiece x JOIN orderLine l ON l.id = x.lineId JOIN product p ON p.id = x.productId
     WHERE x.receiptId = ? AND x.quantity > 0 GROUP BY l.channelSku, p.sku, x.judged ORDER BY l.channelSku, p.sku, x.judged`,
    [receiptId],
  );
}

const SHOWN = 100;

export interface ReturnRow extends Pick<ReturnReceipt, 'id' | 'at'> {
  no: number;
  order: string;
  orderId: string;
  buyer: string;
  person: string | null;
}

/** Parcels that came back, those with something to judge first. */
export function receipts(sql: Sql): Promise<ReturnRow[]> {
  return sql.rows(
    `SELECT r.id, r.at, c.no, o.channelNumber AS \`order\`, o.id AS orderId, o.buyer, p.name AS person FROM returnReceipt r JOIN parcel c ON c.id = r.parcelId JOIN orders o ON o.id = c.orderId LEFT JOIN person p ON p.id = r.personId
     ORDER BY NOT EXISTS (SELECT 1 FROM returnedPiece x WHERE x.receiptId = r.id AND x.judged = 'open'), r.at DESC LIMIT ${SHOWN}`,
  );
}

export function piecesOf(
  sql: Sql,
  receiptIds: readonly string[],
): Promise<
  (Pick<ReturnedPiece, 'id' | 'receiptId' | 'sent' | 'quantity' | 'judged'> & {
    sku: string;
    name: string;
    lot: Lot['code'] | null;
  })[]
> {
  return sql.rows(
    'SELECT x.id, x.receiptId, x.sent, x.quantity, x.judged, p.sku, p.name, l.code AS lot FROM returnedPiece x JOIN product p ON p.id = x.productId LEFT JOIN lot l ON l.id = x.lotId WHERE x.receiptId IN (?) ORDER BY x.id',
    [receiptIds],
  );
}

export interface PieceToJudge
  extends Pick<ReturnedPiece, 'id' | 'receiptId' | 'productId' | 'lotId' | 'sent' | 'quantity' | 'judged'> {
  orderId: string;
  no: number;
  sku: string;
  name: string;
}

export function lockPiece(tx: Tx, id: string): Promise<PieceToJudge | null> {
  return tx.one(
    `SELECT x.id, x.receiptId, x.productId, x.lotId, x.sent, x.quantity, x.judged, c.orderId, c.no, p.sku, p.name FROM returnedPiece x JOIN returnReceipt r ON r.id = x.receiptId JOIN parcel c ON c.id = r.parcelId
     JOIN product p ON p.id = x.productId WHERE x.id = ? FOR UPDATE`,
    [id],
  );
}

export function placeToPut(sql: Sql, code: string): Promise<Pick<Place, 'id' | 'code' | 'kind'> | null> {
  return sql.one('SELECT id, code, kind FROM place WHERE code = ?', [code]);
}
