/** A product in a place, as the list of proposed counts sees it. Days since the last count (or since it came), value in minor units. */
export interface Countable {
  key: string;
  onHand: number;
  valueMinor: number;
  daysSinceCount: number;
  /** Times in the last 60 days that it was found otherwise than the ledger said. */
  errors: number;
}

/** A proposed count with its reason. Higher `score` first. */
export interface ProposedCount {
  key: string;
  score: number;
  why: 'errors' | 'value' | 'long ago';
}

const DAYS_A_ROUND = 90;
const LEAST_DAYS = 7;
/** An error weighs like this much value lying uncounted for a whole round. */
const ERROR_MINOR = 50_000;

/**
 * Orders what should be counted: value at stake grows with what lies there and how long it was not counted (once in 90 days is a
 * full round), and every error adds as much as 500.00 uncounted for a round. Counted within a week without an error since: left out.
 */
export function proposeCounts(things: readonly Countable[], most: number): ProposedCount[] {
  const scored = things
    .filter(t => t.errors > 0 || t.daysSinceCount >= LEAST_DAYS)
    .map((t): ProposedCount => {
      const byValue = (t.onHand * t.valueMinor * Math.min(t.daysSinceCount, DAYS_A_ROUND)) / DAYS_A_ROUND;
      const why = t.errors > 0 ? 'errors' : t.daysSinceCount >= DAYS_A_ROUND ? 'long ago' : 'value';
      return { key: t.key, score: Math.round(byValue) + t.errors * ERROR_MINOR, why };
    });
  scored.sort((a, b) => b.score - a.score || (a.key < b.key ? -1 : 1));
  return scored.slice(0, most);
}
