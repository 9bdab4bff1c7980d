import { type LabelState } from '@auk/core';
import type { Sql, Tx } from '../database/db.js';
import { Forbidden } from '../http/problem.js';
import type { Parcel } from '../parcels/parcel.entity.js';
import type { Label } from './label.entity.js';

export interface LabelRow {
  id: string;
  parcelId: string;
  orderId: string;
  parcelNo: number;
  state: LabelState;
  carrier: string;
  carrierName: string;
  service: string;
  serviceName: string;
  minor: number;
  currency: string;
  tracking: string | null;
  request: string;
  batchId: string | null;
  back: number;
  /** How often the carrier was asked to sell before this step. */
  asks: number;
  /** Its parcel is not at a bench yet. */
  aheadAt: Date | null;
}

/** How long a purchase stays unanswered before the carrier is asked after it. Longer than the longest wait for an answer. */
const RECOVER_AFTER_MS = 6_000;
/** What is unanswered for too long by the database's clock, or intended and never asked for. */
export const STUCK = `state = 'intended' OR state IN ('asked', 'unknown') AND askedAt <= NOW(3) - INTERVAL ${RECOVER_AFTER_MS * 1000} MICROSECOND`;

/** A voiding that stays unanswered for too long. */
export const VOID_STUCK = `state = 'void asked' AND askedAt <= NOW(3) - INTERVAL ${RECOVER_AFTER_MS * 1000} MICROSECOND`;

/** A purchase that was refused, and whose carrier's books are to be looked through once more. */
export const TO_CHECK = `state = 'refused' AND checkAt <= NOW(3)`;

export const RECOVERED_AT_ONCE = 200;

export function lockParcel(tx: Tx, parcelId: string): Promise<Pick<Parcel, 'boxCode' | 'weightMg'> | null> {
  return tx.one('SELECT boxCode, weightMg FROM parcel WHERE id = ? FOR UPDATE', [parcelId]);
}

/** A purchase key is one label's, of one parcel and one way: used for another, it buys nothing. */
export function refuseKeyOfAnother(
  known: Pick<Label, 'id' | 'parcelId' | 'back'> | null,
  key: string,
  parcelId: string,
  back: boolean,
): void {
  if (known?.id === key && (known.parcelId !== parcelId || Boolean(known.back) !== back))
    throw new Forbidden(
      'This purchase key was used for another label.',
      'Ask for the prices again and choose anew.',
    );
}

/** The purchase under a key, else the live one of a parcel: for its way there, or for its way back. */
export function labelByKeyOrParcel(
  sql: Sql,
  key: string,
  parcelId: string,
  back: boolean,
): Promise<(Pick<Label, 'id' | 'parcelId' | 'back'> & { state: LabelState }) | null> {
  return sql.one(
    `SELECT id, parcelId, back, state FROM label WHERE id = ? OR ${back ? 'liveReturn' : 'liveParcel'} = ? ORDER BY id = ? DESC LIMIT 1`,
    [key, parcelId, key],
  );
}

/** Carriers of which something is stuck, by the rule of what that is. */
export function stuckCarriers(sql: Sql, rule: string): Promise<Pick<Label, 'carrier'>[]> {
  return sql.rows(`SELECT DISTINCT carrier FROM label WHERE ${rule}`);
}

export function stuckLabels(sql: Sql, carrier: string, rule: string): Promise<Pick<Label, 'id'>[]> {
  return sql.rows(
    `SELECT id FROM label WHERE carrier = ? AND (${rule}) ORDER BY intendedAt LIMIT ${RECOVERED_AT_ONCE}`,
    [carrier],
  );
}

export function askedSince(
  sql: Sql,
  id: string,
): Promise<
  (Pick<Label, 'carrier'> & { state: LabelState; sinceMs: number | null; elsewhere: number }) | null
> {
  return sql.one(
    'SELECT carrier, state, elsewhere, TIMESTAMPDIFF(MICROSECOND, askedAt, NOW(3)) / 1000 AS sinceMs FROM label WHERE id = ?',
    [id],
  );
}

export function orderOfLabel(sql: Sql, id: string): Promise<Pick<Parcel, 'orderId'> | null> {
  return sql.one('SELECT c.orderId FROM label b JOIN parcel c ON c.id = b.parcelId WHERE b.id = ?', [id]);
}

/** A parcel with its live purchase, for its way there or for its way back. */
export function parcelToVoid(
  sql: Sql,
  no: number,
  back: boolean,
): Promise<
  | (Pick<Parcel, 'id' | 'orderId' | 'handedOverAt' | 'departedAt'> & {
      labelId: string | null;
      state: LabelState | null;
      cameBack: number;
    })
  | null
> {
  return sql.one(
    `SELECT c.id, c.orderId, c.handedOverAt, c.departedAt, b.id AS labelId, b.state, EXISTS (SELECT 1 FROM returnReceipt r WHERE r.parcelId = c.id) AS cameBack
       FROM parcel c LEFT JOIN label b ON b.${back ? 'liveReturn' : 'liveParcel'} = c.id WHERE c.no = ?`,
    [no],
  );
}

export function noteVoidAsked(tx: Tx, id: string): Promise<number> {
  return tx.run("UPDATE label SET state = 'void asked', askedAt = NOW(3), why = NULL WHERE id = ?", [id]);
}

export function lockLabel(tx: Tx, id: string): Promise<LabelRow | null> {
  return tx.one(
    'SELECT b.id, b.parcelId, c.orderId, c.no AS parcelNo, b.state, b.carrier, b.carrierName, b.service, b.serviceName, b.minor, b.currency, b.tracking, b.request, b.batchId, b.back, b.asks, c.aheadAt FROM label b JOIN parcel c ON c.id = b.parcelId WHERE b.id = ? FOR UPDATE',
    [id],
  );
}

export function noteAsked(tx: Tx, state: string, id: string): Promise<number> {
  return tx.run('UPDATE label SET state = ?, asks = asks + 1, askedAt = NOW(3) WHERE id = ?', [state, id]);
}

/** Whether a tracking number is on another live label, and of which parcel. */
export function parcelWithTracking(
  tx: Tx,
  id: string,
  liveTracking: string,
): Promise<Pick<Parcel, 'no'> | null> {
  return tx.one(
    'SELECT c.no FROM label b JOIN parcel c ON c.id = b.parcelId WHERE b.liveTracking = ? AND b.id <> ?',
    [liveTracking, id],
  );
}

/** Has the books looked through again so many milliseconds from now, by the database's clock; never when null. */
export function noteCheck(tx: Tx, id: string, checks: number, inMs: number | null): Promise<number> {
  return tx.run('UPDATE label SET checks = ?, checkAt = NOW(3) + INTERVAL ? MICROSECOND WHERE id = ?', [
    checks,
    inMs === null ? null : inMs * 1000,
    id,
  ]);
}
