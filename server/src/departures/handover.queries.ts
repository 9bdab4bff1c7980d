import type { Sql, Tx } from '../database/db.js';
import type { PickStop } from '../lists/pickStop.entity.js';
import type { Parcel } from '../parcels/parcel.entity.js';
import type { Order } from '../records/order.entity.js';
import type { Allocation } from '../stock/allocation.entity.js';
import type { Departure } from '../timetable/departure.entity.js';

export interface ScannedParcel {
  id: string;
  no: number;
  orderId: string;
  departureId: string | null;
  handedOverAt: Date | null;
  departedAt: Date | null;
  closedAt: Date | null;
  misfit: string | null;
  label: string | null;
  carrier: string | null;
  carrierName: string | null;
  weightMg: number | null;
}

/** A code that names a parcel, or a label that was given back and with it the parcel that it was on. */
export interface NamedParcel {
  id: string;
  orderId: string;
  label: string | null;
}

export function parcelByCode(sql: Sql, no: string | number, code: string): Promise<NamedParcel | null> {
  return sql.one(
    `(SELECT id, orderId, NULL AS label FROM parcel WHERE no = ?)
       UNION ALL (SELECT c.id, c.orderId, b.state FROM label b JOIN parcel c ON c.id = b.parcelId WHERE b.tracking = ? AND NOT b.back ORDER BY b.liveParcel IS NULL, b.intendedAt DESC LIMIT 1) LIMIT 1`,
    [no, code],
  );
}

/** What became of the last label of a parcel. */
export function lastLabel(sql: Sql, parcelId: string): Promise<{ state: string } | null> {
  return sql.one('SELECT state FROM label WHERE parcelId = ? AND NOT back ORDER BY intendedAt DESC LIMIT 1', [
    parcelId,
  ]);
}

/** All scans at the dock of a departure, in their order. */
export function scansAt(
  sql: Sql,
  departureId: string,
): Promise<{ text: string; kind: string; says: string }[]> {
  return sql.rows(
    `SELECT JSON_VALUE(e.scan, '$.text') AS text, JSON_VALUE(e.answer, '$.kind') AS kind, JSON_VALUE(e.answer, '$.says') AS says FROM scanSession s JOIN scanEvent e ON e.sessionId = s.id
     WHERE s.departureId = ? ORDER BY e.seq DESC LIMIT 500`,
    [departureId],
  );
}

/** What a departure is to take, as far as it is known by now. */
export function loadOf(sql: Sql, departureId: string): Promise<{ parcels: number; weightMg: number } | null> {
  return sql.one(
    'SELECT COUNT(*) AS parcels, CAST(COALESCE(SUM(weightMg), 0) AS SIGNED) AS weightMg FROM parcel WHERE departureId = ?',
    [departureId],
  );
}

/** What left with a departure: tracking numbers that were bought here. */
export function trackingsOf(sql: Sql, departureId: string): Promise<{ tracking: string }[]> {
  return sql.rows(
    "SELECT b.tracking FROM parcel c JOIN label b ON b.liveParcel = c.id AND b.state = 'bought' WHERE c.departureId = ? AND c.departedAt IS NOT NULL AND NOT b.elsewhere ORDER BY b.tracking",
    [departureId],
  );
}

export function lockParcel(tx: Tx, whoseId: string): Promise<ScannedParcel | null> {
  return tx.one(
    `SELECT c.id, c.no, c.orderId, c.departureId, c.handedOverAt, c.departedAt, c.closedAt, c.misfit, c.weightMg, b.state AS label, b.carrier, b.carrierName FROM parcel c
       LEFT JOIN label b ON b.liveParcel = c.id WHERE c.id = ? FOR UPDATE`,
    [whoseId],
  );
}

export async function lockOrdersOn(tx: Tx, departureId: string): Promise<void> {
  tx.holding(
    'orders',
    await tx.rows<Pick<Order, 'id'>>(
      'SELECT o.id FROM orders o WHERE o.id IN (SELECT c.orderId FROM parcel c WHERE c.departureId = ? AND c.departedAt IS NULL UNION SELECT w.id FROM orders w WHERE w.departureId = ? AND w.isOpen) ORDER BY o.id FOR UPDATE',
      [departureId, departureId],
    ),
  );
}

export function lockParcelsOn(tx: Tx, departureId: string): Promise<ScannedParcel[]> {
  return tx.rows(
    "SELECT c.id, c.no, c.orderId, c.handedOverAt, c.departedAt FROM parcel c JOIN label b ON b.liveParcel = c.id AND b.state = 'bought' WHERE c.departureId = ? AND c.departedAt IS NULL ORDER BY c.orderId, c.id FOR UPDATE",
    [departureId],
  );
}

export function packedIn(
  sql: Sql,
  ids: readonly string[],
): Promise<
  (Pick<Allocation, 'partId' | 'orderId' | 'productId' | 'stopKey' | 'parcelKey' | 'quantity'> &
    Pick<Parcel, 'placeId'> &
    Pick<PickStop, 'lotId'>)[]
> {
  return sql.rows(
    `SELECT a.partId, a.orderId, a.productId, a.stopKey, a.parcelKey, a.quantity, c.placeId, s.lotId FROM allocation a JOIN parcel c ON c.id = a.parcelKey
       JOIN pickStop s ON s.id = a.stopKey WHERE a.parcelKey IN (?) AND a.hold = 'packed' AND a.quantity > 0`,
    [ids],
  );
}

export async function lockWaitingFor(tx: Tx, departureId: string): Promise<Pick<Order, 'id'>[]> {
  return tx.holding(
    'orders',
    await tx.rows<Pick<Order, 'id'>>(
      "SELECT id FROM orders WHERE departureId = ? AND stage NOT IN ('Departed', 'Cancelled') ORDER BY id FOR UPDATE",
      [departureId],
    ),
  );
}

export function departureByNo(
  sql: Sql,
  no: number,
): Promise<Pick<Departure, 'id' | 'carrier' | 'cutOff'> | null> {
  return sql.one('SELECT id, carrier, cutOff FROM departure WHERE no = ?', [no]);
}

export function lockDeparture(
  tx: Tx,
  no: number,
): Promise<Pick<Departure, 'id' | 'no' | 'carrier' | 'cutOff' | 'state' | 'bookedAs'> | null> {
  return tx.one('SELECT id, no, carrier, cutOff, state, bookedAs FROM departure WHERE no = ? FOR UPDATE', [
    no,
  ]);
}

/** Orders that are planned for some departures and have not left. */
export function ordersLeavingWith(tx: Tx, departureIds: readonly string[]): Promise<Pick<Order, 'id'>[]> {
  return tx.rows('SELECT id FROM orders WHERE departureId IN (?) AND isOpen ORDER BY id', [departureIds]);
}

/** Orders that are planned for a departure and have not left, with the day on which their labels say that they arrive. */
export function ordersToFollow(
  sql: Sql,
  departureId: string,
): Promise<(Pick<Order, 'id' | 'channelNumber' | 'stage' | 'promised'> & { arrives: string | null })[]> {
  return sql.rows(
    `SELECT o.id, o.channelNumber, o.stage, o.promised, MAX(b.arrives) AS arrives FROM orders o
     LEFT JOIN parcel c ON c.orderId = o.id AND c.departedAt IS NULL LEFT JOIN label b ON b.liveParcel = c.id AND b.state = 'bought'
     WHERE o.departureId = ? AND o.isOpen GROUP BY o.id, o.channelNumber, o.stage, o.promised ORDER BY o.promised IS NULL, o.promised, o.no`,
    [departureId],
  );
}

/** Parcels with their live labels, as far as they tell when they arrive. */
export function arrivalsOf(
  tx: Tx,
  parcelIds: readonly string[],
): Promise<{ labelId: string; arrives: string }[]> {
  return tx.rows("SELECT id AS labelId, arrives FROM label WHERE liveParcel IN (?) AND state = 'bought'", [
    parcelIds,
  ]);
}
