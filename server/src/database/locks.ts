import type { Tx } from './db.js';

/**
 * The order in which a transaction locks rows. Whoever takes a later one first and an earlier one after may meet another that does it
 * the other way round; the database then ends one of them, which is tried again. Within one table rows are locked by their keys.
 */
export const LOCK_ORDER = [
  'pickPlan',
  'channel',
  'supplier',
  'inboundShipment',
  'scanSession',
  'purchaseOrder',
  'departure',
  'lot',
  'orders',
  'build',
  'pickList',
  'parcel',
  'label',
  'productStock',
  'stockBalance',
  'allocation',
] as const;

export type Locked = (typeof LOCK_ORDER)[number];
const RANK = new Map<string, number>(LOCK_ORDER.map((t, i) => [t, i]));

/** The key by which rows of a table are locked, where it is not the id. */
const KEY: Partial<Record<Locked, string>> = { productStock: 'productId' };
const ROWS = 1_000;

/**
 * The locked scope of an act: takes all locks that it needs, table by table in the stated order and by their keys within a table,
 * however they are named. What the transaction holds already is not asked for again. The act reads what it decides on after this.
 */
export async function lockAll(tx: Tx, needs: Partial<Record<Locked, readonly string[]>>): Promise<void> {
  for (const table of LOCK_ORDER) {
    const ids = [...new Set(needs[table] ?? [])].filter(id => !tx.has(table, id)).sort();
    const key = KEY[table] ?? 'id';
    for (let i = 0; i < ids.length; i += ROWS)
      await tx.rows(`SELECT ${key} FROM ${table} WHERE ${key} IN (?) ORDER BY ${key} FOR UPDATE`, [
        ids.slice(i, i + ROWS),
      ]);
    tx.hold(table, ids);
  }
}

/** The tables whose rows a statement locks, as far as they are in the stated order. */
export function locksOf(sql: string): Locked[] {
  const update = /^\s*UPDATE\s+(?:\(.*\bSTRAIGHT_JOIN\s+)?`?(\w+)`?/s.exec(sql);
  if (update) return RANK.has(update[1]!) ? [update[1] as Locked] : [];
  const upsert = /^\s*INSERT INTO `?(\w+)`?.*ON DUPLICATE KEY/s.exec(sql);
  if (upsert) return RANK.has(upsert[1]!) ? [upsert[1] as Locked] : [];
  if (!/\bFOR UPDATE\b/.test(sql)) return [];
  // Rows of subqueries are read, not locked.
  let flat = sql;
  for (let before = ''; before !== flat; ) {
    before = flat;
    flat = flat.replace(/\([^()]*\)/g, '');
  }
  return [...flat.matchAll(/\b(?:FROM|JOIN)\s+`?(\w+)`?/g)]
    .map(m => m[1]!)
    .filter((t): t is Locked => RANK.has(t));
}

/** A transaction that locked `table` though it had `held`, which comes later in the stated order. */
export interface OutOfOrder {
  held: string;
  table: string;
  sql: string;
}

/** Watches the locks of one transaction and names those that are out of the stated order. */
export class LockWatch {
  private last: Locked | null = null;
  private readonly held = new Set<string>();

  constructor(private readonly tell: (found: OutOfOrder) => void) {}

  note(sql: string): void {
    // Rows that a transaction has made itself are nobody else's.
    const made = /^\s*INSERT (?:IGNORE )?INTO `?(\w+)`?/.exec(sql)?.[1];
    if (made && !/ON DUPLICATE KEY/.test(sql)) {
      this.held.add(made);
      return;
    }
    for (const table of locksOf(sql).sort((a, b) => RANK.get(a)! - RANK.get(b)!)) {
      if (this.held.has(table)) continue;
      this.held.add(table);
      if (this.last && RANK.get(table)! < RANK.get(this.last)!) this.tell({ held: this.last, table, sql });
      else this.last = table;
    }
  }
}
