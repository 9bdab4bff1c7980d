import type { HandoverView, LabelPaper, ListPaper, ListView, OrderView } from '@auk/contract';
import { type Address, formatMoney, formatRate, formatSize, formatWeight, lineRate } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { DateTime } from 'luxon';
import { Db, fromJson } from '../database/db.js';
import { HouseService } from '../house/house.module.js';
import { Forbidden, NotHere } from '../http/problem.js';
import { OrdersQueries } from '../orders/orders.module.js';
import { drawHandover } from './handoverSheet.js';
import { drawInvoice, type InvoiceText } from './invoice.js';
import type { LabelText } from './label.js';
import { onPaper, pagesOf } from './labelPages.js';
import { PapersAbroad, paperFor } from './papersAbroad.service.js';
import { drawPickList } from './pickListSheet.js';
import {
  boxesByCode,
  type LabelToPrint,
  labelsToPrint,
  type PaperOrder,
  paperOrder,
  parcelAbroad,
  placesToWalk,
} from './printing.queries.js';
import { drawScanSheet } from './scanSheet.js';
import { drawSlip } from './slip.js';
import { drawTags } from './tags.js';
import { PaperTemplates } from './templates.service.js';
import { together } from './together.js';

/** Everything on paper. */
@Injectable()
export class PrintingService {
  constructor(
    private readonly db: Db,
    private readonly orders: OrdersQueries,
    private readonly templates: PaperTemplates,
    private readonly house: HouseService,
    private readonly papersAbroad: PapersAbroad,
  ) {}

  pickList(list: ListView): Promise<Buffer> {
    return drawPickList(list);
  }

  /**
   * The papers of lists as one document: of each list its sheet, the slips of its orders and the labels of its places, as far as they are
   * asked for, all in walking order.
   */
  async listPapers(
    lists: readonly { view: ListView; orderIds: string[] }[],
    papers: readonly ListPaper[],
  ): Promise<Buffer> {
    const parts: Buffer[] = [];
    for (const { view, orderIds } of lists) {
      if (papers.includes('lists')) parts.push(await drawPickList(view));
      if (papers.includes('slips')) for (const id of orderIds) parts.push(await this.slip(id));
      if (papers.includes('labels')) {
        const places = [...new Set(view.rows.map(r => r.place))];
        parts.push(
          await drawTags(
            places.map(code => ({ code, words: code, small: view.no })),
            'sheet',
          ),
        );
      }
    }
    return together(parts);
  }

  handover(view: HandoverView): Promise<Buffer> {
    return this.zone().then(zone =>
      drawHandover(view, DateTime.fromISO(view.cutOff, { zone }).toFormat('ccc d LLL yyyy, HH:mm')),
    );
  }

  /** The label of a parcel: the carrier's own picture, else drawn by Auk. */
  async label(no: number, paper: LabelPaper['paper'] = '4x6'): Promise<Buffer> {
    return this.labels([no], paper);
  }

  /** Labels of many parcels as one document, in the order that is given; parcels without a bought label are left out. */
  async labels(nos: readonly number[], paper: LabelPaper['paper']): Promise<Buffer> {
    const rows = nos.length === 0 ? [] : await labelsToPrint(this.db, nos);
    const byNo = new Map(rows.map(r => [r.no, r]));
    const wanted = nos.flatMap(no => byNo.get(no) ?? []);
    if (wanted.length === 0)
      throw new Forbidden(
        `${nos.length === 1 ? `PA-${nos[0]} has` : 'They have'} no label that was bought here.`,
        'Buy the label first.',
      );
    const zone = await this.zone();
    return onPaper(await pagesOf(wanted.map(row => row.picture ?? textOf(row, zone))), paper);
  }

  /** The label of each of some parcels by itself, by their numbers; of those that have none that was bought here there is none. */
  async labelsApart(nos: readonly number[]): Promise<Map<number, Buffer>> {
    const rows = nos.length === 0 ? [] : await labelsToPrint(this.db, nos);
    const zone = await this.zone();
    const apart = new Map<number, Buffer>();
    for (const row of rows)
      apart.set(row.no, await onPaper(await pagesOf([row.picture ?? textOf(row, zone)]), '4x6'));
    return apart;
  }

  /** The label for the way back of a parcel: from its buyer to the house. */
  async returnLabel(no: number): Promise<Buffer> {
    const [row] = await labelsToPrint(this.db, [no], 'liveReturn');
    if (!row) throw new Forbidden(`PA-${no} has no return label.`, 'Buy one on the page of parcels.');
    const there = textOf(row, await this.zone());
    const back = { ...there, to: there.from, from: there.to, pickUpPoint: '' };
    return onPaper(await pagesOf([row.picture ?? back]), '4x6');
  }

  /** The packing slip of an order, with the code that opens it at the bench, by the template for its channel and destination. */
  async slip(orderId: string): Promise<Buffer> {
    const { order, view } = await this.order(orderId);
    const template = await this.templates.choose('slip', paperFor(order, view));
    const places = await this.places(orderId);
    const money = (minor: number) => formatMoney(minor, view.row.currency);
    return drawSlip({
      code: view.row.no,
      channelNumber: view.row.channelNumber,
      heading: template.heading || order.brand,
      from: fromJson<Address>(order.sender),
      to: view.shipTo,
      notes: [view.note, ...view.notes.filter(n => n.kind === 'slip').map(n => n.text)].filter(Boolean),
      message: template.message,
      lines: view.lines.map(l => ({
        quantity: l.quantity * l.units,
        name: l.product?.name ?? l.title,
        sku: l.product?.sku ?? l.channelSku,
        places: [...new Set(l.parts.flatMap(p => places.get(p.productId) ?? []))].slice(
          0,
          template.prices ? 1 : 2,
        ),
        price: template.prices ? money(l.total.goods) : null,
      })),
      total: template.prices ? `Total ${money(view.money.totalMinor)}` : null,
    });
  }

  /** The invoice of an order: tax per line, rounded on the line, and the sum of the lines as the total. */
  async invoice(orderId: string): Promise<Buffer> {
    const { order, view } = await this.order(orderId);
    const template = await this.templates.choose('invoice', {
      ...paperFor(order, view),
      country: (view.billTo ?? view.shipTo).country,
    });
    const money = (minor: number) => formatMoney(minor, view.row.currency);
    const m = view.money;
    const sums: InvoiceText['sums'] = [['Goods', money(m.goodsMinor)]];
    if (m.discountMinor !== 0) sums.push(['Discount', money(-m.discountMinor)]);
    sums.push(['Shipping', money(m.shippingMinor)], ['Tax', money(m.taxMinor)]);
    sums.push(['Total', money(m.totalMinor), 'large'], ['Paid', money(m.paidMinor)]);
    if (m.balanceMinor !== 0)
      sums.push([m.balanceMinor < 0 ? 'Due' : 'To refund', money(Math.abs(m.balanceMinor))]);
    const zone = await this.zone();
    return drawInvoice({
      code: view.row.no,
      channelNumber: view.row.channelNumber,
      heading: template.heading || order.brand,
      from: fromJson<Address>(order.sender),
      billTo: view.billTo ?? view.shipTo,
      shipTo: view.billTo ? view.shipTo : null,
      day: DateTime.fromISO(view.placedAt ?? new Date().toISOString(), { zone }).toFormat('d LLLL yyyy'),
      lines: view.lines.map(l => ({
        quantity: l.quantity,
        name: l.title,
        sku: l.channelSku,
        each: money(l.priceMinor),
        rate: formatRate(Math.round(lineRate(l) / 100) * 100),
        tax: money(l.total.tax),
        total: money(l.total.goods + l.total.tax),
      })),
      sums,
      message: template.message,
    });
  }

  /** What goes abroad with a parcel, and the note of dangerous goods, as one document. */
  async customs(no: number): Promise<Buffer> {
    const parcel = await parcelAbroad(this.db, no);
    if (!parcel) throw new NotHere(`The parcel PA-${no}`);
    return this.papersAbroad.draw(parcel, await this.order(parcel.orderId), await this.zone());
  }

  private async order(orderId: string): Promise<{ order: PaperOrder; view: OrderView }> {
    const order = await paperOrder(this.db, orderId);
    if (!order) throw new NotHere('That order');
    return { order, view: await this.orders.one(orderId) };
  }

  /** Where each product of an order is picked from: the stops of its list, else the bins that hold it, in walking order. */
  private async places(orderId: string): Promise<Map<string, string[]>> {
    const rows = await placesToWalk(this.db, orderId);
    const by = new Map<string, string[]>();
    for (const r of rows) by.set(r.productId, [...(by.get(r.productId) ?? []), r.code]);
    return by;
  }

  /** Codes that do what the buttons do, and the codes of the boxes, for hanging up at a bench. */
  async scanSheet(): Promise<Buffer> {
    const boxes = await boxesByCode(this.db);
    return drawScanSheet(
      boxes.map(b => ({ code: b.code, name: `Box ${b.name}`, does: formatSize(b, 'imperial') })),
    );
  }

  private async zone(): Promise<string> {
    return (await this.house.warehouse(this.db)).zone;
  }
}

const textOf = (row: LabelToPrint, zone: string): LabelText => ({
  parcelNo: `PA-${row.no}`,
  carrier: row.carrierName,
  service: row.serviceName,
  tracking: row.tracking,
  routing: row.routing,
  weight: formatWeight(row.weightMg, 'imperial'),
  to: fromJson<Address>(row.shipTo),
  pickUpPoint: row.pickUpPoint,
  from: fromJson<Address>(row.sender),
  reference: row.channelNumber,
  day: DateTime.fromJSDate(row.answeredAt, { zone }).toFormat('d LLL yyyy'),
});
