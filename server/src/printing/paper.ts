import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import bwipjs from 'bwip-js/node';
import PDFDocument from 'pdfkit';

const require = createRequire(import.meta.url);
const fontFile = (family: string, file: string) =>
  join(dirname(require.resolve(`@fontsource/${family}/package.json`)), 'files', file);

/** Points in one printer dot at 203 dots an inch. */
const DOT = 72 / 203;
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
  if (!/^[\x20-\x7e]{1,60}$/.test(text))
    throw new Error(`Code 128 takes printable ASCII only, not "${text}"`);
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

/** Text in one line, cut with an ellipsis where it does not fit. */
export function line(
  paper: Paper,
  font: 'body' | 'bold' | 'code',
  size: number,
  text: string,
  x: number,
  y: number,
  width: number,
  align: 'left' | 'right' | 'center' = 'left',
): void {
  paper
    .font(font)
    .fontSize(size)
    .fillColor('#000')
    .text(printable(text), x, y, { width, height: size * 1.3, ellipsis: true, lineBreak: true, align });
}

/** Texts in characters that the shipped fonts can print: Latin-1 as it is, accents beyond it dropped, all else a question mark and never nothing. */
function printable(text: string): string {
  const latin = (c: string) =>
    (c.codePointAt(0) ?? 0) < 0x20
      ? ' '
      : (c.codePointAt(0) ?? 0) <= 0xff || '–—‘’“”…'.includes(c)
        ? c
        : null;
  return [...text].map(c => latin(c) ?? latin(c.normalize('NFD').charAt(0)) ?? '?').join('');
}
