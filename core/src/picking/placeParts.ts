import { group } from '../group.js';
import { choosePlaces, type PlacedStock } from '../stock/allocate.js';
import { FloorGraph } from './floorGraph.js';
import type { Layout, Spot } from './layout.js';

/** Units of a product that are to be taken on a walk; parts of one `walk` are taken together. */
export interface PartToPlace {
  productId: string;
  quantity: number;
  walk: string;
  /** ISO day until which its lots must last; today where nothing is said. */
  lasts?: string | null;
}

/** Stock of a product in one place and lot, and where that stands; null where nobody knows. */
export interface ShelfStock extends PlacedStock {
  productId: string;
  aisle: number | null;
  along: number | null;
}

/** Units of a part from one of the stocks. */
export interface PlacedUnits<S> {
  stock: S;
  quantity: number;
}

/**
 * Decides where units are taken from: for each part by its own rules (`choosePlaces`: expiry, pick faces first, whole before split), and
 * where these leave a choice, so that a walk makes few and near stops. Parts with the fewest places are placed first, the others at the
 * place nearest on foot to what the walk sees already. No two parts get the same units. Gives for each part, in the order given, what it
 * takes; less than wanted where there is less.
 *
 * @example
 * placeParts([{ productId: 'jar', quantity: 2, walk: '' }], stock, layout, '2026-11-23')[0]; // [{ stock: ..., quantity: 2 }]
 */
export function placeParts<S extends ShelfStock>(
  parts: readonly PartToPlace[],
  stock: readonly S[],
  layout: Layout,
  today: string,
): PlacedUnits<S>[][] {
  const graph = new FloorGraph(layout);
  const held = new Map(stock.map(s => [s, s.held]));
  const shelves = group(stock, s => s.productId);
  const seen = new Map<string, Spot[]>();
  const spotOf = (s: S): Spot | null =>
    s.aisle !== null && s.along !== null && layout.aisles[s.aisle]
      ? { aisle: s.aisle, along: s.along }
      : null;
  const placesOf = (p: PartToPlace) => new Set(shelves.get(p.productId)?.map(s => s.placeId)).size;
  const result: PlacedUnits<S>[][] = parts.map(() => []);
  const fewestFirst = parts.map((part, i) => ({ part, i, places: placesOf(part) }));
  fewestFirst.sort((a, b) => a.places - b.places || a.i - b.i);
  for (const { part, i } of fewestFirst) {
    const own = shelves.get(part.productId) ?? [];
    const walk = seen.get(part.walk) ?? [];
    const near = own.map(s => nearest(graph, spotOf(s), walk));
    const picks = choosePlaces(
      part.quantity,
      own.map((s, n) => ({ ...s, held: held.get(s)!, near: near[n]! })),
      part.lasts && part.lasts > today ? part.lasts : today,
    );
    result[i] = picks.map(p => {
      const from = own.find(s => s.placeId === p.placeId && s.lotId === p.lotId)!;
      held.set(from, held.get(from)! + p.quantity);
      const spot = spotOf(from);
      if (spot) walk.push(spot);
      return { stock: from, quantity: p.quantity };
    });
    seen.set(part.walk, walk);
  }
  return result;
}

/** How far a spot is on foot from the nearest of a walk; 0 while the walk sees nothing, and last where nobody knows where it is. */
function nearest(graph: FloorGraph, spot: Spot | null, walk: readonly Spot[]): number {
  if (walk.length === 0) return 0;
  return spot === null ? Infinity : Math.min(...walk.map(w => graph.distance(spot, w)));
}
