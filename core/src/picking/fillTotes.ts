/** Units of a stop, and what one of them takes: cubic millimetres and milligrams; null where nobody has measured it. */
export interface ToFill {
  quantity: number;
  volume: number | null;
  weight: number | null;
}

/** What a tote holds, in cubic millimetres and milligrams. */
export interface ToteLimits {
  volume: number;
  weight: number;
}

/**
 * Fills totes with the stops of one order, in the order given: as many units as fit, then the next tote. A unit that fits no tote has
 * one of its own; what nobody has measured takes no room. Gives for each tote the units of each stop, by the stop's position; one
 * empty tote for an order without stops.
 *
 * @example
 * fillTotes([{ quantity: 3, volume: 40, weight: 1 }], { volume: 100, weight: 10 }); // [[{ stop: 0, units: 2 }], [{ stop: 0, units: 1 }]]
 */
export function fillTotes(stops: readonly ToFill[], limits: ToteLimits): { stop: number; units: number }[][] {
  const totes: { stop: number; units: number }[][] = [[]];
  let room = { ...limits };
  stops.forEach((s, stop) => {
    for (let left = s.quantity; left > 0; ) {
      const fit = Math.min(left, goesIn(room.volume, s.volume), goesIn(room.weight, s.weight));
      const empty = totes.at(-1)!.length === 0;
      const units = fit > 0 ? fit : empty ? 1 : 0;
      if (units === 0) {
        totes.push([]);
        room = { ...limits };
        continue;
      }
      totes.at(-1)!.push({ stop, units });
      room = { volume: room.volume - units * (s.volume ?? 0), weight: room.weight - units * (s.weight ?? 0) };
      left -= units;
    }
  });
  return totes;
}

const goesIn = (room: number, one: number | null): number =>
  one ? Math.floor(Math.max(0, room) / one) : Infinity;
