import { mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import { SMTPServer } from 'smtp-server';

/** Who cannot be written to: mail to an address that begins so is refused for good. */
const NOBODY = /^nobody\b/i;
/** Whose mailbox is busy for a while. */
const BUSY = /^busy\b/i;

class Refusal extends Error {
  constructor(
    readonly responseCode: number,
    message: string,
  ) {
    super(message);
  }
}

/** A mail server: takes mail by SMTP and keeps each as a file, as it came. */
export class MailDesk {
  /** While it is closed nobody can write; `slow` lets it think that long before it says that it took a mail. */
  closed = false;
  slowMs = 0;
  private readonly server: SMTPServer;

  constructor(private readonly folder: string) {
    mkdirSync(folder, { recursive: true });
    this.server = new SMTPServer({
      authOptional: true,
      disabledCommands: ['AUTH', 'STARTTLS'],
      onRcptTo: ({ address }, _, done) => {
        if (this.closed) done(new Refusal(421, 'closed for now'));
        else if (NOBODY.test(address)) done(new Refusal(550, 'no such mailbox here'));
        else if (BUSY.test(address)) done(new Refusal(451, 'the mailbox is busy, try later'));
        else done();
      },
      onData: (stream, _, done) => {
        const parts: Buffer[] = [];
        stream.on('data', (part: Buffer) => parts.push(part));
        stream.on('end', () => {
          this.keep(Buffer.concat(parts));
          setTimeout(done, this.slowMs);
        });
      },
    });
    // A client that goes away in the middle is its own affair.
    this.server.on('error', () => undefined);
  }

  listen(port = 0): Promise<number> {
    return new Promise((resolve, reject) => {
      this.server.once('error', reject);
      const listening = this.server.listen(port, '127.0.0.1', () =>
        resolve((listening.address() as AddressInfo).port),
      );
    });
  }

  close(): Promise<void> {
    return new Promise(resolve => this.server.close(() => resolve()));
  }

  /** Names of the mails that it has, the first first. */
  names(): string[] {
    return readdirSync(this.folder)
      .filter(f => f.endsWith('.eml'))
      .sort();
  }

  mail(name: string): Buffer | null {
    return this.names().includes(name) ? readFileSync(join(this.folder, name)) : null;
  }

  /** A small page of what came in. */
  page(): string {
    const rows = this.names()
      .reverse()
      .slice(0, 200)
      .map(n => {
        const head = readFileSync(join(this.folder, n)).subarray(0, 2000).toString('utf8');
        const of = (field: string) => new RegExp(`^${field}: (.*)$`, 'im').exec(head)?.[1]?.trim() ?? '';
        const text = (t: string) => t.replace(/[&<>]/g, c => `&#${c.charCodeAt(0)};`);
        return `<tr><td><a href="/mail/${n}">${n}</a><td>${text(of('To'))}<td>${text(of('Subject'))}`;
      });
    return `<!doctype html><html lang="en"><meta charset="utf-8"><title>Mailboxes</title><h1>Mailboxes</h1><table>${rows.join('\n')}</table></html>`;
  }

  private keep(bytes: Buffer): void {
    const n = this.names().length + 1;
    writeFileSync(join(this.folder, `${String(n).padStart(5, '0')}.eml`), bytes);
  }
}
