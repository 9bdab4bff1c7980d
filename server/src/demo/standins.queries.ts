import type { CarrierRow } from '../carriers/carrier.entity.js';
import type { CarrierAccount } from '../carriers/carrierAccount.entity.js';
import type { Product } from '../catalog/product.entity.js';
import type { Channel } from '../channels/channel.entity.js';
import type { Sql, Tx } from '../database/db.js';
import type { InboundPart } from '../inbound/inboundPart.entity.js';
import type { LinePart } from '../records/linePart.entity.js';
import type { Order } from '../records/order.entity.js';

/** Stand-ins listen on another port at every start: printers and scales that are stand-ins follow. */
export async function movePrinters(tx: Tx, standins: string, scaleAt: string): Promise<void> {
  await tx.run("UPDATE bench SET scaleAt = ? WHERE scaleAt LIKE '127.0.0.1:%'", [scaleAt]);
  await tx.run(
    "UPDATE printer SET url = CONCAT(?, SUBSTRING(url FROM LOCATE('/printers/', url))) WHERE url LIKE 'http://127.0.0.1:%/printers/%'",
    [standins],
  );
}

export function carriersKnown(tx: Tx): Promise<Pick<CarrierRow, 'code'>[]> {
  return tx.rows('SELECT code FROM carrier');
}

export function carrierAccounts(tx: Tx): Promise<Pick<CarrierAccount, 'id' | 'carrier' | 'number'>[]> {
  return tx.rows('SELECT id, carrier, number FROM carrierAccount');
}

/** The same for carriers. */
export async function moveCarriers(tx: Tx, standins: string): Promise<void> {
  await tx.run("UPDATE carrier SET address = CONCAT(?, '/', code) WHERE address LIKE 'http://127.0.0.1:%'", [
    standins,
  ]);
}

export function channelCodes(tx: Tx): Promise<Pick<Channel, 'id' | 'code'>[]> {
  return tx.rows('SELECT id, code FROM channel');
}

export async function hasTemplates(tx: Tx): Promise<boolean> {
  return (await tx.one('SELECT id FROM mailTemplate LIMIT 1')) !== null;
}

/** Parts of a shipment by its number, in their order. */
export function partsOf(sql: Sql, no: string): Promise<Pick<InboundPart, 'id' | 'orderId'>[]> {
  return sql.rows(
    "SELECT p.id, p.orderId FROM inboundPart p JOIN inboundShipment s ON s.id = p.shipmentId WHERE CONCAT('IN-', s.no) = ? ORDER BY p.seq",
    [no],
  );
}

export function headOf(
  sql: Sql,
  orderId: string,
): Promise<(Pick<Order, 'warehouseId'> & { shipmentId: string }) | null> {
  return sql.one(
    'SELECT o.warehouseId, s.id AS shipmentId FROM orders o JOIN shipment s ON s.orderId = o.id WHERE o.id = ?',
    [orderId],
  );
}

/** What an order of the house's own wants, with what each weighs. */
export function partsToPack(
  sql: Sql,
  orderId: string,
): Promise<(Pick<LinePart, 'id'> & Pick<Product, 'sku'> & { weightMg: number })[]> {
  return sql.rows(
    'SELECT l.id, p.sku, p.weightMg FROM linePart l JOIN product p ON p.id = l.productId WHERE l.orderId = ? ORDER BY l.id',
    [orderId],
  );
}
