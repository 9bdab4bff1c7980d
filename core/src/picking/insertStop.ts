import { FloorGraph } from './floorGraph.js';
import type { Layout, Spot } from './layout.js';

/**
 * Where on the rest of a walk one more stop costs the fewest steps (cheapest insertion; Rosenkrantz, Stearns and Lewis, 1977): its
 * position among `rest`, whose length is the end. `from` is where the picker stands; the walk goes on to the end of the layout.
 *
 * @example
 * insertStop(layout, here, [{ aisle: 1, along: 20_000 }, { aisle: 3, along: 5_000 }], { aisle: 2, along: 1_000 }); // 1
 */
export function insertStop(layout: Layout, from: Spot, rest: readonly Spot[], stop: Spot): number {
  const graph = new FloorGraph(layout);
  const way = [from, ...rest, layout.end];
  const cost = (i: number) =>
    graph.distance(way[i]!, stop) + graph.distance(stop, way[i + 1]!) - graph.distance(way[i]!, way[i + 1]!);
  let best = 0;
  for (let i = 1; i <= rest.length; i++) if (cost(i) < cost(best)) best = i;
  return best;
}
