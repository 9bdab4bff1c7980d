import { type Grid, type GridPoint, gridOf, gridPoint } from './grid.js';
import type { Layout } from './layout.js';
import type { Visit } from './visit.js';

/** Walks that people make without a plan, to measure a plan by. */
export type PlainWay = 'S-shape' | 'return' | 'largest gap';

/**
 * Lengths of plain walks over a layout of one or two blocks, in tenths of a millimetre; null for other layouts. The farthest block is
 * walked first, then the nearer one. S-shape: aisles with picks are walked through by turns up and down; an odd last one is left where
 * it was entered. Return: each is entered and left from its block's front. Largest gap: the first and last are walked through, the
 * others are entered from both ends as far as their largest gap.
 */
export function plainWalks(layout: Layout): ((visit: Visit, way: PlainWay) => number) | null {
  const grid = gridOf(layout, [layout.start, layout.end]);
  if (!grid) return null;
  const [start, end] = [gridPoint(grid, layout, layout.start), gridPoint(grid, layout, layout.end)];
  return (visit, way) => {
    const through = [start];
    for (let block = grid.ys.length - 2; block >= 0; block--) {
      const here = inBlock(grid, visit, block);
      // Whoever stands nearer to the last aisle than to the first goes the other way.
      const at = grid.columns[through.at(-1)!.column]!.x;
      const [first, last] = [here[0], here.at(-1)];
      if (!first || !last) continue;
      const x = (s: Served) => grid.columns[s.column]!.x;
      if (Math.abs(at - x(last)) < Math.abs(at - x(first))) here.reverse();
      through.push(...WAYS[way](here, grid.ys[block]!, grid.ys[block + 1]!));
    }
    through.push(end);
    return through.slice(1).reduce((sum, p, i) => sum + apart(grid, through[i]!, p), 0);
  };
}

/** The picks of one aisle within a block, from its front to its back. */
interface Served {
  column: number;
  ys: number[];
}

function inBlock(grid: Grid, visit: Visit, block: number): Served[] {
  const [low, high] = [grid.ys[block]!, grid.ys[block + 1]!];
  const first = block === 0;
  return visit.flatMap((all, column) => {
    const ys = (all ?? []).filter(y => (first ? low <= y : low < y) && y <= high);
    return ys.length > 0 ? [{ column, ys }] : [];
  });
}

type Way = (aisles: readonly Served[], low: number, high: number) => GridPoint[];

const WAYS: Record<PlainWay, Way> = {
  'S-shape': (aisles, low, high) =>
    aisles.flatMap(({ column, ys }, i) => {
      const up = i % 2 === 0;
      const alone = up && i === aisles.length - 1;
      const ends = alone ? [low, ys.at(-1)!, low] : up ? [low, high] : [high, low];
      return ends.map(y => ({ column, y }));
    }),
  return: (aisles, low) =>
    aisles.flatMap(({ column, ys }) => [low, ys.at(-1)!, low].map(y => ({ column, y }))),
  'largest gap': (aisles, low, high) => {
    const [first, last] = [aisles[0]!, aisles.at(-1)!];
    if (first === last) return WAYS.return(aisles, low, high);
    const between = aisles.slice(1, -1).map(a => ({ column: a.column, ...aroundGap(a.ys, low, high) }));
    const far = between.flatMap(a =>
      a.above === null ? [] : [high, a.above, high].map(y => ({ column: a.column, y })),
    );
    const near = [...between]
      .reverse()
      .flatMap(a => (a.below === null ? [] : [low, a.below, low].map(y => ({ column: a.column, y }))));
    const through = (a: Served, ys: number[]) => ys.map(y => ({ column: a.column, y }));
    return [...through(first, [low, high]), ...far, ...through(last, [high, low]), ...near];
  },
};

/** How far one goes into an aisle from below and from above when its largest gap is left out; null: not at all. */
function aroundGap(
  ys: readonly number[],
  low: number,
  high: number,
): { below: number | null; above: number | null } {
  const nodes = [low, ...ys, high];
  let gap = 0;
  for (let i = 1; i < nodes.length - 1; i++)
    if (nodes[i + 1]! - nodes[i]! > nodes[gap + 1]! - nodes[gap]!) gap = i;
  return { below: gap === 0 ? null : nodes[gap]!, above: gap === ys.length ? null : nodes[gap + 1]! };
}

/** Walking distance between two points of a grid. */
function apart(grid: Grid, a: GridPoint, b: GridPoint): number {
  if (a.column === b.column) return Math.abs(a.y - b.y);
  const across = Math.abs(grid.columns[a.column]!.x - grid.columns[b.column]!.x);
  return across + Math.min(...grid.ys.map(y => Math.abs(a.y - y) + Math.abs(b.y - y)));
}
