import type { ChosenWay, NetworkRules } from '@auk/contract';
import {
  type CodeCheck,
  checkCode,
  factsLacking,
  type LackingFact,
  type Preparation,
  type PreparationRule,
  preparationsOf,
  type SendProposal,
  type ToPrepare,
  unitsToSend,
} from '@auk/core';
import { Injectable } from '@nestjs/common';
import { Db, fromJson, type Sql, type Tx } from '../database/db.js';
import { Centers } from '../elsewhere/elsewhere.module.js';
import { daysAround, HouseService } from '../house/house.module.js';
import { Busy, TooLate } from '../http/problem.js';
import { CatalogService, type Product } from '../products/products.module.js';
import { HOUSE_CHANNELS } from '../records/records.module.js';
import { freeUnits, onTheWay, soldSince } from './inbound.queries.js';
import { InboundLine } from './inboundLine.entity.js';
import { InboundPart } from './inboundPart.entity.js';
import type { InboundShipment } from './inboundShipment.entity.js';
import { inHouseMoney, shipmentBy } from './shipments.js';

/** Days of sales by which it is judged how much is sold. */
const SALES_DAYS = 42;

/** A line with all that is known of it. */
export interface LoadedLine {
  line: InboundLine;
  product: Product;
  /** Units of a case by its code; null where it has none. */
  caseOf: number | null;
  free: number;
  /** Of what is free, units that expire too soon for the network. */
  soon: number;
  there: number;
  onTheWay: number;
  ratePerDay: number | null;
  earnsMinor: number | null;
  proposal: SendProposal;
  code: CodeCheck | null;
  needs: PreparationRule[];
  lacking: LackingFact[];
  refused: string | null;
}

/** A shipment with its lines and parts, and the rules of its network in the house's currency. */
export interface Loaded {
  shipment: InboundShipment;
  lines: LoadedLine[];
  parts: InboundPart[];
  rules: NetworkRules | null;
  silent: string | null;
  currency: string;
  /** ISO day until which lots must last. */
  lasts: string;
}

/** Reads all that a shipment is judged by. */
@Injectable()
export class InboundLoading {
  constructor(
    private readonly db: Db,
    private readonly centers: Centers,
    private readonly house: HouseService,
    private readonly catalog: CatalogService,
  ) {}

  async load(sql: Sql, no: string): Promise<Loaded> {
    const shipment = await shipmentBy(sql, no);
    const lines = await sql
      .of(InboundLine)
      .find({ where: { shipmentId: shipment.id }, order: { id: 'ASC' } });
    const parts = await sql
      .of(InboundPart)
      .find({ where: { shipmentId: shipment.id }, order: { seq: 'ASC' } });
    const told = await this.centers.rules(shipment.network);
    const { zone, currency } = await this.house.warehouse(sql);
    const days = daysAround(new Date(), zone);
    const rules =
      told.rules && inHouseMoney(told.rules, currency, await this.house.exchangeRates(sql, days.today));
    const silent = told.rules && !rules ? `No rate is known for ${told.rules.currency}.` : told.silent;
    const way = shipment.way ? fromJson<ChosenWay>(shipment.way) : null;
    // Goods must last so long when they are there.
    const lasts = days.iso((rules?.leastShelfDays ?? 0) + (way?.days ?? 0));
    const loaded = await this.lines(sql, shipment, lines, { rules, currency, lasts });
    return { shipment, lines: loaded, parts, rules, silent, currency, lasts };
  }

  /** Rules of the other networks that take all of it, in the house's currency. */
  async others({ shipment, lines, currency }: Loaded): Promise<{ name: string; rules: NetworkRules }[]> {
    const { zone } = await this.house.warehouse(this.db);
    const rates = await this.house.exchangeRates(this.db, daysAround(new Date(), zone).today);
    const found: { name: string; rules: NetworkRules }[] = [];
    for (const { name } of await this.centers.list()) {
      if (name === shipment.network) continue;
      const { rules: told } = await this.centers.rules(name);
      const rules = told && inHouseMoney(told, currency, rates);
      const takes = (l: LoadedLine) => !rules?.refuses.some(r => l.product.facts[r.fact] === true);
      if (rules && lines.every(takes)) found.push({ name, rules });
    }
    return found;
  }

  private async lines(
    sql: Sql,
    shipment: InboundShipment,
    lines: readonly InboundLine[],
    { rules, currency, lasts }: { rules: NetworkRules | null; currency: string; lasts: string },
  ): Promise<LoadedLine[]> {
    if (lines.length === 0) return [];
    const ids = lines.map(l => l.productId);
    const products = await this.catalog.products(sql, ids);
    const since = new Date(Date.now() - SALES_DAYS * 86_400_000);
    const sold = new Map(
      (await soldSince(sql, ids, since, HOUSE_CHANNELS, currency)).map(r => [r.productId, r]),
    );
    const free = new Map((await freeUnits(sql, ids, lasts)).map(r => [r.productId, r]));
    const coming = new Map((await onTheWay(sql, shipment.network)).map(r => [r.productId, r.units]));
    const there = await this.there(shipment.network);
    return lines.map((line): LoadedLine => {
      const product = products.get(line.productId)!;
      const sale = sold.get(line.productId);
      const value = product.facts.valueMinor;
      const own = product.codes.map(c => ({ code: c.code, units: c.units }));
      const caseOf = Math.max(0, ...own.filter(c => c.units > 1).map(c => c.units)) || null;
      const lies = free.get(line.productId);
      const soon = Math.max(0, lies?.soon ?? 0);
      const known = {
        ratePerDay: sale ? sale.units / SALES_DAYS : null,
        there: there.get(product.sku) ?? 0,
        onTheWay: coming.get(line.productId) ?? 0,
        free: Math.max(0, (lies?.free ?? 0) - soon),
      };
      const asked = toPrepare(product);
      return {
        line,
        product,
        caseOf,
        soon,
        ...known,
        earnsMinor:
          sale?.eachMinor != null && typeof value === 'number'
            ? Math.max(0, Math.round(sale.eachMinor - value))
            : null,
        proposal: unitsToSend({ ...known, weeks: shipment.weeks, perCase: line.perCase }),
        code: line.askedAt ? checkCode(own, line.scans) : null,
        needs: rules ? preparationsOf(asked, rules.preparation) : [],
        lacking: factsLacking(asked, { abroad: shipment.source === 'abroad' }),
        refused: rules?.refuses.find(r => product.facts[r.fact] === true)?.why ?? null,
      };
    });
  }

  /** What lies at the network, by SKU; nothing while it is silent. */
  private async there(network: string): Promise<Map<string, number>> {
    const answer = await this.centers.stockAt(network);
    return new Map(answer.map(r => [r.code, r.units]));
  }
}

/** The rules of its network; without them nothing is planned. */
export function mustBeKnown({
  rules,
  silent,
  shipment,
}: Pick<Loaded, 'rules' | 'silent' | 'shipment'>): NetworkRules {
  if (!rules)
    throw new Busy(
      silent ?? `${shipment.network} has not told what it wants yet.`,
      'Try again in a minute, or look at its address under Receiving.',
    );
  return rules;
}

/** What of a shipment itself its ways hang on. */
const JUDGED_BY = ['network', 'source', 'storage', 'handing', 'door'] as const;

/** What was judged or asked before the shipment was locked must still be what goes, and where. */
export async function mustBeAsLoaded(
  tx: Tx,
  now: InboundShipment,
  { shipment, lines }: Loaded,
): Promise<void> {
  const known = new Map(lines.map(({ line }) => [line.id, line]));
  const present = await tx.of(InboundLine).findBy({ shipmentId: now.id });
  const same =
    JUDGED_BY.every(k => now[k] === shipment[k]) &&
    present.length === known.size &&
    present.every(l => known.get(l.id)?.units === l.units && known.get(l.id)?.perCase === l.perCase);
  if (!same)
    throw new TooLate(
      'Somebody changed the shipment meanwhile.',
      'Look at it again, then repeat the change.',
    );
}

/** A product as preparation looks at it. */
export const toPrepare = ({ sku, facts, size, weightMg }: Product): ToPrepare => ({
  sku,
  facts,
  size,
  weightMg: weightMg ?? 0,
});

/** What of a line's preparation is done by us: all of it, or what the network does not do. */
export const oursOf = ({ line, needs }: LoadedLine): Preparation[] =>
  needs.filter(n => line.preparedBy === 'us' || n.feeMinor === null).map(n => n.needs);
