import type { LabelPaper } from '@auk/contract';
import type { PDFDocument, PDFEmbeddedPage, PDFPage } from 'pdf-lib';
import { pdfLib } from '../reference/pdfLib.js';
import { drawLabels, type LabelText } from './label.js';

/** A plain sheet in points, and half of it. */
const SHEET = { width: 612, height: 792 };
const HALF = SHEET.height / 2;

/** Labels one a page: those that a carrier drew as they came, the others drawn here, in their order. */
export async function pagesOf(labels: readonly (Buffer | LabelText)[]): Promise<PDFDocument> {
  const own = labels.filter((l): l is LabelText => !Buffer.isBuffer(l));
  const drawn = own.length > 0 ? await pdfLib().PDFDocument.load(await drawLabels(own)) : null;
  if (drawn && own.length === labels.length) return drawn;
  const whole = await pdfLib().PDFDocument.create();
  const pages = drawn ? await whole.copyPages(drawn, drawn.getPageIndices()) : [];
  let next = 0;
  for (const label of labels)
    if (Buffer.isBuffer(label)) {
      const sent = await pdfLib().PDFDocument.load(label);
      whole.addPage((await whole.copyPages(sent, [0]))[0]!);
    } else whole.addPage(pages[next++]!);
  return whole;
}

/** Labels as they lie on paper: one of 4 x 6 in a page, or turned onto the upper half of a plain sheet, or two on one. */
export async function onPaper(labels: PDFDocument, paper: LabelPaper['paper']): Promise<Buffer> {
  if (paper === '4x6') return Buffer.from(await labels.save());
  const sheets = await pdfLib().PDFDocument.create();
  const each = paper === 'two' ? 2 : 1;
  const embedded = await sheets.embedPages(labels.getPages());
  for (const [i, label] of embedded.entries()) {
    const sheet =
      i % each === 0
        ? sheets.addPage([SHEET.width, SHEET.height])
        : sheets.getPage(sheets.getPageCount() - 1);
    ontoHalf(sheet, label, i % each === 0 ? HALF : 0);
  }
  return Buffer.from(await sheets.save());
}

/** Lays the first page of a label onto the upper half of each sheet that has one. */
export async function ontoUpperHalves(document: Buffer, labels: readonly (Buffer | null)[]): Promise<Buffer> {
  const sheets = await pdfLib().PDFDocument.load(document);
  for (const [i, label] of labels.entries())
    if (label) ontoHalf(sheets.getPage(i), (await sheets.embedPdf(label))[0]!, HALF);
  return Buffer.from(await sheets.save());
}

/** Turned by a quarter, a label is as wide as it was high; it stands in the middle of the half that begins at `bottom`. */
function ontoHalf(sheet: PDFPage, label: PDFEmbeddedPage, bottom: number): void {
  const x = (SHEET.width + label.height) / 2;
  sheet.drawPage(label, { x, y: bottom + (HALF - label.width) / 2, rotate: pdfLib().degrees(90) });
}
