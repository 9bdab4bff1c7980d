import type { ReceivedOrder } from '@auk/core';
import { formatMoney } from '@auk/core';
import { CATALOGUE, CHANNELS, makeOrders, UNLINKED } from '@auk/demo';
import type { Books } from './books.js';

/** One state of an order at a channel: its revision counts up from 1, its sequence over all orders. */
export interface ChannelEntry {
  key: string;
  seq: number;
  revision: number;
  changed: string;
  order: ReceivedOrder;
}

/** A change of stock for sale that the channel was told. */
export interface StockTold {
  key: string;
  levels: { channelSku: string; quantity: number }[];
}

/** An answer of a channel: a status, a body, and headers such as Retry-After. */
export interface ChannelAnswer {
  status: number;
  body: unknown;
  headers?: Record<string, string>;
}

/** What a channel may be told to do wrong with one answer. */
export type ChannelTrick = 'repeat' | 'reorder' | 'future' | null;

const PAGE = 50;
const DAY_MS = 86_400_000;

/** A simulated channel with a habit of its own (see demo's CHANNELS): sells, changes orders, tells of them in its way, keeps books. */
export class ChannelDesk {
  private readonly latest = new Map<string, ChannelEntry>();
  private seq = 0;
  private made = 0;

  constructor(
    readonly code: string,
    private readonly books: Books<ChannelEntry>,
    readonly stock: Books<StockTold>,
    private readonly now: () => Date,
  ) {
    for (const e of books.all()) this.remember(e);
    this.made = this.latest.size;
  }

  private remember(e: ChannelEntry): void {
    this.seq = Math.max(this.seq, e.seq);
    this.latest.set(e.order.channelNumber, e);
  }

  /** Sells `count` orders at once; the same seed sells the same. Returns their numbers. */
  sell(count: number, seed = 7): string[] {
    const enough = (this.made + count) * CHANNELS.length * 2 + 100;
    const all = makeOrders(seed, enough, 50_001, this.now().toISOString()).filter(
      o => o.channel === this.code,
    );
    const sold = all.slice(this.made, this.made + count);
    this.made += sold.length;
    for (const { order } of sold) this.write(order);
    return sold.map(o => o.order.channelNumber);
  }

  /** Changes an order as its buyer or the channel would. */
  change(number: string, change: (order: ReceivedOrder) => ReceivedOrder): void {
    const known = this.latest.get(number);
    if (!known) throw new Error(`${this.code} has no order ${number}`);
    this.write(change(known.order));
  }

  private write(order: ReceivedOrder): void {
    const revision = (this.latest.get(order.channelNumber)?.revision ?? 0) + 1;
    const entry = {
      key: `${order.channelNumber}@${revision}`,
      seq: this.seq + 1,
      revision,
      changed: new Date(this.now().getTime() + this.seq).toISOString(),
      order,
    };
    this.books.write(entry);
    this.remember(entry);
  }

  /** How many orders it has sold. */
  get sold(): number {
    return this.latest.size;
  }

  /** Answers a question in the channel's own way; null when it knows no such path. */
  answer(path: string, query: URLSearchParams, trick: ChannelTrick): ChannelAnswer | null {
    const habit = CHANNELS.find(c => c.code === this.code)!.kind;
    if (habit === 'cursor') return this.byCursor(path, query, trick);
    if (habit === 'since') return this.bySince(path, query, trick);
    if (habit === 'whole') return this.byFeed(path, query, trick);
    return this.byNumbers(path, query, trick);
  }

  private byCursor(path: string, query: URLSearchParams, trick: ChannelTrick): ChannelAnswer | null {
    const from = Number(Buffer.from(query.get('cursor') ?? '', 'base64url').toString() || 0);
    const entries: { seq: number; wire: unknown }[] | null =
      path === 'orders'
        ? [...this.latest.values()].map(e => ({
            seq: e.seq,
            wire: { ...inMinor(e.order), revision: e.revision },
          }))
        : path === 'listings'
          ? this.listings('minor')
          : null;
    if (!entries) return null;
    const { page, rest } = slice(entries, from);
    const next = Buffer.from(String(page.at(-1)?.seq ?? from)).toString('base64url');
    return ok({
      entries: twisted(
        page.map(e => e.wire),
        trick,
      ),
      next,
      more: rest > 0,
    });
  }

  private bySince(path: string, query: URLSearchParams, trick: ChannelTrick): ChannelAnswer | null {
    const [size, at] = [Number(query.get('size') ?? PAGE), Number(query.get('page') ?? 1)];
    const entries: { changed: string }[] | null =
      path === 'sales'
        ? [...this.latest.values()].map(e => ({ ...inDecimals(e.order), changed: e.changed }))
        : path === 'offers'
          ? this.listings('decimal').map((l, i) => ({
              ...(l.wire as object),
              changed: new Date(Date.parse('2026-01-01T00:00:00Z') + i).toISOString(),
            }))
          : null;
    if (!entries) return null;
    const found = entries
      .filter(e => e.changed >= (query.get('since') ?? ''))
      .sort((a, b) => (a.changed < b.changed ? -1 : 1));
    const page = found.slice((at - 1) * size, at * size);
    const stamped =
      trick === 'future'
        ? page.map(e => ({ ...e, changed: new Date(Date.parse(e.changed) + 2 * DAY_MS).toISOString() }))
        : page;
    return ok({
      entries: twisted(stamped, trick),
      now: new Date(this.now().getTime() + this.seq + 1).toISOString(),
    });
  }

  private byFeed(path: string, query: URLSearchParams, trick: ChannelTrick): ChannelAnswer | null {
    const after = Number(query.get('after') ?? 0);
    const entries: { seq: number; wire: unknown }[] | null =
      path === 'feed'
        ? this.books.all().map(e => ({ seq: e.seq, wire: { ...inMinor(e.order), revision: e.revision } }))
        : path === 'listing-feed'
          ? this.listings('minor')
          : null;
    if (!entries) return null;
    const { page, rest } = slice(entries, after);
    return ok({
      entries: twisted(
        page.map(e => e.wire),
        trick,
      ),
      last: page.at(-1)?.seq ?? after,
      end: rest === 0,
    });
  }

  private byNumbers(path: string, query: URLSearchParams, trick: ChannelTrick): ChannelAnswer | null {
    if (path === 'offers') return ok({ entries: this.listings('decimal').map(l => l.wire) });
    if (path === 'changed') {
      const from = Number(query.get('mark') ?? 0);
      const { page, rest } = slice([...this.latest.values()], from);
      return ok({
        numbers: twisted(
          page.map(e => e.order.channelNumber),
          trick,
        ),
        mark: String(page.at(-1)?.seq ?? from),
        more: rest > 0,
      });
    }
    const number = /^orders\/(.+)$/.exec(path)?.[1];
    const known = number ? this.latest.get(decodeURIComponent(number)) : undefined;
    if (!known) return number ? { status: 404, body: { error: 'no such order' } } : null;
    return ok({ order: { ...inDecimals(known.order), revision: known.revision } });
  }

  private listings(money: 'minor' | 'decimal'): { seq: number; wire: unknown }[] {
    const channel = CHANNELS.find(c => c.code === this.code)!;
    const price = (minor: number) => (money === 'minor' ? minor : (minor / 100).toFixed(2));
    const linked = CATALOGUE.map(p => ({
      sku: channel.skuPrefix + p.sku,
      title: p.name,
      gtin: p.gtin,
      price: price(Math.round(p.dollars * 100)),
    }));
    const unlinked = UNLINKED.filter(l => l.channel === this.code).map(l => ({
      sku: l.sku,
      title: l.title,
      gtin: l.gtin,
      price: price(l.minor),
    }));
    return [...linked, ...unlinked].map((wire, i) => ({ seq: i + 1, wire }));
  }
}

const ok = (body: unknown): ChannelAnswer => ({ status: 200, body });

/** A page of entries after a sequence number. */
function slice<T extends { seq: number }>(entries: readonly T[], after: number): { page: T[]; rest: number } {
  const later = entries.filter(e => e.seq > after).sort((a, b) => a.seq - b.seq);
  return { page: later.slice(0, PAGE), rest: later.length - PAGE };
}

/** Entries twice over, or the other way round. */
function twisted<T>(entries: T[], trick: ChannelTrick): T[] {
  if (trick === 'repeat') return [...entries, ...entries];
  return trick === 'reorder' ? [...entries].reverse() : entries;
}

/** An order on the wire, money by `show`. */
function wire<M>(o: ReceivedOrder, show: (minor: number) => M) {
  return {
    number: o.channelNumber,
    placed: o.placedAt,
    mail: o.mail,
    shipTo: o.shipTo,
    billTo: o.billTo ?? null,
    payment: o.payment,
    currency: o.currency,
    shipping: show(o.shippingMinor),
    discount: show(o.discountMinor ?? 0),
    service: o.serviceAsked ?? '',
    shipBy: o.shipBy ?? null,
    promised: o.promised,
    note: o.note,
    lines: o.lines.map(l => ({
      sku: l.channelSku,
      title: l.title,
      quantity: l.quantity,
      price: show(l.priceMinor),
      ...(l.taxMinor === undefined ? {} : { tax: show(l.taxMinor) }),
    })),
  };
}

const inMinor = (o: ReceivedOrder) => wire(o, minor => minor);
const inDecimals = (o: ReceivedOrder) => wire(o, minor => formatMoney(minor, 'USD').replace(/[$,]/g, ''));
