/** Where a key takes the cursor of a list of `count` rows; null for a key that does not walk. `page` is how many rows a page key passes. */
export function walkTo(key: string, cursor: number, count: number, page: number): number | null {
  const to = new Map([
    ['ArrowDown', cursor + 1],
    ['ArrowUp', cursor - 1],
    ['PageDown', cursor + page],
    ['PageUp', cursor - page],
    ['Home', 0],
    ['End', count - 1],
  ]).get(key);
  return to === undefined ? null : Math.max(0, Math.min(count - 1, to));
}
