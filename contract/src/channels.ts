import type { Proposal } from '@auk/core';
import { z } from 'zod';
import { PageQuery } from './common.js';

/** A channel as Setup shows it. */
export interface ChannelView {
  code: string;
  name: string;
  brand: string;
  currency: string;
  listings: number;
  unlinked: number;
  link: {
    kind: string;
    address: string;
    /** The last letters of the key; null when this house’s secret does not open it. */
    keyEnds: string | null;
    everyMinutes: number;
    active: boolean;
    doing: string | null;
    triedAt: string | null;
    succeededAt: string | null;
    error: string | null;
    lastCounts: Record<string, number> | null;
    nextPullAt: string;
    pushedAt: string | null;
    pushError: string | null;
  } | null;
}

/** The habits that adapters are written for. */
export interface ChannelKind {
  kind: string;
  words: string;
}

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

export interface ListingRow {
  id: string;
  channel: string;
  channelCode: string;
  channelSku: string;
  title: string;
  gtin: string;
  priceMinor: number | null;
  currency: string;
  units: number;
  waiting: number;
  forSale: number | null;
  pushed: number | null;
  product: { sku: string; name: string; stage: string } | null;
  proposals: (Proposal & { sku: string; name: string; picture: string | null })[];
}

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
export interface LinkAnswer {
  freed: number;
  answers: { listingId: string; channelSku: string; done: boolean; says: string }[];
}
