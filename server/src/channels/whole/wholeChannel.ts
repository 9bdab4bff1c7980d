import { z } from 'zod';
import type { ChannelAdapter, ChannelKindEntry } from '../adapter.js';
import { askChannel, readEach, tellings } from '../ask.js';
import {
  MinorMoney,
  numberOf,
  skuOf,
  Taken,
  toListing,
  toReceived,
  wireListing,
  wireOrder,
} from '../wire.js';

const Feed = z.object({ entries: z.array(z.unknown()).max(500), last: z.number().int(), end: z.boolean() });
const Order = wireOrder(MinorMoney).extend({ revision: z.number().int() });
const Listing = wireListing(MinorMoney);
const same = (minor: number): number => minor;

/** A channel that sends the whole order again on every change, as a feed of numbered entries; an order may stand in it many times, and not always in order. */
export const WHOLE_CHANNEL: ChannelKindEntry = {
  kind: 'whole',
  words: 'a feed that sends whole orders again on every change',
  open: (at): ChannelAdapter => ({
    async orders(cursor) {
      const feed = await askChannel(at, `feed?after=${Number(cursor ?? 0)}`, Feed);
      return {
        ...readEach(feed.entries, Order, numberOf, o => toReceived(o, same, o.revision)),
        cursor: String(feed.last),
        more: !feed.end,
      };
    },
    async listings(cursor) {
      const feed = await askChannel(at, `listing-feed?after=${Number(cursor ?? 0)}`, Feed);
      return {
        ...readEach(feed.entries, Listing, skuOf, l => toListing(l, same)),
        cursor: String(feed.last),
        more: !feed.end,
      };
    },
    async pushStock(levels) {
      await askChannel(at, 'stock', Taken, { levels });
    },
    ...tellings(at, Taken),
  }),
};
