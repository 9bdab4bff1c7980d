import { minorDigits } from './money.js';
import { divideRound } from './round.js';

/** Units of the house's currency for one unit of each other currency, as they count today; at most eight digits behind the point. */
export type ExchangeRates = ReadonlyMap<string, number>;

const SCALE = 1e8;

/**
 * An amount in another currency, by rates to the house's own, rounded once to the minor unit, halves away from zero; null when a rate is
 * missing. Example: 1000 CAD cents at 0.72 dollars are 720 cents of a house that counts in dollars.
 */
export function convert(
  minor: number,
  from: string,
  to: string,
  rates: ExchangeRates,
  house: string,
): number | null {
  if (from === to) return minor;
  const [a, b] = [from, to].map(c => (c === house ? 1 : rates.get(c)));
  if (!a || !b) return null;
  const n = BigInt(minor) * BigInt(Math.round(a * SCALE)) * 10n ** BigInt(minorDigits(to));
  return divideRound(n, BigInt(Math.round(b * SCALE)) * 10n ** BigInt(minorDigits(from)));
}
