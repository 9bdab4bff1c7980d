import { createConnection, createServer, type Server, type Socket } from 'node:net';

/**
 * A wire between the browser and the server that can be cut: what a dead network is, also to the part of a browser that works without
 * a page. Addresses through it are those of `url`.
 */
export class Wire {
  private readonly ends = new Set<Socket>();
  private whole = true;
  private constructor(private readonly server: Server) {}

  static async to(port: number): Promise<Wire> {
    const wire: Wire = new Wire(createServer(from => wire.join(from, port)));
    await new Promise<void>(resolve => wire.server.listen(0, '127.0.0.1', resolve));
    return wire;
  }

  get url(): string {
    return `http://127.0.0.1:${(this.server.address() as { port: number }).port}`;
  }

  cut(): void {
    this.whole = false;
    for (const end of this.ends) end.destroy();
  }

  mend(): void {
    this.whole = true;
  }

  close(): void {
    this.cut();
    this.server.close();
  }

  private join(from: Socket, port: number): void {
    if (!this.whole) {
      from.destroy();
      return;
    }
    const to = createConnection({ port, host: '127.0.0.1' });
    for (const [end, other] of [
      [from, to],
      [to, from],
    ] as const) {
      this.ends.add(end);
      end.pipe(other);
      end.on('error', () => other.destroy());
      end.on('close', () => {
        this.ends.delete(end);
        other.destroy();
      });
    }
  }
}
