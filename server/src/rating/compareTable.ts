import type { ComparedParcel, ComparedService, CompareView } from '@auk/contract';
import { type PlannedParcel, rankOffers, type SentParcel } from '@auk/core';
import type { ServingAccount } from '../carriers/carriers.module.js';
import { type Priced, type PriceGround } from './prices.service.js';
import type { Way } from './waysBySheet.js';

/** A service with its parcels, as indexes into all parcels that are compared. */
export interface Row {
  serving: ServingAccount;
  service: string;
  name: string;
  parcels: number[];
}

/** Boxes and services that were chosen together, and where their parcels stand among all. */
export interface Together {
  parcels: SentParcel<Way>[];
  at: number[];
  proven: boolean;
}

/** What rows are made from: prices of each parcel, what the buyer paid in house money, and the parcels that are taken when nobody chooses. */
export interface TableGround {
  prices: Priced[][];
  parcels: readonly ComparedParcel[];
  paidMinor: number | null;
  usual: readonly number[];
  promised: string | null;
}

/** All parcels of a comparison, each kind once: a box with one weight is priced once. */
export class ParcelSet {
  readonly parcels: ComparedParcel[] = [];

  constructor(
    private readonly products: ReadonlyMap<
      string,
      { sku: string; name: string; facts: Readonly<Record<string, unknown>> }
    >,
  ) {}

  /** Where each of some planned parcels stands; new ones are added. */
  add(planned: readonly PlannedParcel[]): number[] {
    return planned.map(p => {
      const contents = this.contentsOf(p);
      const made: ComparedParcel = {
        box: p.box.name,
        boxCode: p.box.code,
        boxMinor: p.box.priceMinor,
        size: p.box.inner,
        weightMg: p.weightMg,
        contents,
        worthMinor: this.worthOf(p),
        placed: p.placed.map(({ piece, x, y, z, size }) => ({
          sku: this.products.get(piece.id)!.sku,
          x,
          y,
          z,
          size,
        })),
      };
      const at = this.parcels.findIndex(q => sameParcel(q, made));
      return at === -1 ? this.parcels.push(made) - 1 : at;
    });
  }

  private worthOf({ placed }: PlannedParcel): number | null {
    const values = placed.map(({ piece }) => this.products.get(piece.id)!.facts.valueMinor);
    return values.every(v => typeof v === 'number') ? values.reduce((n, v) => n + v, 0) : null;
  }

  private contentsOf({ placed }: PlannedParcel): ComparedParcel['contents'] {
    const counts = new Map<string, number>();
    for (const { piece } of placed) counts.set(piece.id, (counts.get(piece.id) ?? 0) + 1);
    return [...counts]
      .map(([id, quantity]) => {
        const { sku, name } = this.products.get(id)!;
        return { sku, name, quantity };
      })
      .sort((a, b) => a.sku.localeCompare(b.sku));
  }
}

/** Alike in box, weight and contents, however the pieces lie. */
const sameParcel = (a: ComparedParcel, b: ComparedParcel): boolean =>
  a.box === b.box && a.weightMg === b.weightMg && JSON.stringify(a.contents) === JSON.stringify(b.contents);

const keyOf = (serving: ServingAccount, service: string): string =>
  `${serving.carrier.code} ${serving.account.number} ${service}`;

/** Every service that takes the usual parcels, with those. */
function rowsOfUsual({ prices, usual }: TableGround): Row[] {
  return (prices[usual[0]!] ?? []).map(p => ({
    serving: p.serving,
    service: p.quote.service,
    name: p.quote.name,
    parcels: [...usual],
  }));
}

/**
 * The rows as they are shown, in the order of choice: each service with the boxes that are best for it, those of which nobody knows the
 * rates beforehand with the usual boxes, and what is taken when nobody chooses, the cheapest label in time for the usual boxes. Without
 * those that do not take every one of their parcels.
 */
export function comparedRows(
  ground: PriceGround,
  planned: readonly Row[],
  table: TableGround,
): ComparedService[] {
  const compared = (rows: readonly Row[]) =>
    ranked(
      rows.flatMap(row => comparedRow(ground, row, table) ?? []),
      table.promised,
    );
  const withUsual = compared(rowsOfUsual(table));
  const best = new Map(compared(planned).map(c => [nameOf(c), c]));
  for (const c of withUsual) if (!best.has(nameOf(c))) best.set(nameOf(c), c);
  const rows = [...best.values()];
  const [usual] = withUsual;
  const same = rows.find(c => usual && nameOf(c) === nameOf(usual) && boxesOf(c) === boxesOf(usual));
  if (usual && !same) rows.push(usual);
  return ranked(rows, table.promised).map(c => ({
    ...c,
    usual: usual !== undefined && nameOf(c) === nameOf(usual) && boxesOf(c) === boxesOf(usual),
  }));
}

const nameOf = (c: ComparedService): string => `${c.carrier} ${c.account.number} ${c.service}`;
const boxesOf = (c: ComparedService): string => c.parcels.map(p => p.parcel).join();
const ranked = (rows: readonly ComparedService[], promised: string | null): ComparedService[] =>
  rankOffers(rows, promised);

function comparedRow(
  ground: PriceGround,
  { serving, service, name, parcels }: Row,
  { prices, parcels: all, paidMinor }: TableGround,
): ComparedService | null {
  const found = parcels.map(parcel => ({
    parcel,
    priced: prices[parcel]!.find(p => keyOf(p.serving, p.quote.service) === keyOf(serving, service)),
  }));
  if (found.length === 0 || found.some(f => !f.priced)) return null;
  const quotes = found.map(f => ({ parcel: f.parcel, quote: f.priced!.quote }));
  const house = found.map(f => f.priced!.houseMinor);
  const houseMinor = house.includes(null) ? null : house.reduce((n: number, m) => n + m!, 0);
  const boxesMinor = parcels.reduce((n, p) => n + all[p]!.boxMinor, 0);
  const latest = quotes.reduce((a, b) => (b.quote.arrives > a.quote.arrives ? b : a)).quote;
  return {
    carrier: serving.carrier.code,
    carrierName: serving.carrier.name,
    account: { number: serving.account.number, name: serving.account.name },
    service,
    name,
    parcels: quotes,
    labelMinor: quotes.reduce((n, q) => n + q.quote.minor, 0),
    currency: latest.currency,
    houseMinor,
    boxesMinor,
    // Without a rate nobody can say what it costs; it stands last.
    minor: houseMinor === null ? Number.MAX_SAFE_INTEGER : houseMinor + boxesMinor,
    marginMinor: houseMinor === null || paidMinor === null ? null : paidMinor - houseMinor,
    collected: ground.collected(serving.carrier.code),
    arrives: latest.arrives,
    days: latest.days,
    keeps: false,
    cheapest: false,
    fastest: false,
    usual: false,
  };
}

/** What was chosen together, at the prices that were asked; null when it saves nothing against what is usual, or a carrier does not answer for it. */
export function togetherOf(
  { parcels, at, proven }: Together,
  prices: Priced[][],
  all: readonly ComparedParcel[],
  usual: ComparedService | undefined,
): CompareView['together'] {
  if (!usual) return null;
  const sent = parcels.map(({ way }, i) => ({
    parcel: at[i]!,
    way,
    quote: prices[at[i]!]!.find(p => keyOf(p.serving, p.quote.service) === keyOf(way.serving, way.service)),
  }));
  if (sent.some(s => s.quote?.houseMinor == null)) return null;
  const minor = sent.reduce((n, s) => n + s.quote!.houseMinor! + all[s.parcel]!.boxMinor, 0);
  const savesMinor = usual.minor - minor;
  if (savesMinor <= 0) return null;
  return {
    parcels: sent.map(s => ({
      parcel: s.parcel,
      carrierName: s.way.serving.carrier.name,
      name: s.way.name,
      minor: s.quote!.houseMinor!,
    })),
    minor,
    savesMinor,
    proven,
  };
}

/** Each entry once. */
export const unique = <T>(all: readonly T[]): T[] => [
  ...new Map(all.map(one => [JSON.stringify(one), one])).values(),
];
