import { type Address, addressLines, pointLine } from '@auk/core';
import { code128Width, drawCode128, finish, line, newPaper, type Paper, wrapped } from './paper.js';

/** What stands on a carrier label. */
export interface LabelText {
  parcelNo: string;
  carrier: string;
  service: string;
  tracking: string;
  routing: string;
  weight: string;
  to: Address;
  /** Where the receiver fetches it; empty where it is brought to the door. */
  pickUpPoint?: string;
  from: Address;
  reference: string;
  day: string;
}

const WIDTH = 288;
const HEIGHT = 432;
const EDGE = 14;

/** Ten quiet modules on both sides, in points. */
const quiet = (dots: number): number => (20 * dots * 72) / 203;

/** Draws 4 x 6 in carrier labels, one a page: sender, receiver, routing, and the tracking number as Code 128 in whole printer dots. */
export function drawLabels(labels: readonly LabelText[]): Promise<Buffer> {
  const paper = newPaper(
    [WIDTH, HEIGHT],
    labels
      .map(l => l.tracking)
      .join(' ')
      .slice(0, 200),
  );
  for (const [i, label] of labels.entries()) {
    if (i > 0) paper.addPage({ size: [WIDTH, HEIGHT], margin: 0 });
    drawOne(paper, label);
  }
  return finish(paper);
}

function drawOne(paper: Paper, label: LabelText): void {
  const wide = WIDTH - 2 * EDGE;
  line(paper, 'bold', 17, label.carrier, EDGE, 14, 170);
  line(paper, 'bold', 11, label.service, EDGE, 36, 190);
  line(paper, 'bold', 26, label.routing, WIDTH - 114, 12, 100, 'right');
  line(paper, 'body', 8, `${label.day} · ${label.weight}`, WIDTH - 134, 42, 120, 'right');
  paper.moveTo(0, 58).lineTo(WIDTH, 58).lineWidth(1.5).stroke('#000');
  addressLines(label.from, label.from.country).forEach((text, i) =>
    line(paper, 'body', 7.5, text, EDGE, 65 + i * 9.5, wide),
  );
  line(paper, 'body', 8, 'to', EDGE, 128, 30);
  const to = addressLines(label.to, label.from.country);
  if (label.pickUpPoint) to.splice(1, 0, pointLine(label.pickUpPoint));
  drawReceiver(paper, to, EDGE + 26, 122, wide - 26, 124);
  paper.moveTo(0, 250).lineTo(WIDTH, 250).lineWidth(3).stroke('#000');
  line(paper, 'bold', 9, 'tracking', EDGE, 258, wide, 'center');
  const dots = [4, 3].find(d => code128Width(label.tracking, d) + quiet(d) <= WIDTH) ?? 2;
  drawCode128(paper, label.tracking, (WIDTH - code128Width(label.tracking, dots)) / 2, 274, 84, dots);
  line(paper, 'code', 13, label.tracking, EDGE, 364, wide, 'center');
  paper.moveTo(0, 388).lineTo(WIDTH, 388).lineWidth(1.5).stroke('#000');
  line(paper, 'code', 10, label.parcelNo, EDGE, 402, 130);
  line(paper, 'body', 10, label.reference, WIDTH - 154, 402, 140, 'right');
}

/** Sizes of the receiver's lines in points, the largest that fits is taken. */
const SIZES = [14, 13, 12, 11, 10, 9, 8, 7];
const LEADING = 1.32;

/** Draws an address as large as it fits, long lines over several: nothing of it is cut. The first line is bold. */
function drawReceiver(
  paper: Paper,
  lines: readonly string[],
  x: number,
  y: number,
  width: number,
  height: number,
): void {
  const face = (i: number) => (i === 0 ? 'bold' : 'body') as 'bold' | 'body';
  const laid = (size: number) =>
    lines.flatMap((text, i) => wrapped(paper, face(i), size, text, width).map(t => ({ t, i })));
  const size = SIZES.find(s => laid(s).length * s * LEADING <= height) ?? SIZES.at(-1)!;
  for (const [n, { t, i }] of laid(size).entries())
    line(paper, face(i), size, t, x, y + n * size * LEADING, width);
}
