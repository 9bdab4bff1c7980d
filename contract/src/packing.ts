import type { PackState, Rated } from '@auk/core';
import { z } from 'zod';

export const OpenBench = z.object({ code: z.string().min(1).max(20_000), device: z.string().min(1).max(60) });

/** All that the bench shows of one shipment. */
export interface BenchView {
  sessionId: string;
  parcelNo: string;
  orderId: string;
  channelNumber: string;
  channel: string;
  buyer: string;
  town: string;
  note: string;
  /** Notes of the office for the packer; those to confirm keep the parcel open until they are. */
  notes: { text: string; confirm: boolean }[];
  promised: string | null;
  departure: { carrier: string; cutOff: string } | null;
  behind: number;
  expectedMg: number;
  state: PackState;
  label: LabelView | null;
}

/** One service on offer for a parcel. */
export interface OfferView extends Rated {
  carrier: string;
  carrierName: string;
  arrives: string;
  keeps: boolean;
  quoteId: string;
  currency: string;
  departure: { id: string; cutOff: string } | null;
}

/** Offers of all carriers, the one to take first; carriers that did not answer are named with why. */
export interface OffersView {
  offers: OfferView[];
  silent: { carrierName: string; why: string }[];
  promised: string | null;
  paidMinor: number;
  currency: string;
}

export interface LabelView {
  state: string;
  carrierName: string;
  service: string;
  minor: number;
  currency: string;
  tracking: string | null;
  why: string | null;
  arrives: string;
  pdf: string | null;
}

export const BuyLabel = z.object({
  carrier: z.string().max(30),
  service: z.string().max(40),
  quoteId: z.string().max(80),
  minor: z.number().int().min(0),
  key: z.uuid(),
  name: z.string().min(1).max(80),
  arrives: z.iso.date(),
});
export type BuyLabel = z.infer<typeof BuyLabel>;
