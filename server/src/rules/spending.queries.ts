import type { LabelState } from '@auk/core';
import type { Sql, Tx } from '../database/db.js';
import type { Parcel } from '../parcels/parcel.entity.js';
import type { Order } from '../records/order.entity.js';
import type { Unattended } from './unattended.entity.js';

/** What holds money of a day: all but what was refused. What is not answered holds it; a label that was voided does not give it back. */
const HOLDS =
  "u.freedAt IS NULL AND u.wish IS NOT NULL AND NOT EXISTS (SELECT 1 FROM label b WHERE b.id = u.id AND b.state = 'refused')";

/** Locks a day's sums until the transaction ends. */
export async function lockDay(tx: Tx, day: string): Promise<void> {
  await tx.run('INSERT IGNORE INTO spendDay (day) VALUES (?)', [day]);
  await tx.one('SELECT day FROM spendDay WHERE day = ? FOR UPDATE', [day]);
}

/** What is spent or held on a day, by rule. */
export function spentOn(sql: Sql, day: string): Promise<{ ruleId: string; minor: number; labels: number }[]> {
  return sql.rows(
    `SELECT u.ruleId, CAST(SUM(u.minor) AS SIGNED) AS minor, COUNT(*) AS labels FROM unattended u WHERE u.day = ? AND ${HOLDS} GROUP BY u.ruleId`,
    [day],
  );
}

/** All that was wanted bought on a day, the newest first, with what became of each label. */
export function wantedOn(
  sql: Sql,
  day: string,
): Promise<
  (Pick<Unattended, 'id' | 'rule' | 'service' | 'minor' | 'why' | 'at' | 'freedAt'> &
    Pick<Order, 'channelNumber'> & { no: number | null; orderId: string; state: LabelState | null })[]
> {
  return sql.rows(
    `SELECT u.id, u.rule, u.service, u.minor, u.why, u.at, u.freedAt, c.no, o.id AS orderId, o.channelNumber, b.state
     FROM unattended u LEFT JOIN parcel c ON c.id = u.parcelId JOIN orders o ON o.id = COALESCE(u.orderId, c.orderId) LEFT JOIN label b ON b.id = u.id
     WHERE u.day = ? ORDER BY u.at DESC, u.id DESC LIMIT 300`,
    [day],
  );
}

/** Parcels of an order, closed or planned ahead, that no label lives for. */
export function parcelsToBuy(sql: Sql, orderId: string): Promise<Pick<Parcel, 'id' | 'no'>[]> {
  return sql.rows(
    `SELECT c.id, c.no FROM parcel c WHERE c.orderId = ? AND (c.closedAt IS NOT NULL OR c.aheadAt IS NOT NULL) AND NOT EXISTS (SELECT 1 FROM label b WHERE b.liveParcel = c.id) ORDER BY c.no`,
    [orderId],
  );
}

/** Whether a purchase was begun: its carrier may have been asked. */
export async function isBegun(sql: Sql, id: string): Promise<boolean> {
  return (await sql.one('SELECT 1 FROM label WHERE id = ?', [id])) !== null;
}

/** The time by the database's clock. */
export async function timeNow(sql: Sql): Promise<Date> {
  return (await sql.one<{ now: Date }>('SELECT NOW(3) AS now'))!.now;
}

/** Whether an order's label was wanted by a rule before: for its planned parcel, or in vain. */
export async function isWanted(
  sql: Sql,
  { orderId, ruleId }: { orderId: string; ruleId: string },
): Promise<boolean> {
  return (
    (await sql.one(
      `SELECT 1 FROM unattended WHERE orderId = ? AND ruleId = ?
       UNION SELECT 1 FROM unattended u JOIN parcel c ON c.id = u.parcelId WHERE c.orderId = ? AND u.ruleId = ?`,
      [orderId, ruleId, orderId, ruleId],
    )) !== null
  );
}
