import type { BuildState } from '@auk/core';
import { z } from 'zod';
import { fromCore, Id } from './common.js';
import { judgedOf } from './scans.js';

const Sku = z.string().trim().toUpperCase().min(1).max(60);

const Quantity = z.number().int().min(1).max(10_000);

/** A part with what is free of it. */
export const KitPart = z.object({ sku: z.string(), name: z.string(), quantity: z.number() });
export type KitPart = z.infer<typeof KitPart>;

/** A kit or bundle in the list: what there is of it, what can be made, and what is left to sell. */
export const KitRow = z.object({
  sku: z.string(),
  name: z.string(),
  kind: z.enum(['kit', 'bundle']),
  picture: z.string().nullable(),
  own: z.number(),
  makeable: z.number(),
  /** After all open orders are served in their priority. */
  leftToSell: z.number(),
  limits: z.array(KitPart),
  building: z.number(),
  least: z.number(),
  openOrders: z.number(),
  problem: z.string().nullable(),
});
export type KitRow = z.infer<typeof KitRow>;

export const RecipeVersion = z.object({
  version: z.number(),
  at: z.string(),
  person: z.string().nullable(),
  note: z.string(),
  parts: z.array(KitPart),
  changes: z.array(z.object({ sku: z.string(), before: z.number(), after: z.number() })),
});
export type RecipeVersion = z.infer<typeof RecipeVersion>;

export const KitView = KitRow.extend(
  z.object({
    kitPolicy: z.enum(['stock', 'stock then parts']),
    versions: z.array(RecipeVersion),
    /** Free units of the parts of the newest recipe, by SKU; of a bundle inside none, it has no stock. */
    frees: z.record(z.string(), z.number()),
    usedIn: z.array(z.object({ sku: z.string(), name: z.string(), quantity: z.number() })),
    /** Open orders whose parts follow an older recipe. */
    older: z.array(
      z.object({
        id: z.string(),
        no: z.string(),
        channelNumber: z.string(),
        stage: z.string(),
        version: z.number().nullable(),
      }),
    ),
  }).shape,
);
export type KitView = z.infer<typeof KitView>;

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
export const MissingAnswer = z.object({ quantity: z.number(), missing: z.array(KitPart) });
export type MissingAnswer = z.infer<typeof MissingAnswer>;

/** Wished quantities of several sellables together. */
export const PromiseIn = z.object({
  wishes: z
    .array(z.object({ sku: Sku, quantity: z.number().int().min(1).max(1_000_000) }))
    .min(1)
    .max(50),
});

export type PromiseIn = z.infer<typeof PromiseIn>;

export const PromiseAnswer = z.object({
  yes: z.boolean(),
  says: z.string(),
  builds: z.array(KitPart),
  short: z.array(KitPart),
});
export type PromiseAnswer = z.infer<typeof PromiseAnswer>;

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

/** The answer to a scan at a build, and the portion as it stands. */
export const BuildPortion = z.object({ state: fromCore<BuildState>() });
export const BuildJudged = judgedOf(fromCore<BuildState>());

/** Part of a build that is finished, under the id of its session of scans: kits made into a place, and parts that were spoiled. */
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

export const BuildRow = z.object({
  no: z.string(),
  kind: z.enum(['make', 'unbuild']),
  sku: z.string(),
  name: z.string(),
  picture: z.string().nullable(),
  quantity: z.number(),
  made: z.number(),
  due: z.string().nullable(),
  bench: z.string().nullable(),
  state: z.enum(['open', 'done', 'cancelled']),
  /** Where its parts stand, in a word; only while it is open. */
  parts: z.string(),
});
export type BuildRow = z.infer<typeof BuildRow>;

export const BuildPart = z.object({
  sku: z.string(),
  name: z.string(),
  picture: z.string().nullable(),
  perKit: z.number(),
  wanted: z.number(),
  /** Reserved or on a list, and already at hand in tote or bench. */
  reserved: z.number(),
  atHand: z.number(),
  used: z.number(),
  scrapped: z.number(),
  places: z.array(z.string()),
});
export type BuildPart = z.infer<typeof BuildPart>;

export const BuildView = BuildRow.extend(
  z.object({
    instruction: z.string(),
    source: z.enum(['pick', 'bench']),
    orderId: z.string().nullable(),
    orderStage: z.string().nullable(),
    tote: z.string().nullable(),
    createdAt: z.string(),
    person: z.string().nullable(),
    codes: z.array(z.string()),
    lines: z.array(BuildPart),
    canMake: z.number(),
    putAway: z.object({ code: z.string(), why: z.string() }).nullable(),
    story: z.array(z.object({ at: z.string(), person: z.string().nullable(), says: z.string() })),
  }).shape,
);
export type BuildView = z.infer<typeof BuildView>;

export const ProposedBuildRow = z.object({
  sku: z.string(),
  name: z.string(),
  picture: z.string().nullable(),
  quantity: z.number(),
  now: z.number(),
  why: z.string(),
  limits: z.array(KitPart),
});
export type ProposedBuildRow = z.infer<typeof ProposedBuildRow>;

/** How many orders took the newest version of a recipe. */
export const MovedOrders = z.object({ moved: z.number() });
export type MovedOrders = z.infer<typeof MovedOrders>;
