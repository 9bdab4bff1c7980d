import { setImmediate } from 'node:timers/promises';
import { fitsCode128 } from '@auk/core';
import type { PDFDocument } from 'pdf-lib';
import { pdfLib } from '../reference/pdfLib.js';
import { code128Widths, DOT, drawBars, finish, line, newPaper, type Paper } from './paper.js';

/** A label for a place or a product: what is scanned, the words large, and a quiet line. */
export interface Tag {
  code: string;
  words: string;
  small: string;
}

/** `sheet`: letter paper with 30 labels of 2 5/8 x 1 in, three across; `thermal`: one label of 2 1/4 x 1 1/4 in a page. */
export type TagForm = 'sheet' | 'thermal';

/** Where labels lie on a page, in points from its upper left corner. */
interface Layout {
  page: [number, number];
  across: number;
  down: number;
  left: number;
  top: number;
  pitchX: number;
  pitchY: number;
  width: number;
  height: number;
}

/** One label that fills its page. */
const alone = (width: number, height: number): Layout => ({
  page: [width, height],
  across: 1,
  down: 1,
  left: 0,
  top: 0,
  pitchX: width,
  pitchY: height,
  width,
  height,
});
const LAYOUTS: Record<TagForm, Layout> = {
  sheet: {
    page: [612, 792],
    across: 3,
    down: 10,
    left: 13.5,
    top: 36,
    pitchX: 198,
    pitchY: 72,
    width: 189,
    height: 72,
  },
  thermal: alone(162, 90),
};
const [PAD, QUIET_MODULES, MOST_DOTS] = [9, 10, 3];

/** So many labels are drawn before others get their turn: thousands of them take seconds, and scans must not wait for those. */
const AT_A_TIME = 50;
const PAGES_AT_A_TIME = 500;

/** Labels in their order. What is wanted many times is drawn once, and shown wherever it is wanted. */
export async function drawTags(tags: readonly Tag[], form: TagForm): Promise<Buffer> {
  const layout = LAYOUTS[form];
  const places = new Map<string, number>();
  const once: Tag[] = [];
  const wanted = tags.map(tag => {
    const key = JSON.stringify([tag.code, tag.words, tag.small]);
    if (!places.has(key)) places.set(key, once.push(tag) - 1);
    return places.get(key)!;
  });
  if (once.length === tags.length) return drawn(tags, layout);
  const document = await pdfLib().PDFDocument.load(await drawn(once, alone(layout.width, layout.height)));
  const whole = await (form === 'sheet' ? shown(document, wanted, layout) : repeated(document, wanted));
  return Buffer.from(await whole.save());
}

/** Draws each label at its place. */
async function drawn(tags: readonly Tag[], layout: Layout): Promise<Buffer> {
  const paper = newPaper(layout.page, 'Labels');
  for (const [i, tag] of tags.entries()) {
    if (i % AT_A_TIME === AT_A_TIME - 1) await setImmediate();
    const { at, x, y } = spotOf(i, layout);
    if (i > 0 && at === 0) paper.addPage({ size: layout.page, margin: 0 });
    drawTag(paper, tag, x, y, layout.width, layout.height);
  }
  return finish(paper);
}

/** Pages as often and in the order as they are wanted. */
async function repeated(labels: PDFDocument, wanted: readonly number[]): Promise<PDFDocument> {
  const whole = await pdfLib().PDFDocument.create();
  // From the last to the first: a page that is put behind others walks past all of them.
  for (let end = wanted.length; end > 0; end -= PAGES_AT_A_TIME) {
    const some = await whole.copyPages(labels, wanted.slice(Math.max(0, end - PAGES_AT_A_TIME), end));
    for (const page of some.reverse()) whole.insertPage(0, page);
    await setImmediate();
  }
  return whole;
}

/** Shows labels that each have a page of their own, as often and in the order as they are wanted. */
async function shown(labels: PDFDocument, wanted: readonly number[], layout: Layout): Promise<PDFDocument> {
  const whole = await pdfLib().PDFDocument.create();
  const pictures = await whole.embedPages(labels.getPages());
  const each = layout.across * layout.down;
  // From the last page to the first, as above.
  for (let page = Math.ceil(wanted.length / each) - 1; page >= 0; page--) {
    const sheet = whole.insertPage(0, layout.page);
    for (const [i, label] of wanted.slice(page * each, (page + 1) * each).entries()) {
      const { x, y } = spotOf(i, layout);
      // The picture's corner is at its lower left, and the page counts from the bottom.
      sheet.drawPage(pictures[label]!, { x, y: layout.page[1] - y - layout.height });
    }
    if (page % Math.ceil(AT_A_TIME / each) === 0) await setImmediate();
  }
  return whole;
}

/** Where the label of a number lies, and which of its page it is. */
function spotOf(i: number, { across, down, left, top, pitchX, pitchY }: Layout) {
  const at = i % (across * down);
  return { at, x: left + (at % across) * pitchX, y: top + Math.floor(at / across) * pitchY };
}

/** Bars have whole printer dots, as wide as the label lets them be. */
function drawTag(paper: Paper, tag: Tag, x: number, y: number, width: number, height: number): void {
  const bars = height - 50;
  line(paper, 'bold', 15, tag.words, x + PAD, y + 5, width - 2 * PAD);
  if (fitsCode128(tag.code)) {
    const widths = code128Widths(tag.code);
    const modules = widths.reduce((a, b) => a + b, 2 * QUIET_MODULES);
    const dots = Math.max(1, Math.min(MOST_DOTS, Math.floor(width / (modules * DOT))));
    drawBars(paper, widths, x + Math.max(PAD, QUIET_MODULES * dots * DOT), y + 24, bars, dots);
  }
  line(paper, 'code', 8, tag.code, x + PAD, y + 27 + bars, width / 2 - PAD);
  line(paper, 'body', 8, tag.small, x + width / 2, y + 27 + bars, width / 2 - PAD);
}
