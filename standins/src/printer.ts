import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

/** A printer: it keeps what it prints as files, in the order in which it came out, and prints what it had before only once. */
export class PrinterDesk {
  /** A person has taken the paper out. */
  hasPaper = true;

  constructor(
    readonly name: string,
    private readonly folder: string,
  ) {
    mkdirSync(folder, { recursive: true });
  }

  /** Prints a document under its sender's key; null when there is no paper. Gives its file. */
  print(key: string, pdf: Buffer): string | null {
    const known = this.sheets().find(s => s.endsWith(`-${key}.pdf`));
    if (known) return known;
    if (!this.hasPaper) return null;
    const file = `${String(this.sheets().length + 1).padStart(5, '0')}-${key}.pdf`;
    writeFileSync(join(this.folder, file), pdf);
    return file;
  }

  /** What came out, the first first. */
  sheets(): string[] {
    return readdirSync(this.folder).sort();
  }

  sheet(file: string): Buffer | null {
    const path = join(this.folder, file);
    return /^[\w-]+\.pdf$/.test(file) && existsSync(path) ? readFileSync(path) : null;
  }

  /** A small page: what came out of it, and the switch for its paper. */
  page(): string {
    const rows = this.sheets()
      .reverse()
      .map(s => `<li><a href="/printers/${this.name}/sheets/${s}">${s}</a></li>`)
      .join('');
    const paper = this.hasPaper ? 'no' : 'yes';
    return `<!doctype html><html lang="en"><meta charset="utf-8"><title>Printer ${this.name}</title>
<h1>Printer ${this.name}</h1><p>${this.hasPaper ? 'It has paper.' : 'It is out of paper.'}</p>
<form method="post" action="/printers/${this.name}/paper?has=${paper}"><button>${this.hasPaper ? 'Take the paper out' : 'Put paper in'}</button></form>
<ol reversed>${rows}</ol></html>`;
  }
}
