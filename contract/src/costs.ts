import { VERDICTS } from '@auk/core';
import { z } from 'zod';

export const BillQuery = z.object({
  carrier: z.string().min(1).max(30),
  number: z.string().trim().min(1).max(60),
  currency: z.string().regex(/^[A-Z]{3}$/, 'is three capital letters'),
  name: z.string().trim().min(1).max(120),
});
export type BillQuery = z.infer<typeof BillQuery>;

/** What became of a bill that was brought: taken, or the rows that are wrong. */
export const BillTaken = z.object({
  id: z.string().nullable(),
  lines: z.number(),
  bad: z.array(z.object({ row: z.number(), why: z.string() })),
});
export type BillTaken = z.infer<typeof BillTaken>;

export const BillRow = z.object({
  id: z.string(),
  carrierName: z.string(),
  number: z.string(),
  currency: z.string(),
  at: z.string(),
  lines: z.number(),
  minor: z.number(),
  claimMinor: z.number(),
  differ: z.number(),
});
export type BillRow = z.infer<typeof BillRow>;

export const BillLineView = z.object({
  seq: z.number(),
  tracking: z.string(),
  parcel: z.string().nullable(),
  order: z.string().nullable(),
  service: z.string(),
  minor: z.number(),
  agreedMinor: z.number().nullable(),
  claimMinor: z.number(),
  verdict: z.enum(VERDICTS),
  says: z.string(),
});
export type BillLineView = z.infer<typeof BillLineView>;
export const BillView = BillRow.extend({ rows: z.array(BillLineView) });
export type BillView = z.infer<typeof BillView>;

export const COST_GROUPS = ['week', 'carrier', 'service', 'zone', 'channel'] as const;
export const CostsQuery = z.object({
  by: z.enum(COST_GROUPS).default('week'),
  from: z.iso.date().optional(),
  until: z.iso.date().optional(),
});
export type CostsQuery = z.infer<typeof CostsQuery>;

/** What shipping cost and what buyers paid for it, in house money. */
export const CostsView = z.object({
  currency: z.string(),
  from: z.string(),
  until: z.string(),
  groups: z.array(
    z.object({ name: z.string(), parcels: z.number(), costMinor: z.number(), paidMinor: z.number() }),
  ),
  /** Orders whose parcels cost more than was paid, the worst first, with why. */
  lost: z.array(
    z.object({
      order: z.string(),
      orderId: z.string(),
      parcels: z.number(),
      carrierName: z.string(),
      service: z.string(),
      costMinor: z.number(),
      paidMinor: z.number(),
      why: z.string(),
    }),
  ),
  /** Parcels whose currency has no rate to the house's, and that are not counted. */
  uncounted: z.number(),
});
export type CostsView = z.infer<typeof CostsView>;
