/** A place on the walking plan: aisle number from 0, and distance along the aisle from the front cross-aisle, in tenths of a millimetre. */
export interface Spot {
  aisle: number;
  along: number;
}

/** A stop of a walk: the code of its place, and where it stands when the house knows. */
export interface WalkStop {
  code: string;
  aisle: number | null;
  along: number | null;
}

/** One block of parallel aisles between a front and a back cross-aisle; distances in tenths of a millimetre. The depot is at the front of aisle 0. */
export interface Layout {
  aisles: number;
  aisleLength: number;
  aislePitch: number;
}

/**
 * Serpentine walk through one block: the indexes of `spots` in walking order and the distance walked from and back to the depot.
 * Aisles with picks are walked through alternately up and down; after an odd number of aisles the last is entered and left from the front.
 */
export function serpentine(spots: readonly Spot[], layout: Layout): { order: number[]; distance: number } {
  const aisles = [...new Set(spots.map(s => s.aisle))].sort((a, b) => a - b);
  const order: number[] = [];
  let distance = 0;
  let at = 0;
  aisles.forEach((aisle, i) => {
    const up = i % 2 === 0;
    const here = spots
      .map((s, k) => ({ ...s, k }))
      .filter(s => s.aisle === aisle)
      .sort((a, b) => (up ? a.along - b.along : b.along - a.along) || a.k - b.k);
    order.push(...here.map(s => s.k));
    distance += (aisle - at) * layout.aislePitch;
    at = aisle;
    const turnsBack = up && i === aisles.length - 1;
    distance += turnsBack ? 2 * here.at(-1)!.along : layout.aisleLength;
  });
  return { order, distance: distance + at * layout.aislePitch };
}

/**
 * Stops in walking order: the serpentine through those whose place has coordinates, then the others by code. The distance is that of
 * the serpentine; nobody knows how far the others are.
 */
export function walkOf<T extends WalkStop>(
  stops: readonly T[],
  layout: Layout,
): { stops: T[]; distance: number } {
  const located = stops.filter((s): s is T & Spot => s.aisle !== null && s.along !== null);
  const walk = serpentine(located, layout);
  const others = stops.filter(s => s.aisle === null || s.along === null);
  others.sort((a, b) => (a.code < b.code ? -1 : a.code > b.code ? 1 : 0));
  return { stops: [...walk.order.map(i => located[i]!), ...others], distance: walk.distance };
}
