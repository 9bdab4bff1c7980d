import { z } from 'zod';

/** Longest side of a box, three metres, in tenths of a millimetre. */
const Side = z.number().int().min(1).max(30_000);

/** A kind of box as it is kept in Setup; sizes inside, in tenths of a millimetre. */
export const BoxRow = z.object({
  code: z.string(),
  name: z.string(),
  kind: z.enum(['box', 'mailer']),
  length: z.number(),
  width: z.number(),
  height: z.number(),
  tareMg: z.number(),
  limitMg: z.number(),
  priceMinor: z.number(),
  stock: z.number().nullable(),
  retired: z.boolean(),
});
export type BoxRow = z.infer<typeof BoxRow>;

/** The boxes of the house, those first that are preferred, and the currency of their prices. */
export const BoxesView = z.object({ boxes: z.array(BoxRow), currency: z.string() });
export type BoxesView = z.infer<typeof BoxesView>;

export const BoxIn = z.object({
  code: z
    .string()
    .regex(/^BX-[A-Z0-9]{1,12}$/, 'A code of a box is BX- and letters or digits, such as BX-7.'),
  name: z.string().trim().min(1).max(40),
  kind: z.enum(['box', 'mailer']),
  length: Side,
  width: Side,
  height: Side,
  tareMg: z.number().int().min(0).max(50_000_000),
  limitMg: z.number().int().min(1).max(1_000_000_000),
  priceMinor: z.number().int().min(0).max(10_000_000),
  stock: z.number().int().min(0).max(1_000_000).nullable(),
  retired: z.boolean(),
});
export type BoxIn = z.infer<typeof BoxIn>;

/** The codes of boxes in the order in which they are preferred. */
export const BoxOrder = z.object({ codes: z.array(z.string().max(20)).max(500) });
