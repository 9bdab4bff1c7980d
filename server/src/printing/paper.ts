import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { fitsCode128 } from '@auk/core';
import bwipjs from 'bwip-js/node';
import PDFDocument from 'pdfkit';

const require = createRequire(import.meta.url);
const fontFile = (family: string, file: string) =>
  join(dirname(require.resolve(`@fontsource/${family}/package.json`)), 'files', file);

/** Fonts of many scripts, for what the house's own lack. */
const wideFont = (file: string) =>
  join(dirname(require.resolve('dejavu-fonts-ttf/package.json')), 'ttf', file);

/** Points in one printer dot at 203 dots an inch. */
export const DOT = 72 / 203;
/** Shaved off each side of a bar, so that monochrome rasters do not gain a dot. */
const SHAVE = 0.1 * DOT;

export type Paper = PDFKit.PDFDocument;

/** A new document with Auk's fonts (`body`, `bold`, `code`) and no margins; size in points. */
export function newPaper(size: [number, number] | 'LETTER', title: string): Paper {
  const paper = new PDFDocument({ size, margin: 0, info: { Title: title, Creator: 'Auk' } });
  paper.registerFont(
    'body',
    fontFile('atkinson-hyperlegible-next', 'atkinson-hyperlegible-next-latin-400-normal.woff'),
  );
  paper.registerFont(
    'bold',
    fontFile('atkinson-hyperlegible-next', 'atkinson-hyperlegible-next-latin-700-normal.woff'),
  );
  paper.registerFont(
    'code',
    fontFile('atkinson-hyperlegible-mono', 'atkinson-hyperlegible-mono-latin-400-normal.woff'),
  );
  paper.registerFont('wide', wideFont('DejaVuSans.ttf'));
  paper.registerFont('wide bold', wideFont('DejaVuSans-Bold.ttf'));
  return paper;
}

/** Ends the document and gives its bytes. */
export function finish(paper: Paper): Promise<Buffer> {
  return new Promise((resolve, reject) => {
    const parts: Buffer[] = [];
    paper.on('data', (part: Buffer) => parts.push(part));
    paper.on('end', () => resolve(Buffer.concat(parts)));
    paper.on('error', reject);
    paper.end();
  });
}

/** Widths of bars and spaces of a Code 128 symbol in modules, bar first. Only ASCII 32 to 126 is taken. */
export function code128Widths(text: string): number[] {
  if (!fitsCode128(text)) throw new Error(`Code 128 takes printable ASCII only, not "${text}"`);
  const symbol = bwipjs.raw({ bcid: 'code128', text })[0];
  if (!symbol || !('sbs' in symbol)) throw new Error(`No bars for "${text}"`);
  return symbol.sbs;
}

/** Draws a Code 128 with whole printer dots a module, left edge at x; returns its width in points. The caller leaves 10 modules quiet on both sides. */
export function drawCode128(
  paper: Paper,
  text: string,
  x: number,
  y: number,
  height: number,
  dots: number,
): number {
  const module = dots * DOT;
  let at = x;
  code128Widths(text).forEach((width, i) => {
    if (i % 2 === 0) paper.rect(at + SHAVE, y, width * module - 2 * SHAVE, height);
    at += width * module;
  });
  paper.fill('#000');
  return at - x;
}

/** Width in points that a Code 128 will have. */
export const code128Width = (text: string, dots: number): number =>
  code128Widths(text).reduce((a, b) => a + b, 0) * dots * DOT;

type Face = 'body' | 'bold' | 'code';

/** Text in one line, cut with an ellipsis where it does not fit. Characters that the house's fonts lack are drawn in a font that has them. */
export function line(
  paper: Paper,
  face: Face,
  size: number,
  text: string,
  x: number,
  y: number,
  width: number,
  align: 'left' | 'right' | 'center' = 'left',
): void {
  const runs = fitted(paper, face, size, inVisualOrder(text.replace(/\p{Cc}/gu, ' ')), width);
  const wide = runs.reduce((n, r) => n + widthOf(paper, r, size), 0);
  let at = align === 'left' ? x : align === 'right' ? x + width - wide : x + (width - wide) / 2;
  for (const run of runs) {
    const top = y + (ascent(paper, face, size) - ascent(paper, run.font, size));
    paper.font(run.font).fontSize(size).fillColor('#000').text(run.text, at, top, { lineBreak: false });
    at += widthOf(paper, run, size);
  }
}

interface Run {
  font: string;
  text: string;
}

const widthOf = (paper: Paper, run: Run, size: number): number =>
  paper.font(run.font).fontSize(size).widthOfString(run.text);

interface Outlines {
  font: { hasGlyphForCodePoint(code: number): boolean };
  ascender: number;
}
/** The outlines behind a registered font; pdfkit keeps them under a name of its own. */
const outlines = (paper: Paper, font: string): Outlines =>
  (paper.font(font) as unknown as { _font: Outlines })._font;
const ascent = (paper: Paper, font: string, size: number): number =>
  (outlines(paper, font).ascender / 1000) * size;

/** Cuts a text into runs of one font each: the house's own where it has the character, else the wide one; what neither has becomes a box, never nothing. */
function runsOf(paper: Paper, face: Face, text: string): Run[] {
  const own = outlines(paper, face);
  const wideName = face === 'bold' ? 'wide bold' : 'wide';
  const wide = outlines(paper, wideName);
  const runs: Run[] = [];
  const add = (font: string, c: string) => {
    const last = runs.at(-1);
    if (last?.font === font) last.text += c;
    else runs.push({ font, text: c });
  };
  for (const { segment } of new Intl.Segmenter('en', { granularity: 'grapheme' }).segment(text)) {
    const has = (o: Outlines) => [...segment].every(c => o.font.hasGlyphForCodePoint(c.codePointAt(0)!));
    if (segment === ' ' && runs.length > 0) runs.at(-1)!.text += ' ';
    else if (has(own)) add(face, segment);
    else if (has(wide)) add(wideName, segment);
    else add(wideName, '\u25a1');
  }
  return runs;
}

function fitted(paper: Paper, face: Face, size: number, text: string, width: number): Run[] {
  const whole = runsOf(paper, face, text);
  const wide = (runs: Run[]) => runs.reduce((n, r) => n + widthOf(paper, r, size), 0);
  if (wide(whole) <= width) return whole;
  let [fits, not] = [0, [...text].length];
  while (not - fits > 1) {
    const half = Math.floor((fits + not) / 2);
    const cut = runsOf(paper, face, `${[...text].slice(0, half).join('').trimEnd()}…`);
    if (wide(cut) <= width) fits = half;
    else not = half;
  }
  return runsOf(paper, face, `${[...text].slice(0, fits).join('').trimEnd()}…`);
}

const RIGHT_TO_LEFT = /[\u0590-\u08ff\ufb1d-\ufdff\ufe70-\ufeff]/;

/** Words of a right-to-left text in the order in which they stand on paper; the font shapes and turns the letters within a word. */
function inVisualOrder(text: string): string {
  if (!RIGHT_TO_LEFT.test(text)) return text;
  return text
    .split(
      /((?:[^\s]*[\u0590-\u08ff\ufb1d-\ufdff\ufe70-\ufeff][^\s]*)(?:\s+[^\s]*[\u0590-\u08ff\ufb1d-\ufdff\ufe70-\ufeff][^\s]*)*)/,
    )
    .map(part => (RIGHT_TO_LEFT.test(part) ? part.split(/\s+/).reverse().join(' ') : part))
    .join('');
}

/** A text over several lines of words, cut after `most` lines. Returns the y under it. */
export function lines(
  paper: Paper,
  face: Face,
  size: number,
  text: string,
  x: number,
  y: number,
  width: number,
  most: number,
): number {
  let at = y;
  let left = text.split(/\s+/).filter(Boolean);
  for (let n = 0; n < most && left.length > 0; n++) {
    let take = left.length;
    const fits = () =>
      runsOf(paper, face, left.slice(0, take).join(' ')).reduce((w, r) => w + widthOf(paper, r, size), 0) <=
      width;
    while (take > 1 && !fits()) take--;
    const last = n === most - 1;
    line(paper, face, size, (last ? left : left.slice(0, take)).join(' '), x, at, width);
    left = last ? [] : left.slice(take);
    at += size * 1.3;
  }
  return at;
}
