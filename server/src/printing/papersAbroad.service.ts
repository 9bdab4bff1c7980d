import type { OrderView } from '@auk/contract';
import {
  type Address,
  type CustomsRow,
  convert,
  customsForm,
  customsRows,
  declaredValues,
  formatMoney,
  missingForCustoms,
} from '@auk/core';
import { Injectable } from '@nestjs/common';
import { DateTime } from 'luxon';
import { Db, fromJson } from '../database/db.js';
import { HouseService } from '../house/house.module.js';
import { Forbidden } from '../http/problem.js';
import { CatalogService, customsFacts, type Product } from '../products/products.module.js';
import { ruledOf } from '../records/records.module.js';
import { drawCommercialInvoice } from './commercialInvoice.js';
import { drawDangerousGoods } from './dangerousGoods.js';
import { type DeclarationText, drawDeclaration } from './declaration.js';
import { type PaperOrder, type ParcelAbroad, unitsByParcel } from './printing.queries.js';
import { type PaperFor, PaperTemplates } from './templates.service.js';
import { together } from './together.js';

/** What the template of an order's papers is chosen by. */
export const paperFor = (order: PaperOrder, view: OrderView): PaperFor => ({
  channel: order.channel,
  country: view.shipTo.country,
  home: order.home,
  mail: view.mail,
  byRule: {
    slip: ruledOf(order.ruled)?.fields.slip?.value,
    papers: ruledOf(order.ruled)?.fields.papers?.value,
  },
});

/** Papers that go with a parcel abroad: CN 22, or CN 23 and a commercial invoice; and the note of dangerous goods, at home too. */
@Injectable()
export class PapersAbroad {
  constructor(
    private readonly db: Db,
    private readonly house: HouseService,
    private readonly catalog: CatalogService,
    private readonly templates: PaperTemplates,
  ) {}

  async draw(
    parcel: ParcelAbroad,
    { order, view }: { order: PaperOrder; view: OrderView },
    zone: string,
  ): Promise<Buffer> {
    const rows = await this.rows(parcel, view);
    const abroad = view.shipTo.country !== order.home;
    const products = await this.catalog.products(this.db, [...new Set(rows.map(r => r.productId))]);
    const dangerous = rows.filter(r => products.get(r.productId)!.facts.hazardous === true);
    if (!abroad && dangerous.length === 0)
      throw new Forbidden(
        `PA-${parcel.no} stays in ${order.home} and carries nothing hazardous.`,
        'It goes without such papers.',
      );
    if (abroad) refuseIncomplete(parcel.no, rows, products);
    const now = new Date();
    const text = await this.text(parcel, order, view, rows, DateTime.fromJSDate(now, { zone }));
    const look = paperFor(order, view);
    const parts: Buffer[] = [];
    if (abroad) {
      parts.push(
        await drawDeclaration({ ...text, message: (await this.templates.choose('customs', look)).message }),
      );
      if (text.form === 'CN 23') {
        const template = await this.templates.choose('commercial', look);
        parts.push(
          await drawCommercialInvoice({
            ...text,
            heading: template.heading || order.brand,
            message: template.message,
          }),
        );
      }
    }
    if (dangerous.length > 0) {
      const { message } = await this.templates.choose('dangerous', look);
      const goods = dangerous.map(r => ({ ...r, ...customsFacts(products.get(r.productId)!) }));
      parts.push(await drawDangerousGoods({ ...text, message, goods }));
    }
    return together(parts);
  }

  private async text(
    parcel: ParcelAbroad,
    order: PaperOrder,
    view: OrderView,
    rows: CustomsRow[],
    day: DateTime,
  ): Promise<Omit<DeclarationText, 'message'>> {
    const { currency } = await this.house.warehouse(this.db);
    const rates = await this.house.exchangeRates(this.db, day.toISODate()!);
    const valueMinor = rows.reduce((n, r) => n + r.valueMinor, 0);
    const netMg = rows.reduce((n, r) => n + r.netMg, 0);
    const weightMg = parcel.weightMg ?? netMg;
    const { form, why } = customsForm({ valueMinor, currency: view.row.currency, weightMg }, rates, currency);
    return {
      form,
      why,
      parcelNo: `PA-${parcel.no}`,
      reference: view.row.channelNumber,
      carrier: parcel.carrierName ?? '',
      tracking: parcel.tracking ?? '',
      from: fromJson<Address>(order.sender),
      to: view.shipTo,
      rows: rows.map(r => ({ ...r, value: formatMoney(r.valueMinor, view.row.currency) })),
      total: formatMoney(valueMinor, view.row.currency),
      currency: view.row.currency,
      shipping: formatMoney(view.money.shippingMinor, view.row.currency),
      netMg,
      weightMg,
      day: day.toFormat('d LLLL yyyy'),
    };
  }

  /** What is in the parcel, with what it is worth: the parcels of an order declare together what was paid for it. */
  private async rows(parcel: ParcelAbroad, view: OrderView): Promise<CustomsRow[]> {
    const units = await unitsByParcel(this.db, parcel.orderId);
    const parcels = [...new Set(units.map(u => u.parcelId))];
    const here = parcels.indexOf(parcel.id);
    const products = await this.catalog.products(this.db, [
      ...new Set(view.lines.flatMap(l => l.parts.map(p => p.productId))),
    ]);
    const worth = await this.worthIn(view.row.currency);
    const rows = view.lines.flatMap(line => {
      const parts = line.parts.map(p => ({
        ...p,
        eachMinor: worth(products.get(p.productId)!),
        byParcel: parcels.map(id => units.find(u => u.parcelId === id && u.partId === p.id)?.n ?? 0),
      }));
      const values = declaredValues(line.total.goods - line.total.discount, parts);
      return parts.map((p, i) =>
        rowOf(products.get(p.productId)!, p.byParcel[here] ?? 0, values[i]![here] ?? 0),
      );
    });
    return customsRows(rows.filter(r => r.quantity > 0));
  }

  /** What one of a product is worth in a currency by the house's own figures; null where nobody knows. */
  private async worthIn(currency: string): Promise<(p: Product) => number | null> {
    const { currency: own } = await this.house.warehouse(this.db);
    const rates = await this.house.exchangeRates(this.db, await this.house.today(this.db, new Date()));
    return p =>
      typeof p.facts.valueMinor === 'number' ? convert(p.facts.valueMinor, own, currency, rates, own) : null;
  }
}

function rowOf(p: Product, quantity: number, valueMinor: number): CustomsRow {
  const { customsCode, origin } = customsFacts(p);
  return {
    productId: p.id,
    words: String(p.facts.customsWords || p.name),
    quantity,
    netMg: (p.weightMg ?? 0) * quantity,
    valueMinor,
    code: customsCode ?? '',
    origin: origin ?? '',
  };
}

/** What customs would send back is not drawn at all. */
function refuseIncomplete(
  no: number,
  rows: readonly CustomsRow[],
  products: ReadonlyMap<string, Product>,
): void {
  for (const r of rows) {
    const p = products.get(r.productId)!;
    const lacks = missingForCustoms(customsFacts(p));
    if (lacks.length > 0)
      throw new Forbidden(
        `PA-${no} cannot be declared: ${p.name} lacks ${lacks.join(', ')}.`,
        `Add it to ${p.sku} under Products.`,
      );
  }
}
