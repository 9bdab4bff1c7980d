import { z } from 'zod';

export const Id = z.uuid();

/** A page is asked for by the key after which it begins. */
export const PageQuery = z.object({
  after: z.string().max(60).optional(),
  size: z.coerce.number().int().min(1).max(200).default(100),
});

export interface Page<T> {
  rows: T[];
  next: string | null;
}
