import { FloorGraph } from './floorGraph.js';
import type { Layout, Spot } from './layout.js';

/** A place on the shelves, and the area it is in. */
export interface ShelfPlace {
  code: string;
  spot: Spot;
  area: string;
}

/** Bins of two products that look alike should be so far apart on foot, in tenths of a millimetre, that nobody reaches for the wrong one. */
const NEAR = 60_000;
const FAR = 100_000;

/** How far it is on foot from one place to the other, in tenths of a millimetre. */
export const walkBetween = (layout: Layout, a: Spot, b: Spot): number =>
  new FloorGraph(layout).distance(a, b);

/**
 * Where the goods of `moved` should go so that they are not taken for those at `other`: the empty place of the same area that is
 * nearest to where they lie, at least ten metres on foot from the other. Null where the two are more than six metres apart already, or
 * no such place is empty.
 */
export function proposeMove(
  layout: Layout,
  moved: ShelfPlace,
  other: ShelfPlace,
  empty: readonly ShelfPlace[],
): { to: string; distance: number } | null {
  const graph = new FloorGraph(layout);
  if (graph.distance(moved.spot, other.spot) > NEAR) return null;
  let best: { to: string; distance: number } | null = null;
  for (const e of empty) {
    if (e.area !== moved.area || graph.distance(e.spot, other.spot) < FAR) continue;
    const distance = graph.distance(moved.spot, e.spot);
    if (best === null || distance < best.distance) best = { to: e.code, distance };
  }
  return best;
}
