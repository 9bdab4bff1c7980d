/** Rows by a key, groups and rows both in the order in which they come. */
export function group<T>(rows: readonly T[], keyOf: (row: T) => string): Map<string, T[]> {
  const by = new Map<string, T[]>();
  for (const row of rows) {
    const key = keyOf(row);
    const known = by.get(key);
    if (known) known.push(row);
    else by.set(key, [row]);
  }
  return by;
}
