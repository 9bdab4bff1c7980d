import { RuleBookFile } from '@auk/contract';
import { fail, ok, type Result, type RuleBook } from '@auk/core';

/** So many faults are told of one file. */
const TOLD = 5;

/** Reads a book from the text of a file; else what is wrong with it and where, as in `rows 3, when`. */
export function readBookFile(text: string): Result<RuleBook, string[]> {
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch {
    return fail(['The file is no JSON. Choose one that was saved here, or one made by its schema.']);
  }
  const read = RuleBookFile.safeParse(json);
  if (read.success) return ok({ rows: read.data.rows } as RuleBook);
  return fail(read.error.issues.slice(0, TOLD).map(issue => `${placeOf(issue.path)}: ${issue.message}.`));
}

/** Rows are counted from 1, as they stand in the book. */
const placeOf = (path: readonly PropertyKey[]): string =>
  path.length === 0
    ? 'The file'
    : path
        .map(p => (typeof p === 'number' ? String(p + 1) : String(p)))
        .join(', ')
        .replace(/, (\d+)/g, ' $1');
