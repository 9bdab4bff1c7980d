import type { HandoverView } from '@auk/contract';
import { count, formatWeight } from '@auk/core';
import { drawCode128, finish, line, newPaper } from './paper.js';

const LEFT = 48;
const PER_PAGE = 40;

/** Draws the handover sheet: every parcel that goes, a count, and two lines to sign. */
export function drawHandover(view: HandoverView, when: string): Promise<Buffer> {
  const paper = newPaper('LETTER', `Handover ${view.no}`);
  const gone = view.parcels.filter(p => p.scanned);
  const weightMg = gone.reduce((n, p) => n + (p.weightMg ?? 0), 0);
  const pages = Math.max(1, Math.ceil(gone.length / PER_PAGE));
  for (let page = 0; page < pages; page++) {
    if (page > 0) paper.addPage();
    line(paper, 'bold', 22, `${view.carrierName}, ${view.name}`, LEFT, 40, 330);
    line(
      paper,
      'body',
      11,
      `${when} · ${count(gone.length, 'parcel')} · page ${page + 1} of ${pages}`,
      LEFT,
      70,
      330,
    );
    drawCode128(paper, view.no, 430, 42, 36, 3);
    gone.slice(page * PER_PAGE, (page + 1) * PER_PAGE).forEach((p, i) => {
      const y = 104 + i * 14.5;
      line(paper, 'code', 10, p.no, LEFT, y, 80);
      line(paper, 'code', 10, p.tracking, LEFT + 86, y, 160);
      line(paper, 'body', 10, `${p.order} · ${p.buyer}`, LEFT + 260, y, 190);
      line(
        paper,
        'body',
        10,
        p.weightMg ? formatWeight(p.weightMg, 'imperial') : '',
        LEFT + 456,
        y,
        60,
        'right',
      );
    });
    const told = [
      `${count(gone.length, 'parcel')}, ${formatWeight(weightMg, 'imperial')} (${formatWeight(weightMg, 'metric')})`,
      view.bookedAs && `collection ${view.bookedAs}`,
      view.manifest && `manifest ${view.manifest}`,
    ].filter(Boolean);
    line(paper, 'bold', 11, `Together: ${told.join(' · ')}`, LEFT, 704, 516);
    line(paper, 'body', 10, 'handed over by', LEFT, 738, 120);
    line(paper, 'body', 10, 'taken by', LEFT + 270, 738, 120);
    paper
      .moveTo(LEFT + 74, 750)
      .lineTo(LEFT + 250, 750)
      .moveTo(LEFT + 316, 750)
      .lineTo(LEFT + 516, 750)
      .lineWidth(0.6)
      .stroke('#000');
  }
  return finish(paper);
}
