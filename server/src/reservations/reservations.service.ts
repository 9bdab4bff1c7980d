import { allocate, type Promised, type RecipePart, type ReserveMode, type Stage, type Want } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { NONE, Stale, type Tx } from '../database/db.js';
import { HouseService } from '../house/house.module.js';
import { CatalogService, stockedParts } from '../products/products.module.js';
import { ekeOut, lockOrders, refreshStages } from '../records/records.module.js';
import { type HoldChange, StockService } from '../stock/stock.module.js';

/** A part that wants stock. */
export interface PartWant {
  partId: string;
  orderId: string;
  productId: string;
  quantity: number;
  priority: number;
  age: number;
  promised: string | null;
  /** What one unit is made of, when it may be eked out with parts. */
  instead?: RecipePart[];
}

/** What was promised: the hold changes, applied already, and units served by order, in units of what was wanted. */
export interface Reserved {
  holds: HoldChange[];
  served: Map<string, number>;
}

/** Promises stock to orders, most urgent first: what is free when they want it, what becomes free later, and anew when the lead asks. */
@Injectable()
export class Reservations {
  constructor(
    private readonly stock: StockService,
    private readonly catalog: CatalogService,
    private readonly house: HouseService,
  ) {}

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
    tx.holding('orders', concerned);
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
    // Nobody wanted them when the act began, and their stock is locked already: tried again, it locks the order that came meanwhile first.
    if (
      wanting.length > 0 &&
      !tx.again &&
      !tx.hasAny('orders') &&
      productIds.some(id => tx.has('productStock', id))
    )
      throw new Stale('An order began to want what comes free.');
    if (wanting.length > 0) await lockOrders(tx, wanting);
    return wanting;
  }

  /** Promises free stock to wants as the lead has set it: in part, or whole orders only; kits whose product allows it are eked out with parts. */
  async reserveWants(tx: Tx, wants: readonly PartWant[]): Promise<Reserved> {
    const mode = await this.house.setting<ReserveMode>(tx, 'reserveMode', 'partly');
    return this.promise(tx, await this.withParts(tx, wants), mode, 'reserve');
  }

  /** Open orders that want more of some products, or of kits that are made of them. */
  async wanting(tx: Tx, productIds: readonly string[]): Promise<string[]> {
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
    const products = await this.catalog.withParts(
      tx,
      kits.map(k => k.id),
    );
    const parts = new Map(kits.map(k => [k.id, stockedParts(k.id, products)]));
    return wants.map(w => {
      const instead = parts.get(w.productId);
      return instead && instead.length > 0 ? { ...w, instead } : w;
    });
  }

  /** Locks the products first and looks then what is wanted, so that no two promise the same part the same units. */
  async reserveOpen(tx: Tx, orderIds: readonly string[]): Promise<Reserved> {
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

  /** Promises free stock to parts, most urgent first; kits that may be are eked out with their parts, written as parts of the line. */
  private async promise(
    tx: Tx,
    wants: readonly PartWant[],
    mode: ReserveMode,
    why: string,
  ): Promise<Reserved> {
    const free = await this.stock.lockFree(
      tx,
      wants.flatMap(w => [w.productId, ...(w.instead ?? []).map(p => p.productId)]),
    );
    const byPart = new Map(wants.map(w => [w.partId, w]));
    const asked: Want[] = wants.map(w => ({
      key: w.partId,
      orderKey: w.orderId,
      productId: w.productId,
      quantity: w.quantity,
      priority: w.priority,
      promised: w.promised,
      age: w.age,
      ...(w.instead && { instead: w.instead }),
    }));
    const promised = allocate(asked, free, mode);
    const holds = promised
      .filter(p => p.quantity > 0)
      .map(p => softHold(byPart.get(p.key)!, p.quantity, why));
    for (const p of promised)
      if (p.fromParts > 0) holds.push(...(await this.ekeOut(tx, byPart.get(p.key)!, p, why)));
    await this.stock.apply(tx, { holds });
    const served = new Map<string, number>();
    for (const p of promised) {
      const { orderId } = byPart.get(p.key)!;
      served.set(orderId, (served.get(orderId) ?? 0) + p.quantity + p.fromParts);
    }
    return { holds, served };
  }

  /** Turns units of a line's kit into its parts; gives what is promised to them. */
  private async ekeOut(tx: Tx, want: PartWant, p: Promised, why: string): Promise<HoldChange[]> {
    const parts = await ekeOut(tx, want.partId, p.fromParts, want.instead!);
    return parts.map(part => softHold({ ...want, ...part }, part.quantity, why));
  }

  private openWants(tx: Tx, where: string, params: unknown[]): Promise<PartWant[]> {
    return tx.rows<PartWant>(
      `SELECT p.id AS partId, p.orderId, p.productId, p.quantity - p.leftOut - COALESCE(SUM(a.quantity), 0) AS quantity,
         COALESCE(FLOOR(UNIX_TIMESTAMP(d.cutOff) / 60), 68374080) AS priority, CAST(o.promised AS CHAR) AS promised, o.no AS age
       FROM linePart p JOIN orders o ON o.id = p.orderId LEFT JOIN departure d ON d.id = o.departureId LEFT JOIN allocation a ON a.partId = p.id
       WHERE ${where} AND o.isOpen AND o.draftedAt IS NULL AND (p.optional = FALSE OR o.stage IN ('Incoming', 'Stopped', 'Parked', 'Short', 'Clear'))
       GROUP BY p.id HAVING quantity > 0`,
      params,
    );
  }
}

/** The hold change that promises units to a part. */
export function softHold(want: PartWant, quantity: number, why: string): HoldChange {
  return {
    partId: want.partId,
    orderId: want.orderId,
    productId: want.productId,
    hold: 'soft',
    stopId: null,
    parcelId: null,
    change: quantity,
    why,
  };
}
