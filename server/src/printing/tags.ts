import { fitsCode128 } from '@auk/core';
import { code128Width, DOT, drawCode128, finish, line, newPaper, type Paper } from './paper.js';

/** A label for a place or a product: what is scanned, the words large, and a quiet line. */
export interface Tag {
  code: string;
  words: string;
  small: string;
}

/** `sheet`: letter paper with 30 labels of 2 5/8 x 1 in, three across; `thermal`: one label of 2 1/4 x 1 1/4 in a page. */
export type TagForm = 'sheet' | 'thermal';

const SHEET = { across: 3, down: 10, left: 13.5, top: 36, pitchX: 198, pitchY: 72, width: 189, height: 72 };
const THERMAL: [number, number] = [162, 90];
const [PAD, QUIET_MODULES, MOST_DOTS] = [9, 10, 3];

/** Draws labels in their order. Bars have whole printer dots, as wide as the label lets them be. */
export function drawTags(tags: readonly Tag[], form: TagForm): Promise<Buffer> {
  const paper = newPaper(form === 'sheet' ? 'LETTER' : THERMAL, 'Labels');
  tags.forEach((tag, i) => {
    if (form === 'thermal') {
      if (i > 0) paper.addPage({ size: THERMAL, margin: 0 });
      drawTag(paper, tag, 0, 0, THERMAL[0], THERMAL[1]);
      return;
    }
    const at = i % (SHEET.across * SHEET.down);
    if (i > 0 && at === 0) paper.addPage({ size: 'LETTER', margin: 0 });
    const x = SHEET.left + (at % SHEET.across) * SHEET.pitchX;
    const y = SHEET.top + Math.floor(at / SHEET.across) * SHEET.pitchY;
    drawTag(paper, tag, x, y, SHEET.width, SHEET.height);
  });
  return finish(paper);
}

function drawTag(paper: Paper, tag: Tag, x: number, y: number, width: number, height: number): void {
  const bars = height - 50;
  line(paper, 'bold', 15, tag.words, x + PAD, y + 5, width - 2 * PAD);
  if (fitsCode128(tag.code)) {
    let dots = MOST_DOTS;
    const fits = (d: number) => code128Width(tag.code, d) + 2 * QUIET_MODULES * d * DOT <= width;
    while (dots > 1 && !fits(dots)) dots--;
    drawCode128(paper, tag.code, x + Math.max(PAD, QUIET_MODULES * dots * DOT), y + 24, bars, dots);
  }
  line(paper, 'code', 8, tag.code, x + PAD, y + 27 + bars, width / 2 - PAD);
  line(paper, 'body', 8, tag.small, x + width / 2, y + 27 + bars, width / 2 - PAD);
}
