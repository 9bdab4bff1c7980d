import type { NetworkBookingIn, UNIT_LABEL_FORMS } from '@auk/contract';
import {
  type Address,
  canonicalCode,
  type Despatch,
  despatchEdifact,
  hasGs1CheckDigit,
  unitLabelCode,
} from '@auk/core';
import { Injectable } from '@nestjs/common';
import { stringify } from 'csv-stringify/sync';
import { Db, fromJson } from '../database/db.js';
import { Centers } from '../elsewhere/elsewhere.module.js';
import { daysAround, HouseService } from '../house/house.module.js';
import { Forbidden, NotHere } from '../http/problem.js';
import {
  type BoxOnPaper,
  drawBoxLabels,
  drawPalletLabels,
  drawShipmentList,
  drawTags,
  PrintingService,
  type ShipmentOnPaper,
} from '../printing/printing.module.js';
import { CatalogService } from '../products/products.module.js';
import { InboundBookings } from './bookings.service.js';
import { despatchCsv, despatchJson, despatchUbl } from './despatchFiles.js';
import { boxesOf, differencesOf } from './inbound.queries.js';
import { InboundPart } from './inboundPart.entity.js';
import { InboundShipment } from './inboundShipment.entity.js';
import { shipmentBy } from './shipments.js';
import { InboundViews } from './views.service.js';

export const ADVICE_FORMS = ['xml', 'edi', 'csv', 'json'] as const;
export type AdviceForm = (typeof ADVICE_FORMS)[number];

/** Papers of what goes to a center, and what is told of it. */
@Injectable()
export class InboundPapers {
  constructor(
    private readonly db: Db,
    private readonly views: InboundViews,
    private readonly bookings: InboundBookings,
    private readonly centers: Centers,
    private readonly catalog: CatalogService,
    private readonly house: HouseService,
    private readonly printing: PrintingService,
  ) {}

  async labels(partId: string): Promise<Buffer> {
    const paper = await this.onPaper(partId);
    const { part } = await this.find(partId);
    const boxes = await boxesOf(this.db, part.orderId!);
    const bought = await this.printing.labelsApart(boxes.map(b => b.no));
    const own = new Map(
      boxes.flatMap(b => (b.sscc && bought.has(b.no) ? [[b.sscc, bought.get(b.no)!] as const] : [])),
    );
    return drawBoxLabels(paper, own);
  }

  /** Labels of the pallets, each twice. */
  async pallets(partId: string): Promise<Buffer> {
    const paper = await this.onPaper(partId);
    if (paper.pallets.length === 0)
      throw new Forbidden('It goes as parcels, on no pallet.', 'Print the labels of its boxes.');
    return drawPalletLabels(paper);
  }

  /** A label for each unit that we label, with the code that will be scanned there. */
  async units(
    no: string,
    form: (typeof UNIT_LABEL_FORMS)[number],
    only: { sku?: string | undefined; count?: number | undefined } = {},
  ): Promise<Buffer> {
    const { lines } = await this.views.one(no);
    const labelled = lines.filter(
      l =>
        l.by === 'us' &&
        l.needs.some(n => n.needs === 'label') &&
        (only.sku === undefined || l.sku === only.sku),
    );
    if (labelled.length === 0)
      throw new Forbidden('No unit of it is labelled by us.', 'Look under Prepared who does what.');
    return drawTags(
      labelled.flatMap(l => {
        const tag = { code: unitLabelCode(l.code, l.sku), words: l.name, small: l.sku };
        return Array.from({ length: (only.sku && only.count) || l.units }, () => tag);
      }),
      form,
    );
  }

  async list(partId: string, kind: 'packing list' | 'delivery note'): Promise<Buffer> {
    return drawShipmentList(await this.onPaper(partId), kind);
  }

  async advice(partId: string, form: AdviceForm): Promise<string> {
    const { shipment, part } = await this.find(partId);
    const paper = await this.onPaper(partId);
    const { zone } = await this.house.warehouse(this.db);
    const { today } = daysAround(new Date(), zone);
    const products = await this.catalog.skusWithParts(this.db, [
      ...new Set(paper.boxes.flatMap(b => b.contents.map(c => c.sku))),
    ]);
    const gtins = new Map(
      [...products.values()].map(p => {
        const code = p.codes.find(c => c.units === 1)?.code ?? '';
        const gtin = canonicalCode(code).padStart(14, '0');
        return [p.sku, /^\d{14}$/.test(gtin) && hasGs1CheckDigit(gtin) ? gtin : null];
      }),
    );
    const despatch: Despatch = {
      no: paper.no,
      day: today,
      leaves: part.leftAt ? daysAround(part.leftAt, zone).today : (shipment.shipDay ?? today),
      arrives: null,
      from: { name: paper.from.name, address: paper.from },
      to: { name: `${paper.network} ${paper.center}`, address: paper.to },
      boxes: paper.boxes.map(b => ({
        sscc: b.sscc,
        weightMg: b.weightMg,
        contents: b.contents.map(c => ({ ...c, gtin: gtins.get(c.sku) ?? null })),
      })),
      pallets: part.asked
        ? fromJson<NetworkBookingIn>(part.asked).pallets.map(({ sscc, weightMg, boxes }) => ({
            sscc,
            weightMg,
            boxes,
          }))
        : [],
    };
    if (form === 'csv') return despatchCsv(despatch);
    if (form === 'json') return despatchJson(despatch);
    if (form === 'xml') return despatchUbl(despatch);
    const prefix = (await this.bookings.prefix()) ?? '';
    const at = new Date().toISOString();
    return despatchEdifact(despatch, {
      sender: prefix,
      receiver: paper.network.slice(0, 35),
      reference: paper.no.replaceAll('-', ''),
      prepared: `${at.slice(2, 10).replaceAll('-', '')}:${at.slice(11, 16).replace(':', '')}`,
    });
  }

  /** What is missing of a shipment and claimed, or waits to be: a row for each box and product. */
  async claim(no: string): Promise<string> {
    const shipment = await shipmentBy(this.db, no);
    const rows = (await differencesOf(this.db, shipment.id)).filter(d => d.missing > 0);
    return stringify(
      [
        ['Shipment', 'Booking', 'Center', 'SSCC', 'Code', 'Units missing', 'State', 'Reason'],
        ...rows.map(d => [
          `IN-${shipment.no}`,
          d.bookNo ?? '',
          d.center,
          d.sscc,
          d.code,
          d.missing,
          d.state,
          d.reason,
        ]),
      ],
      { escape_formulas: true, record_delimiter: 'windows' },
    );
  }

  private async find(partId: string): Promise<{ shipment: InboundShipment; part: InboundPart }> {
    const part = await this.db.of(InboundPart).findOneBy({ id: partId });
    if (!part) throw new NotHere('That part of the shipment', 'Open the shipment anew under Inbound.');
    return { part, shipment: (await this.db.of(InboundShipment).findOneBy({ id: part.shipmentId }))! };
  }

  private async onPaper(partId: string): Promise<ShipmentOnPaper> {
    const { shipment, part } = await this.find(partId);
    const view = await this.views.one(`IN-${shipment.no}`);
    const shown = view.parts.find(p => p.id === partId)!;
    const { rules } = await this.centers.rules(shipment.network);
    const names = new Map(view.lines.map(l => [l.sku, l.name]));
    const boxes = shown.boxes.map((b): BoxOnPaper => {
      if (!b.sscc || !b.weightMg)
        throw new Forbidden(
          `The boxes for ${part.center} have no numbers yet.`,
          'Have them packed, and ask for the price of booking them.',
        );
      return {
        sscc: b.sscc,
        box: b.box ?? '',
        weightMg: b.weightMg,
        heavy: rules !== null && b.weightMg > rules.limits.heavyMg,
        tracking: view.way?.rates === 'theirs' ? b.tracking : null,
        contents: b.contents.map(c => ({ ...c, name: names.get(c.sku) ?? c.sku })),
      };
    });
    if (boxes.length === 0)
      throw new Forbidden(`Nothing for ${part.center} is packed yet.`, 'Have it packed at the bench first.');
    return {
      no: `IN-${shipment.no}`,
      name: shipment.name,
      network: shipment.network,
      center: part.center,
      carrier: view.way?.carrier ?? '',
      prefixLength: ((await this.bookings.prefix()) ?? '').length,
      from: await this.house.sender(this.db),
      to: fromJson<Address>(part.address),
      boxes,
      pallets: shown.loaded.map(({ sscc, height, weightMg, parcels }, i) => ({
        sscc,
        height,
        weightMg,
        boxes: parcels.length,
        tracking: (part.tracking ? fromJson<string[]>(part.tracking)[i] : null) ?? null,
      })),
    };
  }
}
