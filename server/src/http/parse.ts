import type { ZodType } from 'zod';
import { Malformed } from './problem.js';

/** Parses input with a schema of the contract, or refuses with the first thing that is wrong. */
export function parse<T>(schema: ZodType<T>, input: unknown): T {
  const read = schema.safeParse(input);
  if (read.success) return read.data;
  const issue = read.error.issues[0]!;
  throw new Malformed(
    `${issue.path.join('.') || 'The request'}: ${issue.message}.`,
    'Correct it and send it again.',
  );
}
