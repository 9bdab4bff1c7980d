/** A dated departure as planning sees it; cut-off is ISO UTC. */
export interface PlannedDeparture {
  id: string;
  carrier: string;
  cutOff: string;
  open: boolean;
}

/** The first open departure of a carrier (any, when null) whose cut-off is after `now` (ISO UTC); null when there is none. Ties by id. */
export function nextDeparture<T extends PlannedDeparture>(
  departures: readonly T[],
  carrier: string | null,
  now: string,
): T | null {
  const fits = departures.filter(
    d => d.open && d.cutOff > now && (carrier === null || d.carrier === carrier),
  );
  return fits.sort((a, b) => a.cutOff.localeCompare(b.cutOff) || a.id.localeCompare(b.id))[0] ?? null;
}

/** A departure that orders may be planned for before a label is bought: its carrier takes orders up to this weight in milligrams; null for none. */
export interface PlannableDeparture extends PlannedDeparture {
  planUpToMg: number | null;
}

/**
 * The departure an order is planned for before its label is bought: the next one of the carrier with the least limit that takes its weight,
 * else the next of any that is planned with; null when there is none.
 */
export function planDeparture(
  open: readonly PlannableDeparture[],
  weightMg: number,
  now: string,
): PlannableDeparture | null {
  const planned = open.filter(d => d.planUpToMg !== null);
  const limits = [...new Set(planned.map(d => d.planUpToMg!))]
    .filter(mg => weightMg <= mg)
    .sort((a, b) => a - b);
  const fitting = limits.map(mg =>
    nextDeparture(
      planned.filter(d => d.planUpToMg === mg),
      null,
      now,
    ),
  );
  return fitting.find(d => d !== null) ?? nextDeparture(open, null, now);
}

/** Whether what is not yet labelled will be ready by a cut-off. */
export type Timeliness = 'on time' | 'tight' | 'will miss';

/** Minutes to spare below which a departure counts as tight. */
export const TIGHT_MINUTES = 15;

/**
 * Expected finish at today's pace: `ahead` parcels unlabelled for this and earlier departures at `perHour` parcels an hour.
 * Gives minutes from now until ready, minutes to spare, how many would miss, and the word for it. A pace of 0 is unknown: on time is not claimed, only what is past.
 */
export function forecast(input: {
  unlabelled: number;
  ahead: number;
  perHour: number;
  minutesLeft: number;
}): { readyIn: number | null; spare: number | null; miss: number; word: Timeliness } {
  const { unlabelled, ahead, perHour, minutesLeft } = input;
  if (unlabelled === 0) return { readyIn: 0, spare: minutesLeft, miss: 0, word: 'on time' };
  if (minutesLeft <= 0) return { readyIn: null, spare: null, miss: unlabelled, word: 'will miss' };
  if (perHour <= 0) return { readyIn: null, spare: null, miss: 0, word: 'tight' };
  const readyIn = Math.ceil((ahead / perHour) * 60);
  const spare = minutesLeft - readyIn;
  const miss = spare >= 0 ? 0 : Math.min(unlabelled, Math.ceil((-spare / 60) * perHour));
  return { readyIn, spare, miss, word: miss > 0 ? 'will miss' : spare < TIGHT_MINUTES ? 'tight' : 'on time' };
}
