import { z } from 'zod';
import { Id } from './common.js';

const Sku = z.string().trim().toUpperCase().min(1).max(60);
const Quantity = z.number().int().min(1).max(10_000);

/** A part with what is free of it. */
export interface KitPart {
  sku: string;
  name: string;
  quantity: number;
}

/** A kit or bundle in the list: what there is of it, what can be made, and what is left to sell. */
export interface KitRow {
  sku: string;
  name: string;
  kind: 'kit' | 'bundle';
  picture: string | null;
  own: number;
  makeable: number;
  /** After all open orders are served in their priority. */
  leftToSell: number;
  limits: KitPart[];
  building: number;
  least: number;
  openOrders: number;
  problem: string | null;
}

export interface RecipeVersion {
  version: number;
  at: string;
  person: string | null;
  note: string;
  parts: KitPart[];
  changes: { sku: string; before: number; after: number }[];
}

export interface KitView extends KitRow {
  kitPolicy: 'stock' | 'stock then parts';
  versions: RecipeVersion[];
  /** Free units of the parts of the newest recipe, by SKU; of a bundle inside none, it has no stock. */
  frees: Record<string, number>;
  usedIn: { sku: string; name: string; quantity: number }[];
  /** Open orders whose parts follow an older recipe. */
  older: { id: string; no: string; channelNumber: string; stage: string; version: number | null }[];
}

export const RecipeIn = z.object({
  parts: z
    .array(z.object({ sku: Sku, quantity: Quantity }))
    .min(1)
    .max(200),
  note: z.string().trim().max(200).default(''),
  /** The version that was looked at; another meanwhile is told. */
  version: z.number().int().min(0),
});
export type RecipeIn = z.infer<typeof RecipeIn>;
export const KitPolicyIn = z.object({ kitPolicy: z.enum(['stock', 'stock then parts']) });
export const NewVersionIn = z.object({ orderIds: z.array(Id).min(1).max(500) });

export const MissingQuery = z.object({ quantity: z.coerce.number().int().min(1).max(1_000_000) });
/** What is missing to have so many. */
export interface MissingAnswer {
  quantity: number;
  missing: KitPart[];
}

/** Wished quantities of several sellables together. */
export const PromiseIn = z.object({
  wishes: z
    .array(z.object({ sku: Sku, quantity: z.number().int().min(1).max(1_000_000) }))
    .min(1)
    .max(50),
});
export type PromiseIn = z.infer<typeof PromiseIn>;
export interface PromiseAnswer {
  yes: boolean;
  says: string;
  builds: KitPart[];
  short: KitPart[];
}

export const BuildIn = z.object({
  key: Id,
  sku: Sku,
  quantity: Quantity,
  due: z.iso.date().nullable().default(null),
  bench: z.string().trim().toUpperCase().max(20).default(''),
  instruction: z.string().trim().max(500).default(''),
  source: z.enum(['pick', 'bench']).default('pick'),
});
export type BuildIn = z.infer<typeof BuildIn>;
export const UnbuildIn = z.object({
  key: Id,
  sku: Sku,
  quantity: Quantity,
  from: z.string().trim().toUpperCase().min(1).max(20),
  to: z.string().trim().toUpperCase().min(1).max(20),
  reason: z.string().trim().min(3, 'say why, in three letters at least').max(120),
});
export type UnbuildIn = z.infer<typeof UnbuildIn>;

/** Part of a build that is finished: kits made into a place, and parts that were spoiled. */
export const FinishIn = z.object({
  key: Id,
  made: z.number().int().min(0).max(10_000),
  to: z.string().trim().toUpperCase().max(20).default(''),
  scrapped: z
    .array(
      z.object({
        sku: Sku,
        quantity: Quantity,
        why: z.string().trim().min(3, 'say why, in three letters at least').max(120),
      }),
    )
    .max(100)
    .default([]),
});
export type FinishIn = z.infer<typeof FinishIn>;

export interface BuildRow {
  no: string;
  kind: 'make' | 'unbuild';
  sku: string;
  name: string;
  picture: string | null;
  quantity: number;
  made: number;
  due: string | null;
  bench: string | null;
  state: 'open' | 'done' | 'cancelled';
  /** Where its parts stand, in a word; only while it is open. */
  parts: string;
}

export interface BuildPart {
  sku: string;
  name: string;
  picture: string | null;
  perKit: number;
  wanted: number;
  /** Reserved or on a list, and already at hand in tote or bench. */
  reserved: number;
  atHand: number;
  used: number;
  scrapped: number;
  places: string[];
}

export interface BuildView extends BuildRow {
  instruction: string;
  source: 'pick' | 'bench';
  orderId: string | null;
  orderStage: string | null;
  tote: string | null;
  createdAt: string;
  person: string | null;
  codes: string[];
  lines: BuildPart[];
  canMake: number;
  putAway: { code: string; why: string } | null;
  story: { at: string; person: string | null; says: string }[];
}

export interface ProposedBuildRow {
  sku: string;
  name: string;
  picture: string | null;
  quantity: number;
  now: number;
  why: string;
  limits: KitPart[];
}
