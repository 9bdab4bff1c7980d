import type { ReceiveState } from '@auk/core';
import { z } from 'zod';
import { Id } from './common.js';

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

export interface PurchaseOrderRow {
  no: string;
  supplier: string;
  reference: string;
  expected: string | null;
  state: 'open' | 'done' | 'cancelled';
  late: boolean;
  lines: number;
  ordered: number;
  received: number;
  /** Open orders that are Short of something on it. */
  frees: number;
}

export const ReceiveOpen = z.object({ device: z.string().min(1).max(60) });

/** Receiving of one purchase order as the dock sees it. */
export interface ReceiveView {
  sessionId: string;
  no: string;
  reference: string;
  expected: string | null;
  orderState: 'open' | 'done' | 'cancelled';
  state: ReceiveState;
  /** Orders that what was received here made Clear and that still are, most urgent first. */
  freed: { id: string; no: string; channelNumber: string; buyer: string }[];
}
