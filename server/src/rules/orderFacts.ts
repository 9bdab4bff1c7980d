import {
  type Address,
  convert,
  type ExchangeRates,
  type Fact,
  type LineFacts,
  type OrderFacts,
  PRODUCT_FACTS,
} from '@auk/core';
import { fromJson } from '../database/db.js';
import type { Product } from '../products/products.module.js';
import type { OrderPieces } from '../rating/rating.module.js';
import type { RuledHead } from './ground.queries.js';

/** What is known of an order beside its head. */
export interface Around {
  lines: { productId: string | null; quantity: number; parts: { productId: string; quantity: number }[] }[];
  tags: string[];
  products: ReadonlyMap<string, Product>;
  pieces: OrderPieces;
  home: string;
  house: string;
  /** The end of an ISO day in the warehouse's zone. */
  endOf: (day: string) => Date;
  rates: ExchangeRates;
  now: Date;
  service: string | null;
}

const FLAGS = PRODUCT_FACTS.filter(f => f.kind === 'flag');

/** What a product is: the words of the facts that are yes. */
const propertiesOf = (p: Product): string[] => FLAGS.filter(f => p.facts[f.key] === true).map(f => f.words);

const textOf = (value: unknown): string | null => (typeof value === 'string' && value !== '' ? value : null);
const minutesTo = (then: Date, now: Date): number => Math.round((then.getTime() - now.getTime()) / 60_000);
const distinct = (words: readonly (string | null)[]): string[] => [
  ...new Set(words.filter((w): w is string => w !== null)),
];

/** A sum of weights; null where one of them is not known. */
const sum = (all: readonly (number | null)[]): number | null =>
  all.includes(null) ? null : all.reduce((n: number, w) => n + w!, 0);
const most = (all: readonly (number | null)[]): number | null =>
  all.length === 0 || all.includes(null) ? null : Math.max(...(all as number[]));

/** The facts of an order at a moment, as rules ask for them: money in the house's currency, times in minutes from `now`. */
export function orderFacts(o: RuledHead, around: Around): OrderFacts {
  const { lines, products, pieces, home, house, rates, endOf, now } = around;
  const to = fromJson<Address>(o.shipTo);
  const inHouse = (minor: number): number | null => convert(minor, o.currency, house, rates, house);
  const parts = lines.flatMap(l => l.parts);
  const all = distinct([...lines.map(l => l.productId), ...parts.map(p => p.productId)]).flatMap(
    id => products.get(id) ?? [],
  );
  const weights = parts.map(p => products.get(p.productId)?.weightMg ?? null);
  const sides = pieces.pieces.map(p =>
    p.size ? Math.max(p.size.length, p.size.width, p.size.height) : null,
  );
  const [carrier = null] = around.service?.split(' ') ?? [];
  return {
    channel: o.channel,
    payment: o.payment,
    value: inHouse(o.linesMinor - o.discountMinor),
    shippingPaid: inHouse(o.shippingMinor),
    serviceAsked: o.serviceAsked,
    buyer: o.buyer,
    mail: o.mail,
    buyersNote: o.note,
    country: to.country,
    region: textOf(to.region),
    postcode: to.postcode,
    abroad: to.country !== home,
    residential: to.company.trim() === '',
    toPoint: o.pickUpPoint !== '',
    products: all.map(p => p.sku),
    categories: distinct(all.map(p => textOf(p.facts.category))),
    properties: distinct(all.flatMap(propertiesOf)),
    lines: lines.length,
    units: parts.reduce((n, p) => n + p.quantity, 0),
    weight: o.weightOverrideMg ?? sum(parts.map((p, i) => times(weights[i]!, p.quantity))),
    heaviestLine: most(lines.map(l => lineWeight(l, products))),
    heaviestPiece: most(weights),
    longestSide: most(sides),
    guessed: pieces.guessed.length > 0,
    promisedIn: o.promised === null ? null : minutesTo(endOf(o.promised), now),
    cutOffIn: o.leavesAt === null ? null : minutesTo(o.leavesAt, now),
    tags: around.tags,
    parcels: Math.max(1, o.parcels),
    box: null,
    carrier,
    service: around.service,
    price: null,
    margin: null,
    inTime: null,
  } satisfies Record<keyof OrderFacts, Fact>;
}

const times = (weight: number | null, n: number): number | null => (weight === null ? null : weight * n);

function lineWeight(l: Around['lines'][number], products: ReadonlyMap<string, Product>): number | null {
  return sum(l.parts.map(p => times(products.get(p.productId)?.weightMg ?? null, p.quantity)));
}

/** The facts of each line, in their order. */
export function lineFacts({ lines, products }: Pick<Around, 'lines' | 'products'>): LineFacts[] {
  return lines.map(l => {
    const product = l.productId ? products.get(l.productId) : undefined;
    const parts = l.parts.flatMap(p => products.get(p.productId) ?? []);
    return {
      product: product?.sku ?? null,
      category: textOf(product?.facts.category),
      lineProperties: distinct([...(product ? propertiesOf(product) : []), ...parts.flatMap(propertiesOf)]),
      supplier: textOf(product?.facts.supplierName),
      quantity: l.quantity,
      lineWeight: lineWeight(l, products),
      pieceWeight: most(parts.map(p => p.weightMg)),
    };
  });
}
