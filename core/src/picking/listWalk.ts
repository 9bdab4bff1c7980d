import type { Spot } from './layout.js';
import type { Walks } from './walks.js';

/** A stop of a walk: the code of its place, and where it stands when the house knows. */
export interface WalkStop {
  code: string;
  aisle: number | null;
  along: number | null;
}

/**
 * Stops in walking order: the shortest walk through those whose place has coordinates, then the others by code. Stops at one spot stay
 * in the order given. The distance, in tenths of a millimetre, is that of the walk; nobody knows how far the others are.
 */
export function walkStops<T extends WalkStop>(
  stops: readonly T[],
  walks: Walks,
): { stops: T[]; distance: number } {
  const located = stops.filter(s => s.aisle !== null && s.along !== null);
  const walk = walks.walk(located.map((s): Spot => ({ aisle: s.aisle!, along: s.along! })));
  const others = stops.filter(s => !located.includes(s));
  others.sort((a, b) => (a.code < b.code ? -1 : a.code > b.code ? 1 : 0));
  return {
    stops: [...walk.order.map(i => located[i]!), ...others],
    distance: located.length === 0 ? 0 : walk.distance,
  };
}
