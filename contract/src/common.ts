import { z } from 'zod';

export const Id = z.uuid('it is not the id of anything in Auk');

/** A page is asked for by the key after which it begins. */
export const PageQuery = z.object({
  after: z.string().max(60).optional(),
  size: z.coerce.number().int().min(1).max(200).default(100),
});

export interface Page<T> {
  rows: T[];
  next: string | null;
}

/** A page of rows of a form. */
export const pageOf = <T extends z.ZodType>(row: T) =>
  z.object({ rows: z.array(row), next: z.string().nullable() });

/** What was made, by its id, its number or its badge. */
export const MadeId = z.object({ id: z.string() });
export const MadeNo = z.object({ no: z.string() });
export const MadeBadge = z.object({ badge: z.string() });

/** A value that the core defines. It is passed on as it is; what it is, its type says. */
export const fromCore = <T>() => z.custom<T>(value => value !== undefined);
