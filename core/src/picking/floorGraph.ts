import { type Layout, meet, pointOf, type Spot } from './layout.js';

/**
 * Walking distances on any layout. The crossings of aisles and cross aisles are the nodes; a spot is reached along its own way, or by
 * the crossings of that way. Built once for a layout: a shortest-path tree from each crossing (Dijkstra).
 */
export class FloorGraph {
  private readonly nodes: { x: number; y: number }[] = [];
  /** Crossings on each way, aisles first, with how far along it they lie. */
  private readonly onWay: { node: number; along: number }[][];
  private readonly between: Float64Array[];
  private readonly before: Int32Array[];

  constructor(private readonly layout: Layout) {
    const aisles = layout.aisles.length;
    this.onWay = [...layout.aisles, ...layout.crossAisles].map(() => []);
    layout.aisles.forEach((a, i) => {
      layout.crossAisles.forEach((c, j) => {
        if (!meet(a, c)) return;
        const node = this.nodes.push({ x: a.x, y: c.y }) - 1;
        this.onWay[i]!.push({ node, along: c.y - a.from });
        this.onWay[aisles + j]!.push({ node, along: a.x - c.from });
      });
    });
    const neighbours = this.neighbours();
    const trees = this.nodes.map((_, node) => shortestFrom(node, neighbours));
    this.between = trees.map(t => t.distance);
    this.before = trees.map(t => t.before);
  }

  /** Which way a spot lies on, counted with the aisles first. */
  wayOf(spot: Spot): number {
    return 'aisle' in spot ? spot.aisle : this.layout.aisles.length + spot.cross;
  }

  /** Metres between two spots in tenths of a millimetre; infinite when no way leads there. */
  distance(a: Spot, b: Spot): number {
    return this.best(a, b).distance;
  }

  /** The corners of the shortest way from one spot to another, both included. */
  path(a: Spot, b: Spot): { x: number; y: number }[] {
    const { from, to } = this.best(a, b);
    const corners = [pointOf(this.layout, b)];
    if (from !== -1) {
      for (let n = to; n !== from; n = this.before[from]![n]!) corners.push(this.nodes[n]!);
      corners.push(this.nodes[from]!);
    }
    return [...corners, pointOf(this.layout, a)].reverse();
  }

  /** The better of the straight way and the ways by crossings; `from` is -1 for the straight one. */
  private best(a: Spot, b: Spot): { distance: number; from: number; to: number } {
    if (this.wayOf(a) === this.wayOf(b)) return { distance: Math.abs(a.along - b.along), from: -1, to: -1 };
    let best = { distance: Infinity, from: -1, to: -1 };
    for (const p of this.onWay[this.wayOf(a)]!)
      for (const q of this.onWay[this.wayOf(b)]!) {
        const distance =
          Math.abs(a.along - p.along) + this.between[p.node]![q.node]! + Math.abs(b.along - q.along);
        if (distance < best.distance) best = { distance, from: p.node, to: q.node };
      }
    return best;
  }

  private neighbours(): { node: number; length: number }[][] {
    const next: { node: number; length: number }[][] = this.nodes.map(() => []);
    for (const way of this.onWay) {
      way.sort((p, q) => p.along - q.along);
      way.slice(1).forEach((q, i) => {
        const p = way[i]!;
        next[p.node]!.push({ node: q.node, length: q.along - p.along });
        next[q.node]!.push({ node: p.node, length: q.along - p.along });
      });
    }
    return next;
  }
}

function shortestFrom(
  source: number,
  neighbours: readonly { node: number; length: number }[][],
): { distance: Float64Array; before: Int32Array } {
  const distance = new Float64Array(neighbours.length).fill(Infinity);
  const before = new Int32Array(neighbours.length).fill(-1);
  const open = new Set([source]);
  distance[source] = 0;
  while (open.size > 0) {
    let at = -1;
    for (const n of open) if (at === -1 || distance[n]! < distance[at]!) at = n;
    open.delete(at);
    for (const { node, length } of neighbours[at]!) {
      if (distance[at]! + length >= distance[node]!) continue;
      distance[node] = distance[at]! + length;
      before[node] = at;
      open.add(node);
    }
  }
  return { distance, before };
}
