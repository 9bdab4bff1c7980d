import { ListingQuery, OrderQuery, ProductQuery } from '@auk/contract';
import { formatSize, MG, minorDigits, PRODUCT_FACTS } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { stringify } from 'csv-stringify/sync';
import { Db } from '../database/db.js';
import { HouseService } from '../house/house.module.js';
import { parse } from '../http/parse.js';
import { OrderListQueries } from '../orders/orders.module.js';
import { ParcelsQueries } from '../parcels/parcels.module.js';
import { CatalogService, ListingsQueries } from '../products/products.module.js';

/** A table to write: headings and cells. Texts stay texts, so that no cell can run as a formula. */
export interface Sheet {
  name: string;
  headings: string[];
  rows: (string | number | null)[][];
}

const MOST = 100_000;
const PART = 1_000;

/** What is on screen, as files. */
@Injectable()
export class ExportsService {
  constructor(
    private readonly db: Db,
    private readonly house: HouseService,
    private readonly lists: OrderListQueries,
    private readonly catalog: CatalogService,
    private readonly listings: ListingsQueries,
    private readonly parcels: ParcelsQueries,
  ) {}

  /** The orders of a filter, in its sort, up to 100,000. */
  async orders(query: Record<string, unknown>, now: Date): Promise<Sheet> {
    const q = parse(OrderQuery, query);
    const ids = await this.lists.ids(q, MOST, now);
    const sheet: Sheet = {
      name: 'Orders',
      headings: [
        'Order number',
        'Our number',
        'Channel',
        'Buyer',
        'Mail',
        'Town',
        'Country',
        'What',
        'Lines',
        'Units',
        'Stage',
        'Reason',
        'Leaves',
        'Promised',
        'Placed',
        'Payment',
        'Total',
        'Paid',
        'Currency',
        'Tags',
      ],
      rows: [],
    };
    for (let i = 0; i < ids.length; i += PART)
      for (const r of await this.lists.rows(ids.slice(i, i + PART)))
        sheet.rows.push([
          r.channelNumber,
          r.no,
          r.channel,
          r.buyer,
          r.mail,
          r.town,
          r.country,
          r.what,
          r.lines,
          r.units,
          r.stage,
          r.reason,
          r.leavesWith?.cutOff ?? null,
          r.promised,
          r.placedAt,
          r.payment,
          amount(r.totalMinor, r.currency),
          amount(r.paidMinor, r.currency),
          r.currency,
          r.tags.join(', '),
        ]);
    return sheet;
  }

  /** The products, with headings that a file of products is read by again. */
  async products(query: Record<string, unknown>): Promise<Sheet> {
    const { currency } = await this.house.warehouse(this.db);
    const headings = [
      'SKU',
      'Name',
      'Kind',
      'Stage',
      'Barcode',
      'Case code',
      'Units a case',
      'Weight',
      'Packed weight',
      'Length',
      'Width',
      'Height',
      'Hint',
      ...PRODUCT_FACTS.map(f => f.words),
      'On hand',
      'Reserved',
      'Free',
    ];
    const rows: Sheet['rows'] = [];
    for (let after: string | null = ''; after !== null; ) {
      const q = parse(ProductQuery, { ...query, after, size: 1000 });
      const page = await this.catalog.list(q);
      for (const p of page.rows) {
        const big = p.codes.find(c => c.units > 1);
        const sides = p.size ? formatSize(p.size, 'metric').replace(' cm', '').split(' × ') : ['', '', ''];
        rows.push([
          p.sku,
          p.name,
          p.kind,
          p.stage,
          p.codes.find(c => c.units === 1)?.code ?? '',
          big?.code ?? '',
          big?.units ?? null,
          p.weightMg ? `${p.weightMg / MG.g} g` : '',
          p.packedWeightMg ? `${p.packedWeightMg / MG.g} g` : '',
          ...sides.map(s => (s ? `${s} cm` : '')),
          p.hint ?? '',
          ...PRODUCT_FACTS.map(f => {
            const v = p.facts[f.key];
            if (v === undefined || v === null) return '';
            if (f.kind === 'flag') return v ? 'yes' : 'no';
            return f.kind === 'money' ? amount(Number(v), currency) : (v as string | number);
          }),
          p.onHand,
          p.reserved,
          p.free,
        ]);
      }
      after = page.next;
    }
    return { name: 'Products', headings, rows };
  }

  /** The listings of a filter, with headings that a file of listings is read by again. */
  async listing(query: Record<string, unknown>): Promise<Sheet> {
    const rows: Sheet['rows'] = [];
    for (let after: string | undefined = undefined, more = true; more; ) {
      const page = await this.listings.list(
        parse(ListingQuery, { ...query, ...(after ? { after } : {}), size: 200 }),
      );
      for (const l of page.rows)
        rows.push([
          l.channel,
          l.channelSku,
          l.title,
          l.gtin,
          l.priceMinor === null ? null : amount(l.priceMinor, l.currency),
          l.product?.sku ?? '',
          l.units,
          l.forSale,
          l.waiting,
        ]);
      after = page.next ?? undefined;
      more = page.next !== null && rows.length < MOST;
    }
    return {
      name: 'Listings',
      headings: [
        'Channel',
        'Channel SKU',
        'Title',
        'Barcode',
        'Price',
        'Product (our SKU)',
        'Units',
        'For sale',
        'Orders waiting',
      ],
      rows,
    };
  }

  /** The parcels that the list of parcels shows. */
  async parcelList(): Promise<Sheet> {
    const rows = (await this.parcels.list()).map(p => [
      p.no,
      p.order,
      p.channelNumber,
      p.buyer,
      p.state,
      p.carrier,
      p.service,
      p.tracking,
      p.minor === null ? null : amount(p.minor, p.currency),
      p.currency,
      p.weightMg === null ? null : `${p.weightMg / MG.g} g`,
      p.box,
      p.departure,
    ]);
    const headings = [
      'Parcel',
      'Our number',
      'Order number',
      'Buyer',
      'State',
      'Carrier',
      'Service',
      'Tracking',
      'Label',
      'Currency',
      'Weight',
      'Box',
      'Departure',
    ];
    return { name: 'Parcels', headings, rows };
  }
}

const amount = (minor: number, currency: string): number =>
  Number((minor / 10 ** minorDigits(currency)).toFixed(minorDigits(currency)));

/** A sheet as CSV by RFC 4180, UTF-8 with BOM; cells that could run as a formula are made harmless. */
export function toCsv(sheet: Sheet): Buffer {
  return Buffer.from(
    stringify([sheet.headings, ...sheet.rows], {
      bom: true,
      escape_formulas: true,
      record_delimiter: 'windows',
    }),
  );
}

/** A sheet as an XLSX workbook: texts are text cells, which never run. */
export async function toXlsx(sheet: Sheet): Promise<Buffer> {
  const heading = sheet.headings.map(h => ({ value: h, type: String, fontWeight: 'bold' as const }));
  const rows = sheet.rows.map(r =>
    r.map(c =>
      c === null || c === ''
        ? null
        : typeof c === 'number'
          ? { value: c, type: Number }
          : { value: clean(c), type: String },
    ),
  );
  const { default: writeExcelFile } = await import('write-excel-file/node');
  const written = writeExcelFile([heading, ...rows], { sheet: sheet.name, stickyRowsCount: 1 });
  return Buffer.from(await written.toBuffer());
}

/** Characters that XML cannot hold are dropped; a cell holds 32,767 at most. */
const clean = (text: string): string =>
  [...text]
    .filter(c => c >= ' ' || c === '\n' || c === '\t')
    .join('')
    .slice(0, 32_000);
