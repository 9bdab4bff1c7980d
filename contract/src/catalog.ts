import { type Change, type FactValue, type MissingFact } from '@auk/core';
import { z } from 'zod';
import { fromCore, PageQuery } from './common.js';

export const ProductQuery = PageQuery.extend({
  words: z.string().trim().max(80).default(''),
  stage: z.enum(['Unproven', 'Live', 'Retired']).optional(),
  missing: z.enum(['yes']).optional(),
  size: z.coerce.number().int().min(1).max(1000).default(500),
});

export type ProductQuery = z.infer<typeof ProductQuery>;

const Sides = z.object({ length: z.number(), width: z.number(), height: z.number() });

/** A case of a product by its code: how many are in it, and its size and weight as measured, where somebody did. */
export const CaseView = z.object({
  code: z.string(),
  units: z.number(),
  size: Sides.nullable(),
  weightMg: z.number().nullable(),
});
export type CaseView = z.infer<typeof CaseView>;

const Side = z.number().int().min(1).max(100_000);
/** A case as it was measured; null empties, what is not named stays. */
export const MeasureCase = z.object({
  code: z.string().trim().min(1).max(100),
  size: z.object({ length: Side, width: Side, height: Side }).nullish(),
  weightMg: z.number().int().min(1).max(2_000_000_000).nullish(),
});
export type MeasureCase = z.infer<typeof MeasureCase>;

export const ProductRow = z.object({
  id: z.string(),
  sku: z.string(),
  name: z.string(),
  kind: z.enum(['piece', 'kit', 'bundle']),
  stage: z.enum(['Unproven', 'Live', 'Retired']),
  codes: z.array(z.object({ code: z.string(), units: z.number() })),
  cases: z.array(CaseView),
  aliases: z.array(z.string()),
  onHand: z.number(),
  reserved: z.number(),
  free: z.number(),
  places: z.array(z.object({ code: z.string(), onHand: z.number(), listed: z.number() })),
  parts: z.array(z.object({ sku: z.string(), name: z.string(), quantity: z.number() })),
  picture: z.string().nullable(),
  hint: z.string().nullable(),
  weightMg: z.number().nullable(),
  packedWeightMg: z.number().nullable(),
  size: Sides.nullable(),
  facts: z.record(z.string(), fromCore<FactValue>()),
  missing: z.array(fromCore<MissingFact>()),
  listings: z.array(
    z.object({
      channel: z.string(),
      channelSku: z.string(),
      units: z.number(),
      priceMinor: z.number().nullable(),
    }),
  ),
  openOrders: z.number(),
  version: z.number(),
});
export type ProductRow = z.infer<typeof ProductRow>;

export const ProductHistory = z.object({
  at: z.string(),
  person: z.string().nullable(),
  says: z.string(),
  changes: z.array(fromCore<Change>()),
});
export type ProductHistory = z.infer<typeof ProductHistory>;

const Fact = z.union([z.string().trim().max(200), z.number().int(), z.boolean(), z.null()]);

/** Fields of a product that an edit names; null empties. Lengths in tenths of a millimetre, weights in milligrams. */
export const ProductFields = z.record(z.string().max(40), Fact);

export const ProductEdit = z.object({ version: z.number().int().min(1), fields: ProductFields });

export const NewProduct = z.object({
  sku: z.string().trim().toUpperCase().min(1).max(60),
  fields: ProductFields,
});

/** One change in many products at once, from the table. */
export const ProductsEdit = z.object({
  skus: z.array(z.string().max(60)).min(1).max(500),
  fields: ProductFields,
});

export const CodeIn = z.object({
  code: z.string().trim().min(1).max(100),
  units: z.number().int().min(1).max(10_000).default(1),
});

export const AliasIn = z.object({ code: z.string().trim().min(1).max(60) });

export const PlaceView = z.object({
  code: z.string(),
  kind: z.string(),
  /** The newest move from or to it; 0 when there was none. */
  seen: z.number(),
  stock: z.array(
    z.object({
      sku: z.string(),
      name: z.string(),
      onHand: z.number(),
      listed: z.number(),
      lot: z.string().nullable(),
      expiry: z.string().nullable(),
    }),
  ),
});
export type PlaceView = z.infer<typeof PlaceView>;

const SizeOf = z.object({ length: z.number(), width: z.number(), height: z.number() });
/** A size or weight of a product as a bench found it, beside what is kept of it. Lengths in tenths of a millimetre. */
export const MeasuredRow = z.object({
  id: z.string(),
  sku: z.string(),
  name: z.string(),
  at: z.string(),
  person: z.string().nullable(),
  order: z.string().nullable(),
  size: SizeOf.nullable(),
  weightMg: z.number().nullable(),
  keptSize: SizeOf.nullable(),
  keptMg: z.number().nullable(),
});
export type MeasuredRow = z.infer<typeof MeasuredRow>;

const MeasuredSide = z.number().int().min(1).max(60_000);
export const MeasureIn = z.object({ length: MeasuredSide, width: MeasuredSide, height: MeasuredSide });
export type MeasureIn = z.infer<typeof MeasureIn>;

export const Decided = z.object({ take: z.boolean() });
