import { fromJson, type Tx } from '../database/db.js';
import { TooLate } from '../http/problem.js';

/** How long an act's key is kept. A repeat that comes later is refused, never done again. */
export const KEEP_ACT_DAYS = 400;
const DAY_MS = 86_400_000;
/** Digits of a UUIDv7 that hold its milliseconds since 1970 (RFC 9562, 5.7). */
const TIME_DIGITS = 12;

/**
 * Does an act once. The same key again (a double click, an answer that was lost) gets the answer of the first time and changes
 * nothing; while the first is still under way it is waited for. Keys are UUIDv7: one that is older than keys are kept is refused.
 */
export async function once<T>(tx: Tx, key: string, kind: string, act: () => Promise<T>): Promise<T> {
  const made = madeAt(key);
  if (made !== null && tx.at.getTime() - made > KEEP_ACT_DAYS * DAY_MS)
    throw new TooLate(
      'This was sent more than a year after it was made, and nobody can tell any more whether it was done.',
      'Look what is there now, and do it again if it is still wanted.',
    );
  const added = await tx.run('INSERT IGNORE INTO actKey (id, at, personId, kind) VALUES (?, ?, ?, ?)', [
    key,
    tx.at,
    tx.personId,
    kind,
  ]);
  if (added === 0) return answered<T>(tx, key, kind);
  const answer = await act();
  await tx.run('UPDATE actKey SET answer = ? WHERE id = ?', [JSON.stringify(answer ?? null), key]);
  return answer;
}

async function answered<T>(tx: Tx, key: string, kind: string): Promise<T> {
  const known = await tx.one<{ kind: string; answer: string | null }>(
    'SELECT kind, CAST(answer AS CHAR) AS answer FROM actKey WHERE id = ?',
    [key],
  );
  if (known?.kind !== kind)
    throw new TooLate('The key of this act was used for another one.', 'Open the page anew and do it again.');
  return fromJson<T>(known.answer ?? 'null');
}

/** When a key was made, if it is one that tells (version 7). */
function madeAt(key: string): number | null {
  const digits = key.replaceAll('-', '');
  return digits[TIME_DIGITS] === '7' ? Number.parseInt(digits.slice(0, TIME_DIGITS), 16) : null;
}
