import type { CountState } from '@auk/core';
import { z } from 'zod';
import { fromCore, Id, PageQuery } from './common.js';
import { Device, judgedOf } from './scans.js';

const Sku = z.string().trim().toUpperCase().min(1).max(60);

const PlaceCode = z.string().trim().toUpperCase().min(1).max(20);

const Lot = z.string().trim().toUpperCase().min(1).max(20).nullable().default(null);

const Reason = z.string().trim().min(3, 'say why, in three letters at least').max(120);

const Units = z.number().int().min(1).max(1_000_000);

export const StockQuery = PageQuery.extend({
  words: z.string().trim().max(80).default(''),
  /** Kinds of places: where stock is promised from, or one kind. */
  kind: z.enum(['', 'bin', 'reserve', 'dock', 'bench', 'staging', 'quarantine', 'missing']).default(''),
  /** Only lots that expire within 60 days, or have. */
  expiring: z.enum(['', 'yes']).default(''),
});

export type StockQuery = z.infer<typeof StockQuery>;

/** One product in one place and lot. `state`: what its expiry says today. */
export const StockRow = z.object({
  key: z.string(),
  sku: z.string(),
  name: z.string(),
  picture: z.string().nullable(),
  place: z.string(),
  kind: z.string(),
  zone: z.string(),
  lot: z.string().nullable(),
  expiry: z.string().nullable(),
  state: z.enum(['expired', 'soon']).nullable(),
  onHand: z.number(),
  reserved: z.number(),
  free: z.number(),
});
export type StockRow = z.infer<typeof StockRow>;

/** Goods carried from one place to another. The same key again changes nothing. */
export const MoveIn = z.object({
  key: Id,
  sku: Sku,
  lot: Lot,
  from: PlaceCode,
  to: PlaceCode,
  quantity: Units,
  reason: Reason,
});

export type MoveIn = z.infer<typeof MoveIn>;

export const WriteOffIn = MoveIn.omit({ to: true });

export type WriteOffIn = z.infer<typeof WriteOffIn>;

/** A count that is begun: under the id that the device made for it, so that beginning it twice is one count. */
export const BeginCount = z.object({ id: Id, place: PlaceCode, device: Device });
export type BeginCount = z.infer<typeof BeginCount>;

/** A count as it stands. */
export const CountSession = z.object({ id: z.string(), state: fromCore<CountState>() });
export type CountSession = z.infer<typeof CountSession>;
export const CountJudged = judgedOf(fromCore<CountState>());

/** What was counted in a place; its key is the id of the count. Products not named are not touched. */
export const CountIn = z.object({
  key: Id,
  place: PlaceCode,
  /** The newest move of the place when the count was begun, as the place tells it: a count of an older state is refused. */
  seen: z.number().int().min(0),
  reason: z.string().trim().max(120).default(''),
  lines: z
    .array(z.object({ sku: Sku, lot: Lot, counted: z.number().int().min(0).max(1_000_000) }))
    .min(1)
    .max(200),
});

export type CountIn = z.infer<typeof CountIn>;

/** What a correction did: units more or less by product, and the orders that lost a promise. */
export const Corrected = z.object({
  changes: z.array(
    z.object({ sku: z.string(), lot: z.string().nullable(), before: z.number(), after: z.number() }),
  ),
  short: z.array(z.object({ no: z.string(), channelNumber: z.string() })),
});
export type Corrected = z.infer<typeof Corrected>;

export const CountProposal = z.object({
  place: z.string(),
  sku: z.string(),
  name: z.string(),
  onHand: z.number(),
  countedAt: z.string().nullable(),
  why: z.string(),
});
export type CountProposal = z.infer<typeof CountProposal>;

export const PLACE_KINDS = ['bin', 'reserve', 'dock', 'staging', 'bench', 'quarantine'] as const;

export const PlaceIn = z.object({
  code: PlaceCode,
  kind: z.enum(PLACE_KINDS),
  zone: z.string().trim().max(20).default(''),
  capacity: z.number().int().min(1).max(1_000_000).nullable().default(null),
});

export type PlaceIn = z.infer<typeof PlaceIn>;

export const PlaceQuery = PageQuery.extend({
  words: z.string().trim().max(40).default(''),
  kind: z.enum(['', ...PLACE_KINDS]).default(''),
});

export type PlaceQuery = z.infer<typeof PlaceQuery>;

export const PlaceRow = z.object({
  code: z.string(),
  kind: z.string(),
  zone: z.string(),
  aisle: z.string().nullable(),
  bay: z.number().nullable(),
  level: z.number().nullable(),
  bin: z.string().nullable(),
  capacity: z.number().nullable(),
  products: z.number(),
  units: z.number(),
});
export type PlaceRow = z.infer<typeof PlaceRow>;

/** One move of a product's ledger. `onHand` is what lay in places of stock after it; `document` is what caused it. */
export const LedgerRow = z.object({
  id: z.number(),
  at: z.string(),
  why: z.string(),
  reason: z.string(),
  from: z.string(),
  to: z.string(),
  lot: z.string().nullable(),
  quantity: z.number(),
  change: z.number(),
  onHand: z.number(),
  person: z.string().nullable(),
  document: z.object({ name: z.string(), path: z.string() }).nullable(),
});
export type LedgerRow = z.infer<typeof LedgerRow>;

export const LedgerPage = z.object({
  sku: z.string(),
  name: z.string(),
  onHand: z.number(),
  reserved: z.number(),
  /** On hand at the end of each of the last days, oldest first. */
  days: z.array(z.object({ day: z.string(), onHand: z.number() })),
  rows: z.array(LedgerRow),
  next: z.number().nullable(),
});
export type LedgerPage = z.infer<typeof LedgerPage>;

export const StockSettings = z.object({ reserveMode: z.enum(['partly', 'whole']) });

export type StockSettings = z.infer<typeof StockSettings>;

export const LabelForm = z.enum(['sheet', 'thermal']).default('sheet');

export const LedgerQuery = z.object({ before: z.coerce.number().int().min(1).optional() });

/** The product that a scanned code belongs to and the units it counts; null when nothing has the code. */
/** How many orders became Clear and Short when the stock was given out anew. */
export const ServedAgain = z.object({ cleared: z.number(), shorted: z.number() });
export type ServedAgain = z.infer<typeof ServedAgain>;

/** Colours that totes are made in; on a screen the word always stands beside it. */
export const TOTE_COLOURS = ['grey', 'blue', 'green', 'yellow', 'red', 'white'] as const;

/** What totes stand on, and what totes are. */
export const CARRIER_KINDS = ['tote', 'trolley'] as const;

/** Further totes or trolleys, numbered one after another: codes TO-… or TR-…, marks of a letter and a number. */
export const MakeTotes = z.object({
  kind: z.enum(CARRIER_KINDS).default('tote'),
  count: z.number().int().min(1).max(200),
  letter: z
    .string()
    .trim()
    .toUpperCase()
    .regex(/^[A-Z]$/, 'is no letter from A to Z'),
  colour: z.enum(TOTE_COLOURS),
  /** The most totes that stand on a trolley; null: as many as a list fills. */
  capacity: z.number().int().min(1).max(60).nullable().default(null),
});
export type MakeTotes = z.infer<typeof MakeTotes>;

/** A tote or trolley: whose it is now, and what lies in it. `left` tells that goods lie in it for nobody, or since another day. */
export const ToteRow = z.object({
  kind: z.enum(CARRIER_KINDS),
  code: z.string(),
  mark: z.string().nullable(),
  colour: z.enum(TOTE_COLOURS).nullable(),
  capacity: z.number().nullable(),
  order: z.string().nullable(),
  stage: z.string().nullable(),
  /** The list that it carries. */
  list: z.string().nullable(),
  units: z.number(),
  since: z.string().nullable(),
  left: z.boolean(),
});
export type ToteRow = z.infer<typeof ToteRow>;

/** Letters of a put wall. */
export const WallLetter = z
  .string()
  .trim()
  .toUpperCase()
  .regex(/^[A-Z]{1,2}$/, 'is no letter of a put wall');
/** A further put wall, by its rows and columns. */
export const MakeWall = z.object({
  rows: z.number().int().min(1).max(12),
  columns: z.number().int().min(1).max(12),
});
export type MakeWall = z.infer<typeof MakeWall>;
export const WallMade = z.object({ wall: WallLetter });
export type WallMade = z.infer<typeof WallMade>;

/** A put wall: its cells row by row, each with the order whose goods lie in it. */
export const WallView = z.object({
  wall: z.string(),
  columns: z.number(),
  cells: z.array(
    z.object({ code: z.string(), mark: z.string(), order: z.string().nullable(), units: z.number() }),
  ),
});
export type WallView = z.infer<typeof WallView>;
