import type { Sql, Tx } from '../database/db.js';
import type { Place } from '../stock/place.entity.js';

/** The warehouse as every feature knows it. */
export interface Warehouse {
  id: string;
  name: string;
  zone: string;
  currency: string;
  postcode: string;
  country: string;
}

export function firstWarehouse(sql: Sql): Promise<Warehouse | null> {
  return sql.one('SELECT id, name, zone, currency, postcode, country FROM warehouse ORDER BY code LIMIT 1');
}

export function firstPlace(sql: Sql, kind: string): Promise<Pick<Place, 'id' | 'code'> | null> {
  return sql.one('SELECT id, code FROM place WHERE kind = ? ORDER BY code LIMIT 1', [kind]);
}

export function settingText(sql: Sql, name: string): Promise<{ value: string } | null> {
  return sql.one('SELECT CAST(value AS CHAR) AS value FROM setting WHERE name = ?', [name]);
}

export function beginSetting(tx: Tx, name: string, otherwise: string): Promise<number> {
  return tx.run('INSERT IGNORE INTO setting (name, value) VALUES (?, ?)', [name, otherwise]);
}

export function setSetting(sql: Sql, name: string, value: string): Promise<number> {
  return sql.run('REPLACE INTO setting (name, value) VALUES (?, ?)', [name, value]);
}
