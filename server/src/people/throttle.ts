const FREE_TRIES = 5;
const FIRST_WAIT_S = 120;
const LONGEST_WAIT_S = 3_600;

/** Seconds to wait after so many tries without success: none before the fifth, then two minutes, doubled by each further try up to an hour. */
export function waitAfter(tries: number): number {
  if (tries < FREE_TRIES) return 0;
  return Math.min(LONGEST_WAIT_S, FIRST_WAIT_S * 2 ** Math.min(tries - FREE_TRIES, 10));
}
