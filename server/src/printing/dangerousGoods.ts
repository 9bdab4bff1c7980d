import { addressLines, count } from '@auk/core';
import { type DeclarationText, kilograms } from './declaration.js';
import { finish, line, lines, newPaper } from './paper.js';

interface DangerousText extends DeclarationText {
  goods: readonly {
    words: string;
    quantity: number;
    netMg: number;
    unNumber: string | null;
    hazardClass: string | null;
    hazardName: string | null;
  }[];
}

const LEFT = 48;
const WIDE = 516;
const PER_PAGE = 10;

/** Draws the note of dangerous goods: number, proper name and class of each, how many and how much, from whom to whom. */
export function drawDangerousGoods(d: DangerousText): Promise<Buffer> {
  const paper = newPaper('LETTER', `Dangerous goods ${d.parcelNo}`);
  for (let from = 0; from === 0 || from < d.goods.length; from += PER_PAGE) {
    if (from > 0) paper.addPage();
    line(paper, 'bold', 20, 'DANGEROUS GOODS NOTE', LEFT, 40, 360);
    line(paper, 'body', 10, `${d.parcelNo}   ${d.reference}   ${d.carrier} ${d.tracking}`, LEFT, 68, WIDE);
    for (const [word, a, x] of [
      ['Shipper', d.from, LEFT] as const,
      ['Receiver', d.to, LEFT + 270] as const,
    ]) {
      line(paper, 'bold', 9, word, x, 92, 100);
      addressLines(a)
        .slice(0, 7)
        .forEach((t, i) => line(paper, 'body', 10, t, x, 106 + i * 13, 240));
    }
    d.goods.slice(from, from + PER_PAGE).forEach((g, i) => {
      const y = 220 + i * 40;
      line(paper, 'bold', 14, unWords(g.unNumber), LEFT, y, 80);
      line(paper, 'bold', 11, g.hazardName ?? g.words, LEFT + 90, y, 300);
      line(
        paper,
        'body',
        10,
        `${count(g.quantity, 'piece')} of ${g.words}, net ${kilograms(g.netMg)}`,
        LEFT + 90,
        y + 16,
        300,
      );
      line(paper, 'bold', 12, `Class ${g.hazardClass ?? '?'}`, LEFT + 420, y, 96, 'right');
    });
  }
  line(paper, 'body', 10, `One parcel, gross weight ${kilograms(d.weightMg)}`, LEFT, 636, 300);
  lines(
    paper,
    'body',
    9,
    'The goods are named above by their proper shipping names, and are classed, packed, marked and labelled as the rules of their way ask, and are fit to travel.',
    LEFT,
    654,
    WIDE,
    2,
  );
  lines(paper, 'body', 9, d.message, LEFT, 682, WIDE, 1);
  line(paper, 'body', 10, d.day, LEFT, 716, 160);
  paper
    .moveTo(LEFT + 200, 730)
    .lineTo(LEFT + WIDE, 730)
    .lineWidth(0.6)
    .stroke('#000');
  line(paper, 'body', 8, 'name and signature of the shipper', LEFT + 200, 733, 200);
  return finish(paper);
}

const unWords = (un: string | null): string => `UN ${un?.replace(/\D/g, '') ?? '?'}`;
