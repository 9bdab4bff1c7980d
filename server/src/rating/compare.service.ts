import type { ChosenService, CompareAsk, ComparedParcel, CompareView, ServiceOptions } from '@auk/contract';
import { type Address, chooseTogether, convert, type Piece, planBoxes } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { Measures } from '../catalog/catalog.module.js';
import { Db, fromJson } from '../database/db.js';
import { Forbidden, NotHere } from '../http/problem.js';
import { ParcelsQueries } from '../parcels/parcels.module.js';
import { Boxes, CatalogService, pieceOf } from '../products/products.module.js';
import { orderToSend, partsToSend } from './compare.queries.js';
import { comparedRows, ParcelSet, type Row, type Together, togetherOf, unique } from './compareTable.js';
import { type PricedParcel, type PriceGround, Prices } from './prices.service.js';
import { RatingService, whereto } from './rating.service.js';
import { waysBySheet } from './waysBySheet.js';

/** What a product without size or weight counts as: a small thing. Tenths of a millimetre, milligrams. */
const GUESS = { size: { length: 1524, width: 1016, height: 508 }, weightMg: 226_796 };
/** Steps that each question of a comparison may take; a dozen plans are made for one. */
const STEPS = 1500;

/** Where parcels go, and what they may cost. */
interface Going {
  title: string;
  order: CompareView['order'];
  parcel: string | null;
  to: PricedParcel['to'];
  from: PricedParcel['from'];
  promised: string | null;
  paidMinor: number;
  paidCurrency: string;
}

/** Puts the services of all carriers beside each other, each with the boxes that are best for it, and boxes and services chosen together. */
@Injectable()
export class Compare {
  constructor(
    private readonly db: Db,
    private readonly prices: Prices,
    private readonly rating: RatingService,
    private readonly parcels: ParcelsQueries,
    private readonly catalog: CatalogService,
    private readonly kinds: Boxes,
    private readonly measures: Measures,
  ) {}

  async of({ about, options }: CompareAsk, now: Date): Promise<CompareView> {
    const ground = await this.prices.ground(this.db, now);
    if (about.kind === 'order') return this.ofOrder(ground, about.id, options);
    const { going, parcel } =
      about.kind === 'parcel'
        ? await this.closedParcel(ground, Number(about.no.slice(3)))
        : this.quoted(ground, about);
    return this.table(ground, going, [parcel], [], options, null, []);
  }

  private async closedParcel(
    ground: PriceGround,
    no: number,
  ): Promise<{ going: Going; parcel: ComparedParcel }> {
    const row = await this.parcels.parcel(this.db, no);
    if (!row) throw new NotHere(`The parcel PA-${no}`);
    const { from, to, size, weightMg } = this.rating.told(row, ground);
    const going: Going = {
      title: `PA-${no}, ${row.channelNumber}`,
      order: null,
      parcel: `PA-${no}`,
      from,
      to,
      promised: row.promised,
      paidMinor: row.shippingMinor,
      paidCurrency: row.currency,
    };
    return {
      going,
      parcel: {
        box: row.boxName,
        boxCode: row.boxCode,
        boxMinor: 0,
        size,
        weightMg,
        contents: [],
        placed: [],
      },
    };
  }

  private quoted(ground: PriceGround, about: Extract<CompareAsk['about'], { kind: 'quote' }>) {
    const { size, weightMg, residential } = about;
    const going: Going = {
      title: 'A parcel without an order',
      order: null,
      parcel: null,
      from: ground.from,
      to: { postcode: about.postcode, country: about.country, residential, lines: [] },
      promised: null,
      paidMinor: 0,
      paidCurrency: ground.house,
    };
    return {
      going,
      parcel: { box: null, boxCode: null, boxMinor: 0, size, weightMg, contents: [], placed: [] },
    };
  }

  private async ofOrder(ground: PriceGround, id: string, options: ServiceOptions): Promise<CompareView> {
    const order = await orderToSend(this.db, id);
    if (!order) throw new NotHere('This order');
    const { pieces, named, guessed } = await this.pieces(id);
    if (pieces.length === 0)
      throw new Forbidden(
        `${order.channelNumber} has nothing that is to be sent.`,
        'Link its listings to products first.',
      );
    const boxes = await this.catalog.boxes(this.db);
    const { padding, parcelCostMinor } = await this.kinds.choices(this.db);
    const usual = planBoxes(boxes, pieces, {
      cost: b => parcelCostMinor + b.priceMinor,
      padding,
      steps: STEPS,
    });
    if (usual.unplaced.length > 0)
      throw new Forbidden(
        `${named.get(usual.unplaced[0]!.id)?.name ?? 'A product'}: ${usual.unplaced[0]!.why}`,
        'Add a box that takes it under Setup > Boxes.',
      );
    const chosen = order.chosen ? fromJson<ChosenService>(order.chosen) : null;
    const going: Going = {
      title: `${order.channelNumber}, OR-${order.no}`,
      order: {
        id,
        no: `OR-${order.no}`,
        chosen: chosen && `${chosen.carrier} ${chosen.account} ${chosen.service}`,
      },
      parcel: null,
      from: ground.from,
      to: whereto(fromJson<Address>(order.shipTo)),
      promised: order.promised,
      paidMinor: order.shippingMinor,
      paidCurrency: order.currency,
    };
    const set = new ParcelSet(named);
    const first = set.add(usual.parcels);
    const ways = waysBySheet(ground, going, options);
    const rows = ways.map(({ way, ...price }): Row => {
      const { parcels, unplaced } = chooseTogether(boxes, pieces, [{ way, ...price }], {
        padding,
        steps: STEPS,
      });
      const own = unplaced.length === 0 && parcels.length > 0 ? set.add(parcels) : first;
      return { ...way, parcels: own };
    });
    const inTime = ways.filter(w => going.promised === null || w.way.arrives <= going.promised);
    const together = chooseTogether(boxes, pieces, inTime.length > 0 ? inTime : ways, {
      padding,
      steps: STEPS,
    });
    const both =
      together.unplaced.length === 0 && together.parcels.length > 0
        ? { parcels: together.parcels, at: set.add(together.parcels), proven: together.proven }
        : null;
    return this.table(ground, going, set.parcels, rows, options, both, guessed, first);
  }

  /** The pieces of an order as boxes are planned with them; what has no size or weight is guessed and named. */
  private async pieces(orderId: string) {
    const parts = await partsToSend(this.db, orderId);
    const ids = parts.map(p => p.productId);
    const products = await this.catalog.withParts(this.db, ids);
    const unsized = ids.filter(id => !products.get(id)!.size);
    const measured = unsized.length > 0 ? await this.measures.sizes(this.db, unsized) : new Map();
    const guessed: string[] = [];
    const pieces = parts.map(({ productId, quantity }): Piece => {
      const product = products.get(productId)!;
      const piece = pieceOf(product, measured.get(productId) ?? null);
      if (!piece.size || piece.weightMg === 0) guessed.push(product.sku);
      return {
        ...piece,
        id: productId,
        quantity,
        size: piece.size ?? GUESS.size,
        weightMg: piece.weightMg || GUESS.weightMg,
      };
    });
    return { pieces, named: products, guessed };
  }

  /** Asks for all prices that are needed, and makes the table of them. */
  private async table(
    ground: PriceGround,
    going: Going,
    parcels: ComparedParcel[],
    planned: Row[],
    options: ServiceOptions,
    both: Together | null,
    guessed: string[],
    usual: number[] = [0],
  ): Promise<CompareView> {
    const { from, to } = going;
    const priced = await Promise.all(
      parcels.map(({ size, weightMg }) => this.prices.of(ground, { from, to, size, weightMg }, options)),
    );
    const paidMinor = convert(going.paidMinor, going.paidCurrency, ground.house, ground.rates, ground.house);
    const prices = priced.map(p => p.priced);
    const rows = comparedRows(ground, planned, {
      prices,
      parcels,
      paidMinor,
      usual,
      promised: going.promised,
    });
    return {
      title: going.title,
      order: going.order,
      parcel: going.parcel,
      to: [to.postcode, to.country, to.residential ? 'home' : 'company'].join(' '),
      currency: ground.house,
      promised: going.promised,
      paidMinor: going.paidMinor === 0 && !going.order && !going.parcel ? null : paidMinor,
      parcels,
      guessed,
      rows,
      together:
        both &&
        togetherOf(
          both,
          prices,
          parcels,
          rows.find(r => r.usual),
        ),
      dropped: unique(
        priced.flatMap(p => p.dropped).filter(d => !rows.some(r => r.carrierName === d.carrierName)),
      ),
      silent: unique(priced.flatMap(p => p.silent)),
    };
  }
}
