import { type PlacedStock, type WalkStop } from '@auk/core';
import type { Sql, Tx } from '../database/db.js';
import { NONE } from '../database/db.js';
import type { Order } from '../records/order.entity.js';
import { PROMISED_KINDS } from '../stock/stock.module.js';
import type { StockBalance } from '../stock/stockBalance.entity.js';

/** Units of a part that are promised, and what one unit measures and weighs. */
export interface SoftPart {
  partId: string;
  orderId: string;
  productId: string;
  quantity: number;
  volume: number | null;
  weight: number | null;
  /** ISO day until which its lots must last, where that is said. */
  lasts: string | null;
}

export interface BinStock extends PlacedStock, WalkStop {
  productId: string;
  kind: 'bin' | 'reserve' | 'dock';
  zone: string;
  lotCode: string | null;
}

export async function lockToRelease(
  tx: Tx,
  ids: readonly string[],
): Promise<(Pick<Order, 'id' | 'no' | 'channelNumber' | 'warehouseId'> & { stage: string })[]> {
  return tx.holding(
    'orders',
    await tx.rows<Pick<Order, 'id' | 'no' | 'channelNumber' | 'warehouseId'> & { stage: string }>(
      'SELECT id, no, channelNumber, stage, warehouseId FROM orders WHERE id IN (?) ORDER BY id FOR UPDATE',
      [ids],
    ),
  );
}

export function softParts(sql: Sql, ids: readonly string[]): Promise<SoftPart[]> {
  return sql.rows(
    `SELECT a.partId, a.orderId, a.productId, a.quantity, CAST(p.length AS DOUBLE) * p.width * p.height / 1000 AS volume, p.weightMg AS weight, CAST(k.lasts AS CHAR) AS lasts
       FROM allocation a JOIN product p ON p.id = a.productId LEFT JOIN packPlan k ON k.orderId = a.orderId WHERE a.orderId IN (?) AND a.hold = 'soft' AND a.quantity > 0 ORDER BY a.partId`,
    [ids],
  );
}

export function lockBins(tx: Tx, ids: readonly string[]): Promise<unknown[]> {
  return tx.rows(
    'SELECT productId FROM stockBalance WHERE productId IN (?) AND onHand > listed ORDER BY productId, placeId, lotKey FOR UPDATE',
    [ids],
  );
}

export function binStock(
  sql: Sql,
  ids: readonly string[],
): Promise<(BinStock & Pick<StockBalance, 'lotKey'>)[]> {
  return sql.rows(
    `SELECT b.productId, b.placeId, b.lotKey, b.onHand, b.listed AS held, p.walk, p.code, p.aisle, p.along, p.kind, p.zone, l.code AS lotCode, CAST(l.expiry AS CHAR) AS expiry
       FROM stockBalance b JOIN place p ON p.id = b.placeId AND p.kind IN (${PROMISED_KINDS}) LEFT JOIN lot l ON b.lotKey <> ? AND l.id = b.lotKey
       WHERE b.productId IN (?) AND b.onHand > b.listed AND l.expiredAt IS NULL ORDER BY b.productId, b.placeId, b.lotKey`,
    [NONE, ids],
  );
}
