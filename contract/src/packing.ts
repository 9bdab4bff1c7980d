import { type PackState } from '@auk/core';
import { z } from 'zod';
import { fromCore } from './common.js';

export const OpenBench = z.object({ code: z.string().min(1).max(20_000), device: z.string().min(1).max(60) });

/** What a person decides of a purchase that nobody can prove: look into the carrier's books once more, ask for it anew, or give it up. */
export const DecideLabel = z.object({ what: z.enum(['look', 'ask anew', 'give up']) });
export type DecideLabel = z.infer<typeof DecideLabel>;

export const LabelView = z.object({
  /** The key that it was bought under. */
  id: z.string(),
  state: z.string(),
  carrierName: z.string(),
  service: z.string(),
  minor: z.number(),
  currency: z.string(),
  tracking: z.string().nullable(),
  why: z.string().nullable(),
  arrives: z.string(),
  pdf: z.string().nullable(),
});
export type LabelView = z.infer<typeof LabelView>;

/** An order that stands at a staging place for the benches: whole, or what it lacks and when that comes. */
export const ArrivedRow = z.object({
  id: z.string(),
  no: z.string(),
  stands: z.string(),
  marks: z.string(),
  since: z.string(),
  here: z.number(),
  wanted: z.number(),
  /** What is not there, in words; empty when it is whole. */
  lacks: z.string(),
  /** The lists on which what is lacking is picked. */
  lists: z.string().nullable(),
  /** The day on which what is short is expected. */
  expected: z.string().nullable(),
  cutOff: z.string().nullable(),
});
export type ArrivedRow = z.infer<typeof ArrivedRow>;

/** An order that is picked and waits for a bench; `packer` when somebody is at it. */
export const QueueRow = z.object({
  id: z.string(),
  no: z.string(),
  buyer: z.string(),
  units: z.number(),
  lies: z.string().nullable(),
  packer: z.string().nullable(),
  cutOff: z.string().nullable(),
});
export type QueueRow = z.infer<typeof QueueRow>;

/** A parcel of the order at the bench. */
export const BenchParcel = z.object({
  no: z.string(),
  seq: z.number(),
  closed: z.boolean(),
  label: LabelView.nullable(),
  /** Why its label, bought before it was packed, is not right for it. */
  misfit: z.string().nullable(),
});
export type BenchParcel = z.infer<typeof BenchParcel>;

/** All that the bench shows of one order. */
export const BenchView = z.object({
  sessionId: z.string(),
  orderId: z.string(),
  channelNumber: z.string(),
  channel: z.string(),
  buyer: z.string(),
  town: z.string(),
  note: z.string(),
  /** Notes of the office for the packer; those to confirm keep the parcel open until they are. */
  notes: z.array(z.object({ text: z.string(), confirm: z.boolean(), word: z.string().nullable() })),
  promised: z.string().nullable(),
  departure: z.object({ carrier: z.string(), cutOff: z.string() }).nullable(),
  behind: z.number(),
  state: fromCore<PackState>(),
  parcels: z.array(BenchParcel),
  /** Pieces that the order wants and that are not here, in words; empty when all are. */
  lacks: z.string(),
  /** The order says something else now than this session knows; opened again, it is told. */
  changed: z.boolean(),
  /** The shipment to a center that it is: its boxes get their labels when that is booked. Null for orders of buyers. */
  inbound: z.object({ no: z.string(), name: z.string(), center: z.string() }).nullable(),
  /** What was told when the order was opened just now: what had changed, and what comes next. */
  news: z.object({ says: z.string(), next: z.string() }).nullable(),
});
export type BenchView = z.infer<typeof BenchView>;

/** A picture of an open box, and who took it when. */
export const PhotoRow = z.object({ id: z.string(), takenAt: z.string(), person: z.string().nullable() });
export type PhotoRow = z.infer<typeof PhotoRow>;

/** When it was taken, and by whom, when it is sent under another sign-in. */
export const PhotoQuery = z.object({ at: z.iso.datetime(), maker: z.uuid().optional() });
export type PhotoQuery = z.infer<typeof PhotoQuery>;
