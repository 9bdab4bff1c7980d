import { type ReceiveState } from '@auk/core';
import { z } from 'zod';
import { fromCore, Id } from './common.js';

export const PurchaseOrderIn = z.object({
  key: Id,
  supplier: z.string().trim().min(1).max(80),
  reference: z.string().trim().max(60).default(''),
  expected: z.iso.date().nullable().default(null),
  note: z.string().trim().max(300).default(''),
  lines: z
    .array(
      z.object({
        sku: z.string().trim().toUpperCase().min(1).max(60),
        quantity: z.number().int().min(1).max(1_000_000),
      }),
    )
    .min(1)
    .max(500),
});

export type PurchaseOrderIn = z.infer<typeof PurchaseOrderIn>;

export const PurchaseOrderRow = z.object({
  no: z.string(),
  supplier: z.string(),
  reference: z.string(),
  expected: z.string().nullable(),
  /** `to buyer`: the supplier sends it to a buyer, and it never comes here. */
  state: z.enum(['open', 'done', 'cancelled', 'to buyer']),
  late: z.boolean(),
  lines: z.number(),
  ordered: z.number(),
  received: z.number(),
  /** Open orders that are Short of something on it. */
  frees: z.number(),
});
export type PurchaseOrderRow = z.infer<typeof PurchaseOrderRow>;

/** A supplier, and where they read mail; empty where nobody told. */
export const SupplierView = z.object({ id: z.string(), name: z.string(), mail: z.string() });
export type SupplierView = z.infer<typeof SupplierView>;
export const SupplierMail = z.object({ mail: z.union([z.literal(''), z.email().max(254)]) });

export const ReceiveOpen = z.object({ device: z.string().min(1).max(60) });

/** Receiving of one purchase order as the dock sees it. */
export const ReceiveView = z.object({
  sessionId: z.string(),
  no: z.string(),
  reference: z.string(),
  expected: z.string().nullable(),
  orderState: z.enum(['open', 'done', 'cancelled', 'to buyer']),
  state: fromCore<ReceiveState>(),
  /** Orders that what was received here made Clear and that still are, most urgent first. */
  freed: z.array(z.object({ id: z.string(), no: z.string(), channelNumber: z.string(), buyer: z.string() })),
});
export type ReceiveView = z.infer<typeof ReceiveView>;
