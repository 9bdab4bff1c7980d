import type { AddressInfo } from 'node:net';
import { createServer, type Server, type Socket } from 'node:net';

/** A scale line goes out so often. */
const EVERY_MS = 100;

/** A scale: whoever is connected is sent a line with its weight again and again, `ST,GS,+  2.35 lb`. */
export class ScaleDesk {
  weight = 0;
  unit: 'lb' | 'kg' | 'g' | 'oz' = 'lb';
  /** `jitters`: never at rest; `hangs`: says nothing. */
  mood: 'still' | 'jitters' | 'hangs' = 'still';
  private server: Server | null = null;
  private readonly sockets = new Set<Socket>();

  listen(port = 0): Promise<number> {
    const server = createServer(socket => this.join(socket));
    this.server = server;
    return new Promise((resolve, reject) => {
      server.once('error', reject);
      server.listen(port, '127.0.0.1', () => resolve((server.address() as AddressInfo).port));
    });
  }

  close(): Promise<void> {
    for (const socket of this.sockets) socket.destroy();
    return new Promise(resolve => (this.server ? this.server.close(() => resolve()) : resolve()));
  }

  line(): string {
    const moving = this.mood === 'jitters';
    const weight = moving ? this.weight + Math.round(Math.random() * 20) / 100 : this.weight;
    return `${moving ? 'US' : 'ST'},GS,+${weight.toFixed(2).padStart(6)} ${this.unit}\r\n`;
  }

  /** A small page to set its weight. */
  page(): string {
    return `<!doctype html><html lang="en"><meta charset="utf-8"><title>Scale</title><h1>Scale</h1>
<p>${this.line()}</p><form method="get" action="/scale/set"><input name="weight" value="${this.weight}" aria-label="Weight">
<select name="unit" aria-label="Unit"><option>lb<option>kg<option>g<option>oz</select>
<select name="mood" aria-label="Mood"><option>still<option>jitters<option>hangs</select><button>Set</button></form></html>`;
  }

  set(query: URLSearchParams): void {
    this.weight = Number(query.get('weight') ?? this.weight) || 0;
    this.unit = (query.get('unit') as ScaleDesk['unit'] | null) ?? this.unit;
    this.mood = (query.get('mood') as ScaleDesk['mood'] | null) ?? 'still';
  }

  private join(socket: Socket): void {
    this.sockets.add(socket);
    const timer = setInterval(() => {
      if (this.mood !== 'hangs') socket.write(this.line());
    }, EVERY_MS);
    socket.on('error', () => socket.destroy());
    socket.on('close', () => {
      clearInterval(timer);
      this.sockets.delete(socket);
    });
  }
}
