import type { ArrivedRow, BenchView, QueueRow } from '@auk/contract';
import { carried, type PackState, parseScan } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { Db, fromJson, NONE } from '../database/db.js';
import { Busy, Forbidden, NotHere } from '../http/problem.js';
import { ParcelsQueries } from '../parcels/parcels.module.js';
import { CatalogService } from '../products/products.module.js';
import { inboundOfOrder } from '../records/records.module.js';
import { Opening } from './opening.service.js';
import {
  arrivedOrders,
  benchRow,
  orderAtStaging,
  orderByCode,
  orderOfList,
  orderWanting,
  othersLeaving,
  type PartPacked,
  packerNotes,
  parcelsOf,
  partsPacked,
  picked,
} from './packing.queries.js';

/** What is wanted and not here, in words; empty when all is. What may be left out is not missed. */
export const lacking = (parts: readonly PartPacked[]): string =>
  parts
    .filter(p => !p.optional && p.wanted > p.packed + p.ready)
    .map(p => `${p.wanted - p.packed - p.ready} × ${p.name}${p.list ? ` (${p.list})` : ''}`)
    .join(', ');

/** What the bench reads: which order a code belongs to, what waits, and the picture of a session. */
@Injectable()
export class BenchViews {
  constructor(
    private readonly db: Db,
    private readonly catalog: CatalogService,
    private readonly parcels: ParcelsQueries,
    private readonly opening: Opening,
  ) {}

  /** What stands at staging places for the benches, the most urgent first. */
  async arrived(): Promise<ArrivedRow[]> {
    const rows = await arrivedOrders(this.db);
    return rows.map(({ id, no, lacks, expected, leavesAt, since, ...r }) => ({
      ...r,
      id,
      no: `OR-${no}`,
      lacks: lacks ?? '',
      expected: expected ?? null,
      cutOff: leavesAt?.toISOString() ?? null,
      since: since.toISOString(),
    }));
  }

  /** What is picked and waits for a bench, the most urgent first. */
  async queue(): Promise<QueueRow[]> {
    const rows = await picked(this.db);
    return rows.map(({ no, leavesAt, begun, packer, ...r }) => ({
      ...r,
      no: `OR-${no}`,
      cutOff: leavesAt?.toISOString() ?? null,
      packer: begun > 0 ? packer : null,
    }));
  }

  /** The bench's picture of a session. */
  async view(sessionId: string): Promise<BenchView> {
    const row = await benchRow(this.db, sessionId);
    if (!row) throw new NotHere('That packing session', 'Scan the slip of the order.');
    const state = carried<PackState>(fromJson(row.state), row.reducers);
    if (!state)
      throw new Busy(
        'A newer Auk went on with this meanwhile, and this server is still the older one.',
        'Try again in a minute, when this server is new too.',
      );
    const behind = row.departureId ? (await othersLeaving(this.db, row.departureId, row.orderId))!.n : 0;
    const to = fromJson<{ city: string; region: string }>(row.shipTo);
    const parcels = await parcelsOf(this.db, row.orderId);
    const open = row.closedAt === null;
    const inbound = await inboundOfOrder(this.db, row.orderId);
    return {
      sessionId,
      orderId: row.orderId,
      channelNumber: row.channelNumber,
      channel: row.channel,
      buyer: row.buyer,
      town: `${to.city}, ${to.region}`,
      note: row.note,
      notes: (await packerNotes(this.db, row.orderId)).map(n => ({
        text: n.text,
        confirm: !!n.confirm,
        word: n.word,
      })),
      promised: row.promised,
      departure: row.cutOff ? { carrier: row.carrierName!, cutOff: row.cutOff.toISOString() } : null,
      behind,
      state,
      parcels: await Promise.all(
        parcels.map(async p => ({
          no: `PA-${p.no}`,
          seq: p.seq,
          closed: p.closedAt !== null,
          label: await this.parcels.label(p.id),
          misfit: p.misfit,
        })),
      ),
      lacks: open ? lacking(await partsPacked(this.db, row.orderId)) : '',
      changed: open && (await this.opening.changes(this.db, row.orderId, state)) !== null,
      inbound: inbound && { no: `IN-${inbound.no}`, name: inbound.name, center: inbound.center },
      news: null,
    };
  }

  /**
   * The order that a code belongs to: a slip, tote, cell, parcel or channel's number; of a pick list or a staging place the most urgent;
   * of a product the most urgent that wants it and that nobody else is at.
   */
  async orderOf(code: string, device: string): Promise<string> {
    const parsed = parseScan(code, 2000);
    if (!parsed.ok) throw new Forbidden(parsed.problem, 'Scan the slip or the tote.');
    const text = 'code' in parsed.value ? parsed.value.code : code.trim().toUpperCase();
    const number = /^[A-Z]{2}-(\d{1,9})$/.exec(text)?.[1] ?? -1;
    const found =
      (await orderByCode(this.db, text, number)) ??
      (text.startsWith('PL-')
        ? await orderOfList(this.db, Number(number))
        : await orderAtStaging(this.db, text)) ??
      (await this.orderOfProduct(code, device));
    if (!found)
      throw new NotHere(
        `An order with the code ${text.slice(0, 40)}`,
        'Scan the slip, the tote, the list or the parcel of an order, or a product that is picked.',
      );
    return found.id;
  }

  private async orderOfProduct(code: string, device: string): Promise<{ id: string } | null> {
    const product = await this.catalog.byCode(this.db, code);
    return product && orderWanting(this.db, product.sku, NONE, device);
  }
}
