import bidiFactory from 'bidi-js';

/** What is used of bidi-js, whose own types say less than it gives. */
interface Bidi {
  getEmbeddingLevels(text: string): { levels: Uint8Array };
  getMirroredCharacter(character: string): string | null;
}
const bidi = (bidiFactory as unknown as () => Bidi)();

const RIGHT_TO_LEFT = /[\u0590-\u08ff\ufb1d-\ufdff\ufe70-\ufefc]/;

/** Letters that are joined and turned together, a space, or one sign. */
const PARTS = /[\p{L}\p{M}\p{N}\u200c\u200d]+|\s+|./gsu;

/**
 * A line of text in the parts in which it is drawn, from left to right (Unicode Standard Annex 9). What runs from right to left comes
 * part by part, for a font joins and turns only the letters of one word; its brackets are mirrored.
 */
export function visualOrder(text: string): string[] {
  if (!RIGHT_TO_LEFT.test(text)) return [text];
  const { levels } = bidi.getEmbeddingLevels(text);
  const runs: { text: string; level: number }[] = [];
  for (let i = 0; i < text.length; i++) {
    const last = runs.at(-1);
    if (last && last.level === levels[i]) last.text += text[i]!;
    else runs.push({ text: text[i]!, level: levels[i]! });
  }
  const most = Math.max(...runs.map(r => r.level));
  // Rule L2: from the highest level to the lowest, runs of at least that level are turned around.
  for (let level = most; level >= 1; level--)
    for (let from = 0; from < runs.length; from++) {
      if (runs[from]!.level < level) continue;
      let to = from;
      while (to < runs.length && runs[to]!.level >= level) to++;
      runs.splice(from, to - from, ...runs.slice(from, to).reverse());
      from = to;
    }
  return runs.flatMap(r =>
    r.level % 2 === 0 ? [r.text] : (r.text.match(PARTS) ?? []).map(mirrored).reverse(),
  );
}

const mirrored = (part: string): string => bidi.getMirroredCharacter(part) ?? part;
