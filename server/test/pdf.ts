import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/** The words of a PDF, page by page, as poppler reads them. */
export function pagesOf(pdf: Buffer): string[] {
  const folder = mkdtempSync(join(tmpdir(), 'auk-pdf-'));
  try {
    writeFileSync(join(folder, 'a.pdf'), pdf);
    const text = execFileSync('pdftotext', ['-layout', join(folder, 'a.pdf'), '-'], { encoding: 'utf8' });
    return text.split('\f').slice(0, -1);
  } finally {
    rmSync(folder, { recursive: true });
  }
}
