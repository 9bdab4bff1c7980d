import type { Change, FactValue, MissingFact } from '@auk/core';
import { z } from 'zod';
import { PageQuery } from './common.js';

export const ProductQuery = PageQuery.extend({
  words: z.string().trim().max(80).default(''),
  stage: z.enum(['Unproven', 'Live', 'Retired']).optional(),
  missing: z.enum(['yes']).optional(),
  size: z.coerce.number().int().min(1).max(1000).default(500),
});
export type ProductQuery = z.infer<typeof ProductQuery>;

export interface ProductRow {
  id: string;
  sku: string;
  name: string;
  kind: 'piece' | 'kit' | 'bundle';
  stage: 'Unproven' | 'Live' | 'Retired';
  codes: { code: string; units: number }[];
  aliases: string[];
  onHand: number;
  reserved: number;
  free: number;
  places: { code: string; onHand: number; listed: number }[];
  parts: { sku: string; name: string; quantity: number }[];
  picture: string | null;
  hint: string | null;
  weightMg: number | null;
  packedWeightMg: number | null;
  size: { length: number; width: number; height: number } | null;
  facts: Record<string, FactValue>;
  missing: MissingFact[];
  listings: { channel: string; channelSku: string; units: number; priceMinor: number | null }[];
  openOrders: number;
  version: number;
}

export interface ProductHistory {
  at: string;
  person: string | null;
  says: string;
  changes: Change[];
}

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

export interface PlaceView {
  code: string;
  kind: string;
  /** The newest move from or to it; 0 when there was none. */
  seen: number;
  stock: {
    sku: string;
    name: string;
    onHand: number;
    listed: number;
    lot: string | null;
    expiry: string | null;
  }[];
}
