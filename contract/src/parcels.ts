import { z } from 'zod';

/** A parcel as the list of parcels shows it. */
export const ParcelListRow = z.object({
  no: z.string(),
  order: z.string(),
  channelNumber: z.string(),
  buyer: z.string(),
  state: z.string(),
  carrier: z.string().nullable(),
  service: z.string().nullable(),
  tracking: z.string().nullable(),
  minor: z.number().nullable(),
  currency: z.string(),
  weightMg: z.number().nullable(),
  box: z.string().nullable(),
  departure: z.string().nullable(),
  why: z.string().nullable(),
});
export type ParcelListRow = z.infer<typeof ParcelListRow>;

/** Money that a carrier owes back. */
export const ClaimView = z.object({
  id: z.string(),
  kind: z.enum(['stray', 'price']),
  state: z.enum(['open', 'settled', 'given up']),
  minor: z.number(),
  currency: z.string(),
  why: z.string(),
  tracking: z.string().nullable(),
  at: z.string(),
  parcel: z.string(),
  carrierName: z.string(),
  orderId: z.string(),
});
export type ClaimView = z.infer<typeof ClaimView>;

export const CloseClaim = z.object({ state: z.enum(['settled', 'given up']) });
