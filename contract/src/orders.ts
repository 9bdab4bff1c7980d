import {
  type Address,
  type Change,
  type Hold,
  type LineTotal,
  type MissingFact,
  PAYMENTS,
  SETTLEMENTS,
  STAGES,
  type StopReason,
} from '@auk/core';
import { z } from 'zod';
import { fromCore, PageQuery, pageOf } from './common.js';
import { ParcelListRow } from './parcels.js';

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
  /** Its buyer wrote, and nobody has answered. */
  wrote: z.enum(['yes']).optional(),
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
export const OrderCount = z.object({ n: z.number(), over: z.boolean() });
export type OrderCount = z.infer<typeof OrderCount>;

export const COUNTED = 10_000;

export const OrderRow = z.object({
  id: z.string(),
  no: z.string(),
  channelNumber: z.string(),
  channel: z.string(),
  buyer: z.string(),
  mail: z.string(),
  town: z.string(),
  country: z.string(),
  what: z.string(),
  lines: z.number(),
  units: z.number(),
  stage: z.enum(STAGES),
  reason: z.string().nullable(),
  leavesWith: z.object({ carrier: z.string(), cutOff: z.string() }).nullable(),
  promised: z.string().nullable(),
  placedAt: z.string().nullable(),
  payment: z.enum(SETTLEMENTS),
  totalMinor: z.number(),
  paidMinor: z.number(),
  currency: z.string(),
  starred: z.boolean(),
  tags: z.array(z.string()),
  /** Other open orders of the same buyer and address that are not on a list yet. */
  together: z.number(),
});
export type OrderRow = z.infer<typeof OrderRow>;

/** Numbers among the orders that the sentence found. */
export const Among = z.object({
  stopped: OrderCount,
  short: OrderCount,
  together: OrderCount,
  starred: OrderCount,
});
export type Among = z.infer<typeof Among>;

export const OrderPart = z.object({
  id: z.string(),
  productId: z.string(),
  sku: z.string(),
  name: z.string(),
  quantity: z.number(),
  /** It may be left out. */
  optional: z.boolean(),
  held: fromCore<Record<Hold, number>>(),
});
export type OrderPart = z.infer<typeof OrderPart>;

export const OrderLineView = z.object({
  id: z.string(),
  key: z.string(),
  channelSku: z.string(),
  title: z.string(),
  quantity: z.number(),
  priceMinor: z.number(),
  taxPpm: z.number().nullable(),
  taxMinor: z.number().nullable(),
  weightMg: z.number().nullable(),
  /** Whether it may be left out; null: as its products say. */
  leaveOut: z.enum(['yes', 'no']).nullable(),
  units: z.number(),
  total: fromCore<LineTotal>(),
  product: z
    .object({
      id: z.string(),
      sku: z.string(),
      name: z.string(),
      kind: z.string(),
      picture: z.string().nullable(),
      missing: z.array(fromCore<MissingFact>()),
    })
    .nullable(),
  parts: z.array(OrderPart),
});
export type OrderLineView = z.infer<typeof OrderLineView>;

export const HistoryRow = z.object({
  at: z.string(),
  person: z.string().nullable(),
  says: z.string(),
  changes: z.array(fromCore<Change>()),
});
export type HistoryRow = z.infer<typeof HistoryRow>;

export const OrderNoteView = z.object({
  id: z.string(),
  kind: z.enum(['packer', 'slip', 'staff']),
  text: z.string(),
  confirm: z.boolean(),
  word: z.string().nullable(),
  at: z.string(),
  person: z.string().nullable(),
});
export type OrderNoteView = z.infer<typeof OrderNoteView>;

/** A difference between the channel and us that waits for a person. */
export const DifferenceView = z.object({
  id: z.string(),
  words: z.string(),
  ours: z.string(),
  theirs: z.string(),
});
export type DifferenceView = z.infer<typeof DifferenceView>;

/** A parcel as it is seen with its order. */
export const OrderParcel = ParcelListRow.pick({
  no: true,
  state: true,
  carrier: true,
  service: true,
  tracking: true,
  minor: true,
  currency: true,
  departure: true,
  departureNo: true,
  track: true,
  trouble: true,
});

export const OrderMoney = z.object({
  goodsMinor: z.number(),
  discountMinor: z.number(),
  shippingMinor: z.number(),
  taxMinor: z.number(),
  totalMinor: z.number(),
  paidMinor: z.number(),
  balanceMinor: z.number(),
});
export type OrderMoney = z.infer<typeof OrderMoney>;

export const OrderView = z.object({
  row: OrderRow,
  mail: z.string(),
  placedAt: z.string().nullable(),
  /** What the channel, or the office, said of the payment. */
  payment: z.enum(PAYMENTS),
  /** The word that follows the money. */
  settled: z.enum(SETTLEMENTS),
  shipTo: fromCore<Address>(),
  billTo: fromCore<Address>().nullable(),
  pickUpPoint: z.string(),
  note: z.string(),
  serviceAsked: z.string(),
  shipBy: z.string().nullable(),
  weightOverrideMg: z.number().nullable(),
  money: OrderMoney,
  draft: z.boolean(),
  parkWord: z.string().nullable(),
  lines: z.array(OrderLineView),
  stops: z.array(fromCore<StopReason>()),
  differences: z.array(DifferenceView),
  notes: z.array(OrderNoteView),
  parcels: z.array(OrderParcel),
  /** What its labels cost together, in the order's currency; null where there is none or a rate is missing. */
  labelsMinor: z.number().nullable(),
  lists: z.array(z.string()),
  /** Orders that belong to this one: split from it, merged into it, or able to travel with it. */
  related: z.array(
    z.object({
      id: z.string(),
      number: z.string(),
      stage: z.enum(STAGES),
      how: z.enum(['split', 'merged', 'can travel along']),
    }),
  ),
  /** What an edit of lines or address would undo, in one sentence; null when nothing. */
  undoes: z.string().nullable(),
  history: z.array(HistoryRow),
  version: z.number(),
});
export type OrderView = z.infer<typeof OrderView>;

export const KeptQuestion = z.object({
  id: z.string(),
  name: z.string(),
  question: z.string(),
  count: OrderCount,
});
export type KeptQuestion = z.infer<typeof KeptQuestion>;

export const KeepQuestion = z.object({
  name: z.string().trim().min(1).max(60),
  question: z.string().max(1000),
});

/** A buyer as found again among the orders. */
export const KnownBuyer = z.object({ mail: z.string(), orders: z.number(), shipTo: fromCore<Address>() });
export type KnownBuyer = z.infer<typeof KnownBuyer>;

export const PreferenceIn = z.object({ value: z.unknown() });

/** A page of the order list with how many there are. */
export const OrderPageAnswer = pageOf(OrderRow).extend(z.object({ count: OrderCount }).shape);
export type OrderPageAnswer = z.infer<typeof OrderPageAnswer>;

/** The orders before and after one, in the list a person came from. */
export const Neighbours = z.object({ before: z.string().nullable(), after: z.string().nullable() });
export type Neighbours = z.infer<typeof Neighbours>;

/** What a person keeps for themselves under a name; null when nothing. */
export const Kept = z.object({ value: z.unknown() });
export type Kept = z.infer<typeof Kept>;
