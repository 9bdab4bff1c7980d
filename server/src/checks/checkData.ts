import {
  buildScan,
  countScan,
  documentTotals,
  orderStage,
  packScan,
  pickScan,
  prepareScan,
  REDUCERS,
  receiveScan,
  type Scan,
  type Step,
  sortScan,
} from '@auk/core';
import { fromJson, NONE, type Sql } from '../database/db.js';
import { loadOrders, stageFacts } from '../records/records.module.js';
import { otherOutcomes } from '../rules/rules.module.js';
import { PROMISED_KINDS } from '../stock/stock.module.js';
import { inboundData } from './inboundData.js';

/** One thing that is stored otherwise than it follows from the facts. */
export interface Difference {
  what: string;
  where: string;
  stored: string;
  derived: string;
}

const SHOWN = 50;

/** Recomputes everything derived (balances, reservations, allocations, stages, scan sessions) from the ledger, entries and events, and lists every difference. */
export async function checkData(sql: Sql): Promise<Difference[]> {
  const parts = await Promise.all([
    balances(sql),
    productStock(sql),
    allocations(sql),
    listed(sql),
    physical(sql),
    stages(sql),
    sessions(sql),
    stageCounters(sql),
    orderMoney(sql),
    leaving(sql),
    received(sql),
    built(sql),
    rules(sql),
    inboundData(sql),
  ]);
  return parts.flat();
}

async function rules(sql: Sql): Promise<Difference[]> {
  return (await otherOutcomes(sql)).map(o => ({ what: 'what rules decided', ...o }));
}

function compare(sql: Sql, what: string, query: string, params: unknown[] = []): Promise<Difference[]> {
  return sql
    .rows<Omit<Difference, 'what'>>(
      `SELECT * FROM (${query}) x WHERE NOT (stored <=> derived) LIMIT ${SHOWN}`,
      params,
    )
    .then(rows =>
      rows.map(r => ({ what, where: r.where, stored: String(r.stored), derived: String(r.derived) })),
    );
}

/**
 * Every balance equals what came in less what went out of its place and lot; and no ledger sum lacks its balance. The ledger is read
 * once: moves are summed by way and lot, and each sum then counts for both its ends.
 */
export function balances(sql: Sql): Promise<Difference[]> {
  return compare(
    sql,
    'stock balance',
    `SELECT CONCAT(productId, ' in ', placeId) AS \`where\`, stored, derived FROM (
       SELECT productId, placeId, lotKey, SUM(stored) AS stored, SUM(derived) AS derived FROM (
         SELECT productId, placeId, lotKey, onHand AS stored, 0 AS derived FROM stockBalance
         UNION ALL SELECT w.productId, IF(e.side = 1, w.toPlaceId, w.fromPlaceId), w.lotKey, 0, e.side * w.n FROM (
           SELECT productId, fromPlaceId, toPlaceId, COALESCE(lotId, '${NONE}') AS lotKey, SUM(quantity) AS n FROM stockMove GROUP BY productId, fromPlaceId, toPlaceId, lotId) w
           JOIN (SELECT 1 AS side UNION ALL SELECT -1) e) m
       GROUP BY productId, placeId, lotKey HAVING stored <> derived) d`,
  );
}

/** What is on hand of a product is the sum over the places it is promised from, expired lots apart; what is reserved is the sum of its soft and listed allocations. */
async function productStock(sql: Sql): Promise<Difference[]> {
  const onHand = await compare(
    sql,
    'on hand',
    `SELECT s.productId AS \`where\`, s.onHand AS stored, COALESCE((SELECT SUM(b.onHand) FROM stockBalance b JOIN place p ON p.id = b.placeId AND p.kind IN (${PROMISED_KINDS}) LEFT JOIN lot l ON b.lotKey <> '${NONE}' AND l.id = b.lotKey WHERE b.productId = s.productId AND l.expiredAt IS NULL), 0) AS derived FROM productStock s`,
  );
  const reserved = await compare(
    sql,
    'reserved',
    `SELECT s.productId AS \`where\`, s.reserved AS stored, COALESCE(a.n, 0) AS derived FROM productStock s
     LEFT JOIN (SELECT productId, SUM(quantity) AS n FROM allocation WHERE hold IN ('soft', 'listed') GROUP BY productId) a ON a.productId = s.productId`,
  );
  return [...onHand, ...reserved];
}

/** Allocations are the sum of their entries, and never more than their part wants. */
async function allocations(sql: Sql): Promise<Difference[]> {
  const sums = await compare(
    sql,
    'allocation',
    `SELECT CONCAT(partId, ' ', hold) AS \`where\`, SUM(stored) AS stored, SUM(derived) AS derived FROM (
       SELECT partId, hold, stopKey, parcelKey, quantity AS stored, 0 AS derived FROM allocation
       UNION ALL SELECT partId, hold, stopKey, parcelKey, 0, quantity FROM allocationEntry) m GROUP BY partId, hold, stopKey, parcelKey`,
  );
  const over = await compare(
    sql,
    'part held more than wanted',
    'SELECT p.id AS `where`, GREATEST(COALESCE(SUM(a.quantity), 0), p.quantity) AS stored, p.quantity AS derived FROM linePart p JOIN allocation a ON a.partId = p.id GROUP BY p.id',
  );
  return [...sums, ...over];
}

/** What is listed of a place is the sum of the listed allocations of its stops. */
function listed(sql: Sql): Promise<Difference[]> {
  return compare(
    sql,
    'listed in a place',
    `SELECT CONCAT(b.productId, ' in ', b.placeId) AS \`where\`, b.listed AS stored, COALESCE(a.n, 0) AS derived FROM stockBalance b
     LEFT JOIN (SELECT s.productId, s.placeId, COALESCE(s.lotId, '${NONE}') AS lotKey, SUM(a.quantity) AS n FROM allocation a JOIN pickStop s ON s.id = a.stopKey WHERE a.hold = 'listed' GROUP BY s.productId, s.placeId, s.lotId) a
       ON a.productId = b.productId AND a.placeId = b.placeId AND a.lotKey = b.lotKey`,
  );
}

/** What is picked lies in totes or on the carriers of heaps, what is sorted in cells, what is packed lies in its parcel. */
async function physical(sql: Sql): Promise<Difference[]> {
  const totes = await compare(
    sql,
    'in totes',
    `SELECT CONCAT(productId, ' in ', placeId) AS \`where\`, SUM(stored) AS stored, SUM(derived) AS derived FROM (
       SELECT b.productId, b.placeId, b.onHand AS stored, 0 AS derived FROM stockBalance b JOIN place p ON p.id = b.placeId AND p.kind IN ('tote', 'trolley', 'cell')
       UNION ALL SELECT a.productId, IF(a.hold = 'sorted', s.cellId, s.toteId), 0, a.quantity FROM allocation a JOIN pickStop s ON s.id = a.stopKey WHERE a.hold IN ('picked', 'sorted')) m GROUP BY productId, placeId`,
  );
  const parcels = await compare(
    sql,
    'in parcels',
    `SELECT CONCAT(productId, ' in ', placeId) AS \`where\`, SUM(stored) AS stored, SUM(derived) AS derived FROM (
       SELECT b.productId, b.placeId, b.onHand AS stored, 0 AS derived FROM stockBalance b JOIN place p ON p.id = b.placeId AND p.kind = 'parcel'
       UNION ALL SELECT a.productId, c.placeId, 0, a.quantity FROM allocation a JOIN parcel c ON c.id = a.parcelKey WHERE a.hold = 'packed') m GROUP BY productId, placeId`,
  );
  const ahead = await compare(
    sql,
    'in a parcel that nobody packs yet',
    'SELECT c.id AS `where`, COALESCE(SUM(a.quantity), 0) AS stored, 0 AS derived FROM parcel c LEFT JOIN allocation a ON a.parcelKey = c.id WHERE c.aheadAt IS NOT NULL GROUP BY c.id',
  );
  return [...totes, ...parcels, ...ahead];
}

async function stages(sql: Sql): Promise<Difference[]> {
  const ids = await sql.rows<{ id: string }>('SELECT id FROM orders');
  const facts = await stageFacts(
    sql,
    ids.map(r => r.id),
  );
  return [...facts]
    .filter(([, f]) => orderStage(f) !== f.stage)
    .map(([id, f]) => ({ what: 'stage', where: id, stored: f.stage, derived: orderStage(f) }));
}

/** The counters of stages are the numbers of orders that stand in them. */
function stageCounters(sql: Sql): Promise<Difference[]> {
  return compare(
    sql,
    'stage counter',
    `SELECT stage AS \`where\`, SUM(stored) AS stored, SUM(derived) AS derived FROM (
       SELECT stage, n AS stored, 0 AS derived FROM stageCount UNION ALL SELECT stage, 0, 1 FROM orders) m GROUP BY stage`,
  );
}

/** What an order costs follows from its lines, shipping, discount and tax. */
async function orderMoney(sql: Sql): Promise<Difference[]> {
  const rows = await sql.rows<{ id: string; goods: number; tax: number; total: number }>(
    'SELECT id, linesMinor AS goods, taxMinor AS tax, totalMinor AS total FROM orders',
  );
  const found: Difference[] = [];
  for (let i = 0; i < rows.length; i += 500) {
    const part = rows.slice(i, i + 500);
    const orders = await loadOrders(
      sql,
      part.map(r => r.id),
    );
    for (const r of part) {
      const t = documentTotals(orders.get(r.id)!.document);
      const [stored, derived] = [`${r.goods} ${r.tax} ${r.total}`, `${t.goods} ${t.tax} ${t.total}`];
      if (stored !== derived) found.push({ what: 'money of an order', where: r.id, stored, derived });
    }
  }
  return found;
}

/** When an order leaves is the cut-off of its departure. */
function leaving(sql: Sql): Promise<Difference[]> {
  return compare(
    sql,
    'leaves at',
    'SELECT o.id AS `where`, o.leavesAt AS stored, d.cutOff AS derived FROM orders o LEFT JOIN departure d ON d.id = o.departureId',
  );
}

/** What a purchase line received is what the ledger says came for it. */
function received(sql: Sql): Promise<Difference[]> {
  return compare(
    sql,
    'received',
    "SELECT l.id AS `where`, l.received AS stored, (SELECT COALESCE(SUM(m.quantity * IF(m.why = 'receive', 1, -1)), 0) FROM stockMove m WHERE m.causeId = l.id AND m.why IN ('receive', 'not received')) AS derived FROM purchaseLine l",
  );
}

/** What a build made is what the ledger says came out of it. */
function built(sql: Sql): Promise<Difference[]> {
  return compare(
    sql,
    'made in a build',
    "SELECT b.id AS `where`, b.made AS stored, (SELECT COALESCE(SUM(m.quantity), 0) FROM stockMove m WHERE m.causeId = b.id AND m.why IN ('build', 'unbuild') AND m.productId = b.productId) AS derived FROM build b",
  );
}

/** The reducers of the core by the kind of session; scans of departures and drafts are acts on these, and are checked by them. */
const REDUCE: Record<string, (state: never, scan: Scan) => Step<unknown, unknown>> = {
  pick: pickScan,
  pack: packScan,
  receive: receiveScan,
  count: countScan,
  build: buildScan,
  sort: sortScan,
  prepare: prepareScan,
};

interface StoredSession {
  id: string;
  kind: string;
  opened: string;
  state: string;
}

/**
 * Folding the stored scans over the opening state gives the stored state and answers. What an older version of the reducers judged is
 * no more checked by its words: its effects are in the ledger, and checked there.
 */
async function sessions(sql: Sql): Promise<Difference[]> {
  const rows = await sql.rows<StoredSession>(
    'SELECT id, kind, opened, state FROM scanSession x WHERE kind IN (?) AND reducers = ? AND NOT EXISTS (SELECT 1 FROM scanEvent e WHERE e.sessionId = x.id AND e.reducers <> ?)',
    [Object.keys(REDUCE), REDUCERS, REDUCERS],
  );
  const found: Difference[] = [];
  for (const row of rows) found.push(...(await replayed(sql, row)));
  return found;
}

async function replayed(sql: Sql, row: StoredSession): Promise<Difference[]> {
  const events = await sql.rows<{ scan: string; answer: string }>(
    'SELECT scan, answer FROM scanEvent WHERE sessionId = ? ORDER BY seq',
    [row.id],
  );
  const found: Difference[] = [];
  let state: unknown = fromJson(row.opened);
  for (const e of events) {
    const scan = fromJson<Scan>(e.scan);
    const step = REDUCE[row.kind]!(state as never, scan);
    if (JSON.stringify(step.answer) !== JSON.stringify(fromJson(e.answer)))
      found.push({
        what: 'answer of a scan',
        where: `${row.id} ${scan.text}`,
        stored: e.answer,
        derived: JSON.stringify(step.answer),
      });
    state = step.state;
  }
  if (JSON.stringify(state) !== JSON.stringify(fromJson(row.state)))
    found.push({
      what: 'state of a session',
      where: row.id,
      stored: JSON.stringify(fromJson(row.state)).slice(0, 200),
      derived: JSON.stringify(state).slice(0, 200),
    });
  return found;
}
