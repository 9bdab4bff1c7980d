import {
  type CodeCheck,
  DOORS,
  DRAFT_SECTIONS,
  type DroppedWay,
  HANDINGS,
  type InboundStage,
  type Placed,
  type PlanChange,
  PREPARATIONS,
  type PrepareState,
  type SendProposal,
  type WaysTable,
} from '@auk/core';
import { z } from 'zod';
import { fromCore, Id } from './common.js';
import { NetworkRules } from './network.js';
import { Device } from './scans.js';

const Sku = z.string().trim().toUpperCase().min(1).max(60);
const Stage = fromCore<InboundStage>();

export const InboundIn = z.object({
  key: Id,
  network: z.string().trim().min(1, 'is wanted').max(40),
  source: z.enum(['house', 'supplier', 'abroad']).default('house'),
  storage: z.enum(['near', 'deep']).default('near'),
});
export type InboundIn = z.infer<typeof InboundIn>;

export const InboundChange = z.object({
  source: z.enum(['house', 'supplier', 'abroad']),
  storage: z.enum(['near', 'deep']),
  shipDay: z.iso.date().nullable(),
  weeks: z.number().int().min(1).max(52),
  handing: z.enum(HANDINGS),
  door: z.enum(DOORS),
});
export type InboundChange = z.infer<typeof InboundChange>;

/** A line as it is to be; no units take it out. */
export const InboundLineIn = z.object({
  sku: Sku,
  units: z.number().int().min(0).max(100_000),
  inCases: z.boolean().default(false),
  by: z.enum(['us', 'network']).default('us'),
});
export type InboundLineIn = z.infer<typeof InboundLineIn>;

/** Lines from a file of two columns, code or SKU and units. */
export const InboundFileIn = z.object({ text: z.string().min(1).max(1_000_000) });
export const InboundFileAnswer = z.object({
  taken: z.number(),
  problems: z.array(z.object({ row: z.number(), says: z.string() })),
});
export type InboundFileAnswer = z.infer<typeof InboundFileAnswer>;

/** A purchase order or a build, whose goods go along. */
export const InboundFromIn = z.object({
  code: z
    .string()
    .trim()
    .toUpperCase()
    .regex(/^(PO|BU)-\d{1,9}$/, 'is the number of a purchase order or a build, such as PO-12'),
});
export const UNIT_LABEL_FORMS = ['sheet', 'thermal'] as const;

export const InboundScanIn = z.object({ text: z.string().min(1).max(200) });
export const InboundScanned = z.object({ confirmed: z.boolean(), says: z.string() });
export type InboundScanned = z.infer<typeof InboundScanned>;

export const InboundPreparedIn = z.object({
  key: Id,
  sku: Sku,
  done: z.number().int().min(0).max(100_000),
  spoiled: z.number().int().min(0).max(100_000).default(0),
});
export type InboundPreparedIn = z.infer<typeof InboundPreparedIn>;

/** A shipment is opened for preparing, by its number. */
export const OpenPreparing = z.object({
  code: z
    .string()
    .trim()
    .toUpperCase()
    .regex(/^IN-\d{1,9}$/, 'is the number of a shipment, such as IN-77'),
  device: Device,
});
export type OpenPreparing = z.infer<typeof OpenPreparing>;

/** A shipment that is being prepared: its session, the printer of its labels (null where this bench has none), and where it stands. */
export const OpenedPreparing = z.object({
  sessionId: z.string(),
  no: z.string(),
  printer: z.string().nullable(),
  state: fromCore<PrepareState>(),
});
export type OpenedPreparing = z.infer<typeof OpenedPreparing>;

/** A shipment of which units are to be prepared by us. */
export const ToPrepareRow = z.object({
  no: z.string(),
  name: z.string(),
  network: z.string(),
  shipDay: z.string().nullable(),
  units: z.number(),
  prepared: z.number(),
});
export type ToPrepareRow = z.infer<typeof ToPrepareRow>;

/** Which unit labels: of all products, or of one of them so many. */
export const UnitLabelQuery = z.object({
  sku: Sku.optional(),
  /** Of the one product, in place of as many as go. */
  count: z.coerce.number().int().min(1).max(1_000).optional(),
});

export const WayIn = z.object({
  /** Another network than the shipment's means that it goes there instead; its codes are asked then, and the way is chosen anew. */
  network: z.string().max(40).optional(),
  placement: z.enum(['one dock', 'spread']),
  form: z.enum(['parcels', 'pallets']),
  carrier: z.string().min(1).max(60),
  rates: z.enum(['theirs', 'ours']),
});
export type WayIn = z.infer<typeof WayIn>;

/** Units that are moved from one planned box of a part into another, by their numbers; into a new one where none is named. */
export const MoveUnitsIn = z.object({
  key: Id,
  sku: Sku,
  units: z.number().int().min(1).max(100_000),
  from: z.number().int().min(1),
  to: z.number().int().min(1).nullable(),
});
export type MoveUnitsIn = z.infer<typeof MoveUnitsIn>;

export const InboundAct = z.object({ key: Id });
export const BookIn = z.object({
  key: Id,
  /** The price that was confirmed, minor units of the network's currency. */
  priceMinor: z.number().int().min(0),
});
export type BookIn = z.infer<typeof BookIn>;

export const DecideDifference = z.object({
  as: z.enum(['claimed', 'written off', 'booked']),
  reason: z.string().trim().min(3, 'say why, in three letters at least').max(120),
});
export type DecideDifference = z.infer<typeof DecideDifference>;

export const InboundRow = z.object({
  no: z.string(),
  name: z.string(),
  network: z.string(),
  centers: z.string(),
  stage: Stage,
  products: z.number(),
  units: z.number(),
  shipDay: z.string().nullable(),
  createdAt: z.string(),
  /** What somebody must look at; empty when nothing. */
  trouble: z.string(),
});
export type InboundRow = z.infer<typeof InboundRow>;

export const InboundLineView = z.object({
  sku: z.string(),
  name: z.string(),
  picture: z.string().nullable(),
  units: z.number(),
  perCase: z.number().nullable(),
  /** What a case of it counts by its codes; null where it has none. */
  caseOf: z.number().nullable(),
  /** Whether the size or weight of the case that it goes in is a guess. */
  caseGuessed: z.boolean(),
  free: z.number(),
  there: z.number(),
  onTheWay: z.number(),
  proposal: fromCore<SendProposal>(),
  code: fromCore<CodeCheck>().nullable(),
  confirmed: z.string().nullable(),
  category: z.string().nullable(),
  needs: z.array(z.object({ needs: z.enum(PREPARATIONS), feeMinor: z.number().nullable() })),
  by: z.enum(['us', 'network']),
  prepared: z.number(),
  spoiled: z.number(),
  lacking: z.array(z.object({ fact: z.string(), says: z.string() })),
  /** Why the network does not take it. */
  refused: z.string().nullable(),
});
export type InboundLineView = z.infer<typeof InboundLineView>;

export const InboundBoxView = z.object({
  no: z.number(),
  code: z.string(),
  name: z.string(),
  inner: z.object({ length: z.number(), width: z.number(), height: z.number() }),
  weightMg: z.number(),
  heavy: z.boolean(),
  /** Where its pieces lie; empty where it was packed another way. */
  placed: z.array(fromCore<Omit<Placed, 'piece'> & { sku: string }>()),
  contents: z.array(z.object({ sku: z.string(), units: z.number(), cases: z.number() })),
});
export type InboundBoxView = z.infer<typeof InboundBoxView>;

/** A pallet as it is loaded: height and weight with the pallet itself, and where its boxes stand above the deck. */
export const InboundPalletView = z.object({
  no: z.number(),
  boxes: z.number(),
  size: z.object({ length: z.number(), width: z.number(), height: z.number() }),
  weightMg: z.number(),
  /** A cut goes through all of its layers: it wants wrapping. */
  seam: z.boolean(),
  placed: z.array(fromCore<Omit<Placed, 'piece'> & { code: string }>()),
});
export type InboundPalletView = z.infer<typeof InboundPalletView>;

export const PackedBoxView = z.object({
  parcel: z.string(),
  sscc: z.string().nullable(),
  box: z.string().nullable(),
  weightMg: z.number().nullable(),
  tracking: z.string().nullable(),
  contents: z.array(
    z.object({
      sku: z.string(),
      units: z.number(),
      lot: z.string().nullable(),
      expiry: z.string().nullable(),
      counted: z.number().nullable(),
    }),
  ),
  events: z.array(z.object({ at: z.string(), says: z.string() })),
});
export type PackedBoxView = z.infer<typeof PackedBoxView>;

export const InboundPartView = z.object({
  id: z.string(),
  center: z.string(),
  town: z.string(),
  stage: Stage,
  order: z.object({ id: z.string(), no: z.string(), stage: z.string() }).nullable(),
  lines: z.array(z.object({ sku: z.string(), units: z.number() })),
  planned: z.array(InboundBoxView),
  /** How its boxes stand on pallets, where it goes on some. */
  pallets: z.array(InboundPalletView),
  boxes: z.array(PackedBoxView),
  /** Its pallets as they are packed and numbered, with the parcels on each; none before its price was asked for. */
  loaded: z.array(
    z.object({
      no: z.number(),
      sscc: z.string(),
      height: z.number(),
      weightMg: z.number(),
      parcels: z.array(z.string()),
    }),
  ),
  booking: z.object({
    state: z.enum(['none', 'asked', 'booked', 'refused', 'unknown', 'cancelled']),
    no: z.string().nullable(),
    minor: z.number().nullable(),
    currency: z.string().nullable(),
    freeUntil: z.string().nullable(),
    why: z.string().nullable(),
  }),
  late: z.string().nullable(),
  differences: z.array(
    z.object({
      id: z.string(),
      sscc: z.string(),
      code: z.string(),
      missing: z.number(),
      surplus: z.number(),
      stranger: z.boolean(),
      state: z.enum(['open', 'claimed', 'written off', 'booked']),
      reason: z.string(),
    }),
  ),
});
export type InboundPartView = z.infer<typeof InboundPartView>;

export const ChosenWay = WayIn.extend({
  sumMinor: z.number(),
  perUnit: z.number(),
  days: z.number(),
  /** What Auk expected the network to answer, where that was otherwise. */
  differs: z.string(),
});
export type ChosenWay = z.infer<typeof ChosenWay>;

export const InboundView = z.object({
  no: z.string(),
  name: z.string(),
  network: z.string(),
  stage: Stage,
  source: z.enum(['house', 'supplier', 'abroad']),
  storage: z.enum(['near', 'deep']),
  shipDay: z.string().nullable(),
  weeks: z.number(),
  handing: z.enum(HANDINGS),
  door: z.enum(DOORS),
  from: z.string(),
  currency: z.string(),
  rules: NetworkRules.nullable(),
  /** Why the network could not be asked for its rules. */
  silent: z.string().nullable(),
  lines: z.array(InboundLineView),
  sections: z.array(z.object({ section: z.enum(DRAFT_SECTIONS), done: z.boolean(), says: z.string() })),
  way: ChosenWay.nullable(),
  /** Under which the network keeps its plan. */
  planCode: z.string().nullable(),
  /** What the network has changed of its plan since it was chosen, with the packed boxes that hold units which are to go elsewhere. */
  planChanged: z.array(
    fromCore<PlanChange>().and(z.object({ name: z.string(), boxes: z.array(z.string()) })),
  ),
  parts: z.array(InboundPartView),
  story: z.array(
    z.object({
      at: z.string(),
      person: z.string().nullable(),
      says: z.string(),
      sscc: z.string().nullable(),
    }),
  ),
});
export type InboundView = z.infer<typeof InboundView>;

export const InboundWays = z.object({
  table: fromCore<WaysTable>(),
  dropped: z.array(fromCore<DroppedWay>()),
  left: z.array(z.object({ sku: z.string(), why: z.string() })),
  /** The boxes of the best placement, as they are planned now. */
  boxes: z.array(InboundBoxView),
  bound: z.number(),
});
export type InboundWays = z.infer<typeof InboundWays>;

/** What a booking would cost now, as the network says. */
export const InboundPrice = z.object({
  minor: z.number(),
  currency: z.string(),
  boxes: z.number(),
  units: z.number(),
});
export type InboundPrice = z.infer<typeof InboundPrice>;

export const PrefixIn = z.object({
  prefix: z
    .string()
    .trim()
    .regex(/^\d{7,10}$/, 'is 7 to 10 digits'),
});
export const InboundNetworks = z.object({
  networks: z.array(z.string()),
  prefix: z.string().nullable(),
});
export type InboundNetworks = z.infer<typeof InboundNetworks>;
