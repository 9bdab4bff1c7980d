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

const Page = z.object({
  entries: z.array(z.unknown()).max(500),
  next: z.string().max(200),
  more: z.boolean(),
});
const Order = wireOrder(MinorMoney).extend({ revision: z.number().int() });
const Listing = wireListing(MinorMoney);
const same = (minor: number): number => minor;

/** A channel that gives pages with a cursor of its own, money in minor units, and counts the revisions of an order. */
export const CURSOR_CHANNEL: ChannelKindEntry = {
  kind: 'cursor',
  words: 'pages with a cursor, money in cents',
  open: (at): ChannelAdapter => ({
    async orders(cursor) {
      const page = await askChannel(at, `orders?cursor=${encodeURIComponent(cursor ?? '')}`, Page);
      return {
        ...readEach(page.entries, Order, numberOf, o => toReceived(o, same, o.revision)),
        cursor: page.next,
        more: page.more,
      };
    },
    async listings(cursor) {
      const page = await askChannel(at, `listings?cursor=${encodeURIComponent(cursor ?? '')}`, Page);
      return {
        ...readEach(page.entries, Listing, skuOf, l => toListing(l, same)),
        cursor: page.next,
        more: page.more,
      };
    },
    async pushStock(levels) {
      await askChannel(at, 'stock', Taken, { levels });
    },
    ...tellings(at, Taken),
  }),
};
