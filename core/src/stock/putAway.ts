/** A place where goods may be put. `room` is how many more units fit, null when nobody has said; `holds` tells that the product lies there already. */
export interface PutAwayPlace {
  placeId: string;
  code: string;
  kind: 'bin' | 'reserve';
  room: number | null;
  holds: boolean;
  empty: boolean;
  walk: number;
}

/**
 * Proposes where units of a product are put: the pick face where it lies already and they fit, an empty pick face when it lies in
 * none, else a reserve place where it lies, else an empty reserve place, else an empty pick face; of equals the first on the walk.
 * Null when there is no room anywhere.
 */
export function proposePutAway(
  quantity: number,
  places: readonly PutAwayPlace[],
): { placeId: string; code: string; why: string } | null {
  const fits = places.filter(p => p.room === null || p.room >= quantity);
  const faced = places.some(p => p.holds && p.kind === 'bin');
  const ranks: [why: string, test: (p: PutAwayPlace) => boolean][] = [
    ['it lies there already', p => p.holds && p.kind === 'bin'],
    ['an empty pick face', p => p.empty && p.kind === 'bin' && !faced],
    ['its reserve lies there', p => p.holds && p.kind === 'reserve'],
    ['an empty reserve place', p => p.empty && p.kind === 'reserve'],
    ['an empty pick face', p => p.empty && p.kind === 'bin'],
  ];
  for (const [why, test] of ranks) {
    const best = fits.filter(test).sort((a, b) => a.walk - b.walk || (a.code < b.code ? -1 : 1))[0];
    if (best) return { placeId: best.placeId, code: best.code, why };
  }
  return null;
}
