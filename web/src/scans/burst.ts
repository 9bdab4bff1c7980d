/** One key as it came: its character, its time in milliseconds, and what stood in the focused field before it. */
export interface Key {
  char: string;
  at: number;
  before: string;
}

/** Longest pause between two keys of one scan; people type slower. */
export const SCAN_GAP_MS = 60;
/** A busy page may hold up one key of a scan this long. */
const HICCUP_MS = 400;
/** After a pause this long, a key begins something new. */
const PAUSE_MS = 600;
/** Fewest characters that a scan has. */
const FEWEST = 3;

/**
 * Finds the scan at the end of the keys when Enter comes at `enterAt`: the run of quick keys, bridging a key that was held up when
 * the keys before it were quick too, or when it was only the first. Null when the end was typed by a person.
 */
export function scanAtEnd(keys: readonly Key[], enterAt: number): { text: string; before: string } | null {
  const gap = (i: number) =>
    (i === keys.length ? enterAt : keys[i]!.at) - (keys[i - 1]?.at ?? Number.NEGATIVE_INFINITY);
  const bridges = (i: number) =>
    gap(i) <= HICCUP_MS &&
    (gap(i - 1) > PAUSE_MS ||
      (gap(i - 1) <= SCAN_GAP_MS && (gap(i - 2) <= SCAN_GAP_MS || gap(i - 2) > PAUSE_MS)));
  let start = keys.length;
  while (start > 0 && (gap(start) <= SCAN_GAP_MS || bridges(start))) start--;
  const quick = keys.filter((_, i) => i > start && gap(i) <= SCAN_GAP_MS).length;
  if (keys.length - start < FEWEST || quick * 2 < keys.length - start - 1) return null;
  return {
    text: keys
      .slice(start)
      .map(k => k.char)
      .join(''),
    before: keys[start]!.before,
  };
}
