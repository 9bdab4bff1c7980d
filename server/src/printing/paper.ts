import { fitsCode128 } from '@auk/core';
import type bwipjs from 'bwip-js/node';
import type PDFDocument from 'pdfkit';
import { whenNeeded } from '../reference/whenNeeded.js';
import { type Face, fontFor, isPicture, JOINERS, outlines, registerFonts } from './fonts.js';
import { visualOrder } from './visualOrder.js';

const pdfKit = whenNeeded<typeof PDFDocument>('pdfkit');
const barcodes = whenNeeded<typeof bwipjs>('bwip-js/node');

/** Points in one printer dot at 203 dots an inch. */
export const DOT = 72 / 203;
/** Shaved off each side of a bar, so that monochrome rasters do not gain a dot. */
const SHAVE = 0.1 * DOT;

export type Paper = PDFKit.PDFDocument;

/** A new document with Auk's fonts (`body`, `bold`, `code`) and no margins; size in points. */
export function newPaper(size: [number, number] | 'LETTER', title: string): Paper {
  // With no font of pdfkit's own, which it would read for each document anew.
  const paper = new (pdfKit())({ size, margin: 0, font: '', info: { Title: title, Creator: 'Auk' } });
  registerFonts(paper);
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
  const symbol = barcodes().raw({ bcid: 'code128', text })[0];
  if (!symbol || !('sbs' in symbol)) throw new Error(`No bars for "${text}"`);
  return symbol.sbs;
}

/** Widths of bars and spaces of a GS1-128 symbol, bar first, for an element string such as `(00)095200011200000015`. */
export function gs1Widths(elements: string): number[] {
  const symbol = barcodes().raw({ bcid: 'gs1-128', text: elements })[0];
  if (!symbol || !('sbs' in symbol)) throw new Error(`No bars for "${elements}"`);
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
  return drawBars(paper, code128Widths(text), x, y, height, dots);
}

/** The same for a GS1-128. */
export function drawGs1(
  paper: Paper,
  elements: string,
  x: number,
  y: number,
  height: number,
  dots: number,
): number {
  return drawBars(paper, gs1Widths(elements), x, y, height, dots);
}

/** Draws bars and spaces of so many modules each, bar first, as `drawCode128` does. */
export function drawBars(
  paper: Paper,
  widths: readonly number[],
  x: number,
  y: number,
  height: number,
  dots: number,
): number {
  const module = dots * DOT;
  let at = x;
  widths.forEach((width, i) => {
    if (i % 2 === 0) paper.rect(at + SHAVE, y, width * module - 2 * SHAVE, height);
    at += width * module;
  });
  paper.fill('#000');
  return at - x;
}

/** Width in points that a Code 128 will have. */
export const code128Width = (text: string, dots: number): number =>
  code128Widths(text).reduce((a, b) => a + b, 0) * dots * DOT;

/** Text in one line, cut with an ellipsis where it does not fit. Characters that the house's fonts lack are drawn in a font that has them, each script in its own order. */
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
  const runs = fitted(paper, face, size, text.replace(/\p{Cc}/gu, ' '), width);
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

const ascent = (paper: Paper, font: string, size: number): number =>
  (outlines(paper, font).ascender / 1000) * size;

/** Cuts a text into runs of one font each, in the order in which they stand on paper; what no font has becomes a box, never nothing. */
function runsOf(paper: Paper, face: Face, text: string): Run[] {
  return visualOrder(text).flatMap(part => {
    const runs: Run[] = [];
    for (const { font, text } of glyphed(paper, face, part, runs)) {
      const last = runs.at(-1);
      if (last?.font === font) last.text += text;
      else runs.push({ font, text });
    }
    return runs.flatMap(run => shaped(paper, run));
  });
}

const BOX: Run = { font: 'wide body', text: '\u25a1' };
const FROM_RIGHT = /\p{Script=Arabic}|\p{Script=Hebrew}/u;

/** A run as its font can set it: whole; where the font has no place for one of its marks, letter by letter; what it cannot set at all becomes a box. */
function shaped(paper: Paper, run: Run): Run[] {
  if (sets(paper, run)) return [run];
  const clusters = [...CLUSTERS.segment(run.text)].map(s => s.segment);
  const parts = clusters.length > 1 ? clusters : [...run.text];
  if (parts.length === 1)
    return [sets(paper, { ...run, font: 'wide body' }) ? { ...run, font: 'wide body' } : BOX];
  const ordered = FROM_RIGHT.test(run.text) ? parts.reverse() : parts;
  return ordered.flatMap(text => shaped(paper, { ...run, text }));
}

function sets(paper: Paper, run: Run): boolean {
  try {
    return widthOf(paper, run, 10) >= 0;
  } catch {
    return false;
  }
}

/** Clusters of a text, each with its font; a space goes with what stands before it, a cluster that no font has whole goes part by part. */
function* glyphed(paper: Paper, face: Face, text: string, runs: readonly Run[]): Generator<Run> {
  for (const { segment } of CLUSTERS.segment(text)) {
    const before = runs.at(-1);
    const font = segment === ' ' && before ? before.font : fontFor(paper, face, segment);
    const plain = segment.replace(JOINERS, '');
    if (font) yield { font, text: isPicture(font) ? plain : segment };
    else
      for (const c of plain) {
        const own = fontFor(paper, face, c);
        yield own ? { font: own, text: c } : BOX;
      }
  }
}

const CLUSTERS = new Intl.Segmenter('en', { granularity: 'grapheme' });

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

/** A text in as many lines as it needs, between words, and within a word that is longer than a line. */
export function wrapped(paper: Paper, face: Face, size: number, text: string, width: number): string[] {
  const fits = (t: string) =>
    runsOf(paper, face, t).reduce((n, r) => n + widthOf(paper, r, size), 0) <= width;
  const lines: string[] = [];
  let line = '';
  for (const word of text.split(/\s+/).filter(Boolean)) {
    const longer = line === '' ? word : `${line} ${word}`;
    if (fits(longer)) {
      line = longer;
      continue;
    }
    if (line !== '') lines.push(line);
    line = '';
    for (const { segment } of CLUSTERS.segment(word)) {
      if (line !== '' && !fits(line + segment)) {
        lines.push(line);
        line = '';
      }
      line += segment;
    }
  }
  return line === '' ? lines : [...lines, line];
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
