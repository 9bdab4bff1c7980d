/** One key as it came: its character, its time in milliseconds, and what stood in the focused field before it. */
export interface Key {
  char: string;
  at: number;
  before: string;
}

/** Longest pause between two keys of one scan; people type slower. */
export const SCAN_GAP_MS = 60;
/** A busy page may hold up one key of a scan this long. */
const HICCUP_MS = 1_000;
/** After a pause this long, a key begins something new. */
const PAUSE_MS = 1_200;
/** Fewest characters that a scan has, and that one with a held-up key has: a few quick keys and a pause are soon typed by hand. */
const FEWEST = 4;
const FEWEST_BRIDGED = 6;

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
  const length = keys.length - start;
  const slow = Array.from({ length }, (_, i) => gap(start + 1 + i)).filter(g => g > SCAN_GAP_MS).length;
  if (length < (slow > 0 ? FEWEST_BRIDGED : FEWEST) || slow * 3 > length) return null;
  return {
    text: keys
      .slice(start)
      .map(k => k.char)
      .join(''),
    before: keys[start]!.before,
  };
}
