import { type Address, addressLines, type CustomsForm, type CustomsRow, formatWeight } from '@auk/core';
import { code128Width, drawCode128, finish, line, lines, newPaper, type Paper } from './paper.js';

/** What stands on the papers of a parcel abroad. */
export interface DeclarationText {
  form: CustomsForm;
  /** Why this form and no other, for the house. */
  why: string;
  parcelNo: string;
  reference: string;
  carrier: string;
  tracking: string;
  from: Address;
  to: Address;
  rows: readonly (CustomsRow & { value: string })[];
  total: string;
  currency: string;
  shipping: string;
  netMg: number;
  weightMg: number;
  day: string;
  message: string;
}

const LEFT = 40;
const WIDE = 532;
export const kilograms = (mg: number): string => formatWeight(mg, 'metric');
const PER_PAGE = 14;

const COLUMNS: [heading: string, x: number, width: number, align: 'left' | 'right'][] = [
  ['What it is', LEFT + 6, 210, 'left'],
  ['Quantity', 262, 52, 'right'],
  ['Net weight', 320, 66, 'right'],
  ['Value', 392, 70, 'right'],
  ['HS code', 470, 52, 'left'],
  ['Origin', 530, 36, 'left'],
];

/** Draws the declaration on letter paper. Both forms ask for the same; CN 23 wants both addresses whole and the item's number as bars. */
export function drawDeclaration(d: DeclarationText): Promise<Buffer> {
  const paper = newPaper('LETTER', `${d.form} ${d.parcelNo}`);
  const pages = Math.max(1, Math.ceil(d.rows.length / PER_PAGE));
  for (let page = 0; page < pages; page++) {
    if (page > 0) paper.addPage();
    head(paper, d, page, pages);
    table(paper, d.rows.slice(page * PER_PAGE, (page + 1) * PER_PAGE));
    if (page === pages - 1) foot(paper, d);
  }
  return finish(paper);
}

function head(paper: Paper, d: DeclarationText, page: number, pages: number): void {
  line(paper, 'bold', 20, `CUSTOMS DECLARATION  ${d.form}`, LEFT, 36, 360);
  line(paper, 'body', 9, 'May be opened officially', LEFT, 62, 300);
  line(paper, 'body', 9, `${d.carrier}   ${d.parcelNo}   page ${page + 1} of ${pages}`, LEFT, 75, 300);
  if (d.tracking) {
    const dots = 2;
    drawCode128(paper, d.tracking, LEFT + WIDE - code128Width(d.tracking, dots), 36, 34, dots);
    line(paper, 'code', 9, d.tracking, LEFT + WIDE - 200, 74, 200, 'right');
  }
  address(paper, 'From', d.from, LEFT);
  address(paper, 'To', d.to, LEFT + 270);
  paper
    .rect(LEFT, 96, WIDE, 112)
    .moveTo(LEFT + 264, 96)
    .lineTo(LEFT + 264, 208)
    .lineWidth(0.8)
    .stroke('#000');
  category(paper);
}

function address(paper: Paper, word: string, a: Address, x: number): void {
  line(paper, 'bold', 9, word, x + 6, 102, 60);
  addressLines(a)
    .slice(0, 7)
    .forEach((t, i) => line(paper, 'body', 10, t, x + 6, 116 + i * 12.5, 250));
  if (a.phone) line(paper, 'body', 9, a.phone, x + 130, 102, 126, 'right');
}

const CATEGORIES = ['Sale of goods', 'Gift', 'Documents', 'Commercial sample', 'Returned goods', 'Other'];

function category(paper: Paper): void {
  CATEGORIES.forEach((words, i) => {
    const x = LEFT + 6 + i * 88;
    paper.rect(x, 217, 9, 9).lineWidth(0.8).stroke('#000');
    if (i === 0) line(paper, 'bold', 10, '×', x + 1.2, 214.5, 10);
    line(paper, 'body', 9, words, x + 13, 217, 76);
  });
}

function table(paper: Paper, rows: DeclarationText['rows']): void {
  const top = 238;
  for (const [words, x, width, align] of COLUMNS) line(paper, 'bold', 9, words, x, top, width, align);
  rows.forEach((r, i) => {
    const cells = [r.words, String(r.quantity), kilograms(r.netMg), r.value, r.code, r.origin];
    COLUMNS.forEach(([, x, width, align], k) =>
      line(paper, k > 3 ? 'code' : 'body', 10, cells[k]!, x, top + 20 + i * 20, width, align),
    );
  });
  paper
    .rect(LEFT, top - 6, WIDE, 26 + PER_PAGE * 20)
    .moveTo(LEFT, top + 14)
    .lineTo(LEFT + WIDE, top + 14)
    .lineWidth(0.8)
    .stroke('#000');
}

function foot(paper: Paper, d: DeclarationText): void {
  const y = 552;
  const sums: [string, string][] = [
    ['Total value', `${d.total} (${d.currency})`],
    ['Net weight', kilograms(d.netMg)],
    ['Gross weight', kilograms(d.weightMg)],
    ['Postage', d.shipping],
    ['Reference', d.reference],
  ];
  sums.forEach(([words, amount], i) => {
    line(paper, 'bold', 10, words, LEFT + 6, y + i * 16, 90);
    line(paper, 'body', 10, amount, LEFT + 100, y + i * 16, 170);
  });
  lines(
    paper,
    'body',
    9,
    'The undersigned, whose name and address stand on this item, certifies that what is declared here is right, and that it holds nothing that law or postal rules forbid.',
    LEFT + 280,
    y,
    248,
    5,
  );
  line(paper, 'body', 10, d.day, LEFT + 280, y + 84, 120);
  paper
    .moveTo(LEFT + 370, y + 98)
    .lineTo(LEFT + WIDE - 4, y + 98)
    .lineWidth(0.6)
    .stroke('#000');
  line(paper, 'body', 8, 'signature', LEFT + 370, y + 101, 100);
  lines(paper, 'body', 9, d.message, LEFT + 6, 700, WIDE - 12, 2);
  line(paper, 'body', 8, `${d.form}: ${d.why}`, LEFT + 6, 744, WIDE - 12);
}
