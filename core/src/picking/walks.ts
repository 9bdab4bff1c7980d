import { group } from '../group.js';
import { ExactWalks } from './exactWalk.js';
import { FloorGraph } from './floorGraph.js';
import { gridOf, gridPoint } from './grid.js';
import { improvedTour } from './improvedTour.js';
import { type Layout, pointOf, type Spot } from './layout.js';
import { type Visit, visitFrom } from './visit.js';

/** A walk from the layout's start to its end: the indexes of the spots in walking order, its length in tenths of a millimetre, and its corners. */
export interface Walk {
  order: number[];
  distance: number;
  path: { x: number; y: number }[];
}

/**
 * Walks over one layout, from its start to its end. `exact` tells that they are the shortest there are (one or two blocks); on any
 * other layout they are improved step by step and may be longer. A visit is what a walk must see, without order: by way and place.
 */
export interface Walks {
  exact: boolean;
  visit(spots: readonly Spot[]): Visit;
  distance(visit: Visit): number;
  walk(spots: readonly Spot[]): Walk;
}

/**
 * The walks of a layout without problems (`layoutProblems`). `onCross` are the spots on cross aisles, beside start and end, that any
 * walk will visit.
 *
 * @example
 * const walks = walksOf(layout);
 * walks.walk([{ aisle: 2, along: 50_000 }, { aisle: 0, along: 10_000 }]).order; // [1, 0]
 */
export function walksOf(layout: Layout, onCross: readonly Spot[] = []): Walks {
  return exactWalks(layout, onCross) ?? improvedWalks(layout);
}

function exactWalks(layout: Layout, onCross: readonly Spot[]): Walks | null {
  const grid = gridOf(layout, [layout.start, layout.end, ...onCross]);
  if (!grid) return null;
  const at = (spot: Spot) => gridPoint(grid, layout, spot);
  const walks = new ExactWalks(grid, at(layout.start), at(layout.end));
  const visit = (spots: readonly Spot[]): Visit =>
    visitFrom(
      grid.columns.length,
      spots.map(at).map(({ column, y }) => ({ way: column, along: y })),
    );
  return {
    exact: true,
    visit,
    distance: v => walks.distance(v),
    walk: spots => {
      const { distance, through } = walks.walk(visit(spots));
      const rank = new Map<string, number>();
      through.forEach(({ column, y }, i) => {
        const key = `${column}:${y}`;
        if (!rank.has(key)) rank.set(key, i);
      });
      const ranks = spots.map(at).map(({ column, y }) => rank.get(`${column}:${y}`)!);
      return {
        order: spots.map((_, i) => i).sort((a, b) => ranks[a]! - ranks[b]! || a - b),
        distance,
        path: through.map(({ column, y }) => ({ x: grid.columns[column]!.x, y })),
      };
    },
  };
}

function improvedWalks(layout: Layout): Walks {
  const graph = new FloorGraph(layout);
  const aisles = layout.aisles.length;
  const visit = (spots: readonly Spot[]): Visit =>
    visitFrom(
      aisles + layout.crossAisles.length,
      spots.map(s => ({ way: graph.wayOf(s), along: s.along })),
    );
  const spotsOf = (v: Visit): Spot[] =>
    v.flatMap((at, way) =>
      (at ?? []).map(along => (way < aisles ? { aisle: way, along } : { cross: way - aisles, along })),
    );
  const tour = (spots: readonly Spot[]) =>
    improvedTour(
      spots.map(a => spots.map(b => graph.distance(a, b))),
      spots.map(s => graph.distance(layout.start, s)),
      spots.map(s => graph.distance(s, layout.end)),
    );
  const nothing = graph.distance(layout.start, layout.end);
  return {
    exact: false,
    visit,
    distance: v => {
      const spots = spotsOf(v);
      return spots.length === 0 ? nothing : tour(spots).distance;
    },
    walk: spots => {
      // The same places are walked in the same order however they are listed: each once, its spots one after another.
      const distinct = spotsOf(visit(spots));
      const keyOf = (s: Spot) => `${graph.wayOf(s)} ${s.along}`;
      const at = group([...spots.keys()], i => keyOf(spots[i]!));
      const { order: visited, distance } = tour(distinct);
      const order = visited.flatMap(i => at.get(keyOf(distinct[i]!))!);
      const stops = [layout.start, ...order.map(i => spots[i]!), layout.end];
      const legs = stops.slice(1).map((s, i) => graph.path(stops[i]!, s));
      return {
        order,
        distance: order.length === 0 ? nothing : distance,
        path: [pointOf(layout, layout.start), ...legs.flatMap(l => l.slice(1))],
      };
    },
  };
}

/** The corners of the way from the layout's start through spots in the order given; the last spot ends it. For drawing a walk as it is walked. */
export function pathThrough(layout: Layout, spots: readonly Spot[]): { x: number; y: number }[] {
  const graph = new FloorGraph(layout);
  const stops = [layout.start, ...spots];
  const legs = stops.slice(1).map((s, i) => graph.path(stops[i]!, s).slice(1));
  return [pointOf(layout, layout.start), ...legs.flat()];
}
