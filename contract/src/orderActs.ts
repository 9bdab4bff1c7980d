import { type Change } from '@auk/core';
import { z } from 'zod';
import { fromCore } from './common.js';
import { judgedOf } from './scans.js';

const Reason = z.string().trim().min(1).max(200);

export const Park = z.object({ reason: Reason, word: z.string().trim().max(40).default('') });

export const Unpark = z.object({ word: z.string().trim().max(40).default('') });

export const Cancel = z.object({ reason: Reason });

const Minor = z.number().int().min(0).max(1e11);

const Day = z.iso.date();

const text = (most: number) => z.string().trim().max(most);

export const AddressIn = z.object({
  name: text(80),
  company: text(80),
  line1: text(120),
  line2: text(120),
  city: text(80),
  region: text(40),
  postcode: text(16),
  country: z.string().trim().toUpperCase().max(40),
  phone: text(40),
});

/** A line as an edit leaves it. Without a key it is new. */
export const LineIn = z.object({
  key: z.string().max(80).optional(),
  sku: text(60).optional(),
  title: text(200).optional(),
  quantity: z.number().int().min(1).max(10_000).optional(),
  priceMinor: Minor.optional(),
  taxPpm: z.number().int().min(0).max(1_000_000).nullable().optional(),
  weightMg: z.number().int().min(1).max(1e9).nullable().optional(),
  leaveOut: z.enum(['yes', 'no']).nullable().optional(),
  remove: z.boolean().optional(),
});

export type LineIn = z.infer<typeof LineIn>;

/** An edit of an order: only what is named changes. `version` is what the editor saw; `undo` agrees to what the edit undoes. */
export const OrderEdit = z.object({
  version: z.number().int().min(1),
  undo: z.boolean().default(false),
  mail: text(120).optional(),
  payment: z.enum(['unpaid', 'paid', 'part refunded', 'refunded', 'on delivery']).optional(),
  shipTo: AddressIn.optional(),
  billTo: AddressIn.nullable().optional(),
  pickUpPoint: text(120).optional(),
  note: text(500).optional(),
  serviceAsked: text(60).optional(),
  shipBy: Day.nullable().optional(),
  promised: Day.nullable().optional(),
  shippingMinor: Minor.optional(),
  discountMinor: Minor.optional(),
  paidMinor: Minor.optional(),
  weightOverrideMg: z.number().int().min(1).max(1e9).nullable().optional(),
  lines: z.array(LineIn).max(500).optional(),
  all: z
    .discriminatedUnion('type', [
      z.object({ type: z.literal('percent'), ppm: z.number().int().min(-1_000_000).max(10_000_000) }),
      z.object({ type: z.literal('amount'), minor: z.number().int().min(-1e9).max(1e9) }),
      z.object({ type: z.literal('tax'), ppm: z.number().int().min(0).max(1_000_000) }),
      z.object({ type: z.literal('weight'), mg: z.number().int().min(1).max(1e9).nullable() }),
    ])
    .optional(),
});

export type OrderEdit = z.infer<typeof OrderEdit>;

/** What changed since the version that an editor saw. */
export const ChangedMeanwhile = z.object({
  version: z.number(),
  since: z.array(
    z.object({
      at: z.string(),
      person: z.string().nullable(),
      says: z.string(),
      changes: z.array(fromCore<Change>()),
    }),
  ),
});
export type ChangedMeanwhile = z.infer<typeof ChangedMeanwhile>;

export const NoteIn = z.object({
  kind: z.enum(['packer', 'slip', 'staff']),
  text: z.string().trim().min(1).max(500),
  confirm: z.boolean().default(false),
  /** The word that the packer types to confirm it; a scan or a key is enough without one. */
  word: z.string().trim().max(40).default(''),
});

export const TagIn = z.object({ tag: z.string().trim().min(1).max(30), on: z.boolean() });

export const AcceptIn = z.object({ code: z.literal('duplicate'), subject: z.string().max(100) });

export const DecideIn = z.object({ take: z.boolean() });

export const SplitIn = z.object({
  version: z.number().int().min(1),
  lines: z
    .array(z.object({ key: z.string().max(80), quantity: z.number().int().min(1).max(10_000) }))
    .min(1)
    .max(500),
});

export const MergeIn = z.object({ ids: z.array(z.uuid()).min(2).max(20) });

export const NewOrder = z.object({ channel: text(20).default('hand') });

/** The answer to a scan into a draft; its lines are told by the order itself. */
export const DraftJudged = judgedOf(z.object({}));

/** A copy of an order, at its prices or free of charge. */
export const CopyIn = z.object({ free: z.boolean().default(false) });

export const FinishDraft = z.object({ version: z.number().int().min(1) });

/** One act on many orders; each gets its own answer. */
export const BulkIn = z.object({
  ids: z.array(z.uuid()).min(1).max(500),
  act: z.enum(['park', 'unpark', 'cancel', 'star', 'unstar', 'tag', 'untag', 'paid']),
  text: z.string().trim().max(200).default(''),
});

export type BulkIn = z.infer<typeof BulkIn>;

export const BulkAnswer = z.object({
  id: z.string(),
  number: z.string(),
  done: z.boolean(),
  says: z.string(),
});
export type BulkAnswer = z.infer<typeof BulkAnswer>;
