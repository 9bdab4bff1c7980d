import { NO_CHOICES } from '@auk/core';
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

/** How boxes are proposed and weights are judged. Padding in tenths of a millimetre; a weight may be off by the larger of the two. */
export const PackingChoices = z.object({
  padding: z.number().int().min(0).max(1_000),
  parcelCostMinor: z.number().int().min(0).max(1_000_000),
  toleranceMg: z.number().int().min(0).max(10_000_000),
  tolerancePpm: z.number().int().min(0).max(500_000),
});
export type PackingChoices = z.infer<typeof PackingChoices>;

/** What counts while nobody has chosen. */
export const FIRST_PACKING_CHOICES: PackingChoices = {
  padding: 51,
  parcelCostMinor: 600,
  toleranceMg: NO_CHOICES.toleranceMg,
  tolerancePpm: NO_CHOICES.tolerancePpm,
};

/** What a product of a category counts as while it has no size or weight of its own; the empty category is every other. */
export const Guess = z.object({
  category: z.string().trim().max(40),
  length: Side,
  width: Side,
  height: Side,
  weightMg: z.number().int().min(1).max(1_000_000_000),
});
export type Guess = z.infer<typeof Guess>;
export const Guesses = z.object({ guesses: z.array(Guess).max(200) });

/** A small thing: what counts while nobody has said what to guess. */
export const FIRST_GUESS: Guess = { category: '', length: 1524, width: 1016, height: 508, weightMg: 226_796 };

/** The boxes of the house, those first that are preferred, the currency of their prices, and how they are proposed. */
export const BoxesView = z.object({
  boxes: z.array(BoxRow),
  currency: z.string(),
  choices: PackingChoices,
  guesses: z.array(Guess),
});
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
