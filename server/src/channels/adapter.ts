import type { ToldReturn, ToldTracking } from '@auk/contract';
import type { ReceivedOrder } from '@auk/core';

/** One page of what a channel tells. `cursor` is where the next question begins; `more` says that there is a next page now. */
export interface ChannelPage<T> {
  items: T[];
  /** What could not be read, so that one bad order never holds up the others. */
  unreadable: Unreadable[];
  cursor: string | null;
  more: boolean;
}

export interface Unreadable {
  number: string;
  why: string;
  body: unknown;
}

/** A listing as a channel tells it. */
export interface ReceivedListing {
  channelSku: string;
  title: string;
  gtin: string;
  priceMinor: number | null;
}

/**
 * A channel as Auk talks with it. Every adapter is one of these, in a folder of its own (docs/channels.md). All methods throw
 * ChannelTrouble with a sentence when the channel does not answer as it should. Pages may overlap and repeat: what Auk knows already changes nothing.
 */
export interface ChannelAdapter {
  /** Orders made or changed since the cursor; null asks from the beginning. */
  orders(cursor: string | null): Promise<ChannelPage<ReceivedOrder>>;
  /** Listings made or changed since the cursor. */
  listings(cursor: string | null): Promise<ChannelPage<ReceivedListing>>;
  /** Sets how many of each SKU the channel may sell. Setting twice is harmless. */
  pushStock(levels: readonly { channelSku: string; quantity: number }[]): Promise<void>;
  /** Tells that a parcel left. Telling twice with one key must count once. */
  tellTracking(told: ToldTracking): Promise<void>;
  /** Tells what came back of a parcel that left. Telling twice with one key must count once. */
  tellReturn(told: ToldReturn): Promise<void>;
}

/** Where and how to reach a channel. */
export interface ChannelAddress {
  name: string;
  address: string;
  key: string;
  currency: string;
}

/** A kind of channel that Setup offers. */
export interface ChannelKindEntry {
  kind: string;
  /** Its habit, in words that help to choose. */
  words: string;
  open(at: ChannelAddress): ChannelAdapter;
}

/** Why a channel could not be asked, and after how many milliseconds to try again when it said so. */
export class ChannelTrouble extends Error {
  constructor(
    message: string,
    readonly retryAfterMs: number | null = null,
  ) {
    super(message);
  }
}
