// What picking's benchmarks share: floors of 20 aisles with 45 places on each side, and seeded orders on them.
import { evenLayout, seeded } from '@auk/core';

const AISLES = 20;
const PLACES = 45;
/** A place is a metre wide and aisles stand three metres apart, in tenths of a millimetre. */
const PLACE = 10_000;
const LENGTH = PLACES * PLACE;
const PITCH = 30_000;

export const oneBlock = evenLayout({ aisles: AISLES, length: LENGTH, pitch: PITCH });
export const twoBlocks = evenLayout({ aisles: AISLES, length: LENGTH, pitch: PITCH, middle: LENGTH / 2 });

/** So many random places. */
export const places = (random, n) =>
  Array.from({ length: n }, () => ({
    aisle: Math.floor(random() * AISLES),
    along: PLACE * (Math.floor(random() * PLACES) + 0.5),
  }));

/** Orders of one to five lines, three on average, each one tote. */
export function orders(walks, n, seed) {
  const random = seeded(seed);
  return Array.from({ length: n }, (_, i) => {
    const spots = places(random, 1 + Math.floor(random() * 5));
    const visit = walks.visit(spots);
    return {
      id: String(i),
      visit,
      stops: spots.length,
      units: spots.length,
      totes: 1,
      volume: 0,
      weight: 0,
      due: null,
      apart: '',
    };
  });
}
