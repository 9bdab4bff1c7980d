import { TRACK_KINDS } from '@auk/core';
import { z } from 'zod';
import { Charge } from './carriers.js';
import { LabelView } from './packing.js';
import { TroubleView } from './tracking.js';

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
  departureNo: z.string().nullable(),
  why: z.string().nullable(),
  /** Where it stands by its carrier, and what is wrong with it on its way. */
  track: z.enum(TRACK_KINDS).nullable(),
  trouble: TroubleView.nullable(),
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

/** Parcels whose labels are to be bought in one go. */
export const BeginBatch = z.object({
  parcels: z
    .array(z.string().regex(/^PA-\d{1,9}$/i, 'is not the code of a parcel'))
    .min(1)
    .max(1000),
});

/** What the batch costs as it was shown, in house money: another sum is refused. */
export const BuyBatch = z.object({ minor: z.number().int().min(0) });

export const BatchView = z.object({
  id: z.string(),
  state: z.enum(['pricing', 'priced', 'buying', 'done', 'stopped']),
  at: z.string(),
  currency: z.string(),
  /** What is priced and not yet bought, and what has been bought, in house money. */
  toBuyMinor: z.number(),
  boughtMinor: z.number(),
  items: z.array(
    z.object({
      parcel: z.string(),
      channelNumber: z.string(),
      state: z.enum(['waiting', 'priced', 'none', 'bought', 'refused', 'unanswered']),
      carrierName: z.string().nullable(),
      service: z.string().nullable(),
      arrives: z.string().nullable(),
      keeps: z.boolean().nullable(),
      minor: z.number().nullable(),
      paidMinor: z.number().nullable(),
      tracking: z.string().nullable(),
      why: z.string().nullable(),
    }),
  ),
});
export type BatchView = z.infer<typeof BatchView>;

/** A label that was bought somewhere else. */
export const ElsewhereLabel = z.object({
  carrier: z.string().trim().min(1).max(30),
  service: z.string().trim().min(1).max(80),
  tracking: z
    .string()
    .trim()
    .regex(/^[\x21-\x7e]{5,40}$/, 'has 5 to 40 letters and digits, as it stands under the bars'),
  minor: z.number().int().min(0).max(1e9),
  /** The day on which it arrives, as whoever typed it was told. */
  arrives: z.iso.date(),
  key: z.uuid(),
});
export type ElsewhereLabel = z.infer<typeof ElsewhereLabel>;

/** How labels lie on paper: one of 4 x 6 in, one on half a plain sheet, or two on one sheet. */
export const LabelPaper = z.object({ paper: z.enum(['4x6', 'half', 'two']).default('4x6') });
export type LabelPaper = z.infer<typeof LabelPaper>;

/** A parcel with what can be done about it. */
export const ParcelView = ParcelListRow.extend({
  orderId: z.string(),
  address: z.array(z.string()),
  contents: z.array(z.object({ sku: z.string(), name: z.string(), quantity: z.number() })),
  label: z
    .object({
      state: z.string(),
      carrierName: z.string(),
      service: z.string(),
      minor: z.number(),
      currency: z.string(),
      charges: z.array(Charge),
      zone: z.string().nullable(),
      billable: z.string().nullable(),
      arrives: z.string(),
      elsewhere: z.boolean(),
      why: z.string().nullable(),
    })
    .nullable(),
  /** What was bought for it and is no more: refused, or given back and with what. */
  before: z.array(z.object({ state: z.string(), says: z.string() })),
  promised: z.string().nullable(),
  /** The label for its way back, or what became of the last one. */
  returnLabel: LabelView.nullable(),
  /** Papers go with it: it leaves the country, or carries what is hazardous. */
  papers: z.boolean(),
});
export type ParcelView = z.infer<typeof ParcelView>;
