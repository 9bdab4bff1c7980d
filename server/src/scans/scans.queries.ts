import { canonicalCode, type KnownThing } from '@auk/core';
import type { Sql } from '../database/db.js';
import type { Person } from '../people/person.entity.js';

interface KnownRow {
  kind: KnownThing['kind'];
  name: string;
  sku: string | null;
  units: number | null;
  lots: number | null;
}

/** What a code means anywhere in the house, for refusals that can name it; null when nobody knows it. */
export async function knownThing(sql: Sql, text: string): Promise<KnownThing | null> {
  const code = canonicalCode(text.slice(0, 100));
  const row = await sql.one<KnownRow>(
    `SELECT 'product' AS kind, p.name, p.sku, c.units, JSON_VALUE(p.facts, '$.lots') = 'true' AS lots FROM productCode c JOIN product p ON p.id = c.productId WHERE c.code = ?
     UNION ALL SELECT 'product', name, sku, 1, JSON_VALUE(facts, '$.lots') = 'true' FROM product WHERE sku = ?
     UNION ALL SELECT IF(kind = 'tote', 'tote', 'place'), code, NULL, NULL, NULL FROM place WHERE code = ? AND kind <> 'parcel'
     UNION ALL SELECT 'order', CONCAT('order ', channelNumber), NULL, NULL, NULL FROM orders WHERE channelNumber = ? OR no = ?
     UNION ALL SELECT 'box', CONCAT('box ', name), NULL, NULL, NULL FROM box WHERE code = ? LIMIT 1`,
    [code, code, code, code, /^OR-(\d{1,9})$/.exec(code)?.[1] ?? -1, code],
  );
  if (!row) return null;
  const { kind, name, sku } = row;
  return sku === null ? { kind, name } : { kind, name, sku, units: row.units ?? 1, lots: row.lots === 1 };
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
