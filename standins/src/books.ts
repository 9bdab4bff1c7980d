import { appendFileSync, existsSync, mkdirSync, readFileSync } from 'node:fs';
import { dirname } from 'node:path';

/** A stand-in's own books on disk: one JSON a line, appended before anything is answered, read again at start. */
export class Books<T extends { key: string }> {
  private readonly entries = new Map<string, T>();

  constructor(private readonly file: string) {
    mkdirSync(dirname(file), { recursive: true });
    if (!existsSync(file)) return;
    for (const line of readFileSync(file, 'utf8').split('\n')) {
      if (line === '') continue;
      const entry = JSON.parse(line) as T;
      this.entries.set(entry.key, entry);
    }
  }

  find(key: string): T | undefined {
    return this.entries.get(key);
  }

  /** Writes an entry once; the key makes a repeat harmless. */
  write(entry: T): void {
    if (this.entries.has(entry.key)) return;
    appendFileSync(this.file, `${JSON.stringify(entry)}\n`);
    this.entries.set(entry.key, entry);
  }

  all(): T[] {
    return [...this.entries.values()];
  }
}
