import { type Layout, pointOf, type Spot } from './layout.js';

/**
 * A layout of one block (two cross aisles) or two blocks (three), every aisle running from the first cross aisle to the last: the
 * layouts of which shortest walks are known exactly. `columns` are sorted by x; one without an aisle is a point of a cross aisle
 * beside or between the aisles. `ys` are the cross aisles from front to back. Tenths of a millimetre.
 */
export interface Grid {
  columns: { x: number; aisle: number | null }[];
  ys: number[];
}

/** A point of a grid: its column, and its y. */
export interface GridPoint {
  column: number;
  y: number;
}

/**
 * The layout as a grid with columns for `others` (start, end, and whatever else stands on a cross aisle), or null when it is of
 * another form: more cross aisles, aisles of different reach, cross aisles that do not meet all aisles.
 */
export function gridOf(layout: Layout, others: readonly Spot[]): Grid | null {
  const cross = [...layout.crossAisles].sort((a, b) => a.y - b.y);
  if (cross.length < 2 || cross.length > 3) return null;
  const [front, back] = [cross[0]!.y, cross.at(-1)!.y];
  const regular = layout.aisles.every(
    a => a.from === front && a.to === back && cross.every(c => c.from <= a.x && a.x <= c.to),
  );
  if (!regular || new Set(layout.aisles.map(a => a.x)).size < layout.aisles.length) return null;
  const columns: Grid['columns'] = layout.aisles.map((a, aisle) => ({ x: a.x, aisle }));
  for (const spot of others) {
    const { x } = pointOf(layout, spot);
    if (!columns.some(c => c.x === x)) columns.push({ x, aisle: null });
  }
  columns.sort((a, b) => a.x - b.x);
  return { columns, ys: cross.map(c => c.y) };
}

/** Where a spot lies in a grid made of its layout; the spot's column must be there. */
export function gridPoint(grid: Grid, layout: Layout, spot: Spot): GridPoint {
  const { x, y } = pointOf(layout, spot);
  return { column: grid.columns.findIndex(c => c.x === x), y };
}
