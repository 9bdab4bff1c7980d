import { z } from 'zod';
import type { ChannelAdapter, ChannelKindEntry } from '../adapter.js';
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

const Numbers = z.object({
  numbers: z.array(z.string().min(1).max(40)).max(100),
  mark: z.string().max(200),
  more: z.boolean(),
});
const One = z.object({ order: z.unknown() });
const Order = wireOrder(DecimalMoney).extend({ revision: z.number().int() });
const Offers = z.object({ entries: z.array(z.unknown()).max(5_000) });
const Listing = wireListing(DecimalMoney);

/** A channel that names the numbers of changed orders and is asked for each of them, money as decimal texts; its listings come all at once. */
export const EACH_CHANNEL: ChannelKindEntry = {
  kind: 'each',
  words: 'numbers first, then each order by itself',
  open: (at): ChannelAdapter => ({
    async orders(cursor) {
      const list = await askChannel(at, `changed?mark=${encodeURIComponent(cursor ?? '')}`, Numbers);
      const raw: unknown[] = [];
      for (const number of new Set(list.numbers))
        raw.push((await askChannel(at, `orders/${encodeURIComponent(number)}`, One)).order);
      return {
        ...readEach(raw, Order, numberOf, o => toReceived(o, decimal(o.currency), o.revision)),
        cursor: list.mark,
        more: list.more,
      };
    },
    async listings() {
      const { entries } = await askChannel(at, 'offers', Offers);
      return {
        ...readEach(entries, Listing, skuOf, l => toListing(l, decimal(at.currency))),
        cursor: null,
        more: false,
      };
    },
    async pushStock(levels) {
      await askChannel(at, 'stock', Taken, { levels });
    },
    ...tellings(at, Taken),
  }),
};
