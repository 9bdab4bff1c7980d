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

/** A page of rows of a form. */
export const pageOf = <T extends z.ZodType>(row: T) =>
  z.object({ rows: z.array(row), next: z.string().nullable() });

/** A value that the core defines. It is passed on as it is; what it is, its type says. */
export const fromCore = <T>() => z.custom<T>(value => value !== undefined);
