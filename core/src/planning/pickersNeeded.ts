/** What is still to be picked for a departure, in seconds of one picker, and the seconds left until it must be picked. */
export interface PickWork {
  seconds: number;
  left: number;
}

/**
 * How many pickers it takes to have each departure picked in time, the departures in the order in which they leave: whoever picks for
 * a later one has first picked for those before it. 0 where nothing is left to pick; null where the time is over.
 *
 * @example
 * pickersNeeded([{ seconds: 3000, left: 3600 }, { seconds: 9000, left: 7200 }]); // [1, 2]
 */
export function pickersNeeded(departures: readonly PickWork[]): (number | null)[] {
  let before = 0;
  return departures.map(({ seconds, left }) => {
    if (seconds <= 0) return 0;
    if (left <= 0) return null;
    before += seconds;
    return Math.ceil(before / left);
  });
}
