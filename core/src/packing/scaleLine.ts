import { MG } from '../units/units.js';

/** What one line of a scale says: a weight in milligrams that is at rest or still moving, or that the scale is overloaded. */
export type ScaleReading = { state: 'at rest' | 'moving'; mg: number } | { state: 'overloaded' };

const LINE =
  /^\s*(ST|US|OL)\s*,\s*(?:GS|NT)\s*(?:,\s*([+-]?)\s*(\d{1,6}(?:\.\d{1,4})?)\s*(kg|g|lb|oz)\s*)?$/i;

/**
 * Reads a line of a scale, the form that many send: ST (at rest), US (moving) or OL (overloaded), GS (gross) or NT (net), a signed
 * number and its unit. Null for anything else. Example: `readScaleLine('ST,GS,+  2.35 lb')` is at rest with 1,065,942 mg.
 */
export function readScaleLine(line: string): ScaleReading | null {
  const found = LINE.exec(line);
  if (!found) return null;
  const [, state, sign, number, unit] = found;
  if (state!.toUpperCase() === 'OL') return { state: 'overloaded' };
  if (number === undefined) return null;
  const mg = Math.round(Number(number) * MG[unit!.toLowerCase() as keyof typeof MG]);
  return { state: state!.toUpperCase() === 'ST' ? 'at rest' : 'moving', mg: sign === '-' ? -mg : mg };
}

/**
 * The weight that a scale has come to: the newest reading at rest that is more than nothing and equals the one before it. Null while it
 * is still moving, or nothing lies on it.
 */
export function settledWeight(readings: readonly ScaleReading[]): number | null {
  const [before, last] = readings.slice(-2);
  if (before?.state !== 'at rest' || last?.state !== 'at rest') return null;
  return before.mg === last.mg && last.mg > 0 ? last.mg : null;
}
