import { z } from 'zod';

const Cap = z.number().int().min(0).max(1e9).nullable();

/** Most that may be bought unattended, minor units of the house's currency; of a rule by its id, in a day. Null is no cap, and no cap is no buying. */
export const SpendCapsIn = z.object({
  labelMinor: Cap,
  dayMinor: Cap,
  rules: z.record(z.string().max(36), Cap),
});
export type SpendCapsIn = z.infer<typeof SpendCapsIn>;

/** What was bought, refused or is on its way without a person today. */
export const SpendingView = z.object({
  currency: z.string(),
  caps: SpendCapsIn,
  /** Whether a rule of the book that runs buys at all. */
  buys: z.boolean(),
  paused: z.boolean(),
  day: z.string(),
  labels: z.number(),
  /** Spent or held today, of all rules. */
  minor: z.number(),
  refused: z.number(),
  rules: z.array(z.object({ rule: z.string(), minor: z.number() })),
  rows: z.array(
    z.object({
      id: z.string(),
      parcel: z.string(),
      order: z.string(),
      orderId: z.string(),
      rule: z.string(),
      service: z.string(),
      minor: z.number().nullable(),
      state: z.enum(['bought', 'under way', 'refused', 'voided']),
      why: z.string(),
      at: z.string(),
    }),
  ),
});
export type SpendingView = z.infer<typeof SpendingView>;
