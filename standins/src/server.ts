import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import { Happens, Mischief, type MischiefIn, ToldReturn, ToldTracking } from '@auk/contract';
import { CARRIERS, CHANNELS, NETWORKS, PRINTERS } from '@auk/demo';
import { Books } from './books.js';
import { CarrierDesk, type Charge } from './carriers/desk.js';
import { serveCarrier } from './carriers/window.js';
import {
  type ChannelAnswer,
  ChannelDesk,
  type ChannelEntry,
  type ChannelTrick,
  type StockTold,
} from './channel.js';
import { InboundDesk } from './inbound.js';
import { MailDesk } from './mail.js';
import { type NetworkAnswer, NetworkDesk } from './network.js';
import { PrinterDesk } from './printer.js';
import { ScaleDesk } from './scale.js';

/** The stand-ins of one installation: carriers under /CODE/..., channels under /channels. All on one loopback port. */
export class Standins {
  readonly desks: Map<string, CarrierDesk>;
  readonly channels: Map<string, ChannelDesk>;
  readonly printers: Map<string, PrinterDesk>;
  readonly scale = new ScaleDesk();
  readonly mail: MailDesk;
  /** Networks of centers by where they listen; the first is the one that sends orders, too. */
  readonly networks: ReadonlyMap<string, { orders: NetworkDesk; inbound: InboundDesk }>;
  readonly told: Books<ToldTracking>;
  /** What channels were told of parcels that came back. */
  readonly returned: Books<ToldReturn>;
  /** How often a channel was told, repeats counted. */
  tellings = 0;
  /** So many answers of the network are lost from now on, after it did what was asked. */
  lostAnswers = 0;
  private readonly mischief = new Map<string, Mischief[]>();
  private server: Server | null = null;

  constructor(folder: string) {
    this.desks = new Map(
      CARRIERS.map(c => [
        c.code,
        new CarrierDesk(c, {
          sold: new Books<Charge>(join(folder, `${c.code}.jsonl`)),
          voids: new Books(join(folder, `${c.code}-voids.jsonl`)),
          collections: new Books(join(folder, `${c.code}-collections.jsonl`)),
          days: new Books(join(folder, `${c.code}-days.jsonl`)),
          happened: new Books(join(folder, `${c.code}-happened.jsonl`)),
        }),
      ]),
    );
    this.channels = new Map(
      CHANNELS.map(c => [
        c.code,
        new ChannelDesk(
          c.code,
          new Books<ChannelEntry>(join(folder, `${c.code}-orders.jsonl`)),
          new Books<StockTold>(join(folder, `${c.code}-stock.jsonl`)),
          () => new Date(),
        ),
      ]),
    );
    this.printers = new Map(
      PRINTERS.map(p => [p.code, new PrinterDesk(p.code, join(folder, 'printers', p.code))]),
    );
    this.told = new Books<ToldTracking>(join(folder, 'told.jsonl'));
    this.returned = new Books<ToldReturn>(join(folder, 'returned.jsonl'));
    this.mail = new MailDesk(join(folder, 'mail'));
    this.networks = new Map(
      NETWORKS.map(n => {
        const books = (what: string) => new Books<never>(join(folder, `${n.path}-${what}.jsonl`));
        const inbound = new InboundDesk(
          n,
          books('bookings'),
          books('happened'),
          books('plans'),
          () => new Date(),
        );
        const orders = new NetworkDesk(n.stock, () => inbound.counted(), books('orders'), books('steps'));
        return [n.path, { orders, inbound }] as const;
      }),
    );
  }

  /** Starts listening on loopback; port 0 takes a free one. Returns the port. */
  listen(port = 0): Promise<number> {
    const server = createServer((request, response) => void this.serve(request, response));
    this.server = server;
    return new Promise((resolve, reject) => {
      server.once('error', reject);
      server.listen(port, '127.0.0.1', () => resolve((server.address() as AddressInfo).port));
    });
  }

  async close(): Promise<void> {
    await this.scale.close();
    await this.mail.close();
    this.server?.closeAllConnections();
    return new Promise(resolve => (this.server ? this.server.close(() => resolve()) : resolve()));
  }

  /** Tells a carrier to misbehave from now on. */
  misbehave(code: string, mischief: MischiefIn): void {
    this.mischief.set(code, [...(this.mischief.get(code) ?? []), Mischief.parse(mischief)]);
  }

  /** Everybody behaves from now on. */
  behave(): void {
    this.mischief.clear();
    this.lostAnswers = 0;
  }

  private async serve(request: IncomingMessage, response: ServerResponse): Promise<void> {
    try {
      const [, where = '', what = '', key = ''] = (request.url ?? '').split('/');
      if (where === 'scale') {
        if (what.startsWith('set'))
          this.scale.set(new URL(request.url!, 'http://standins.example').searchParams);
        return void response
          .writeHead(200, { 'content-type': 'text/html; charset=utf-8' })
          .end(this.scale.page());
      }
      if (where === 'mail') return this.mailbox(what, response);
      if (where === 'printers') return await this.printer(what, key, request, response);
      const said = request.method === 'GET' ? '' : await text(request);
      const network = this.networks.get(where);
      if (network) {
        const act = (request.url ?? '').split('/')[4] ?? '';
        const ask = [request.method ?? '', what, key, act, said] as const;
        return this.center(network.inbound.answer(...ask) ?? network.orders.answer(...ask), response);
      }
      const desk = this.desks.get(where);
      if (where === 'channels') {
        this.channel(what, request, said === '' ? null : JSON.parse(said), response);
        return;
      }
      if (!desk) return send(response, { status: 404, body: { error: 'no such service' } });
      if (what === 'mischief') {
        this.misbehave(where, Mischief.parse(JSON.parse(said)));
        return send(response, { status: 200, body: {} });
      }
      if (what === 'books') return send(response, { status: 200, body: desk.books.all() });
      if (what === 'happens') {
        const { tracking, ...event } = Happens.parse(JSON.parse(said));
        desk.kept.happened.write({ key: `${tracking} ${event.id}`, tracking, ...event });
        return send(response, { status: 200, body: {} });
      }
      await serveCarrier(desk, request, said, on => this.trick(where, on), response);
    } catch (error) {
      send(response, { status: 400, body: { error: (error as Error).message.slice(0, 300) } });
    }
  }

  /** What a network of centers answers, unless its answer is lost. */
  private center(answer: NetworkAnswer, response: ServerResponse): void {
    const lost = this.lostAnswers > 0;
    if (lost) this.lostAnswers--;
    if (lost) response.destroy();
    else send(response, answer);
  }

  /** Mails that came in: a page of them, a list, or one as it came. */
  private mailbox(name: string, response: ServerResponse): void {
    const mail = this.mail.mail(name);
    if (name === '')
      response.writeHead(200, { 'content-type': 'text/html; charset=utf-8' }).end(this.mail.page());
    else if (name === 'list') send(response, { status: 200, body: this.mail.names() });
    else if (mail) response.writeHead(200, { 'content-type': 'message/rfc822' }).end(mail);
    else send(response, { status: 404, body: { error: 'no such mail' } });
  }

  /** A printer takes documents, shows what it has printed, and runs out of paper when it is told to. */
  private async printer(
    name: string,
    what: string,
    request: IncomingMessage,
    response: ServerResponse,
  ): Promise<void> {
    const desk = this.printers.get(name);
    if (!desk) return send(response, { status: 404, body: { error: 'no such printer' } });
    const url = new URL(request.url ?? '', 'http://standins.example');
    if (request.method === 'POST' && what === '') {
      const key = String(request.headers['idempotency-key'] ?? '');
      const pdf = await bytes(request);
      if (!/^[\w-]{1,80}$/.test(key))
        return send(response, { status: 400, body: { error: 'a key is wanted' } });
      if (desk.print(key, pdf) === null) return void response.writeHead(503).end('It is out of paper.');
      return send(response, { status: 200, body: {} });
    }
    if (request.method === 'POST') {
      desk.hasPaper = url.searchParams.get('has') === 'yes';
      return void response.writeHead(303, { location: `/printers/${name}` }).end();
    }
    const file = url.pathname.split('/')[4];
    if (file) {
      const sheet = desk.sheet(decodeURIComponent(file));
      if (!sheet) return send(response, { status: 404, body: { error: 'no such sheet' } });
      return void response.writeHead(200, { 'content-type': 'application/pdf' }).end(sheet);
    }
    if (what === 'sheets') return send(response, { status: 200, body: desk.sheets() });
    response.writeHead(200, { 'content-type': 'text/html; charset=utf-8' }).end(desk.page());
  }

  /** A channel's way of answering; what it is told to do wrong it does once each time. */
  private channel(code: string, request: IncomingMessage, body: unknown, response: ServerResponse): void {
    const desk = this.channels.get(code);
    const url = new URL(request.url ?? '', 'http://standins.example');
    const path = url.pathname.slice(`/channels/${code}/`.length);
    const trusted = request.headers.authorization === `Bearer ${code}-demo-key`;
    const controlled = desk
      ? this.control(desk, path, body)
      : { status: 404, body: { error: 'no such channel' } };
    if (controlled || !desk) send(response, controlled!);
    else if (!trusted) send(response, { status: 401, body: { error: 'wrong key' } });
    else this.answerChannel(desk, path, url.searchParams, body, response);
  }

  /** What tests and the demo tell a channel's stand-in to do; null for what it is asked as a channel. */
  private control(desk: ChannelDesk, path: string, body: unknown): ChannelAnswer | null {
    if (path === 'mischief') {
      this.misbehave(desk.code, Mischief.parse(body));
      return { status: 200, body: {} };
    }
    if (path === 'sell') return { status: 200, body: desk.sell((body as { count: number }).count) };
    if (path === 'books') return { status: 200, body: { sold: desk.sold, stock: desk.stock.all() } };
    return null;
  }

  private answerChannel(
    desk: ChannelDesk,
    path: string,
    query: URLSearchParams,
    body: unknown,
    response: ServerResponse,
  ): void {
    const trick = this.trick(desk.code, path === 'stock' ? 'push' : 'pull');
    if (trick?.how === 'busy') {
      const headers = { 'retry-after': String(Math.ceil(trick.ms / 1000)) };
      send(response, { status: 429, body: { error: 'too often' }, headers });
    } else if (trick?.how === 'error') send(response, { status: 500, body: { error: 'our fault' } });
    else if (trick?.how === 'fail before') response.destroy();
    else {
      const answer = this.channelAnswer(desk, path, query, body, trick?.how ?? null);
      const text = JSON.stringify(answer.body);
      if (trick?.how === 'fail after') response.destroy();
      else if (trick?.how === 'cut') response.writeHead(answer.status).end(text.slice(0, text.length / 2));
      else send(response, answer);
    }
  }

  private channelAnswer(
    desk: ChannelDesk,
    path: string,
    query: URLSearchParams,
    body: unknown,
    how: Mischief['how'] | null,
  ): ChannelAnswer {
    if (path === 'tracking') {
      this.tellings++;
      this.told.write(ToldTracking.parse(body));
      return { status: 200, body: { taken: true } };
    }
    if (path === 'returned') {
      this.returned.write(ToldReturn.parse(body));
      return { status: 200, body: { taken: true } };
    }
    if (path === 'stock') {
      desk.stock.write({ key: String(desk.stock.all().length + 1), levels: (body as StockTold).levels });
      return { status: 200, body: { taken: true } };
    }
    const trick: ChannelTrick = how === 'repeat' || how === 'reorder' || how === 'future' ? how : null;
    return desk.answer(path, query, trick) ?? { status: 404, body: { error: 'no such page' } };
  }

  private trick(code: string, on: Mischief['on']): Mischief | null {
    const trick = this.mischief.get(code)?.find(m => m.on === on && m.times > 0);
    if (trick) trick.times--;
    return trick ?? null;
  }
}

const text = async (request: IncomingMessage): Promise<string> => (await bytes(request)).toString('utf8');

async function bytes(request: IncomingMessage): Promise<Buffer> {
  const parts: Buffer[] = [];
  let size = 0;
  for await (const part of request) {
    size += (part as Buffer).length;
    if (size > 20_000_000) throw new Error('the request is too large');
    parts.push(part as Buffer);
  }
  return Buffer.concat(parts);
}

function send(response: ServerResponse, answer: ChannelAnswer): void {
  response
    .writeHead(answer.status, { 'content-type': 'application/json', ...answer.headers })
    .end(JSON.stringify(answer.body));
}
