import type { FloorIn } from '@auk/contract';
import { type Layout, spotOn } from '@auk/core';

const METRE = 10_000;

/** A floor in metres as the core knows it. */
export function layoutOf(floor: FloorIn): Layout {
  const tenths = (n: number) => Math.round(n * METRE);
  const reach = (w: { from: number; to: number }) => ({ from: tenths(w.from), to: tenths(w.to) });
  const ways = {
    aisles: floor.aisles.map(a => ({ code: a.code, x: tenths(a.x), ...reach(a) })),
    crossAisles: floor.crossAisles.map(c => ({ code: c.code, y: tenths(c.y), ...reach(c) })),
  };
  const spot = (s: FloorIn['start']) => spotOn(ways, s.way, tenths(s.along));
  return { ...ways, start: spot(floor.start), end: spot(floor.end) };
}

export const inMetres = (p: { x: number; y: number }): { x: number; y: number } => ({
  x: p.x / METRE,
  y: p.y / METRE,
});
