import { type Address, addressLines } from '@auk/core';
import { drawCode128, finish, line, lines, newPaper, type Paper } from './paper.js';

export interface SlipLine {
  quantity: number;
  name: string;
  sku: string;
  /** Where its pieces lie or were picked, for the person who packs. */
  places: string[];
  price: string | null;
}

/** What stands on a packing slip. */
export interface SlipText {
  code: string;
  channelNumber: string;
  heading: string;
  from: Address;
  to: Address;
  notes: string[];
  message: string;
  lines: SlipLine[];
  total: string | null;
}

const LEFT = 48;
const ROW = 24;
const FIRST = 268;
const PER_PAGE = 18;

/** Draws a packing slip on letter paper with the order's code, which opens it at the bench, and the place of each line. */
export function drawSlip(slip: SlipText): Promise<Buffer> {
  const paper = newPaper('LETTER', `Packing slip ${slip.channelNumber}`);
  paperHead(paper, slip.heading, slip.from, slip.code);
  addressLines(slip.to, slip.from.country).forEach((t, i) =>
    line(paper, i === 0 ? 'bold' : 'body', 13, t, LEFT, 140 + i * 17, 320),
  );
  line(paper, 'bold', 13, `Order ${slip.channelNumber}`, 400, 140, 170);
  slip.lines.forEach((l, i) => {
    if (i > 0 && i % PER_PAGE === 0) paper.addPage();
    const y = FIRST + (i % PER_PAGE) * ROW;
    line(paper, 'bold', 13, `${l.quantity} ×`, LEFT, y, 50);
    line(paper, 'body', 12, l.name, LEFT + 54, y, 250);
    line(paper, 'code', 9, l.sku, 356, y + 3, 92);
    line(paper, 'code', 9, l.places.join(' '), 452, y + 3, l.price ? 62 : 112);
    if (l.price) line(paper, 'body', 11, l.price, 514, y + 1, 52, 'right');
  });
  if (slip.total) line(paper, 'bold', 13, slip.total, 400, 704, 166, 'right');
  let y = 704;
  for (const note of slip.notes.slice(0, 2)) y = lines(paper, 'bold', 11, note, LEFT, y, 330, 1);
  lines(paper, 'body', 10, slip.message, LEFT, Math.max(y, 734), 516, 3);
  return finish(paper);
}

/** The head that slip and invoice share: brand and sender on the left, the order's code on the right. */
export function paperHead(paper: Paper, heading: string, from: Address, code: string): void {
  line(paper, 'bold', 22, heading, LEFT, 44, 320);
  addressLines(from, from.country)
    .slice(1)
    .forEach((t, i) => line(paper, 'body', 9, t, LEFT, 74 + i * 12, 260));
  drawCode128(paper, code, 400, 46, 44, 3);
  line(paper, 'code', 12, code, 400, 96, 160);
}
