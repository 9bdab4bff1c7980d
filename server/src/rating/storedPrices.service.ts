import { createHash } from 'node:crypto';
import type { ServiceOptions } from '@auk/contract';
import { type Address, type Box, type Piece, planBoxes, type RuledOffer } from '@auk/core';
import { Injectable } from '@nestjs/common';
import type { Sql } from '../database/db.js';
import { Boxes, CatalogService } from '../products/products.module.js';
import type { PriceGround } from './prices.service.js';
import { whereto } from './rating.service.js';
import { waysBySheet } from './waysBySheet.js';

/** An order as it is priced without asking anybody. */
export interface PricedOrder {
  pieces: readonly Piece[];
  shipTo: Address;
  pickUpPoint: string;
  options: ServiceOptions;
}

/** The boxes of an order when nobody chooses, as they matter for prices. */
interface UsualBoxes {
  parcels: { box: Box; weightMg: number }[];
  unplaced: number;
}

/** Steps that a plan of usual boxes may take, as in a comparison. */
const STEPS = 1500;
/** Plans that are remembered by this server; the oldest make way. */
const REMEMBERED = 20_000;

/**
 * Prices of orders by the rate sheets that are kept here; no carrier is asked. A plan of boxes depends on contents and boxes alone and
 * is remembered by them: orders that are alike are planned once.
 */
@Injectable()
export class StoredPrices {
  private readonly plans = new Map<string, UsualBoxes>();

  constructor(
    private readonly catalog: CatalogService,
    private readonly kinds: Boxes,
  ) {}

  /** A function that prices one order after another, by the boxes and sheets of now. House money; nothing for what does not fit any box. */
  async pricer(sql: Sql, ground: PriceGround): Promise<(order: PricedOrder) => RuledOffer[]> {
    const boxes = await this.catalog.boxes(sql);
    const { padding, parcelCostMinor } = await this.kinds.choices(sql);
    const how = digestOf([boxes, padding, parcelCostMinor]);
    return order => {
      const { parcels, unplaced } = this.usual(how, order.pieces, () =>
        planBoxes(boxes, order.pieces, { cost: b => parcelCostMinor + b.priceMinor, padding, steps: STEPS }),
      );
      if (unplaced > 0 || parcels.length === 0) return [];
      return offersFor(ground, order, parcels);
    };
  }

  private usual(
    how: string,
    pieces: readonly Piece[],
    plan: () => { parcels: readonly { box: Box; weightMg: number }[]; unplaced: readonly unknown[] },
  ): UsualBoxes {
    const key = `${how} ${digestOf(pieces)}`;
    const known = this.plans.get(key);
    if (known) return known;
    const { parcels, unplaced } = plan();
    const usual = {
      parcels: parcels.map(({ box, weightMg }) => ({ box, weightMg })),
      unplaced: unplaced.length,
    };
    if (this.plans.size >= REMEMBERED) this.plans.delete(this.plans.keys().next().value!);
    this.plans.set(key, usual);
    return usual;
  }
}

const digestOf = (of: unknown): string => createHash('sha1').update(JSON.stringify(of)).digest('base64');

function offersFor(
  ground: PriceGround,
  { shipTo, pickUpPoint, options }: PricedOrder,
  parcels: UsualBoxes['parcels'],
): RuledOffer[] {
  const to = whereto(shipTo, ground.from.country, pickUpPoint);
  return waysBySheet(ground, { from: ground.from, to }, options).flatMap(({ way, price }): RuledOffer[] => {
    const prices = parcels.map(p => price(p.box, p.weightMg));
    if (prices.includes(null)) return [];
    return [
      {
        service: serviceCode(way.serving.carrier.code, way.service, way.serving.account.number),
        minor: prices.reduce((sum: number, p) => sum + p!, 0),
        arrives: way.arrives,
      },
    ];
  });
}

/** A service as rules name it: its carrier, its code, and the account where it is not the house's own. */
export const serviceCode = (carrier: string, service: string, account: string): string =>
  [carrier, service, ...(account === '' ? [] : [account])].join(' ');
