import { z } from 'zod';
import { Id, PageQuery } from './common.js';

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
export interface StockRow {
  key: string;
  sku: string;
  name: string;
  picture: string | null;
  place: string;
  kind: string;
  zone: string;
  lot: string | null;
  expiry: string | null;
  state: 'expired' | 'soon' | null;
  onHand: number;
  reserved: number;
  free: number;
}

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

/** What was counted in a place; products not named are not touched. */
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
export interface Corrected {
  changes: { sku: string; lot: string | null; before: number; after: number }[];
  short: { no: string; channelNumber: string }[];
}

export interface CountProposal {
  place: string;
  sku: string;
  name: string;
  onHand: number;
  countedAt: string | null;
  why: string;
}

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

export interface PlaceRow {
  code: string;
  kind: string;
  zone: string;
  aisle: string | null;
  bay: number | null;
  level: number | null;
  bin: string | null;
  capacity: number | null;
  products: number;
  units: number;
}

/** One move of a product's ledger. `onHand` is what lay in places of stock after it; `document` is what caused it. */
export interface LedgerRow {
  id: number;
  at: string;
  why: string;
  reason: string;
  from: string;
  to: string;
  lot: string | null;
  quantity: number;
  change: number;
  onHand: number;
  person: string | null;
  document: { name: string; path: string } | null;
}

export interface LedgerPage {
  sku: string;
  name: string;
  onHand: number;
  reserved: number;
  /** On hand at the end of each of the last days, oldest first. */
  days: { day: string; onHand: number }[];
  rows: LedgerRow[];
  next: number | null;
}
export const StockSettings = z.object({ reserveMode: z.enum(['partly', 'whole']) });
export type StockSettings = z.infer<typeof StockSettings>;
export const LabelForm = z.enum(['sheet', 'thermal']).default('sheet');
export const LedgerQuery = z.object({ before: z.coerce.number().int().min(1).optional() });
