import { z } from 'zod';

/** A parcel that came back, or may: what was sent in it, and what became of it. */
export const ReturnPiece = z.object({
  id: z.string(),
  sku: z.string(),
  name: z.string(),
  lot: z.string().nullable(),
  sent: z.number(),
  quantity: z.number(),
  judged: z.enum(['open', 'resell', 'write off']),
});
export type ReturnPiece = z.infer<typeof ReturnPiece>;

export const ReturnView = z.object({
  id: z.string(),
  parcel: z.string(),
  order: z.string(),
  orderId: z.string(),
  buyer: z.string(),
  at: z.string(),
  person: z.string().nullable(),
  /** Where the pieces lie that nobody judged yet. */
  place: z.string(),
  pieces: z.array(ReturnPiece),
});
export type ReturnView = z.infer<typeof ReturnView>;

/** A scan of what came back: the parcel's own code or its tracking number. The key makes a repeat harmless. */
export const TakeBackIn = z.object({ key: z.uuid(), code: z.string().trim().min(3).max(100) });
export type TakeBackIn = z.infer<typeof TakeBackIn>;

/** How many of what was sent are really in it. */
export const CountBackIn = z.object({ quantity: z.number().int().min(0).max(100_000) });

/** What becomes of pieces: back into a place of stock, or written off with a reason. */
export const JudgeIn = z.discriminatedUnion('as', [
  z.object({ key: z.uuid(), as: z.literal('resell'), place: z.string().trim().min(1).max(40) }),
  z.object({
    key: z.uuid(),
    as: z.literal('write off'),
    reason: z.string().trim().min(3, 'say why, in three letters at least').max(120),
  }),
]);
export type JudgeIn = z.infer<typeof JudgeIn>;
