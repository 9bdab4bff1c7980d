import { z } from 'zod';
import { Id } from './common.js';

/** A button of the rule book: what stands on it, where it is found, and the code that presses it. */
export const RuleButton = z.strictObject({
  words: z.string().trim().min(1, 'is wanted').max(30),
  places: z.array(z.enum(['list', 'order', 'floor', 'bench'])).min(1),
  code: z
    .string()
    .trim()
    .toUpperCase()
    .regex(/^RB-[A-Z0-9]{1,12}$/, 'is RB- and up to 12 letters and digits'),
});

/** A button of the book that runs; `refused` says why whoever asks may not press it. */
export const RuleButtonView = z.object({
  code: z.string(),
  words: z.string(),
  places: z.array(z.enum(['list', 'order', 'floor', 'bench'])),
  says: z.string(),
  refused: z.string().nullable(),
});
export type RuleButtonView = z.infer<typeof RuleButtonView>;

/** The orders for which a button is pressed: by their ids, or by number as on a slip. */
export const PressAsk = z.object({
  orders: z
    .array(z.union([Id, z.string().regex(/^OR-\d{1,10}$/)]))
    .min(1)
    .max(500),
});
