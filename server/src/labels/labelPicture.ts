import { pdfLib } from '../reference/pdfLib.js';

/** The label that a carrier sent, in base64; null when it is none: a label is a PDF of one page. */
export async function labelPicture(sent: string | undefined): Promise<Buffer | null> {
  if (!sent) return null;
  const bytes = Buffer.from(sent, 'base64');
  if (!bytes.subarray(0, 5).equals(Buffer.from('%PDF-'))) return null;
  try {
    return (await pdfLib().PDFDocument.load(bytes)).getPageCount() === 1 ? bytes : null;
  } catch {
    return null;
  }
}
