import { z } from 'zod';

/** Who sends an order to the buyer in the house's stead, and how far that is. */
export const ElsewhereView = z.object({
  by: z.enum(['supplier', 'center']),
  name: z.string(),
  /** The purchase order to the supplier, `PO-12`; null while it waits. */
  purchase: z.string().nullable(),
  /** Where it was mailed to; empty where it was not. */
  mail: z.string(),
  placedAt: z.string().nullable(),
  leftAt: z.string().nullable(),
  /** Why it is not ordered there yet. */
  why: z.string().nullable(),
});
export type ElsewhereView = z.infer<typeof ElsewhereView>;

/** What a supplier tells of an order that left there. */
export const SentIn = z.object({
  carrier: z.string().trim().min(1, 'is wanted').max(60),
  tracking: z
    .string()
    .trim()
    .regex(/^[A-Za-z0-9 -]{3,40}$/, 'is made of 3 to 40 letters, digits, spaces and hyphens'),
});
export type SentIn = z.infer<typeof SentIn>;
