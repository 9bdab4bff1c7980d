/** One whole, in the parts of a million that rates are given in. 7.25 % is 72 500. */
export const MILLION = 1_000_000;

/** `n / d` to the nearest whole, halves away from zero. `d` is positive. Example: `divideRound(5n, 2n)` is 3, `divideRound(-5n, 2n)` is -3. */
export function divideRound(n: bigint, d: bigint): number {
  const half = n < 0n ? -d : d;
  return Number((2n * n + half) / (2n * d)) || 0;
}

/** An amount times a rate in parts of a million, rounded to the minor unit, halves away from zero. Example: `timesRate(1999, 900_000)` is 1799. */
export function timesRate(minor: number, ppm: number): number {
  return divideRound(BigInt(minor) * BigInt(ppm), BigInt(MILLION));
}

/** The rate, in parts of a million, that `part` is of `whole`; 0 when there is no whole. Example: `rateOf(145, 2000)` is 72 500. */
export function rateOf(part: number, whole: number): number {
  return whole === 0
    ? 0
    : divideRound(BigInt(part) * BigInt(MILLION) * BigInt(Math.sign(whole)), BigInt(Math.abs(whole)));
}

/** Reads "7.25 %", "7,25" or "-10%" into parts of a million; null for anything else or more than four digits behind the point. */
export function parseRate(text: string): number | null {
  const m = /^\s*([-−+]?)(\d{1,4})(?:[.,](\d{1,4}))?\s*%?\s*$/.exec(text);
  if (!m) return null;
  const ppm = Number(m[2]) * 10_000 + Number((m[3] ?? '').padEnd(4, '0'));
  return m[1] === '-' || m[1] === '−' ? -ppm || 0 : ppm;
}

/** A rate as people read it. Example: `formatRate(72_500)` is `7.25 %`. */
export function formatRate(ppm: number): string {
  return `${String(ppm / 10_000).replace('-', '−')} %`;
}
