import type { Address } from '@auk/core';
import { z } from 'zod';
import { fromCore } from './common.js';

/** An order's address in Latin letters: whether it is not, a proposal, and what somebody has given. */
export const LatinView = z.object({
  needed: z.boolean(),
  proposal: fromCore<Address>(),
  given: fromCore<Address>().nullable(),
});
export type LatinView = z.infer<typeof LatinView>;

const Latin = z.string().trim().max(120);
export const LatinIn = z.object({
  name: Latin.min(1, 'is wanted'),
  company: Latin,
  line1: Latin.min(1, 'is wanted'),
  line2: Latin,
  city: Latin.min(1, 'is wanted'),
  region: Latin,
});
export type LatinIn = z.infer<typeof LatinIn>;
