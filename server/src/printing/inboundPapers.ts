import { type Address, count, formatLength, formatWeight, ssccWords } from '@auk/core';
import { ontoUpperHalves } from './labelPages.js';
import { drawCode128, drawGs1, finish, line, newPaper, type Paper } from './paper.js';

/** A box of a shipment as its papers show it. */
export interface BoxOnPaper {
  sscc: string;
  box: string;
  weightMg: number;
  heavy: boolean;
  /** The number that the network’s carrier gave it; null where another carrier has its own label. */
  tracking: string | null;
  contents: readonly {
    sku: string;
    name: string;
    units: number;
    lot: string | null;
    expiry: string | null;
  }[];
}

/** What a center gets of a shipment. */
export interface ShipmentOnPaper {
  no: string;
  name: string;
  network: string;
  center: string;
  carrier: string;
  prefixLength: number;
  from: Address;
  to: Address;
  boxes: readonly BoxOnPaper[];
  pallets: readonly PalletOnPaper[];
}

/** A loaded pallet: how many boxes stand on it, and its height and weight with the pallet itself. */
export interface PalletOnPaper {
  sscc: string;
  boxes: number;
  height: number;
  weightMg: number;
  tracking: string | null;
}

const LEFT = 40;
const HALF = 396;
const WIDE = 532;

/**
 * A sheet for each box: what its carrier scans in the upper half, what the center scans in the lower. `own`: labels that our own carrier
 * gave, by the number of the box; they are laid onto the upper half.
 */
export async function drawBoxLabels(s: ShipmentOnPaper, own: ReadonlyMap<string, Buffer>): Promise<Buffer> {
  const paper = newPaper('LETTER', `Labels of ${s.no}`);
  s.boxes.forEach((b, i) => {
    if (i > 0) paper.addPage();
    if (!own.has(b.sscc)) upper(paper, s, b, i);
    paper.moveTo(0, HALF).lineTo(612, HALF).dash(4, { space: 4 }).lineWidth(0.5).stroke('#000').undash();
    lower(paper, s, b, i);
  });
  const sheets = await finish(paper);
  return own.size === 0
    ? sheets
    : ontoUpperHalves(
        sheets,
        s.boxes.map(b => own.get(b.sscc) ?? null),
      );
}

/** A sheet for each pallet, with its label twice: for two of its sides. */
export function drawPalletLabels(s: ShipmentOnPaper): Promise<Buffer> {
  const paper = newPaper('LETTER', `Pallet labels of ${s.no}`);
  s.pallets.forEach((p, i) => {
    if (i > 0) paper.addPage();
    palletLabel(paper, s, p, i, 0);
    paper.moveTo(0, HALF).lineTo(612, HALF).dash(4, { space: 4 }).lineWidth(0.5).stroke('#000').undash();
    palletLabel(paper, s, p, i, HALF);
  });
  return finish(paper);
}

function palletLabel(paper: Paper, s: ShipmentOnPaper, p: PalletOnPaper, i: number, top: number): void {
  line(paper, 'bold', 22, `Pallet ${i + 1} of ${s.pallets.length}`, LEFT, top + 24, 300);
  line(paper, 'bold', 16, s.name, 340, top + 28, 232, 'right');
  line(paper, 'body', 12, `${s.no} to ${s.network}, ${s.center}`, LEFT, top + 54, WIDE);
  const { line1, city, region, postcode, country } = s.to;
  line(
    paper,
    'body',
    12,
    `${line1}, ${city}${region ? `, ${region}` : ''} ${postcode}, ${country}`,
    LEFT,
    top + 72,
    WIDE,
  );
  line(
    paper,
    'bold',
    13,
    `${count(p.boxes, 'box', 'boxes')}, ${formatLength(p.height, 'imperial')} high, ${formatWeight(p.weightMg, 'imperial')} (${formatWeight(p.weightMg, 'metric')})`,
    LEFT,
    top + 98,
    WIDE,
  );
  if (p.tracking) line(paper, 'code', 12, `${s.carrier} ${p.tracking}`, LEFT, top + 120, WIDE);
  drawGs1(paper, `(00)${p.sscc}`, LEFT + 30, top + 150, 130, 4);
  line(paper, 'code', 15, ssccWords(p.sscc, s.prefixLength), LEFT + 30, top + 290, WIDE - 60);
}

function upper(paper: Paper, s: ShipmentOnPaper, b: BoxOnPaper, i: number): void {
  line(paper, 'bold', 20, s.carrier, LEFT, 30, WIDE);
  address(paper, s, 'from', s.from, 70, 10);
  address(paper, s, 'to', s.to, 150, 16);
  line(
    paper,
    'body',
    11,
    `${s.no}, box ${i + 1} of ${s.boxes.length}, ${formatWeight(b.weightMg, 'imperial')}`,
    LEFT,
    262,
    WIDE,
  );
  if (b.tracking) {
    drawCode128(paper, b.tracking, LEFT + 30, 286, 64, 3);
    line(paper, 'code', 12, b.tracking, LEFT + 30, 356, 300);
  } else line(paper, 'bold', 13, 'The label of its carrier is stuck here.', LEFT, 300, WIDE);
}

function address(paper: Paper, s: ShipmentOnPaper, word: string, a: Address, y: number, size: number): void {
  line(paper, 'body', 9, word, LEFT, y, 40);
  const name = word === 'to' ? `${s.network}, ${a.name}` : a.name;
  [name, a.line1, a.line2, `${a.city}${a.region ? `, ${a.region}` : ''} ${a.postcode}`, a.country]
    .filter(l => l !== '')
    .forEach((text, i) =>
      line(paper, i === 0 ? 'bold' : 'body', size, text, LEFT + 40, y + i * size * 1.3, WIDE - 40),
    );
}

function lower(paper: Paper, s: ShipmentOnPaper, b: BoxOnPaper, i: number): void {
  const top = HALF + 24;
  line(paper, 'bold', 24, s.name, LEFT, top, 330);
  line(paper, 'body', 13, `${s.no} to ${s.center}`, LEFT, top + 32, 330);
  line(paper, 'bold', 28, `${i + 1} / ${s.boxes.length}`, 380, top, 192, 'right');
  if (b.heavy) line(paper, 'bold', 16, '▲ HEAVY', 380, top + 34, 192, 'right');
  const some = b.contents.slice(0, 4);
  const mixed = b.contents.length > 1 ? 'mixed: ' : '';
  line(
    paper,
    'body',
    11,
    `${mixed}${some.map(c => `${c.units} × ${c.sku}`).join(', ')}${b.contents.length > some.length ? ` and ${b.contents.length - some.length} more` : ''}`,
    LEFT,
    top + 62,
    WIDE,
  );
  drawGs1(paper, `(00)${b.sscc}`, LEFT + 30, top + 96, 110, 4);
  line(paper, 'code', 15, ssccWords(b.sscc, s.prefixLength), LEFT + 30, top + 214, WIDE - 60);
  line(
    paper,
    'body',
    11,
    `${b.box}, ${formatWeight(b.weightMg, 'imperial')} (${formatWeight(b.weightMg, 'metric')})`,
    LEFT,
    top + 246,
    WIDE,
  );
}

const ROW = 15;
const BOTTOM = 720;

/** `packing list`: what lies in which box; `delivery note`: what is delivered together, to be signed. */
export function drawShipmentList(
  s: ShipmentOnPaper,
  kind: 'packing list' | 'delivery note',
): Promise<Buffer> {
  const paper = newPaper('LETTER', `${kind} ${s.no}`);
  let y = heading(paper, s, kind);
  const row = (face: 'body' | 'bold', cells: [text: string, x: number, width: number, right?: boolean][]) => {
    if (y > BOTTOM) {
      paper.addPage();
      y = heading(paper, s, kind);
    }
    for (const [text, x, width, right] of cells)
      line(paper, face, 10, text, x, y, width, right ? 'right' : 'left');
    y += ROW;
  };
  const goods = (
    units: number,
    l: { sku: string; name: string; lot?: string | null; expiry?: string | null },
  ) =>
    row('body', [
      [String(units), LEFT, 44, true],
      [l.sku, LEFT + 56, 110],
      [l.name, LEFT + 170, 230],
      [
        [l.lot && `lot ${l.lot}`, l.expiry && `until ${l.expiry}`].filter(Boolean).join(', '),
        LEFT + 404,
        128,
      ],
    ]);
  if (kind === 'packing list')
    for (const [i, b] of s.boxes.entries()) {
      row('bold', [
        [`Box ${i + 1} of ${s.boxes.length}, ${b.box}, ${formatWeight(b.weightMg, 'imperial')}`, LEFT, 300],
        [`(00) ${b.sscc}`, LEFT + 310, 222],
      ]);
      for (const l of b.contents) goods(l.units, l);
      y += 6;
    }
  else {
    const sums = new Map<string, { sku: string; name: string; units: number }>();
    for (const l of s.boxes.flatMap(b => b.contents))
      sums.set(l.sku, { sku: l.sku, name: l.name, units: (sums.get(l.sku)?.units ?? 0) + l.units });
    for (const l of sums.values()) goods(l.units, l);
    y += 20;
    row('body', [
      ['taken over by', LEFT, 100],
      ['day', LEFT + 330, 60],
    ]);
    paper
      .moveTo(LEFT + 80, y - 4)
      .lineTo(LEFT + 300, y - 4)
      .moveTo(LEFT + 360, y - 4)
      .lineTo(LEFT + 520, y - 4)
      .lineWidth(0.6)
      .stroke('#000');
  }
  return finish(paper);
}

function heading(paper: Paper, s: ShipmentOnPaper, kind: string): number {
  const units = s.boxes.flatMap(b => b.contents).reduce((n, l) => n + l.units, 0);
  const weightMg = s.boxes.reduce((n, b) => n + b.weightMg, 0);
  line(paper, 'bold', 20, `${kind[0]!.toUpperCase()}${kind.slice(1)}`, LEFT, 36, 330);
  line(paper, 'body', 12, `${s.name}, ${s.no}`, LEFT, 62, 330);
  drawCode128(paper, s.no, 420, 36, 30, 2);
  line(paper, 'body', 10, `from ${s.from.name}, ${s.from.city}`, LEFT, 86, 260);
  line(paper, 'body', 10, `to ${s.network}, ${s.to.name}, ${s.to.line1}, ${s.to.city}`, LEFT, 100, 500);
  line(
    paper,
    'body',
    10,
    `${count(s.boxes.length, 'box', 'boxes')}, ${count(units, 'unit')}, ${formatWeight(weightMg, 'imperial')}`,
    LEFT,
    114,
    500,
  );
  return 142;
}
