import { addressLines } from '@auk/core';
import { type DeclarationText, kilograms } from './declaration.js';
import { finish, line, lines, newPaper, type Paper } from './paper.js';
import { paperHead } from './slip.js';

const LEFT = 48;
const FIRST = 282;
const ROW = 18;
const PER_PAGE = 20;
const COLUMNS: [heading: string, x: number, width: number, align: 'left' | 'right'][] = [
  ['Units', LEFT, 34, 'right'],
  ['What it is', LEFT + 44, 206, 'left'],
  ['HS code', 304, 56, 'left'],
  ['Origin', 364, 36, 'left'],
  ['Net weight', 404, 68, 'right'],
  ['Value', 480, 84, 'right'],
];

/** Draws the commercial invoice that goes with a parcel for customs. */
export function drawCommercialInvoice(d: DeclarationText & { heading: string }): Promise<Buffer> {
  const paper = newPaper('LETTER', `Commercial invoice ${d.reference}`);
  const pages = Math.max(1, Math.ceil(d.rows.length / PER_PAGE));
  for (let page = 0; page < pages; page++) {
    if (page > 0) paper.addPage();
    head(paper, d, page, pages);
    d.rows.slice(page * PER_PAGE, (page + 1) * PER_PAGE).forEach((r, i) => {
      const cells = [String(r.quantity), r.words, r.code, r.origin, kilograms(r.netMg), r.value];
      COLUMNS.forEach(([, x, width, align], k) =>
        line(paper, 'body', 10, cells[k]!, x, FIRST + i * ROW, width, align),
      );
    });
    if (page === pages - 1) foot(paper, d);
  }
  return finish(paper);
}

function head(paper: Paper, d: DeclarationText & { heading: string }, page: number, pages: number): void {
  paperHead(paper, d.heading, d.from, d.parcelNo);
  line(paper, 'bold', 15, 'Commercial invoice', LEFT, 132, 300);
  line(paper, 'body', 10, `${d.reference}   ${d.day}   page ${page + 1} of ${pages}`, LEFT, 152, 300);
  addressLines(d.to).forEach((t, i) =>
    line(paper, i === 0 ? 'bold' : 'body', 11, t, LEFT, 176 + i * 13, 300),
  );
  line(paper, 'body', 10, d.carrier, 400, 132, 164);
  line(paper, 'code', 9, d.tracking, 400, 148, 164);
  if (d.to.phone) line(paper, 'body', 10, d.to.phone, 400, 164, 164);
  for (const [words, x, width, align] of COLUMNS) line(paper, 'bold', 9, words, x, FIRST - 22, width, align);
  paper
    .moveTo(LEFT, FIRST - 9)
    .lineTo(564, FIRST - 9)
    .lineWidth(0.8)
    .stroke('#000');
}

function foot(paper: Paper, d: DeclarationText): void {
  const sums: [string, string][] = [
    ['Goods', d.total],
    ['Shipping', d.shipping],
    ['Currency', d.currency],
    ['Net weight', kilograms(d.netMg)],
    ['Gross weight', kilograms(d.weightMg)],
    ['Reason for sending', 'sale'],
  ];
  sums.forEach(([words, amount], i) => {
    line(paper, i === 0 ? 'bold' : 'body', 10, words, 330, 652 + i * 14, 130, 'right');
    line(paper, i === 0 ? 'bold' : 'body', 10, amount, 470, 652 + i * 14, 94, 'right');
  });
  lines(paper, 'body', 10, d.message, LEFT, 662, 260, 3);
  paper
    .moveTo(LEFT, 728)
    .lineTo(LEFT + 200, 728)
    .lineWidth(0.6)
    .stroke('#000');
  line(paper, 'body', 8, 'signature', LEFT, 731, 100);
}
