import type { Address } from '@auk/core';
import { addressLines } from './label.js';
import { drawCode128, finish, line, newPaper } from './paper.js';

export interface SlipLine {
  quantity: number;
  name: string;
  sku: string;
}

/** What stands on a packing slip. */
export interface SlipText {
  code: string;
  channelNumber: string;
  brand: string;
  from: Address;
  to: Address;
  note: string;
  lines: SlipLine[];
}

const LEFT = 48;
const ROW = 24;
const FIRST = 268;
const PER_PAGE = 18;

/** Draws a packing slip on letter paper with the order's code, which opens it at the bench. */
export function drawSlip(slip: SlipText): Promise<Buffer> {
  const paper = newPaper('LETTER', `Packing slip ${slip.channelNumber}`);
  line(paper, 'bold', 22, slip.brand, LEFT, 44, 320);
  addressLines(slip.from)
    .slice(1)
    .forEach((t, i) => line(paper, 'body', 9, t, LEFT, 74 + i * 12, 260));
  drawCode128(paper, slip.code, 400, 46, 44, 3);
  line(paper, 'code', 12, slip.code, 400, 96, 160);
  addressLines(slip.to).forEach((t, i) =>
    line(paper, i === 0 ? 'bold' : 'body', 13, t, LEFT, 140 + i * 17, 320),
  );
  line(paper, 'bold', 13, `Order ${slip.channelNumber}`, 400, 140, 170);
  slip.lines.forEach((l, i) => {
    if (i > 0 && i % PER_PAGE === 0) paper.addPage();
    const y = FIRST + (i % PER_PAGE) * ROW;
    line(paper, 'bold', 13, `${l.quantity} ×`, LEFT, y, 50);
    line(paper, 'body', 12, l.name, LEFT + 54, y, 330);
    line(paper, 'code', 10, l.sku, 450, y + 2, 120);
  });
  if (slip.note) line(paper, 'body', 11, slip.note, LEFT, 730, 500);
  return finish(paper);
}
