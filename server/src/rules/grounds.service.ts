import {
  type Address,
  convert,
  group,
  type RuledOffer,
  type RuledTemplate,
  type RunGround,
  remembered,
} from '@auk/core';
import { Injectable } from '@nestjs/common';
import { DateTime } from 'luxon';
import { fromJson, type Sql } from '../database/db.js';
import { HouseService } from '../house/house.module.js';
import {
  ParcelTemplates,
  PiecesOfOrders,
  type PriceGround,
  RatingService,
  StoredPrices,
  serviceCode,
} from '../rating/rating.module.js';
import { wantedOf } from '../records/records.module.js';
import { type RuledHead, ruledHeads, ruledLines, ruledParts, ruledTags } from './ground.queries.js';
import { type Around, lineFacts, orderFacts } from './orderFacts.js';

/** What a book is run with for one order, as it is stored with the outcome. */
export interface OrderGround extends RunGround {
  orderId: string;
  number: string;
  buyer: string;
  stage: RuledHead['stage'];
  /** Its lines by their keys, as the facts of lines stand. */
  keys: { key: string; quantity: number }[];
  /** What is decided for it now. */
  head: RuledHead;
  /** What its products prefer, each word once with the first that says it. */
  prefers: readonly Preference[];
}

/** A product's word for its service or box, and the product. */
export interface Preference {
  field: 'service' | 'box';
  value: string;
  by: string;
}

const NO_PIECES = { pieces: [], guessed: [] };

/** Reads what rules are run with. Many orders take few statements; prices are those of the sheets kept here, and no carrier is asked. */
@Injectable()
export class RuleGrounds {
  constructor(
    private readonly house: HouseService,
    private readonly rating: RatingService,
    private readonly pieces: PiecesOfOrders,
    private readonly prices: StoredPrices,
    private readonly templates: ParcelTemplates,
  ) {}

  /** Parcel templates by their names, as rules use them. */
  async templatesByName(sql: Sql): Promise<Map<string, RuledTemplate>> {
    const all = await this.templates.list(sql);
    return new Map(
      all.map(t => [
        t.name,
        {
          service: serviceCode(t.carrier, t.service, t.account),
          box: t.box,
          signature: t.options.signature === true,
          declare: t.options.insured === true ? true : (t.options.valueMinor ?? null),
        },
      ]),
    );
  }

  /** The ground of each order, in the order asked; without prices where nobody wants them. */
  async of(sql: Sql, orderIds: readonly string[], now: Date, priced: boolean): Promise<OrderGround[]> {
    if (orderIds.length === 0) return [];
    const heads = new Map((await ruledHeads(sql, orderIds)).map(h => [h.id, h]));
    const lines = group(await ruledLines(sql, orderIds), l => l.orderId);
    const parts = group(await ruledParts(sql, orderIds), p => p.lineId);
    const tags = group(await ruledTags(sql, orderIds), t => t.orderId);
    const { orders: pieces, products } = await this.pieces.of(sql, orderIds);
    const missing = [...lines.values()]
      .flat()
      .flatMap(l => (l.productId && !products.has(l.productId) ? l.productId : []));
    for (const [id, p] of await this.pieces.products(sql, missing)) products.set(id, p);
    const ground = await this.rating.ground(sql, now);
    const endOf = remembered((day: string) =>
      DateTime.fromISO(day, { zone: ground.zone }).endOf('day').toJSDate(),
    );
    const price = priced ? await this.prices.pricer(sql, ground) : null;
    return orderIds.flatMap((id): OrderGround[] => {
      const head = heads.get(id);
      if (!head) return [];
      const around: Around = {
        lines: (lines.get(id) ?? []).map(l => ({ ...l, parts: parts.get(l.id) ?? [] })),
        tags: (tags.get(id) ?? []).map(t => t.tag),
        products,
        pieces: pieces.get(id) ?? NO_PIECES,
        home: ground.from.country,
        house: ground.house,
        endOf,
        rates: ground.rates,
        now,
        service: chosenByHand(head),
      };
      return [
        {
          orderId: id,
          number: head.channelNumber,
          buyer: head.buyer,
          stage: head.stage,
          keys: (lines.get(id) ?? []).map(l => ({ key: l.lineKey, quantity: l.quantity })),
          head,
          prefers: prefersOf(around),
          facts: orderFacts(head, around),
          lines: lineFacts(around),
          offers: price && this.offers(head, around, ground, price),
          promised: head.promised,
        },
      ];
    });
  }

  currency(sql: Sql): Promise<string> {
    return this.house.warehouse(sql).then(w => w.currency);
  }

  private offers(
    head: RuledHead,
    { pieces }: Around,
    ground: PriceGround,
    price: (o: Parameters<Awaited<ReturnType<StoredPrices['pricer']>>>[0]) => RuledOffer[],
  ): RuledOffer[] {
    const due = head.payment === 'on delivery' ? head.totalMinor - head.paidMinor : 0;
    const cashMinor = due > 0 ? convert(due, head.currency, ground.house, ground.rates, ground.house) : 0;
    return price({
      pieces: pieces.pieces,
      shipTo: fromJson<Address>(head.shipTo),
      pickUpPoint: head.pickUpPoint,
      options: { ...(head.pickUpPoint !== '' && { toPoint: true }), ...(cashMinor && { cashMinor }) },
    });
  }
}

function prefersOf({ lines, products }: Pick<Around, 'lines' | 'products'>): Preference[] {
  const sent = lines.flatMap(l => l.parts).flatMap(p => products.get(p.productId) ?? []);
  const all = sent.flatMap(({ name, facts }) =>
    (['service', 'box'] as const).flatMap((field): Preference[] => {
      const value = facts[field];
      return typeof value === 'string' && value.trim() !== ''
        ? [{ field, value: value.trim(), by: name }]
        : [];
    }),
  );
  return all.filter((p, i) => all.findIndex(q => q.field === p.field && q.value === p.value) === i);
}

/** The service that a person chose; rules see it as it stands before they run. */
function chosenByHand(head: RuledHead): string | null {
  const { service } = wantedOf({ chosen: head.chosen, ruled: null });
  return service && serviceCode(service.carrier, service.service, service.account);
}
