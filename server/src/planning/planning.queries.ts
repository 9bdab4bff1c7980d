import type { PlanChoices, PlanRow } from '@auk/contract';
import type { Walked } from '@auk/core';
import type { Sql, Tx } from '../database/db.js';
import { NONE } from '../database/db.js';
import type { PickList } from '../lists/pickList.entity.js';
import type { Order } from '../records/order.entity.js';
import type { Departure } from '../timetable/departure.entity.js';
import type { PickPlan } from './pickPlan.entity.js';
import type { PlannedList } from './plannedList.entity.js';
import type { PlannedOrder } from './plannedOrder.entity.js';

/** Orders that one plan may hold. */
const MOST_ORDERS = 10_000;

/** An order that may be planned, and when it must leave. */
export type ClearOrder = Pick<Order, 'id'> & { cutOff: Date | null };

/** Clear orders of some departures and with some tags (all when none is named), the oldest first. */
export function clearOrders(
  sql: Sql,
  departures: readonly string[],
  tags: readonly string[],
): Promise<ClearOrder[]> {
  return sql.rows(
    `SELECT o.id, d.cutOff FROM orders o LEFT JOIN departure d ON d.id = o.departureId
       WHERE o.stage = 'Clear' AND o.draftedAt IS NULL AND (? OR o.departureId IN (?))
         AND (? OR EXISTS (SELECT 1 FROM orderTag t WHERE t.orderId = o.id AND t.tag IN (?))) ORDER BY o.no LIMIT ?`,
    [departures.length === 0, [...departures, NONE], tags.length === 0, [...tags, ''], MOST_ORDERS],
  );
}

export function clearCount(sql: Sql): Promise<{ n: number } | null> {
  return sql.one("SELECT COUNT(*) AS n FROM orders WHERE stage = 'Clear' AND draftedAt IS NULL");
}

export function clearByDeparture(
  sql: Sql,
): Promise<(Pick<Departure, 'id' | 'name' | 'cutOff'> & { carrier: string; orders: number })[]> {
  return sql.rows(
    `SELECT d.id, d.carrierName AS carrier, d.name, d.cutOff, COUNT(*) AS orders FROM orders o JOIN departure d ON d.id = o.departureId
       WHERE o.stage = 'Clear' AND o.draftedAt IS NULL GROUP BY d.id ORDER BY d.cutOff, d.carrierName`,
  );
}

export function clearByTag(sql: Sql): Promise<PlanChoices['tags']> {
  return sql.rows(
    `SELECT t.tag, COUNT(*) AS orders FROM orders o JOIN orderTag t ON t.orderId = o.id
       WHERE o.stage = 'Clear' AND o.draftedAt IS NULL GROUP BY t.tag ORDER BY t.tag`,
  );
}

/** Areas in which what Clear orders want lies in pick faces. */
export function clearByArea(sql: Sql): Promise<PlanChoices['areas']> {
  return sql.rows(
    `SELECT p.zone AS area, COUNT(DISTINCT o.id) AS orders FROM orders o JOIN allocation a ON a.orderId = o.id AND a.hold = 'soft' AND a.quantity > 0
       JOIN stockBalance b ON b.productId = a.productId AND b.onHand > b.listed JOIN place p ON p.id = b.placeId AND p.kind = 'bin' AND p.zone <> ''
       WHERE o.stage = 'Clear' AND o.draftedAt IS NULL GROUP BY p.zone ORDER BY p.zone`,
  );
}

/** Short orders with what they lack, and the day on which an open purchase order brings the last of it. */
export function waitingForGoods(
  sql: Sql,
  most: number,
): Promise<{ no: number; lacks: string; expected: string | null; unknown: number }[]> {
  return sql.rows(
    `SELECT x.no, GROUP_CONCAT(CONCAT(x.n, ' ', x.name) ORDER BY x.name SEPARATOR ', ') AS lacks, CAST(MAX(x.expected) AS CHAR) AS expected, CAST(SUM(x.expected IS NULL) AS INT) AS unknown FROM (
       SELECT o.no, y.name, p.quantity - COALESCE(SUM(a.quantity), 0) AS n,
         (SELECT MIN(w.expected) FROM purchaseLine l JOIN purchaseOrder w ON w.id = l.orderId AND w.state = 'open' WHERE l.productId = p.productId AND l.received < l.quantity) AS expected
       FROM orders o JOIN linePart p ON p.orderId = o.id JOIN product y ON y.id = p.productId LEFT JOIN allocation a ON a.partId = p.id
       WHERE o.stage = 'Short' GROUP BY p.id) x WHERE x.n > 0 GROUP BY x.no ORDER BY expected IS NULL, expected, x.no LIMIT ?`,
    [most],
  );
}

export function shortCount(sql: Sql): Promise<{ n: number } | null> {
  return sql.one("SELECT COUNT(*) AS n FROM orders WHERE stage = 'Short'");
}

/** Lists that were walked to their end, the oldest first: how far, how many stops and units, and how long without long breaks. */
export function walkedLists(sql: Sql, breakSeconds: number, most: number): Promise<Walked[]> {
  return sql.rows(
    `WITH l AS (SELECT k.id, k.no, k.distance, x.id AS sessionId, x.openedAt FROM pickList k JOIN scanSession x ON x.listId = k.id WHERE k.state = 'done' ORDER BY k.no DESC LIMIT ?),
       gap AS (SELECT l.id, TIMESTAMPDIFF(MICROSECOND, COALESCE(LAG(e.deviceAt) OVER (PARTITION BY e.sessionId ORDER BY e.seq), l.openedAt), e.deviceAt) / 1000000 AS seconds
         FROM l JOIN scanEvent e ON e.sessionId = l.sessionId),
       took AS (SELECT id, CAST(SUM(LEAST(GREATEST(seconds, 0), ?)) AS DOUBLE) AS seconds FROM gap GROUP BY id),
       did AS (SELECT l.id, COUNT(DISTINCT s.placeId) AS stops, CAST(SUM(s.quantity) AS INT) AS units FROM l JOIN pickStop s ON s.listId = l.id GROUP BY l.id)
     SELECT l.distance, did.stops, did.units, took.seconds FROM l JOIN took ON took.id = l.id JOIN did ON did.id = l.id WHERE took.seconds > 0 ORDER BY l.no`,
    [most, breakSeconds],
  );
}

/** What is still to be picked for each open departure: orders, and the stops and units of their parts. */
export function toPickByDeparture(
  sql: Sql,
): Promise<(Pick<Departure, 'id' | 'cutOff'> & { orders: number; stops: number; units: number })[]> {
  return sql.rows(
    `SELECT d.id, d.cutOff, COUNT(DISTINCT o.id) AS orders, COUNT(DISTINCT o.id, a.productId) AS stops, CAST(SUM(a.quantity) AS INT) AS units
       FROM departure d JOIN orders o ON o.departureId = d.id AND o.stage IN ('Clear', 'Listed') JOIN allocation a ON a.orderId = o.id AND a.hold IN ('soft', 'listed') AND a.quantity > 0
       WHERE d.state = 'open' GROUP BY d.id ORDER BY d.cutOff, d.id`,
  );
}

/** How far was walked for an order on the newest lists, and how many orders a list had; null before the first list. */
export function walkedForOrders(
  sql: Sql,
  most: number,
): Promise<{ distance: number | null; orders: number; lists: number } | null> {
  return sql.one(
    `SELECT CAST(SUM(l.distance) AS DOUBLE) AS distance, CAST(COALESCE(SUM(l.orders), 0) AS INT) AS orders, COUNT(*) AS lists
       FROM (SELECT k.distance, (SELECT COUNT(DISTINCT s.orderId) FROM pickStop s WHERE s.listId = k.id) AS orders FROM pickList k ORDER BY k.no DESC LIMIT ?) l`,
    [most],
  );
}

/** People who have scanned on the Floor within so many minutes. */
export function pickingNow(sql: Sql, minutes: number): Promise<{ n: number } | null> {
  return sql.one(
    "SELECT COUNT(DISTINCT personId) AS n FROM scanSession WHERE kind = 'pick' AND lastScanAt > NOW(3) - INTERVAL ? MINUTE",
    [minutes],
  );
}

export function lockPlan(tx: Tx, id: string): Promise<Pick<PickPlan, 'id' | 'version' | 'state'> | null> {
  return tx.one('SELECT id, version, state FROM pickPlan WHERE id = ? FOR UPDATE', [id]);
}

/** Notes how far planning is; tells whether it is asked to stop. */
export function noteProgress(sql: Sql, progress: string | null, id: string): Promise<number> {
  return sql.run('UPDATE pickPlan SET progress = COALESCE(?, progress) WHERE id = ?', [progress, id]);
}

export function plansNewestFirst(
  sql: Sql,
  most: number,
): Promise<(Omit<PlanRow, 'createdAt'> & Pick<PickPlan, 'createdAt'>)[]> {
  return sql.rows(
    `SELECT p.id, p.createdAt, p.state, COUNT(l.id) AS lists, COUNT(l.pickListId) AS released,
       (SELECT COUNT(*) FROM plannedOrder o WHERE o.planId = p.id) AS orders, (SELECT e.name FROM person e WHERE e.id = p.createdBy) AS \`by\`
     FROM pickPlan p LEFT JOIN plannedList l ON l.planId = p.id GROUP BY p.id ORDER BY p.createdAt DESC LIMIT ?`,
    [most],
  );
}

/** The lists of a plan as they are taken, each with the number it was released under. */
export function listsOfPlan(
  sql: Sql,
  planId: string,
): Promise<
  (Omit<PlannedList, 'locked' | 'tooLarge'> & {
    locked: number;
    tooLarge: number;
    no: PickList['no'] | null;
  })[]
> {
  return sql.rows(
    `SELECT l.id, l.planId, l.seq, l.distance, l.seconds, l.finish, l.picker, l.locked, l.tooLarge, l.pickListId, k.no
       FROM plannedList l LEFT JOIN pickList k ON k.id = l.pickListId WHERE l.planId = ? ORDER BY l.seq`,
    [planId],
  );
}

export type PlannedOrderRow = Pick<PlannedOrder, 'plannedListId' | 'orderId' | 'units' | 'totes' | 'due'> &
  Pick<Order, 'no' | 'buyer'> & { spots: string; stage: string; cutOff: Date | null };

export function ordersOfPlan(sql: Sql, planId: string): Promise<PlannedOrderRow[]> {
  return sql.rows(
    `SELECT x.plannedListId, x.orderId, x.units, x.totes, x.due, CAST(x.spots AS CHAR) AS spots, o.no, o.buyer, o.stage, d.cutOff
       FROM plannedOrder x JOIN orders o ON o.id = x.orderId LEFT JOIN departure d ON d.id = o.departureId WHERE x.planId = ? ORDER BY o.no`,
    [planId],
  );
}

/** Forgets plans that were made so many days ago; pick lists that came of them stay. */
export async function forgetPlans(sql: Sql, days: number): Promise<void> {
  const old = await sql.rows<Pick<PickPlan, 'id'>>(
    'SELECT id FROM pickPlan WHERE createdAt < NOW(3) - INTERVAL ? DAY LIMIT 100',
    [days],
  );
  const ids = [...old.map(p => p.id), NONE];
  await sql.run('DELETE FROM plannedOrder WHERE planId IN (?)', [ids]);
  await sql.run('DELETE FROM plannedList WHERE planId IN (?)', [ids]);
  await sql.run('DELETE FROM pickPlan WHERE id IN (?)', [ids]);
}
