import { type Proposal } from '@auk/core';
import { z } from 'zod';
import { fromCore, PageQuery } from './common.js';

/** A channel as Setup shows it. */
export const ChannelView = z.object({
  code: z.string(),
  name: z.string(),
  brand: z.string(),
  currency: z.string(),
  listings: z.number(),
  unlinked: z.number(),
  /** Of the house itself: what people type, and the parts of builds. There is nothing to connect. */
  own: z.boolean(),
  link: z
    .object({
      kind: z.string(),
      address: z.string(),
      /** The last letters of the key; null when this house’s secret does not open it. */
      keyEnds: z.string().nullable(),
      everyMinutes: z.number(),
      active: z.boolean(),
      doing: z.string().nullable(),
      triedAt: z.string().nullable(),
      succeededAt: z.string().nullable(),
      error: z.string().nullable(),
      lastCounts: z.record(z.string(), z.number()).nullable(),
      nextPullAt: z.string(),
      pushedAt: z.string().nullable(),
      pushError: z.string().nullable(),
    })
    .nullable(),
});
export type ChannelView = z.infer<typeof ChannelView>;

/** The habits that adapters are written for. */
export const ChannelKind = z.object({ kind: z.string(), words: z.string() });
export type ChannelKind = z.infer<typeof ChannelKind>;

export const ConnectChannel = z.object({
  kind: z.string().trim().min(1).max(20),
  address: z.url({ protocol: /^https?$/ }).max(300),
  key: z.string().trim().max(200).default(''),
  everyMinutes: z.number().int().min(1).max(1440).default(10),
  active: z.boolean().default(true),
});

export type ConnectChannel = z.infer<typeof ConnectChannel>;

export const ListingQuery = PageQuery.extend({
  channel: z.string().max(20).optional(),
  state: z.enum(['unlinked', 'linked', 'all']).default('unlinked'),
  words: z.string().trim().max(80).default(''),
  product: z.string().max(60).optional(),
});

export type ListingQuery = z.infer<typeof ListingQuery>;

export const ListingRow = z.object({
  id: z.string(),
  channel: z.string(),
  channelCode: z.string(),
  channelSku: z.string(),
  title: z.string(),
  gtin: z.string(),
  priceMinor: z.number().nullable(),
  currency: z.string(),
  units: z.number(),
  waiting: z.number(),
  forSale: z.number().nullable(),
  pushed: z.number().nullable(),
  product: z.object({ sku: z.string(), name: z.string(), stage: z.string() }).nullable(),
  proposals: z.array(fromCore<Proposal & { sku: string; name: string; picture: string | null }>()),
});
export type ListingRow = z.infer<typeof ListingRow>;

/** Links of many listings at once; `sku` null unlinks. */
export const LinkListings = z.object({
  links: z
    .array(
      z.object({
        listingId: z.uuid(),
        sku: z.string().min(1).max(60).nullable(),
        units: z.number().int().min(1).max(1000).default(1),
      }),
    )
    .min(1)
    .max(500),
});

export type LinkListings = z.infer<typeof LinkListings>;

export const MakeProducts = z.object({ listingIds: z.array(z.uuid()).min(1).max(500) });

/** What became of each listing, and how many orders it freed. */
export const LinkAnswer = z.object({
  freed: z.number(),
  answers: z.array(
    z.object({ listingId: z.string(), channelSku: z.string(), done: z.boolean(), says: z.string() }),
  ),
});
export type LinkAnswer = z.infer<typeof LinkAnswer>;

/** An order of a channel that could not be taken in, and why. */
export const ChannelTrouble = z.object({ number: z.string(), why: z.string(), at: z.iso.datetime() });
export type ChannelTrouble = z.infer<typeof ChannelTrouble>;
