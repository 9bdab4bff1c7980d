import type { HandoverView, ListView } from '@auk/contract';
import { type Address, formatSize, formatWeight } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { DateTime } from 'luxon';
import { Db, fromJson } from '../database/db.js';
import { Forbidden, NotHere } from '../http/problem.js';
import { drawHandover } from './handoverSheet.js';
import { drawLabel } from './label.js';
import { drawPickList } from './pickListSheet.js';
import { drawScanSheet } from './scanSheet.js';
import { drawSlip, type SlipLine } from './slip.js';

/** Everything on paper. */
@Injectable()
export class PrintingService {
  constructor(private readonly db: Db) {}

  pickList(list: ListView): Promise<Buffer> {
    return drawPickList(list);
  }

  handover(view: HandoverView): Promise<Buffer> {
    return this.zone().then(zone =>
      drawHandover(view, DateTime.fromISO(view.cutOff, { zone }).toFormat('ccc d LLL yyyy, HH:mm')),
    );
  }

  /** The label of a parcel whose purchase is bought; printing it again buys nothing. */
  async label(no: number): Promise<Buffer> {
    const row = await this.db.one<{
      carrierName: string;
      serviceName: string;
      tracking: string;
      routing: string;
      weightMg: number;
      shipTo: string;
      sender: string;
      channelNumber: string;
      answeredAt: Date;
    }>(
      `SELECT b.carrierName, b.serviceName, b.tracking, b.routing, c.weightMg, o.shipTo, h.sender, o.channelNumber, b.answeredAt FROM parcel c
       JOIN orders o ON o.id = c.orderId JOIN channel h ON h.id = o.channelId JOIN purchase b ON b.liveParcel = c.id AND b.state = 'bought' WHERE c.no = ?`,
      [no],
    );
    if (!row) throw new Forbidden(`PA-${no} has no bought label.`, 'Buy its label first.');
    const zone = await this.zone();
    return drawLabel({
      parcelNo: `PA-${no}`,
      carrier: row.carrierName,
      service: row.serviceName,
      tracking: row.tracking,
      routing: row.routing,
      weight: formatWeight(row.weightMg, 'imperial'),
      to: fromJson<Address>(row.shipTo),
      from: fromJson<Address>(row.sender),
      reference: row.channelNumber,
      day: DateTime.fromJSDate(row.answeredAt, { zone }).toFormat('d LLL yyyy'),
    });
  }

  /** The packing slip of an order, with the code that opens it at the bench. */
  async slip(orderId: string): Promise<Buffer> {
    const order = await this.db.one<{
      no: number;
      channelNumber: string;
      shipTo: string;
      note: string;
      brand: string;
      sender: string;
    }>(
      'SELECT o.no, o.channelNumber, o.shipTo, o.note, h.brand, h.sender FROM orders o JOIN channel h ON h.id = o.channelId WHERE o.id = ?',
      [orderId],
    );
    if (!order) throw new NotHere('That order');
    const lines = await this.db.rows<SlipLine>(
      'SELECT l.quantity, COALESCE(p.name, l.title) AS name, COALESCE(p.sku, l.channelSku) AS sku FROM orderLine l LEFT JOIN product p ON p.id = l.productId WHERE l.orderId = ? ORDER BY l.position',
      [orderId],
    );
    return drawSlip({
      code: `OR-${order.no}`,
      channelNumber: order.channelNumber,
      brand: order.brand,
      from: fromJson<Address>(order.sender),
      to: fromJson<Address>(order.shipTo),
      note: order.note,
      lines,
    });
  }

  /** Codes that do what the buttons do, and the codes of the boxes, for hanging up at a bench. */
  async scanSheet(): Promise<Buffer> {
    const boxes = await this.db.rows<{
      code: string;
      name: string;
      length: number;
      width: number;
      height: number;
    }>('SELECT code, name, length, width, height FROM box ORDER BY code');
    return drawScanSheet(
      boxes.map(b => ({ code: b.code, name: `Box ${b.name}`, does: formatSize(b, 'imperial') })),
    );
  }

  private async zone(): Promise<string> {
    return (await this.db.one<{ zone: string }>('SELECT zone FROM warehouse LIMIT 1'))!.zone;
  }
}
