import { z } from 'zod';
import type { ChannelAdapter, ChannelAddress, ChannelKindEntry, ChannelPage } from '../adapter.js';
import { askChannel, readEach, tellings } from '../ask.js';
import {
  DecimalMoney,
  decimal,
  numberOf,
  skuOf,
  Taken,
  toListing,
  toReceived,
  wireListing,
  wireOrder,
} from '../wire.js';

const SIZE = 100;
/** How far back every round asks again: stamps of a channel's several machines differ by less. */
const OVERLAP_MS = 120_000;

const Page = z.object({
  entries: z.array(z.looseObject({ changed: z.iso.datetime() })).max(500),
  now: z.iso.datetime(),
});
const Order = wireOrder(DecimalMoney).extend({ changed: z.iso.datetime() });
const Listing = wireListing(DecimalMoney);

/** Where a round stands: since when, which page of it, and where the next round begins. */
interface Place {
  since: string;
  page: number;
}

/** A channel that answers what changed since a time, in pages counted from 1, money as decimal texts. */
export const SINCE_CHANNEL: ChannelKindEntry = {
  kind: 'since',
  words: 'what changed since a time, money as decimal texts',
  open: (at): ChannelAdapter => ({
    orders: cursor =>
      ask(at, 'sales', cursor, Order, numberOf, o =>
        toReceived(o, decimal(o.currency), Date.parse(o.changed)),
      ),
    listings: cursor => ask(at, 'offers', cursor, Listing, skuOf, l => toListing(l, decimal(at.currency))),
    async pushStock(levels) {
      await askChannel(at, 'stock', Taken, { levels });
    },
    ...tellings(at, Taken),
  }),
};

async function ask<W, T>(
  at: ChannelAddress,
  what: string,
  cursor: string | null,
  schema: z.ZodType<W>,
  nameOf: (raw: unknown) => string,
  translate: (wire: W) => T,
): Promise<ChannelPage<T>> {
  const place = readPlace(cursor);
  const page = await askChannel(
    at,
    `${what}?since=${encodeURIComponent(place.since)}&page=${place.page}&size=${SIZE}`,
    Page,
  );
  const more = page.entries.length >= SIZE;
  return {
    ...readEach(page.entries, schema, nameOf, translate),
    cursor: JSON.stringify(
      next(
        place,
        page.entries.map(e => e.changed),
        page.now,
        more,
      ),
    ),
    more,
  };
}

/**
 * Where to ask next. While pages are full it goes on from the last stamp rather than by page number, because entries that change
 * meanwhile move to the end and would shift others past us; only a page of one single stamp is turned. A stamp in the future never
 * moves the mark past the channel's own clock. At the end the next round begins a little earlier: repeats are harmless, gaps are not.
 */
export function next(place: Place, stamps: readonly string[], now: string, more: boolean): Place {
  const clock = Date.parse(now);
  const last = Math.max(Date.parse(place.since), ...stamps.map(s => Math.min(Date.parse(s), clock)));
  if (!more)
    return { since: new Date(Math.max(0, Math.min(last, clock) - OVERLAP_MS)).toISOString(), page: 1 };
  return last > Date.parse(place.since)
    ? { since: new Date(last).toISOString(), page: 1 }
    : { since: place.since, page: place.page + 1 };
}

function readPlace(cursor: string | null): Place {
  if (cursor === null) return { since: new Date(0).toISOString(), page: 1 };
  return z.object({ since: z.string(), page: z.number() }).parse(JSON.parse(cursor));
}
