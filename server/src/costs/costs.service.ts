import type { CostsQuery, CostsView } from '@auk/contract';
import { convert, costsByGroup, type ExchangeRates, isByVolume, whyLost } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { DateTime } from 'luxon';
import { Db, fromJson } from '../database/db.js';
import { HouseService } from '../house/house.module.js';
import { Forbidden } from '../http/problem.js';
import { MOST_LABELS, type SpentLabel, spentIn } from './costs.queries.js';

/** The span that is shown when nobody says which. */
const DAYS_SHOWN = 84;
const LOST_SHOWN = 100;

interface InHouse {
  label: SpentLabel;
  costMinor: number;
  paidMinor: number;
  charges: { name: string; minor: number }[];
}

/** What shipping cost, against what buyers paid for it. */
@Injectable()
export class Costs {
  constructor(
    private readonly db: Db,
    private readonly house: HouseService,
  ) {}

  async look(query: CostsQuery, now: Date): Promise<CostsView> {
    const { currency, zone } = await this.house.warehouse(this.db);
    const days = await this.house.days(this.db, now);
    const from = query.from ?? days.iso(-DAYS_SHOWN);
    const until = query.until ?? days.today;
    if (from > until) throw new Forbidden('The span ends before it begins.', 'Choose a later last day.');
    const labels = await spentIn(this.db, days.dated(from)[0], days.dated(until)[1]);
    if (labels.length === MOST_LABELS)
      throw new Forbidden(
        `More than ${MOST_LABELS} labels were bought in that span.`,
        'Choose a shorter one.',
      );
    const rates = await this.house.exchangeRates(this.db, days.today);
    const counted = labels.flatMap(l => inHouse(l, rates, currency) ?? []);
    const groupOf: Record<CostsQuery['by'], (l: SpentLabel) => string> = {
      week: l => DateTime.fromJSDate(l.at, { zone }).startOf('week').toISODate()!,
      carrier: l => l.carrierName,
      service: l => `${l.carrierName}, ${l.serviceName}`,
      zone: l => (l.zone ? `${l.carrierName}, zone ${l.zone}` : `${l.carrierName}, no zone`),
      channel: l => l.channel,
    };
    return {
      currency,
      from,
      until,
      groups: costsByGroup(
        counted.map(c => ({
          orderId: c.label.orderId,
          group: groupOf[query.by](c.label),
          costMinor: c.costMinor,
          paidMinor: c.paidMinor,
          back: !!c.label.back,
        })),
      ),
      lost: lost(counted, currency),
      uncounted: labels.length - counted.length,
    };
  }
}

/** A label in house money; null where a rate is missing. */
function inHouse(label: SpentLabel, rates: ExchangeRates, house: string): InHouse | null {
  const costMinor = convert(label.minor, label.currency, house, rates, house);
  const paidMinor = convert(label.shippingMinor, label.orderCurrency, house, rates, house);
  if (costMinor === null || paidMinor === null) return null;
  const charges = label.charges ? fromJson<InHouse['charges']>(label.charges) : [];
  return {
    label,
    costMinor,
    paidMinor,
    charges: charges.map(c => ({ ...c, minor: convert(c.minor, label.currency, house, rates, house)! })),
  };
}

/** Orders whose parcels cost more than was paid, the worst first. */
function lost(counted: readonly InHouse[], currency: string): CostsView['lost'] {
  const orders = new Map<string, InHouse[]>();
  for (const c of counted) orders.set(c.label.orderId, [...(orders.get(c.label.orderId) ?? []), c]);
  return [...orders.values()]
    .map(of => {
      const { label, paidMinor } = of[0]!;
      const first = of.flatMap(c => c.charges.slice(0, 1));
      const parcels = of.filter(c => !c.label.back).length;
      const facts = {
        paidMinor,
        parcels,
        back: parcels < of.length,
        byVolume: of.some(c => isByVolume(c.label.billable ?? '')),
        charges: [...first.slice(0, 1), ...of.flatMap(c => c.charges.slice(1))],
      };
      return {
        order: label.number,
        orderId: label.orderId,
        parcels,
        carrierName: label.carrierName,
        service: label.serviceName,
        costMinor: of.reduce((n, c) => n + c.costMinor, 0),
        paidMinor,
        why: whyLost(facts, currency),
      };
    })
    .filter(o => o.costMinor > o.paidMinor)
    .sort((a, b) => b.costMinor - b.paidMinor - (a.costMinor - a.paidMinor) || a.order.localeCompare(b.order))
    .slice(0, LOST_SHOWN);
}
