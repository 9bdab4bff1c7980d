import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import type { Paper } from './paper.js';
import { sfntOf } from './woff.js';

const require = createRequire(import.meta.url);
const folderOf = (pkg: string): string => dirname(require.resolve(`${pkg}/package.json`));
const sourced = (family: string, file: string): string =>
  join(folderOf(`@fontsource/${family}`), 'files', `${file}.woff`);

/** Fonts by their files, unpacked once for all documents. */
const unpacked = new Map<string, Buffer>();

function bytesOf(file: string): Buffer {
  const known =
    unpacked.get(file) ?? (file.endsWith('.woff') ? sfntOf(readFileSync(file)) : readFileSync(file));
  unpacked.set(file, known);
  return known;
}

export type Face = 'body' | 'bold' | 'code';

/** The house's own fonts, which letters are drawn in where they can be. */
const OWN: Record<Face, string> = {
  body: sourced('atkinson-hyperlegible-next', 'atkinson-hyperlegible-next-latin-400-normal'),
  bold: sourced('atkinson-hyperlegible-next', 'atkinson-hyperlegible-next-latin-700-normal'),
  code: sourced('atkinson-hyperlegible-mono', 'atkinson-hyperlegible-mono-latin-400-normal'),
};
/** Latin with every accent, Vietnamese, Greek, Cyrillic, Hebrew, and many signs. */
const WIDE: Record<'body' | 'bold', string> = {
  body: join(folderOf('dejavu-fonts-ttf'), 'ttf', 'DejaVuSans.ttf'),
  bold: join(folderOf('dejavu-fonts-ttf'), 'ttf', 'DejaVuSans-Bold.ttf'),
};

/** A font of a script: what is common stands in one file, what is rare in parts by ranges of code points. */
interface Family {
  family: string;
  common: string;
  parts: { part: string; ranges: [first: number, last: number][] }[];
}

/** Fonts of other scripts, the first that has a character draws it. Each part is read when it is first needed. */
const FAMILIES: Family[] = [
  familyOf('noto-sans-arabic', 'arabic'),
  familyOf('noto-sans-sc', 'chinese-simplified'),
  familyOf('noto-sans-kr', 'korean'),
];
const EMOJI = familyOf('noto-emoji', 'emoji');

function familyOf(family: string, common: string): Family {
  const ranges = JSON.parse(
    readFileSync(join(folderOf(`@fontsource/${family}`), 'unicode.json'), 'utf8'),
  ) as Record<string, string>;
  return {
    family,
    common,
    parts: Object.entries(ranges).map(([name, text]) => ({
      part: name.replace(/[[\]]/g, ''),
      ranges: text.split(',').map(range => {
        const [first = '', last = first] = range.trim().replace(/^U\+/i, '').split('-');
        return [Number.parseInt(first, 16), Number.parseInt(last, 16)];
      }),
    })),
  };
}

/** Gives a document the house's fonts and the wide ones; others join it when they are needed. */
export function registerFonts(paper: Paper): void {
  for (const [name, file] of Object.entries(OWN)) paper.registerFont(name, bytesOf(file));
  paper.registerFont('wide body', bytesOf(WIDE.body));
  paper.registerFont('wide bold', bytesOf(WIDE.bold));
}

/** What pdfkit keeps of a font under a name of its own. */
interface Outlines {
  font: { hasGlyphForCodePoint(code: number): boolean };
  ascender: number;
}
export const outlines = (paper: Paper, font: string): Outlines =>
  (paper.font(font) as unknown as { _font: Outlines })._font;

/** Marks that only join what stands beside them, or choose between two looks of it. */
export const JOINERS = /\u200c|\u200d|\ufe0e|\ufe0f/g;
const PICTURE = /\p{Extended_Pictographic}|\p{Regional_Indicator}/u;
const ARABIC = /\p{Script=Arabic}/u;

const found = new WeakMap<Paper, Map<string, string | null>>();

/** The same, looked for once in a document. */
export function fontFor(paper: Paper, face: Face, cluster: string): string | null {
  const known = found.get(paper) ?? new Map<string, string | null>();
  found.set(paper, known);
  const key = `${face} ${cluster}`;
  const font = known.has(key) ? known.get(key)! : findFont(paper, face, cluster);
  known.set(key, font);
  return font;
}

/**
 * The font for a cluster of letters and marks: the house's own where it has all of it, else one of its script, else the wide one.
 * Null when no font has all of it.
 */
function findFont(paper: Paper, face: Face, cluster: string): string | null {
  const codes = [...cluster.replace(JOINERS, '')].map(c => c.codePointAt(0)!);
  const weight = face === 'bold' ? 'bold' : 'body';
  const has = (font: string) => codes.every(c => outlines(paper, font).font.hasGlyphForCodePoint(c));
  if (PICTURE.test(cluster) && !/^[\d#*]/.test(cluster)) return partFont(paper, EMOJI, codes, weight);
  if (has(face)) return face;
  const wide = `wide ${weight}`;
  if (!ARABIC.test(cluster) && has(wide)) return wide;
  for (const family of FAMILIES) {
    const font = partFont(paper, family, codes, weight);
    if (font) return font;
  }
  return has(wide) ? wide : null;
}

/** True for fonts of pictures, whose joined signs are drawn one after the other. */
export const isPicture = (font: string): boolean => font.startsWith(EMOJI.family);

/** The file of a font that has all of some code points, registered with the document; null when none does. */
function partFont(
  paper: Paper,
  { family, common, parts }: Family,
  codes: number[],
  weight: 'body' | 'bold',
): string | null {
  const holds = (ranges: [number, number][], code: number) => ranges.some(([a, b]) => code >= a && code <= b);
  const rare = parts.filter(p => codes.every(c => holds(p.ranges, c))).map(p => p.part);
  const n = weight === 'bold' ? 700 : 400;
  for (const part of [common, ...rare]) {
    const font = `${family} ${part} ${n}`;
    paper.registerFont(font, bytesOf(sourced(family, `${family}-${part}-${n}-normal`)));
    if (readable(paper, font, codes)) return font;
  }
  return null;
}

/** Whether a font has outlines for some code points; false where its file cannot be read. */
function readable(paper: Paper, font: string, codes: number[]): boolean {
  try {
    return codes.every(c => outlines(paper, font).font.hasGlyphForCodePoint(c));
  } catch {
    return false;
  }
}
