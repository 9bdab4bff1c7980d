import { MILLION, timesRate } from '../money/round.js';
import { fail, ok, type Result } from '../result.js';
import type { PricedLine } from './totals.js';

/** One act over all lines of an order. A percentage is a change in parts of a million: 10 % off is -100 000. */
export type LinesAct =
  | { type: 'percent'; ppm: number }
  | { type: 'amount'; minor: number }
  | { type: 'tax'; ppm: number };

/**
 * Applies one act to all lines: prices by a percentage (rounded per line, halves away from zero) or by an amount a unit, or one tax
 * rate. A changed line's tax is computed from then on. Refused when a price would fall under zero; the answer names the line (from 0).
 * Example: 10 % off a price of 1999 is 1799.
 */
export function actOnLines<L extends PricedLine>(
  lines: readonly L[],
  act: LinesAct,
  rate: (line: L) => number,
): Result<L[], { line: number }> {
  const changed = lines.map((l): L => {
    if (act.type === 'tax') return { ...l, taxPpm: act.ppm, taxMinor: null };
    const priceMinor =
      act.type === 'amount' ? l.priceMinor + act.minor : timesRate(l.priceMinor, MILLION + act.ppm);
    return { ...l, priceMinor, taxPpm: rate(l), taxMinor: null };
  });
  const under = changed.findIndex(l => l.priceMinor < 0);
  return under === -1 ? ok(changed) : fail({ line: under });
}
