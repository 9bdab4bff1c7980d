import { isS10, parseScan } from '@auk/core';

/** One key as it came: its character, its time in milliseconds, and what stood in the focused field before it. */
export interface Key {
  char: string;
  at: number;
  before: string;
}

/** Longest pause between two keys of one scan; people type slower. */
export const SCAN_GAP_MS = 60;
/** A busy page may hold up one key of a scan this long. */
export const HICCUP_MS = 1_000;
/** After a pause this long, a key begins something new. */
const PAUSE_MS = 1_200;
/** Fewest characters that a scan has, and that one with a held-up key has: a few quick keys and a pause are soon typed by hand. */
const FEWEST = 4;
const FEWEST_BRIDGED = 6;
/** Fewest characters of a code that is put together from pieces; the shortest order numbers have so many. */
const FEWEST_PIECED = 5;

/** A machine that stalls may hold up a key of a scan this long; only a code of the house is pieced together over such pauses, and only when half of its keys came quickly. */
const STALL_MS = 8_000;

/**
 * Finds the scan at the end of the keys when Enter comes at `enterAt`: by rhythm, and where the rhythm was torn, by what the pieces
 * make together: when only with an earlier piece the text is a code of the house, that piece belongs to it. Null for typing.
 */
export function scanAtEnd(keys: readonly Key[], enterAt: number): { text: string; before: string } | null {
  const found = byRhythm(keys, enterAt);
  if (found && isHouseCode(found.text)) return found;
  // Pieces only ever add to what the rhythm tells: the end of a tracking number may look like a product's by chance.
  const longer = (p: ReturnType<typeof pieced>) =>
    p && p.text.length > (found?.text.length ?? 0) ? p : null;
  return longer(pieced(keys, enterAt, isHouseCode)) ?? longer(pieced(keys, enterAt, looksLikeCode)) ?? found;
}

/** The code at the end of keys that went into no field: nobody types one there but to be understood, however slowly. */
export function codeAtEnd(keys: readonly Key[]): string | null {
  const ends = keys.slice(FEWEST_PIECED - 1).map((_, start) => textOf(keys, start));
  return ends.find(isHouseCode) ?? ends.find(looksLikeCode) ?? null;
}

/** Whether a text is surely a code: an own code, a command, a product's number with its check digit, or a postal number with its own. */
const isHouseCode = (text: string): boolean => isS10(text) || isOf(text, 'own', 'command', 'product');

/** Whether a text is a code that only Auk writes. */
const isOwnCode = (text: string): boolean => isOf(text, 'own', 'command');

function isOf(text: string, ...types: string[]): boolean {
  const parsed = parseScan(text, 2000);
  return parsed.ok && types.includes(parsed.value.type);
}

/** Capitals and digits joined by dashes, with a digit among them: what a code of a place or a product often looks like, and no word. */
const looksLikeCode = (text: string): boolean => /^(?=.*\d)[A-Z0-9]+(-[A-Z0-9]+)+$/.test(text);

/** The longest end of the keys that is a code, at most half of its keys held up. */
function pieced(
  keys: readonly Key[],
  enterAt: number,
  isCode: (text: string) => boolean,
): { text: string; before: string } | null {
  let stalls = 0;
  let best: { text: string; before: string } | null = null;
  for (let start = keys.length - 1; start >= 0; start--) {
    const gap = (keys[start + 1]?.at ?? enterAt) - keys[start]!.at;
    if (gap > STALL_MS) break;
    if (gap > SCAN_GAP_MS) stalls++;
    const text = textOf(keys, start);
    if (text.length >= FEWEST_PIECED && stalls * 2 <= text.length && isCode(text))
      best = { text, before: keys[start]!.before };
  }
  return best;
}

const textOf = (keys: readonly Key[], start: number): string =>
  keys
    .slice(start)
    .map(k => k.char)
    .join('');

/**
 * Finds the scan at the end of the keys when Enter comes at `enterAt`: the run of quick keys, bridging a key that was held up when
 * the keys before it were quick too, or when it was only the first. Where nothing reads with what is bridged, that was typed by hand
 * just before: the quick keys alone count. Null when the end was typed by a person.
 */
function byRhythm(keys: readonly Key[], enterAt: number): { text: string; before: string } | null {
  const gap = (i: number) =>
    (i === keys.length ? enterAt : keys[i]!.at) - (keys[i - 1]?.at ?? Number.NEGATIVE_INFINITY);
  const bridges = (i: number) =>
    gap(i) <= HICCUP_MS &&
    (gap(i - 1) > PAUSE_MS ||
      (gap(i - 1) <= SCAN_GAP_MS && (gap(i - 2) <= SCAN_GAP_MS || gap(i - 2) > PAUSE_MS)));
  const run = (bridging: boolean) => {
    let start = keys.length;
    while (start > 0 && (gap(start) <= SCAN_GAP_MS || (bridging && bridges(start)))) start--;
    const length = keys.length - start;
    const slow = Array.from({ length }, (_, i) => gap(start + 1 + i)).filter(g => g > SCAN_GAP_MS).length;
    if (length < (slow > 0 ? FEWEST_BRIDGED : FEWEST) || slow * 3 > length) return null;
    return { text: textOf(keys, start), before: keys[start]!.before };
  };
  const whole = run(true);
  if (whole && isHouseCode(whole.text)) return whole;
  const quick = run(false);
  return quick && (!whole || isOwnCode(quick.text)) ? quick : whole;
}
