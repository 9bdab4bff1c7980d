import type { Hold } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { NONE, type Row, type Sql, type Tx } from '../database/db.js';
import { AllocationEntry } from './allocationEntry.entity.js';
import { StockBalance } from './stockBalance.entity.js';
import { StockMove } from './stockMove.entity.js';

/** Units that go from one place to another. */
export interface Move {
  productId: string;
  lotId: string | null;
  from: string;
  to: string;
  quantity: number;
  why: string;
  causeId: string | null;
  /** In a person's words, where one was asked for. */
  reason?: string;
}

/** Units of a part that enter (positive) or leave (negative) a hold. A `listed` hold names the place and lot it lies on. */
export interface HoldChange {
  partId: string;
  orderId: string;
  productId: string;
  hold: Hold;
  stopId: string | null;
  parcelId: string | null;
  change: number;
  why: string;
  at?: { placeId: string; lotId: string | null };
}

interface PlaceKind {
  id: string;
  kind: string;
}

/** Kinds of places whose stock is free to promise. */
export const PROMISED_FROM: ReadonlySet<string> = new Set(['bin', 'reserve', 'dock']);
/** The same for statements: `place.kind IN (PROMISED_KINDS)`. */
export const PROMISED_KINDS = [...PROMISED_FROM].map(k => `'${k}'`).join(', ');
/** Kinds that lie outside the house, and where parts become kits: their balance may be anything. */
const UNBOUNDED = new Set(['outside', 'gone', 'missing', 'made']);
const ROWS = 500;

/**
 * The only writer of quantities. `apply` appends to the ledger and to the allocation entries and keeps the three derived tables
 * (productStock, stockBalance, allocation) in the same transaction. Lock order: orders, then productStock by product, then
 * stockBalance by product, place, lot, then allocation by key. A CHECK of the database refuses whatever would not be whole.
 */
@Injectable()
export class StockService {
  /** Kinds never change, so what was read once may be kept. */
  private readonly kinds = new Map<string, string>();

  async apply(tx: Tx, change: { moves?: readonly Move[]; holds?: readonly HoldChange[] }): Promise<void> {
    const moves = change.moves ?? [];
    const holds = change.holds ?? [];
    mustHold(tx, moves, holds);
    await this.learnKinds(
      tx,
      moves.flatMap(m => [m.from, m.to]),
    );
    await this.changeProducts(tx, moves, holds, await this.expiredLots(tx, moves));
    await this.changeBalances(tx, moves, holds);
    await this.changeAllocations(tx, holds);
    await tx.insert(
      StockMove,
      moves.map(m => ({
        at: tx.at,
        productId: m.productId,
        lotId: m.lotId,
        fromPlaceId: m.from,
        toPlaceId: m.to,
        quantity: m.quantity,
        why: m.why,
        causeId: m.causeId,
        reason: (m.reason ?? '').slice(0, 120),
        personId: tx.personId,
      })),
    );
    await tx.insert(
      AllocationEntry,
      holds.map(h => ({
        at: tx.at,
        partId: h.partId,
        hold: h.hold,
        stopKey: h.stopId ?? NONE,
        parcelKey: h.parcelId ?? NONE,
        quantity: h.change,
        why: h.why,
        personId: tx.personId,
      })),
    );
  }

  /** Keeps when a product was counted in a place. */
  async counted(tx: Tx, at: { productId: string; placeId: string; lotKey: string }): Promise<void> {
    await tx.of(StockBalance).update(at, { countedAt: tx.at });
  }

  /** Locks products in their order and tells what is free of each. Products never stocked get their row here. */
  async lockFree(tx: Tx, productIds: readonly string[]): Promise<Map<string, number>> {
    const ids = [...new Set(productIds)].sort();
    const free = new Map<string, number>();
    for (let i = 0; i < ids.length; i += ROWS) {
      const rows = await tx.rows<{ productId: string; free: number }>(
        'SELECT productId, onHand - reserved AS free FROM productStock WHERE productId IN (?) ORDER BY productId FOR UPDATE',
        [ids.slice(i, i + ROWS)],
      );
      for (const r of rows) free.set(r.productId, r.free);
    }
    tx.hold('productStock', ids);
    return free;
  }

  /** The lots among some moves that have expired. Their products are locked first: the sweep marks lots under the same lock. */
  private async expiredLots(tx: Tx, moves: readonly Move[]): Promise<Set<string>> {
    const lots = moves.flatMap(m => m.lotId ?? []);
    if (lots.length === 0) return new Set();
    await this.lockFree(
      tx,
      moves.map(m => m.productId),
    );
    const rows = await tx.rows<{ id: string }>(
      'SELECT id FROM lot WHERE id IN (?) AND expiredAt IS NOT NULL',
      [[...new Set(lots)]],
    );
    return new Set(rows.map(r => r.id));
  }

  private async learnKinds(sql: Sql, ids: readonly string[]): Promise<void> {
    const unknown = [...new Set(ids)].filter(id => !this.kinds.has(id));
    if (unknown.length === 0) return;
    for (const p of await sql.rows<PlaceKind>('SELECT id, kind FROM place WHERE id IN (?)', [unknown]))
      this.kinds.set(p.id, p.kind);
  }

  private async changeProducts(
    tx: Tx,
    moves: readonly Move[],
    holds: readonly HoldChange[],
    expired: ReadonlySet<string>,
  ): Promise<void> {
    const sums = new Sums<{ productId: string }>(['onHand', 'reserved']);
    for (const m of moves) {
      if (m.lotId && expired.has(m.lotId)) continue;
      if (this.promised(m.from)) sums.add({ productId: m.productId }, 'onHand', -m.quantity);
      if (this.promised(m.to)) sums.add({ productId: m.productId }, 'onHand', m.quantity);
    }
    for (const h of holds)
      if (h.hold === 'soft' || h.hold === 'listed')
        sums.add({ productId: h.productId }, 'reserved', h.change);
    await this.write(tx, 'productStock', sums, {});
  }

  private async changeBalances(tx: Tx, moves: readonly Move[], holds: readonly HoldChange[]): Promise<void> {
    const sums = new Sums<{ productId: string; placeId: string; lotKey: string }>(['onHand', 'listed']);
    for (const m of moves) {
      const lotKey = m.lotId ?? NONE;
      sums.add({ productId: m.productId, placeId: m.from, lotKey }, 'onHand', -m.quantity);
      sums.add({ productId: m.productId, placeId: m.to, lotKey }, 'onHand', m.quantity);
    }
    for (const h of holds)
      if (h.hold === 'listed')
        sums.add(
          { productId: h.productId, placeId: h.at!.placeId, lotKey: h.at!.lotId ?? NONE },
          'listed',
          h.change,
        );
    await this.write(tx, 'stockBalance', sums, {
      bounded: key => !UNBOUNDED.has(this.kinds.get(key.placeId) ?? 'bin'),
    });
  }

  private async changeAllocations(tx: Tx, holds: readonly HoldChange[]): Promise<void> {
    const sums = new Sums<{ partId: string; hold: string; stopKey: string; parcelKey: string }>(['quantity']);
    const owner = new Map<string, HoldChange>();
    for (const h of holds) {
      owner.set(h.partId, h);
      sums.add(
        { partId: h.partId, hold: h.hold, stopKey: h.stopId ?? NONE, parcelKey: h.parcelId ?? NONE },
        'quantity',
        h.change,
      );
    }
    await this.write(tx, 'allocation', sums, {
      orderId: key => owner.get(key.partId)!.orderId,
      productId: key => owner.get(key.partId)!.productId,
    });
  }

  /** Marks a lot as expired: what lies of it in promised places is no longer to be promised. Its product is locked, and none of it is listed. */
  async expire(tx: Tx, lot: { id: string; productId: string }): Promise<void> {
    const lies = (await tx.one<{ n: number }>(
      `SELECT COALESCE(SUM(b.onHand), 0) AS n FROM stockBalance b JOIN place p ON p.id = b.placeId AND p.kind IN (${PROMISED_KINDS}) WHERE b.lotKey = ?`,
      [lot.id],
    ))!;
    await tx.run('UPDATE lot SET expiredAt = ? WHERE id = ?', [tx.at, lot.id]);
    await tx.run('UPDATE productStock SET onHand = onHand - ? WHERE productId = ?', [
      Number(lies.n),
      lot.productId,
    ]);
  }

  private promised(placeId: string): boolean {
    return PROMISED_FROM.has(this.kinds.get(placeId) ?? '');
  }

  /**
   * Adds sums to a table, in key order. Rows that only grow, and would be whole alone (what is held not above what is there), are
   * inserted or added to; all others must exist and are updated, so that a missing or too small row is refused and never made negative. Places outside the house may owe.
   */
  private async write<K extends Record<string, string>>(
    tx: Tx,
    table: string,
    sums: Sums<K>,
    more: Record<string, (key: K) => string | boolean>,
  ): Promise<void> {
    const all = sums.sorted();
    const loses = (s: Sum<K>) =>
      (s.values.some(v => v < 0) || (s.values[1] ?? 0) > s.values[0]!) && more.bounded?.(s.key) !== false;
    const grow = all.filter(s => !loses(s));
    const lose = all.filter(loses);
    for (let i = 0; i < lose.length; i += ROWS)
      await this.lose(tx, table, sums.columns, lose.slice(i, i + ROWS));
    const rows = grow.map(
      s =>
        ({
          ...s.key,
          ...Object.fromEntries(Object.entries(more).map(([c, f]) => [c, f(s.key)])),
          ...Object.fromEntries(sums.columns.map((c, k) => [c, s.values[k]!])),
        }) as Row,
    );
    await tx.addTo(table, rows, sums.columns);
  }

  private async lose<K extends Record<string, string>>(
    tx: Tx,
    table: string,
    columns: readonly string[],
    part: readonly Sum<K>[],
  ): Promise<void> {
    const keys = Object.keys(part[0]!.key);
    const select = part
      .map((_, i) => `SELECT ${[...keys, ...columns].map(c => (i === 0 ? `? AS ${c}` : '?')).join(',')}`)
      .join(' UNION ALL ');
    const on = keys
      .map(k => (k === 'hold' ? `t.${k} = d.${k}` : `t.${k} = CAST(d.${k} AS UUID)`))
      .join(' AND ');
    const params = part.flatMap(s => [...keys.map(k => s.key[k]!), ...s.values]);
    const changed =
      part.length === 1
        ? await tx.run(
            `UPDATE ${table} SET ${columns.map(c => `${c} = ${c} + ?`).join(', ')} WHERE ${keys.map(k => `${k} = ?`).join(' AND ')}`,
            [...part[0]!.values, ...keys.map(k => part[0]!.key[k]!)],
          )
        : await tx.run(
            `UPDATE (${select}) d STRAIGHT_JOIN ${table} t ON ${on} SET ${columns.map(c => `t.${c} = t.${c} + d.${c}`).join(', ')}`,
            params,
          );
    if (changed !== part.length)
      throw Object.assign(
        new Error(`${table}: ${part.length - changed} of ${part.length} rows to take from do not exist`),
        { errno: 4025 },
      );
  }
}

/** The way to the writer is the locked scope: what it changes is locked before, orders first and then all products, and never half-way. */
function mustHold(tx: Tx, moves: readonly Move[], holds: readonly HoldChange[]): void {
  const order = holds.find(h => !tx.has('orders', h.orderId));
  const product = [...moves, ...holds].find(c => !tx.has('productStock', c.productId));
  if (order) throw new Error(`What is held for the order ${order.orderId} changes, but it was not locked.`);
  if (product) throw new Error(`Stock of the product ${product.productId} changes, but it was not locked.`);
}

interface Sum<K> {
  key: K;
  values: number[];
}

/** Sums of changes by key; keys that cancel out are left away. */
class Sums<K extends Record<string, string>> {
  private readonly by = new Map<string, Sum<K>>();

  constructor(readonly columns: readonly string[]) {}

  add(key: K, column: string, n: number): void {
    const text = Object.values(key).join('|');
    const sum = this.by.get(text) ?? { key, values: this.columns.map(() => 0) };
    sum.values[this.columns.indexOf(column)]! += n;
    this.by.set(text, sum);
  }

  sorted(): Sum<K>[] {
    return [...this.by]
      .filter(([, s]) => s.values.some(v => v !== 0))
      .sort(([a], [b]) => (a < b ? -1 : a > b ? 1 : 0))
      .map(([, s]) => s);
  }
}
