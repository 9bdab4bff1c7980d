import { count } from '../text.js';

/** How a shipment may go: over which network, to one dock or spread, as parcels or pallets, and by whose carrier at whose rates. */
export interface Way {
  network: string;
  placement: 'one dock' | 'spread';
  form: 'parcels' | 'pallets';
  carrier: string;
  /** At the network's rates, or at the house's own. */
  rates: 'theirs' | 'ours';
}

/** What one way costs (minor units of the house's currency) and takes: minutes of our own work, days until its goods are on sale. */
export interface WayFacts extends Way {
  feeMinor: number;
  preparationMinor: number;
  freightMinor: number;
  materialMinor: number;
  storageMinor: number;
  minutes: number;
  days: number;
}

/** What is known of the sale of one product there: units a day and what each earns (minor units); null where nobody knows. */
export interface SaleFacts {
  ratePerDay: number | null;
  earnsMinor: number | null;
  /** What lies there now, and what comes with this shipment. */
  there: number;
  units: number;
}

/** A way with its sum, what it costs a unit, and what is lost while the center has nothing to sell until it arrives. */
export interface ComparedWay extends WayFacts {
  sumMinor: number;
  /** Minor units; not rounded. */
  perUnit: number;
  lostMinor: number;
  /** What it is better by than the slowest way, in sales that are not lost. */
  soonerMinor: number;
  totalMinor: number;
  best: boolean;
  /** Why it stands before one that is as dear; empty where none is. */
  says: string;
}

/** The table of ways, the best by its total first. `unknown` is how many products have no known sales: nothing is counted for them. */
export interface WaysTable {
  ways: ComparedWay[];
  unknown: number;
}

/**
 * What is not sold while a product is out of stock until a shipment arrives in so many days, in minor units: only the days after the stock
 * there is sold count, and never more units than are sent. Null where its sales or what it earns is not known. Example: 10 there at 2 a day
 * last 5 days; arriving on day 9 loses 4 days, 8 units.
 */
export function lostUntil({ ratePerDay, earnsMinor, there, units }: SaleFacts, days: number): number | null {
  if (ratePerDay === null || earnsMinor === null) return null;
  if (ratePerDay <= 0) return 0;
  const out = Math.max(0, days - there / ratePerDay);
  return Math.round(Math.min(out * ratePerDay, units) * earnsMinor);
}

/** Puts ways beside each other: the least total (what it costs and what is lost) first; of equal ones the sooner, then the one with less work. */
export function compareWays(ways: readonly WayFacts[], sales: readonly SaleFacts[]): WaysTable {
  const units = sales.reduce((n, s) => n + s.units, 0);
  const lost = (days: number) => sales.reduce((n, s) => n + (lostUntil(s, days) ?? 0), 0);
  const slowest = Math.max(0, ...ways.map(w => w.days));
  const compared = ways
    .map((w): ComparedWay => {
      const sumMinor = w.feeMinor + w.preparationMinor + w.freightMinor + w.materialMinor + w.storageMinor;
      const lostMinor = lost(w.days);
      return {
        ...w,
        sumMinor,
        perUnit: units === 0 ? 0 : sumMinor / units,
        lostMinor,
        soonerMinor: lost(slowest) - lostMinor,
        totalMinor: sumMinor + lostMinor,
        best: false,
        says: '',
      };
    })
    .sort((a, b) => a.totalMinor - b.totalMinor || a.days - b.days || a.minutes - b.minutes);
  const [first, second] = compared;
  if (first) compared[0] = { ...first, best: true, says: second ? tied(first, second) : '' };
  return { ways: compared, unknown: sales.filter(s => lostUntil(s, 0) === null).length };
}

function tied(first: ComparedWay, second: ComparedWay): string {
  if (first.totalMinor !== second.totalMinor) return '';
  const other = `as dear as ${second.carrier}, ${second.placement}, ${second.form}`;
  if (first.days !== second.days) return `${other}; ${count(second.days - first.days, 'day')} sooner`;
  if (first.minutes !== second.minutes)
    return `${other}; ${count(second.minutes - first.minutes, 'minute')} less work`;
  return `${other}, and neither is sooner or less work`;
}
