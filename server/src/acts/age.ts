import { TooLate } from '../http/problem.js';

/** How long acts and scans are known by their keys at least. What comes later is refused, never done again. */
export const KEEP_ACT_DAYS = 400;
const DAY_MS = 86_400_000;
/** Digits of a UUIDv7 that hold its milliseconds since 1970 (RFC 9562, 5.7). */
const TIME_DIGITS = 12;

/** Refuses what was made so long ago that nobody can tell any more whether it was done. Keys are UUIDv7; others tell no time. */
export function refuseTooOld(key: string, now: Date): void {
  const made = madeAt(key);
  if (made !== null && now.getTime() - made > KEEP_ACT_DAYS * DAY_MS)
    throw new TooLate(
      'This was sent more than a year after it was made, and nobody can tell any more whether it was done.',
      'Look what is there now, and do it again if it is still wanted.',
    );
}

/** When a key was made, if it is one that tells (version 7). */
function madeAt(key: string): number | null {
  const digits = key.replaceAll('-', '');
  return digits[TIME_DIGITS] === '7' ? Number.parseInt(digits.slice(0, TIME_DIGITS), 16) : null;
}
