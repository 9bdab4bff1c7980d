import { z } from 'zod';

export const FindQuery = z.object({ text: z.string().min(1).max(20_000) });

/** A thing in the house that a code or words led to, and the page that shows it. */
export const Found = z.object({
  kind: z.enum([
    'order',
    'product',
    'place',
    'list',
    'parcel',
    'departure',
    'tote',
    'purchase',
    'build',
    'inbound',
  ]),
  code: z.string(),
  name: z.string(),
  path: z.string(),
});
export type Found = z.infer<typeof Found>;

export const FoundAll = z.object({ exact: Found.nullable(), others: z.array(Found), says: z.string() });
export type FoundAll = z.infer<typeof FoundAll>;
