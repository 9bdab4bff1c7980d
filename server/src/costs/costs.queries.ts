import type { CarrierRow } from '../carriers/carrier.entity.js';
import type { Sql, Tx } from '../database/db.js';
import type { Label } from '../labels/label.entity.js';
import type { Parcel } from '../parcels/parcel.entity.js';
import type { CarrierBill } from './carrierBill.entity.js';
import type { CarrierBillLine } from './carrierBillLine.entity.js';

/** Labels of a carrier by their tracking numbers, the live one of a number first. */
export function labelsByTracking(
  sql: Sql,
  carrier: string,
  trackings: readonly string[],
): Promise<
  (Pick<Label, 'id' | 'state' | 'minor' | 'currency' | 'charges' | 'tracking'> & Pick<Parcel, 'weightMg'>)[]
> {
  return sql.rows(
    `SELECT b.id, b.state, b.minor, b.currency, b.charges, b.tracking, c.weightMg FROM label b JOIN parcel c ON c.id = b.parcelId
     WHERE b.carrier = ? AND b.tracking IN (?) AND b.state IN ('bought', 'voided', 'void asked') ORDER BY b.liveParcel IS NULL, b.intendedAt DESC`,
    [carrier, trackings],
  );
}

/** On which bill labels stood first. */
export function billedBefore(
  sql: Sql,
  labelIds: readonly string[],
): Promise<(Pick<CarrierBill, 'number'> & { labelId: string })[]> {
  return sql.rows(
    "SELECT l.labelId, MIN(i.number) AS number FROM carrierBillLine l JOIN carrierBill i ON i.id = l.billId WHERE l.labelId IN (?) AND l.verdict <> 'twice' GROUP BY l.labelId",
    [labelIds],
  );
}

/** Bills of one carrier are taken in one after another. */
export function lockCarrier(tx: Tx, code: string): Promise<Pick<CarrierRow, 'code' | 'name'> | null> {
  return tx.one('SELECT code, name FROM carrier WHERE code = ? FOR UPDATE', [code]);
}

const CLAIMED =
  "CASE WHEN l.verdict IN ('agrees', 'cheaper') THEN 0 WHEN l.agreedMinor IS NULL THEN l.minor ELSE GREATEST(0, l.minor - l.agreedMinor) END";

export interface BillSums extends Pick<CarrierBill, 'id' | 'number' | 'currency' | 'at'> {
  carrierName: string;
  lines: number;
  minor: number;
  claimMinor: number;
  differ: number;
}

/** Bills with their sums, the newest first; one, or the last hundred. */
export function bills(sql: Sql, id: string | null): Promise<BillSums[]> {
  return sql.rows(
    `SELECT i.id, i.number, i.currency, i.at, c.name AS carrierName, COUNT(*) AS \`lines\`, CAST(SUM(l.minor) AS SIGNED) AS minor, CAST(SUM(${CLAIMED}) AS SIGNED) AS claimMinor,
       CAST(SUM(l.verdict NOT IN ('agrees', 'cheaper')) AS SIGNED) AS differ
     FROM carrierBill i JOIN carrier c ON c.code = i.carrier JOIN carrierBillLine l ON l.billId = i.id WHERE ? IS NULL OR i.id = ? GROUP BY i.id, i.number, i.currency, i.at, c.name ORDER BY i.at DESC LIMIT 100`,
    [id, id],
  );
}

export function billLines(
  sql: Sql,
  billId: string,
): Promise<
  (Pick<CarrierBillLine, 'seq' | 'tracking' | 'service' | 'minor' | 'agreedMinor' | 'verdict' | 'says'> & {
    claimMinor: number;
    no: number | null;
    order: string | null;
  })[]
> {
  return sql.rows(
    `SELECT l.seq, l.tracking, l.service, l.minor, l.agreedMinor, l.verdict, l.says, CAST(${CLAIMED} AS SIGNED) AS claimMinor, p.no, o.channelNumber AS \`order\` FROM carrierBillLine l
     LEFT JOIN label b ON b.id = l.labelId LEFT JOIN parcel p ON p.id = b.parcelId LEFT JOIN orders o ON o.id = p.orderId WHERE l.billId = ? ORDER BY l.verdict IN ('agrees', 'cheaper'), l.seq`,
    [billId],
  );
}

export interface SpentLabel
  extends Pick<Label, 'carrierName' | 'serviceName' | 'zone' | 'billable' | 'charges' | 'currency'> {
  orderId: string;
  number: string;
  channel: string;
  at: Date;
  minor: number;
  back: number;
  shippingMinor: number;
  orderCurrency: string;
}

/** Most labels that are looked at; a span of more is cut into shorter ones by whoever asks. */
export const MOST_LABELS = 50_000;

/** Labels that were bought in a span of time and not given back, with what their orders' buyers paid. */
export function spentIn(sql: Sql, from: Date, until: Date): Promise<SpentLabel[]> {
  return sql.rows(
    `SELECT b.carrierName, b.serviceName, b.zone, b.billable, b.charges, b.currency, o.id AS orderId, o.channelNumber AS number, h.name AS channel, b.answeredAt AS at,
       COALESCE(b.chargedMinor, b.minor) AS minor, b.back, o.shippingMinor, o.currency AS orderCurrency
     FROM label b JOIN parcel c ON c.id = b.parcelId JOIN orders o ON o.id = c.orderId JOIN channel h ON h.id = o.channelId
     WHERE b.answeredAt >= ? AND b.answeredAt < ? AND b.state IN ('bought', 'void asked') ORDER BY b.answeredAt, b.id LIMIT ${MOST_LABELS}`,
    [from, until],
  );
}
