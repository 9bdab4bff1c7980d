import { pdfLib } from '../reference/pdfLib.js';

/** Several documents as one, page after page. */
export async function together(parts: readonly Buffer[]): Promise<Buffer> {
  const { PDFDocument } = pdfLib();
  const whole = await PDFDocument.create();
  for (const part of parts) {
    const document = await PDFDocument.load(part);
    for (const page of await whole.copyPages(document, document.getPageIndices())) whole.addPage(page);
  }
  return Buffer.from(await whole.save());
}
