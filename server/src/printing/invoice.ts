import { type Address, addressLines } from '@auk/core';
import { finish, line, lines, newPaper } from './paper.js';
import { paperHead } from './slip.js';

export interface InvoiceLine {
  quantity: number;
  name: string;
  sku: string;
  each: string;
  rate: string;
  tax: string;
  total: string;
}

/** What stands on an invoice. `sums` are rows under the lines; those marked are drawn large. */
export interface InvoiceText {
  code: string;
  channelNumber: string;
  heading: string;
  from: Address;
  billTo: Address;
  shipTo: Address | null;
  day: string;
  lines: InvoiceLine[];
  sums: [words: string, amount: string, large?: 'large'][];
  message: string;
}

const LEFT = 48;
const ROW = 20;
const FIRST = 262;
const PER_PAGE = 17;
const COLUMNS: [heading: string, x: number, width: number, align: 'left' | 'right'][] = [
  ['Units', LEFT, 34, 'right'],
  ['What', LEFT + 44, 208, 'left'],
  ['Each', 304, 62, 'right'],
  ['Tax rate', 372, 52, 'right'],
  ['Tax', 430, 56, 'right'],
  ['Sum', 492, 72, 'right'],
];

/** Draws an invoice on letter paper: lines with their tax, and the sums under them. */
export function drawInvoice(invoice: InvoiceText): Promise<Buffer> {
  const paper = newPaper('LETTER', `Invoice ${invoice.channelNumber}`);
  paperHead(paper, invoice.heading, invoice.from, invoice.code);
  addressLines(invoice.billTo, invoice.from.country).forEach((t, i) =>
    line(paper, i === 0 ? 'bold' : 'body', 12, t, LEFT, 136 + i * 16, 250),
  );
  line(paper, 'bold', 13, `Invoice ${invoice.channelNumber}`, 400, 128, 170);
  line(paper, 'body', 10, invoice.day, 400, 146, 170);
  if (invoice.shipTo) {
    line(paper, 'body', 9, 'sent to', 400, 166, 100);
    addressLines(invoice.shipTo, invoice.from.country).forEach((t, i) =>
      line(paper, 'body', 9, t, 400, 178 + i * 11, 170),
    );
  }
  const head = (y: number) => {
    for (const [text, x, width, align] of COLUMNS) line(paper, 'bold', 9, text, x, y, width, align);
    paper
      .moveTo(LEFT, y + 13)
      .lineTo(564, y + 13)
      .lineWidth(0.8)
      .stroke('#000');
  };
  invoice.lines.forEach((l, i) => {
    if (i > 0 && i % PER_PAGE === 0) paper.addPage();
    if (i % PER_PAGE === 0) head(FIRST - 20);
    const y = FIRST + (i % PER_PAGE) * ROW;
    [String(l.quantity), l.name, l.each, l.rate, l.tax, l.total].forEach((text, k) => {
      const [, x, width, align] = COLUMNS[k]!;
      line(paper, 'body', 10, text, x, y, width, align);
    });
  });
  const last = ((invoice.lines.length - 1) % PER_PAGE) + 1;
  let y = FIRST + last * ROW + 10;
  invoice.sums.forEach(([words, amount, large]) => {
    line(paper, large ? 'bold' : 'body', large ? 13 : 10, words, 330, y, 140, 'right');
    line(paper, large ? 'bold' : 'body', large ? 13 : 10, amount, 474, y, 90, 'right');
    y += large ? 22 : 15;
  });
  lines(paper, 'body', 10, invoice.message, LEFT, 734, 516, 3);
  return finish(paper);
}
