import type { CarrierBought, CarrierBuy } from '@auk/contract';
import bwipjs from 'bwip-js/node';
import PDFDocument from 'pdfkit';

const DOT = 72 / 203;

/** A label of 4 x 6 in as a carrier with a pen of its own draws it: Latin letters alone, its number as Code 128. In base64. */
export function drawPicture(carrier: string, order: CarrierBuy, bought: CarrierBought): Promise<string> {
  const paper = new PDFDocument({ size: [288, 432], margin: 0, info: { Title: bought.tracking } });
  const done = new Promise<string>(resolve => {
    const parts: Buffer[] = [];
    paper.on('data', (part: Buffer) => parts.push(part));
    paper.on('end', () => resolve(Buffer.concat(parts).toString('base64')));
  });
  const { lines, postcode } = order.parcel.to;
  paper.font('Helvetica-Bold').fontSize(20).text(carrier, 14, 14);
  paper.fontSize(30).text(bought.routing, 14, 44);
  paper.fontSize(14);
  (lines.length > 0 ? lines : [postcode]).forEach((text, i) =>
    paper.text(text, 14, 100 + i * 20, { lineBreak: false }),
  );
  paper.font('Helvetica').fontSize(10).text(order.reference, 14, 230);
  const symbol = bwipjs.raw({ bcid: 'code128', text: bought.tracking })[0];
  let x = 40;
  if (symbol && 'sbs' in symbol)
    symbol.sbs.forEach((width, i) => {
      if (i % 2 === 0) paper.rect(x + 0.1 * DOT, 268, width * 3 * DOT - 0.2 * DOT, 90);
      x += width * 3 * DOT;
    });
  paper.fill('#000').font('Helvetica-Bold').fontSize(14).text(bought.tracking, 40, 366);
  paper.end();
  return done;
}
