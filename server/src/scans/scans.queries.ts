import { canonicalCode, type KnownThing } from '@auk/core';
import type { Sql, Tx } from '../database/db.js';
import type { PickList } from '../lists/pickList.entity.js';
import type { Person } from '../people/person.entity.js';
import type { Order } from '../records/order.entity.js';
import type { Place } from '../stock/place.entity.js';
import type { ScanSession } from './scanSession.entity.js';

interface KnownRow {
  kind: KnownThing['kind'];
  name: string;
  sku: string | null;
  units: number | null;
  lots: number | null;
  retired: number | null;
}

/** What a code means anywhere in the house, for refusals that can name it; null when nobody knows it. */
export async function knownThing(sql: Sql, text: string): Promise<KnownThing | null> {
  const code = canonicalCode(text.slice(0, 100));
  const row = await sql.one<KnownRow>(
    `SELECT 'product' AS kind, p.name, p.sku, c.units, JSON_VALUE(p.facts, '$.lots') = 1 AS lots, p.stage = 'Retired' AS retired FROM productCode c JOIN product p ON p.id = c.productId WHERE c.code = ?
     UNION ALL SELECT 'product', name, sku, 1, JSON_VALUE(facts, '$.lots') = 1, stage = 'Retired' FROM product WHERE sku = ?
     UNION ALL SELECT IF(kind IN ('tote', 'trolley', 'staging'), kind, 'place'), code, NULL, NULL, NULL, NULL FROM place WHERE code = ? AND kind <> 'parcel'
     UNION ALL SELECT 'order', CONCAT('order ', channelNumber), NULL, NULL, NULL, NULL FROM orders WHERE channelNumber = ? OR no = ?
     UNION ALL SELECT 'box', CONCAT('box ', name), NULL, NULL, NULL, NULL FROM box WHERE code = ? LIMIT 1`,
    [code, code, code, code, /^OR-(\d{1,9})$/.exec(code)?.[1] ?? -1, code],
  );
  if (!row) return null;
  const { kind, name, sku } = row;
  if (kind === 'tote' || kind === 'trolley') return { kind, name, carrier: await carrierOf(sql, code) };
  if (sku === null) return { kind, name };
  const retired = row.retired === 1 ? { retired: true } : {};
  return { kind, name, sku, units: row.units ?? 1, lots: row.lots === 1, ...retired };
}

/** A tote or trolley as a scan onto a list needs it: what it holds is an order, goods of another day, or another list that is not done. */
async function carrierOf(sql: Sql, code: string): Promise<NonNullable<KnownThing['carrier']>> {
  const row = (await sql.one<
    Pick<Place, 'id' | 'code' | 'mark' | 'colour' | 'capacity'> & {
      orderNo: Order['no'] | null;
      listNo: PickList['no'] | null;
      units: number;
    }
  >(
    `SELECT p.id, p.code, p.mark, p.colour, p.capacity, o.no AS orderNo, (SELECT MAX(l.no) FROM pickList l WHERE l.trolleyId = p.id AND l.state <> 'done') AS listNo,
       CAST(COALESCE((SELECT SUM(b.onHand) FROM stockBalance b WHERE b.placeId = p.id), 0) AS INT) AS units
     FROM place p LEFT JOIN orders o ON o.id = p.busyWith WHERE p.code = ?`,
    [code],
  ))!;
  const holds =
    row.orderNo !== null
      ? `order OR-${row.orderNo}`
      : row.units > 0
        ? `${row.units} pieces of before in it`
        : row.listNo !== null
          ? `list PL-${row.listNo}`
          : null;
  return {
    id: row.id,
    code: row.code,
    mark: row.mark ?? row.code,
    ...(row.colour && { colour: row.colour }),
    holds,
    ...(row.capacity !== null && { most: row.capacity }),
  };
}

/** Some sessions of which the last scan was so many days ago: closed ones, and those that nobody closes. */
export async function oldSessions(sql: Sql, days: number): Promise<string[]> {
  const rows = await sql.rows<{ id: string }>(
    `SELECT id FROM scanSession WHERE COALESCE(lastScanAt, openedAt) < NOW(3) - INTERVAL ? DAY
     AND (closedAt IS NOT NULL OR kind IN ('handover', 'draft', 'count', 'build')) LIMIT 200`,
    [days],
  );
  return rows.map(r => r.id);
}

/** Whether somebody has this id. */
export async function isPerson(sql: Sql, id: string): Promise<boolean> {
  return (await sql.one<Pick<Person, 'id'>>('SELECT id FROM person WHERE id = ?', [id])) !== null;
}

/** A scan that was judged before, by the id that its device gave it. */
export function earlierScan(sql: Sql, id: string): Promise<{ sessionId: string; answer: string } | null> {
  return sql.one('SELECT sessionId, answer FROM scanEvent WHERE id = ?', [id]);
}

/** Locks a session and reads it. */
export function lockSession(
  tx: Tx,
  id: string,
): Promise<
  | (Pick<ScanSession, 'id' | 'kind' | 'closedAt' | 'personId' | 'device' | 'reducers'> & { state: string })
  | null
> {
  return tx.one(
    'SELECT id, kind, state, closedAt, personId, device, reducers FROM scanSession WHERE id = ? FOR UPDATE',
    [id],
  );
}
