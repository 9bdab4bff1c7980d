import { lettersOf } from '../picking/layout.js';

/** A cell as it is set up: its code, what stands on it, and where it is in the wall. Rows and columns count from 1. */
export interface NewCell {
  code: string;
  mark: string;
  row: number;
  column: number;
}

/**
 * The cells of a put wall, row by row from the top, each row from the left, numbered from 1.
 *
 * @example
 * wallCells('A', 2, 3).map(c => c.code); // ['CE-A01', 'CE-A02', 'CE-A03', 'CE-A04', 'CE-A05', 'CE-A06']
 */
export function wallCells(wall: string, rows: number, columns: number): NewCell[] {
  return Array.from({ length: rows * columns }, (_, i) => ({
    code: `CE-${wall}${String(i + 1).padStart(2, '0')}`,
    mark: String(i + 1),
    row: Math.floor(i / columns) + 1,
    column: (i % columns) + 1,
  }));
}

/** So many walls have one or two letters. */
export const MOST_WALLS = 26 + 26 * 26;

/** The letters of the next wall, after those that there are; null where all are taken. */
export function nextWall(walls: readonly string[]): string | null {
  const taken = new Set(walls);
  for (let i = 0; i < MOST_WALLS; i++) if (!taken.has(lettersOf(i))) return lettersOf(i);
  return null;
}
