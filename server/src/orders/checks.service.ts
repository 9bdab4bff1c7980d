import {
  type Conflict,
  checkOrder,
  FIELD_WORDS,
  formatMoney,
  type OpenDifference,
  type Payment,
  type ReserveMode,
  type Stage,
  type StopReason,
  type Suspicion,
  type Value,
} from '@auk/core';
import { Injectable } from '@nestjs/common';
import { CatalogService } from '../catalog/catalog.service.js';
import { stockedParts } from '../catalog/product.js';
import { fromJson, NONE, newId, type Sql, type Tx } from '../database/db.js';
import { HouseService } from '../house/house.service.js';
import { type PartWant, type Reserved, StockService } from '../stock/stock.service.js';
import { ADDRESS_TABLES } from './addressTables.js';
import { toChecked } from './checked.js';
import { refreshStages } from './stages.js';

const ROWS = 500;

interface HeadRow {
  id: string;
  payment: Payment;
  shipTo: string;
  channelName: string;
  home: string;
  currency: string;
}

/** Checks orders again whenever something they depend on changed: lifts and raises stop reasons, reserves, derives stages. */
@Injectable()
export class OrderChecks {
  constructor(
    private readonly stock: StockService,
    private readonly catalog: CatalogService,
    private readonly house: HouseService,
  ) {}

  /** Checks orders again, many in few statements. Drafts are left alone. The caller has locked them, or they are new. */
  async recheck(tx: Tx, orderIds: readonly string[]): Promise<Map<string, Stage>> {
    const ids = [...new Set(orderIds)];
    for (let i = 0; i < ids.length; i += ROWS) {
      const part = ids.slice(i, i + ROWS);
      await this.store(tx, part, await this.reasons(tx, part));
    }
    await this.reserveOpen(tx, ids);
    return refreshStages(tx, ids);
  }

  /** Locks and checks all orders that an open reason of this code and subject stops. Returns how many. */
  async recheckStopped(tx: Tx, codes: readonly string[], subject: string): Promise<number> {
    const ids = await tx.rows<{ id: string }>(
      'SELECT DISTINCT o.id FROM orders o JOIN stopReason s ON s.orderId = o.id AND s.liftedAt IS NULL WHERE s.code IN (?) AND s.subject = ? ORDER BY o.id FOR UPDATE',
      [[...codes], subject],
    );
    if (ids.length > 0)
      await this.recheck(
        tx,
        ids.map(r => r.id),
      );
    return ids.length;
  }

  /**
   * Promises what has become free of some products to the orders that still want it, most urgent first. The orders concerned are
   * locked before: whoever edits one of them meanwhile is waited for. Gives the orders that got something.
   */
  async reserveAgain(tx: Tx, productIds: readonly string[]): Promise<string[]> {
    return this.reserveLocked(tx, await this.lockWanting(tx, productIds));
  }

  /** Promises what is free to orders that are locked already. Gives those that got something. */
  async reserveLocked(tx: Tx, wanting: readonly string[]): Promise<string[]> {
    if (wanting.length === 0) return [];
    const { served } = await this.reserveOpen(tx, wanting);
    if (served.size > 0) await refreshStages(tx, [...served.keys()]);
    return [...served.keys()];
  }

  /**
   * Serves scarce products anew by urgency: what is promised of them and on no list yet goes back and is given out again, the most
   * urgent first. Listed goods stay where they are; a kit eked out with parts keeps them. Gives the orders whose stage changed.
   */
  async serveAgain(tx: Tx): Promise<{ cleared: string[]; shorted: string[] }> {
    const wants = await this.openWants(tx, 'TRUE', []);
    const scarce = [...new Set(wants.map(w => w.productId)), NONE];
    const concerned = await tx.rows<{ id: string; stage: Stage }>(
      'SELECT o.id, o.stage FROM orders o WHERE o.isOpen AND o.draftedAt IS NULL AND EXISTS (SELECT 1 FROM linePart p WHERE p.orderId = o.id AND p.productId IN (?)) ORDER BY o.id FOR UPDATE',
      [scarce],
    );
    await this.stock.lockFree(tx, scarce);
    const ids = [...concerned.map(o => o.id), NONE];
    const soft = await tx.rows<{ partId: string; orderId: string; productId: string; quantity: number }>(
      "SELECT a.partId, a.orderId, p.productId, a.quantity FROM allocation a JOIN linePart p ON p.id = a.partId WHERE a.orderId IN (?) AND p.productId IN (?) AND a.hold = 'soft' AND a.quantity > 0 AND p.kitId IS NULL AND p.made = 0",
      [ids, scarce],
    );
    await this.stock.apply(tx, {
      holds: soft.map(s => ({
        ...s,
        hold: 'soft' as const,
        stopId: null,
        parcelId: null,
        change: -s.quantity,
        why: 'serve again',
      })),
    });
    await this.reserveOpen(tx, ids);
    const after = await refreshStages(tx, ids);
    const moved = (from: Stage, to: Stage) =>
      concerned.filter(o => o.stage === from && after.get(o.id) === to).map(o => o.id);
    return { cleared: moved('Short', 'Clear'), shorted: moved('Clear', 'Short') };
  }

  /** Locks the open orders that want more of some products; called before stock of them comes, because orders are locked before products. */
  async lockWanting(tx: Tx, productIds: readonly string[]): Promise<string[]> {
    const wanting = await this.wanting(tx, productIds);
    if (wanting.length > 0)
      await tx.rows('SELECT id FROM orders WHERE id IN (?) ORDER BY id FOR UPDATE', [wanting]);
    return wanting;
  }

  /** Promises free stock to wants as the lead has set it: in part, or whole orders only; kits whose product allows it are eked out with parts. */
  async reserveWants(tx: Tx, wants: readonly PartWant[]): Promise<Reserved> {
    const mode = await this.house.setting<ReserveMode>(tx, 'reserveMode', 'partly');
    return this.stock.reserve(tx, await this.withParts(tx, wants), mode, 'reserve');
  }

  /** Open orders that want more of some products, or of kits that are made of them. */
  private async wanting(tx: Tx, productIds: readonly string[]): Promise<string[]> {
    const ids = [...new Set(productIds)];
    if (ids.length === 0) return [];
    const kits = await tx.rows<{ id: string }>(
      "SELECT DISTINCT k.id FROM product k JOIN recipe r ON r.productId = k.id JOIN recipePart x ON x.recipeId = r.id WHERE k.kitPolicy = 'stock then parts' AND x.productId IN (?)",
      [ids],
    );
    const wants = await this.openWants(tx, 'p.productId IN (?)', [[...ids, ...kits.map(k => k.id)]]);
    return [...new Set(wants.map(w => w.orderId))];
  }

  private async withParts(tx: Tx, wants: readonly PartWant[]): Promise<readonly PartWant[]> {
    const ids = [...new Set(wants.map(w => w.productId))];
    if (ids.length === 0) return wants;
    const kits = await tx.rows<{ id: string }>(
      "SELECT id FROM product WHERE id IN (?) AND kind = 'kit' AND kitPolicy = 'stock then parts'",
      [ids],
    );
    if (kits.length === 0) return wants;
    const products = await this.catalog.products(tx);
    const parts = new Map(kits.map(k => [k.id, stockedParts(k.id, products)]));
    return wants.map(w => {
      const instead = parts.get(w.productId);
      return instead && instead.length > 0 ? { ...w, instead } : w;
    });
  }

  /** Locks the products first and looks then what is wanted, so that no two promise the same part the same units. */
  private async reserveOpen(tx: Tx, orderIds: readonly string[]): Promise<Reserved> {
    const params = [[...orderIds, NONE]];
    const products = await tx.rows<{ productId: string }>(
      'SELECT DISTINCT p.productId FROM linePart p WHERE p.orderId IN (?) AND p.quantity > 0',
      params,
    );
    await this.stock.lockFree(
      tx,
      products.map(p => p.productId),
    );
    return this.reserveWants(tx, await this.openWants(tx, 'p.orderId IN (?)', params));
  }

  private async reasons(tx: Tx, ids: readonly string[]): Promise<Map<string, StopReason[]>> {
    const heads = await tx.rows<HeadRow>(
      'SELECT o.id, o.payment, o.shipTo, o.currency, c.name AS channelName, w.country AS home FROM orders o JOIN channel c ON c.id = o.channelId JOIN warehouse w ON w.id = o.warehouseId WHERE o.id IN (?) AND o.draftedAt IS NULL',
      [ids],
    );
    const lines = await tx.rows<{
      id: string;
      orderId: string;
      channelSku: string;
      title: string;
      productId: string | null;
    }>(
      'SELECT id, orderId, channelSku, title, productId FROM orderLine WHERE orderId IN (?) AND removedAt IS NULL ORDER BY position',
      [ids],
    );
    const parts = await tx.rows<{ lineId: string; productId: string }>(
      'SELECT lineId, productId FROM linePart WHERE orderId IN (?) AND quantity > 0',
      [ids],
    );
    const products = await this.catalog.products(tx, [
      ...new Set([...lines.flatMap(l => l.productId ?? []), ...parts.map(p => p.productId)]),
    ]);
    const [suspicions, differences] = [await openSuspicions(tx, ids), await openDifferences(tx, ids)];
    const letUncodedThrough = await this.house.setting(tx, 'letUncodedThrough', false);
    const [linesOf, partsOf] = [group(lines, l => l.orderId), group(parts, p => p.lineId)];
    return new Map(
      heads.map(o => [
        o.id,
        checkOrder(
          {
            payment: o.payment,
            shipTo: fromJson(o.shipTo),
            home: o.home,
            letUncodedThrough,
            suspicions: suspicions.get(o.id) ?? [],
            differences: (differences.get(o.id) ?? []).map(d => toOpen(d, o.currency)),
            lines: (linesOf.get(o.id) ?? []).map(l => ({
              channelName: o.channelName,
              channelSku: l.channelSku,
              title: l.title,
              product: l.productId ? toChecked(products.get(l.productId)!) : null,
              parts:
                l.productId && partsOf.has(l.id)
                  ? partsOf.get(l.id)!.map(p => toChecked(products.get(p.productId)!))
                  : null,
            })),
          },
          ADDRESS_TABLES,
        ),
      ]),
    );
  }

  private async store(tx: Tx, ids: readonly string[], reasons: Map<string, StopReason[]>): Promise<void> {
    const open = await tx.rows<{ id: string; orderId: string; code: string; subject: string; says: string }>(
      'SELECT id, orderId, code, subject, says FROM stopReason WHERE orderId IN (?) AND liftedAt IS NULL',
      [ids],
    );
    const keyOf = (orderId: string, r: { code: string; subject: string; says: string }) =>
      `${orderId}\n${r.code}\n${r.subject}\n${r.says}`;
    const wanted = new Set([...reasons].flatMap(([id, list]) => list.map(r => keyOf(id, r))));
    const known = new Set(open.map(o => keyOf(o.orderId, o)));
    const lifted = open
      .filter(o => reasons.has(o.orderId) && !wanted.has(keyOf(o.orderId, o)))
      .map(o => o.id);
    if (lifted.length > 0)
      await tx.run('UPDATE stopReason SET liftedAt = ? WHERE id IN (?)', [tx.at, lifted]);
    await tx.insert(
      'stopReason',
      [...reasons].flatMap(([orderId, list]) =>
        list.filter(r => !known.has(keyOf(orderId, r))).map(r => stopRow(tx, orderId, r)),
      ),
    );
  }

  private openWants(tx: Tx, where: string, params: unknown[]): Promise<PartWant[]> {
    return tx.rows<PartWant>(
      `SELECT p.id AS partId, p.orderId, p.productId, p.quantity - COALESCE(SUM(a.quantity), 0) AS quantity,
         COALESCE(FLOOR(UNIX_TIMESTAMP(d.cutOff) / 60), 68374080) AS priority, CAST(o.promised AS CHAR) AS promised, o.no AS age
       FROM linePart p JOIN orders o ON o.id = p.orderId LEFT JOIN departure d ON d.id = o.departureId LEFT JOIN allocation a ON a.partId = p.id
       WHERE ${where} AND o.isOpen AND o.draftedAt IS NULL
       GROUP BY p.id HAVING quantity > 0`,
      params,
    );
  }
}

/** A stop reason as it is stored. */
export const stopRow = (tx: Tx, orderId: string, r: StopReason) => ({
  id: newId(),
  orderId,
  ...r,
  raisedAt: tx.at,
  liftedAt: null,
});

async function openSuspicions(sql: Sql, ids: readonly string[]): Promise<Map<string, Suspicion[]>> {
  const rows = await sql.rows<{ orderId: string; number: string; why: string }>(
    `SELECT s.orderId, x.channelNumber AS number, s.why FROM suspicion s JOIN orders x ON x.id = s.otherId
     WHERE s.orderId IN (?) AND x.cancelledAt IS NULL AND NOT EXISTS (SELECT 1 FROM stopAccepted a WHERE a.orderId = s.orderId AND a.code = 'duplicate' AND a.subject = x.channelNumber) ORDER BY x.no`,
    [ids],
  );
  return group(
    rows.map(r => ({ ...r, why: fromJson<string[]>(r.why) })),
    r => r.orderId,
  );
}

/** A stored difference between the channel and us. */
export interface StoredDifference extends Pick<Conflict, 'field' | 'ours' | 'theirs'> {
  id: string;
  orderId: string;
  lineKey: string | null;
}

/** The differences that no person has decided, by order. */
export async function openDifferences(
  sql: Sql,
  ids: readonly string[],
): Promise<Map<string, StoredDifference[]>> {
  const rows = await sql.rows<
    Omit<StoredDifference, 'ours' | 'theirs'> & { ours: string | null; theirs: string | null }
  >(
    'SELECT id, orderId, lineKey, field, ours, theirs FROM orderDifference WHERE orderId IN (?) AND decidedAt IS NULL ORDER BY id',
    [ids],
  );
  const value = (v: string | null): Value => (v === null ? null : fromJson<{ v: Value }>(v).v);
  return group(
    rows.map(r => ({ ...r, ours: value(r.ours), theirs: value(r.theirs) })),
    r => r.orderId,
  );
}

/** A difference in words. */
export function toOpen(d: StoredDifference, currency: string): OpenDifference {
  const show = (v: Value) =>
    v === null || v === ''
      ? 'nothing'
      : d.field.endsWith('Minor')
        ? formatMoney(Number(v), currency)
        : String(v);
  const line = d.lineKey ? ` of ${d.lineKey.replace(/#\d+$/, '')}` : '';
  return {
    field: `${d.lineKey ?? ''} ${d.field}`.trim(),
    words: d.field === '' ? `the line${line}` : `${FIELD_WORDS[d.field] ?? d.field}${line}`,
    ours: show(d.ours),
    theirs: show(d.theirs),
  };
}

/** Groups rows by a key, in their order. */
export function group<T>(rows: readonly T[], keyOf: (row: T) => string): Map<string, T[]> {
  const by = new Map<string, T[]>();
  for (const row of rows) {
    const key = keyOf(row);
    const known = by.get(key);
    if (known) known.push(row);
    else by.set(key, [row]);
  }
  return by;
}
