import type { ListView } from '@auk/contract';
import { drawCode128, finish, line, newPaper, type Paper } from './paper.js';

const LEFT = 36;
const RIGHT = 576;
const ROW = 46;
const FIRST = 112;
const BOTTOM = 740;

/** Draws a pick list on letter paper: stops in walking order, each place with its barcode, the list's own code at the top of every page. */
export function drawPickList(list: ListView): Promise<Buffer> {
  const paper = newPaper('LETTER', `Pick list ${list.no}`);
  const perPage = Math.floor((BOTTOM - FIRST) / ROW);
  const pages = Math.max(1, Math.ceil(list.rows.length / perPage));
  for (let page = 0; page < pages; page++) {
    if (page > 0) paper.addPage();
    head(paper, list, page + 1, pages);
    list.rows
      .slice(page * perPage, (page + 1) * perPage)
      .forEach((stop, i) => row(paper, stop, FIRST + i * ROW));
  }
  return finish(paper);
}

function head(paper: Paper, list: ListView, page: number, pages: number): void {
  line(paper, 'bold', 24, `Pick list ${list.no}`, LEFT, 34, 320);
  line(
    paper,
    'body',
    11,
    `${list.orders} orders · ${list.stops} stops · ${list.units} pieces · ${list.metres} m to walk · page ${page} of ${pages}`,
    LEFT,
    66,
    360,
  );
  drawCode128(paper, list.no, 420, 34, 40, 3);
  line(paper, 'bold', 9, 'place', LEFT + 128, 94, 70);
  line(paper, 'bold', 9, 'product', LEFT + 206, 94, 180);
  line(paper, 'bold', 9, 'pieces', 440, 94, 46, 'right');
  line(paper, 'bold', 9, 'into tote', 496, 94, 60);
  paper
    .moveTo(LEFT, FIRST - 4)
    .lineTo(RIGHT, FIRST - 4)
    .lineWidth(1)
    .stroke('#000');
}

function row(paper: Paper, stop: ListView['rows'][number], y: number): void {
  drawCode128(paper, stop.place, LEFT, y + 6, 28, 2);
  line(paper, 'bold', 17, stop.place, LEFT + 128, y + 9, 76);
  line(paper, 'body', 11, stop.name, LEFT + 206, y + 5, 220);
  line(paper, 'code', 9, `${stop.sku} · ${stop.order}`, LEFT + 206, y + 22, 220);
  line(paper, 'bold', 18, String(stop.quantity), 440, y + 8, 46, 'right');
  line(paper, 'bold', 14, stop.tote ?? '', 500, y + 10, 48);
  paper
    .rect(558, y + 10, 16, 16)
    .lineWidth(1)
    .stroke('#000');
  paper
    .moveTo(LEFT, y + ROW - 4)
    .lineTo(RIGHT, y + ROW - 4)
    .lineWidth(0.4)
    .stroke('#888');
}
