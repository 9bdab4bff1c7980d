import type {
  Address,
  Change,
  Hold,
  LineTotal,
  MissingFact,
  Payment,
  Settled,
  Stage,
  StopReason,
} from '@auk/core';
import { z } from 'zod';
import { PageQuery } from './common.js';

/** How the order list may be sorted. Each has an index, see docs/orders-list.md. */
export const ORDER_SORTS = ['newest', 'oldest', 'promised', 'leaves', 'total', 'placed'] as const;
export type OrderSort = (typeof ORDER_SORTS)[number];

const Word = z.string().trim().max(60);

/** What the filter sentence can say; every part may be left out. */
export const OrderFilter = z.object({
  stage: z.string().max(200).optional(),
  channel: Word.optional(),
  departure: z.uuid().optional(),
  reason: Word.optional(),
  words: z.string().trim().max(80).optional(),
  product: Word.optional(),
  payment: Word.optional(),
  country: Word.optional(),
  tag: Word.optional(),
  starred: z.enum(['yes']).optional(),
  together: z.enum(['yes']).optional(),
  leaves: z
    .string()
    .regex(/^(today|tomorrow|late|never|\d{4}-\d{2}-\d{2})$/)
    .optional(),
  promised: z
    .string()
    .regex(/^(today|past|week|none|\d{4}-\d{2}-\d{2})$/)
    .optional(),
  placed: z
    .string()
    .regex(/^(today|week|month|\d{4}-\d{2}-\d{2})$/)
    .optional(),
});
export type OrderFilter = z.infer<typeof OrderFilter>;

export const OrderQuery = OrderFilter.extend({
  ...PageQuery.shape,
  sort: z.enum(ORDER_SORTS).default('newest'),
});
export type OrderQuery = z.infer<typeof OrderQuery>;

/** Counts of the list: exact up to `most`, `over` beyond it. */
export interface OrderCount {
  n: number;
  over: boolean;
}
export const COUNTED = 10_000;

export interface OrderRow {
  id: string;
  no: string;
  channelNumber: string;
  channel: string;
  buyer: string;
  mail: string;
  town: string;
  country: string;
  what: string;
  lines: number;
  units: number;
  stage: Stage;
  reason: string | null;
  leavesWith: { carrier: string; cutOff: string } | null;
  promised: string | null;
  placedAt: string | null;
  payment: string;
  totalMinor: number;
  paidMinor: number;
  currency: string;
  starred: boolean;
  tags: string[];
  /** Other open orders of the same buyer and address that are not on a list yet. */
  together: number;
}

/** Numbers among the orders that the sentence found. */
export interface Among {
  stopped: OrderCount;
  short: OrderCount;
  together: OrderCount;
  starred: OrderCount;
}

export interface OrderPart {
  id: string;
  productId: string;
  sku: string;
  name: string;
  quantity: number;
  held: Record<Hold, number>;
}

export interface OrderLineView {
  id: string;
  key: string;
  channelSku: string;
  title: string;
  quantity: number;
  priceMinor: number;
  taxPpm: number | null;
  taxMinor: number | null;
  weightMg: number | null;
  units: number;
  total: LineTotal;
  product: {
    id: string;
    sku: string;
    name: string;
    kind: string;
    picture: string | null;
    missing: MissingFact[];
  } | null;
  parts: OrderPart[];
}

export interface HistoryRow {
  at: string;
  person: string | null;
  says: string;
  changes: Change[];
}

export interface OrderNoteView {
  id: string;
  kind: 'packer' | 'slip' | 'staff';
  text: string;
  confirm: boolean;
  at: string;
  person: string | null;
}

/** A difference between the channel and us that waits for a person. */
export interface DifferenceView {
  id: string;
  words: string;
  ours: string;
  theirs: string;
}

export interface OrderMoney {
  goodsMinor: number;
  discountMinor: number;
  shippingMinor: number;
  taxMinor: number;
  totalMinor: number;
  paidMinor: number;
  balanceMinor: number;
}

export interface OrderView {
  row: OrderRow;
  mail: string;
  placedAt: string | null;
  /** What the channel, or the office, said of the payment. */
  payment: Payment;
  /** The word that follows the money. */
  settled: Settled;
  shipTo: Address;
  billTo: Address | null;
  pickUpPoint: string;
  note: string;
  serviceAsked: string;
  shipBy: string | null;
  weightOverrideMg: number | null;
  money: OrderMoney;
  draft: boolean;
  parkWord: string | null;
  lines: OrderLineView[];
  stops: StopReason[];
  differences: DifferenceView[];
  notes: OrderNoteView[];
  parcels: {
    no: string;
    state: string;
    carrier: string | null;
    service: string | null;
    tracking: string | null;
    minor: number | null;
    departure: string | null;
    departureNo: string | null;
  }[];
  lists: string[];
  /** Orders that belong to this one: split from it, merged into it, or able to travel with it. */
  related: { id: string; number: string; stage: Stage; how: 'split' | 'merged' | 'can travel along' }[];
  /** What an edit of lines or address would undo, in one sentence; null when nothing. */
  undoes: string | null;
  history: HistoryRow[];
  version: number;
}

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
export interface ChangedMeanwhile {
  version: number;
  since: { at: string; person: string | null; says: string; changes: Change[] }[];
}

export const NoteIn = z.object({
  kind: z.enum(['packer', 'slip', 'staff']),
  text: z.string().trim().min(1).max(500),
  confirm: z.boolean().default(false),
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
export const DraftScan = z.object({ id: z.uuid(), text: z.string().trim().min(1).max(300) });
export const FinishDraft = z.object({ version: z.number().int().min(1) });

/** One act on many orders; each gets its own answer. */
export const BulkIn = z.object({
  ids: z.array(z.uuid()).min(1).max(500),
  act: z.enum(['park', 'unpark', 'cancel', 'star', 'unstar', 'tag', 'untag', 'paid']),
  text: z.string().trim().max(200).default(''),
});
export type BulkIn = z.infer<typeof BulkIn>;
export interface BulkAnswer {
  id: string;
  number: string;
  done: boolean;
  says: string;
}

export interface KeptQuestion {
  id: string;
  name: string;
  question: string;
  count: OrderCount;
}
export const KeepQuestion = z.object({
  name: z.string().trim().min(1).max(60),
  question: z.string().max(1000),
});

/** A buyer as found again among the orders. */
export interface KnownBuyer {
  mail: string;
  orders: number;
  shipTo: Address;
}

export const PreferenceIn = z.object({ value: z.unknown() });
