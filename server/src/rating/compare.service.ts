import { type CompareAsk, type ComparedParcel, type CompareView, type ServiceOptions } from '@auk/contract';
import { type Address, type Box, type BoxPlan, chooseTogether, convert, planBoxes } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { Db, fromJson } from '../database/db.js';
import { Forbidden, NotHere } from '../http/problem.js';
import { ParcelsQueries } from '../parcels/parcels.module.js';
import { Boxes, CatalogService } from '../products/products.module.js';
import { wantedOf } from '../records/records.module.js';
import { asksOf } from './asks.js';
import { orderToSend } from './compare.queries.js';
import { comparedRows, ParcelSet, type Row, type Together, togetherOf, unique } from './compareTable.js';
import { PiecesOfOrders } from './orderPieces.service.js';
import { type PricedParcel, type PriceGround, Prices } from './prices.service.js';
import { latinOf, RatingService, whereto } from './rating.service.js';
import { waysBySheet } from './waysBySheet.js';

/** Steps that each question of a comparison may take; a dozen plans are made for one. */
const STEPS = 1500;
/** An order of more parcels is not compared as a whole: every way is planned and priced for each of them. */
const MOST_PARCELS = 40;

/** Where parcels go, and what they may cost. */
interface Going {
  title: string;
  order: CompareView['order'];
  parcel: string | null;
  to: PricedParcel['to'];
  latin?: string[];
  from: PricedParcel['from'];
  promised: string | null;
  paidMinor: number;
  paidCurrency: string;
  /** What the order itself asks of any service. */
  asks: ServiceOptions;
}

/** Refuses an order of which nobody knows a box, or that is too large to be compared as a whole. */
function mustBeComparable(
  number: string,
  usual: BoxPlan,
  named: ReadonlyMap<string, { name: string }>,
): void {
  const [unplaced] = usual.unplaced;
  if (unplaced)
    throw new Forbidden(
      `${named.get(unplaced.id)?.name ?? 'A product'}: ${unplaced.why}`,
      'Add a box that takes it under Setup > Boxes.',
    );
  if (usual.parcels.length > MOST_PARCELS)
    throw new Forbidden(
      `${number} fills ${usual.parcels.length} parcels; more than ${MOST_PARCELS} are not compared at once.`,
      'Split the order, or compare its parcels one by one when they are packed.',
    );
}

/** Where an order goes, what it may cost, and what it asks for. */
function goingOf(order: NonNullable<Awaited<ReturnType<typeof orderToSend>>>, ground: PriceGround): Going {
  const { service: chosen, options } = wantedOf(order);
  return {
    title: `${order.channelNumber}, OR-${order.no}`,
    order: {
      id: order.id,
      no: `OR-${order.no}`,
      chosen: chosen && `${chosen.carrier} ${chosen.account} ${chosen.service}`,
    },
    parcel: null,
    from: ground.from,
    to: whereto(fromJson<Address>(order.shipTo), ground.from.country, order.pickUpPoint),
    ...latinOf(order, ground.from.country),
    promised: order.promised,
    paidMinor: order.shippingMinor,
    paidCurrency: order.currency,
    asks: { ...asksOf({ ...order, seq: 1 }, ground), ...options },
  };
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
    private readonly pieces: PiecesOfOrders,
  ) {}

  async of({ about, options }: CompareAsk, now: Date): Promise<CompareView> {
    const ground = await this.prices.ground(this.db, now);
    if (about.kind === 'order') return this.ofOrder(ground, about.id, options);
    const { going, parcel } =
      about.kind === 'parcel'
        ? await this.closedParcel(ground, Number(about.no.slice(3)))
        : this.quoted(ground, about);
    return this.table(ground, going, [parcel], [], { ...going.asks, ...options }, null, []);
  }

  private async closedParcel(
    ground: PriceGround,
    no: number,
  ): Promise<{ going: Going; parcel: ComparedParcel }> {
    const row = await this.parcels.parcel(this.db, no);
    if (!row) throw new NotHere(`The parcel PA-${no}`);
    const { from, to, latin, size, weightMg, worthMinor } = this.rating.told(row, ground);
    const going: Going = {
      title: `PA-${no}, ${row.channelNumber}`,
      order: null,
      parcel: `PA-${no}`,
      from,
      to,
      ...(latin && { latin }),
      promised: row.promised,
      paidMinor: row.shippingMinor,
      paidCurrency: row.currency,
      asks: {
        ...asksOf(row, ground),
        ...wantedOf(row).options,
      },
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
        worthMinor,
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
      asks: {},
    };
    return {
      going,
      parcel: {
        box: null,
        boxCode: null,
        boxMinor: 0,
        size,
        weightMg,
        contents: [],
        worthMinor: null,
        placed: [],
      },
    };
  }

  private async ofOrder(ground: PriceGround, id: string, asked: ServiceOptions): Promise<CompareView> {
    const order = await orderToSend(this.db, id);
    if (!order) throw new NotHere('This order');
    const { orders, products: named } = await this.pieces.of(this.db, [id]);
    const { pieces, guessed } = orders.get(id) ?? { pieces: [], guessed: [] };
    if (pieces.length === 0)
      throw new Forbidden(
        `${order.channelNumber} has nothing that is to be sent.`,
        'Link its listings to products first.',
      );
    const boxes = await this.catalog.boxes(this.db);
    const { padding, parcelCostMinor } = await this.kinds.choices(this.db);
    const cost = (b: Box) => parcelCostMinor + b.priceMinor;
    const usual = planBoxes(boxes, pieces, { cost, padding, steps: STEPS });
    mustBeComparable(order.channelNumber, usual, named);
    const going = goingOf(order, ground);
    const options = { ...going.asks, ...asked };
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
    const { from, to, latin } = going;
    const priced = await Promise.all(
      parcels.map(({ size, weightMg, worthMinor }) =>
        this.prices.of(ground, { from, to, ...(latin && { latin }), size, weightMg, worthMinor }, options),
      ),
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
      asks: going.asks,
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
