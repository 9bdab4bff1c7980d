import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { type ChannelAdapter, ChannelTrouble } from '../src/channels/adapter.js';
import { CHANNEL_KINDS } from '../src/channels/kinds.js';

/** A channel that answers each path as a test says, and remembers what it was asked. */
let server: Server;
let answers: Record<string, { status?: number; headers?: Record<string, string>; body: unknown }> = {};
let asked: { path: string; key: string | undefined; body: string }[] = [];
beforeAll(async () => {
  server = createServer((request, response) => {
    let body = '';
    request.on('data', part => {
      body += part;
    });
    request.on('end', () => {
      const path = decodeURIComponent(request.url ?? '').slice(1);
      asked.push({ path, key: request.headers.authorization, body });
      const found = Object.entries(answers).find(([begin]) => path.startsWith(begin))?.[1] ?? {
        status: 404,
        body: {},
      };
      const text = typeof found.body === 'string' ? found.body : JSON.stringify(found.body);
      response.writeHead(found.status ?? 200, found.headers).end(text);
    });
  });
  await new Promise<void>(resolve => server.listen(0, '127.0.0.1', resolve));
});
afterAll(() => new Promise(resolve => server.close(resolve)));

function open(kind: string, currency = 'USD'): ChannelAdapter {
  asked = [];
  const address = `http://127.0.0.1:${(server.address() as AddressInfo).port}/`;
  return CHANNEL_KINDS.find(k => k.kind === kind)!.open({ name: 'Testers', address, key: 'k-1', currency });
}

const SHIP_TO = {
  name: 'Ruth',
  line1: '1 Road',
  city: 'Boise',
  region: 'ID',
  postcode: '83702',
  country: 'us',
};
const order = <M>(number: string, price: M, more: object = {}) => ({
  number,
  placed: '2026-11-23T10:00:00Z',
  mail: 'r@mail.example',
  shipTo: SHIP_TO,
  payment: 'paid',
  currency: 'USD',
  shipping: price,
  lines: [{ sku: 'A', title: '', quantity: 2, price, tax: price }],
  ...more,
});

test('minor units and decimal texts come to the same order; the key goes along', async () => {
  answers = {
    orders: { body: { entries: [order('N-1', 1250, { revision: 3 })], next: 'c2', more: true } },
    sales: {
      body: {
        entries: [order('N-1', '12.50', { changed: '2026-11-23T10:00:00Z' })],
        now: '2026-11-23T11:00:00Z',
      },
    },
  };
  const page = await open('cursor').orders('c1');
  expect(asked).toMatchObject([{ path: 'orders?cursor=c1', key: 'Bearer k-1' }]);
  expect(page).toMatchObject({ cursor: 'c2', more: true, unreadable: [] });
  const since = await open('since').orders(null);
  const { revision: a, ...one } = page.items[0]!;
  const { revision: b, ...other } = since.items[0]!;
  expect([a, b]).toEqual([3, Date.parse('2026-11-23T10:00:00Z')]);
  expect(one).toEqual(other);
  expect(one).toMatchObject({
    shipTo: { country: 'US', company: '' },
    shippingMinor: 1250,
    lines: [{ channelSku: 'A', title: 'A', quantity: 2, priceMinor: 1250, taxMinor: 1250 }],
  });
});

test('currencies without cents, and money that is none', async () => {
  answers = {
    changed: { body: { numbers: ['J-1', 'J-2', 'J-1'], mark: '9', more: false } },
    'orders/J-1': { body: { order: order('J-1', '1250', { currency: 'JPY', revision: 1 }) } },
    'orders/J-2': { body: { order: order('J-2', '12.50', { currency: 'JPY', revision: 1 }) } },
  };
  const page = await open('each').orders(null);
  expect(page.items.map(o => [o.channelNumber, o.shippingMinor])).toEqual([['J-1', 1250]]);
  expect(page.unreadable).toMatchObject([
    { number: 'J-2', why: expect.stringContaining('JPY has 0 digits') },
  ]);
  expect(asked.filter(q => q.path === 'orders/J-1')).toHaveLength(1);
});

test('what is of another form is named one by one, and never taken half', async () => {
  const good = order('G-1', 100, { revision: 1 });
  answers = {
    feed: {
      body: {
        entries: [
          good,
          { number: 'B-1' },
          null,
          { ...good, number: 'B-2', lines: [{ sku: '', title: '', quantity: 0, price: -1 }] },
          { ...good, number: 'x'.repeat(41) },
        ],
        last: 12,
        end: true,
      },
    },
  };
  const page = await open('whole').orders('7');
  expect(asked[0]!.path).toBe('feed?after=7');
  expect(page.items.map(o => o.channelNumber)).toEqual(['G-1']);
  expect(page.unreadable.map(u => u.number)).toEqual(['B-1', 'without a number', 'B-2', 'x'.repeat(41)]);
  expect(page).toMatchObject({ cursor: '12', more: false });
});

test('listings: barcodes in one form, prices where there are any', async () => {
  answers = {
    listings: {
      body: {
        entries: [
          { sku: 'L-1', title: 'Jar', gtin: '4006381333931', price: 135 },
          { sku: 'L-2', title: '' },
        ],
        next: '',
        more: false,
      },
    },
  };
  expect((await open('cursor').listings(null)).items).toEqual([
    { channelSku: 'L-1', title: 'Jar', gtin: '04006381333931', priceMinor: 135 },
    { channelSku: 'L-2', title: 'L-2', gtin: '', priceMinor: null },
  ]);
});

const TROUBLES: [name: string, answer: (typeof answers)[string], says: RegExp, retry: number | null][] = [
  ['a cut answer', { body: '{"entries":[{"num' }, /cut off or no JSON/, null],
  ['a page of HTML', { body: '<html>maintenance</html>' }, /cut off or no JSON/, null],
  ['JSON of another form', { body: { orders: [] } }, /another form: entries/, null],
  [
    '429 with seconds',
    { status: 429, headers: { 'retry-after': '7' }, body: {} },
    /asks us to wait \(429\)/,
    7_000,
  ],
  ['503 without', { status: 503, body: {} }, /asks us to wait \(503\)/, 30_000],
  ['401', { status: 401, body: {} }, /refuses the key \(401\)/, null],
  ['500', { status: 500, body: {} }, /Testers answered 500/, null],
  [
    'a redirect elsewhere',
    { status: 302, headers: { location: 'http://elsewhere.example/' }, body: '' },
    /cannot be reached/,
    null,
  ],
];

for (const [name, answer, says, retry] of TROUBLES)
  test(`${name} is told in a sentence`, async () => {
    answers = { orders: answer };
    const trouble = await open('cursor')
      .orders(null)
      .catch(e => e);
    expect(trouble).toBeInstanceOf(ChannelTrouble);
    expect(trouble.message).toMatch(says);
    expect(trouble.retryAfterMs).toBe(retry);
  });

test('an address where nobody listens is told in a sentence', async () => {
  const kind = CHANNEL_KINDS[0]!.open({
    name: 'Nobody',
    address: 'http://127.0.0.1:1',
    key: 'k',
    currency: 'USD',
  });
  await expect(kind.orders(null)).rejects.toThrow('Nobody cannot be reached at http://127.0.0.1:1.');
});

test('stock, tracking and what came back go out as they are', async () => {
  answers = { stock: { body: {} }, tracking: { body: { taken: true } }, returned: { body: { taken: true } } };
  for (const { kind } of CHANNEL_KINDS) {
    const channel = open(kind);
    await channel.pushStock([{ channelSku: 'A', quantity: 3 }]);
    const told = { key: 'p', channel: 'web', channelNumber: 'N-1', carrier: 'Heron Post', tracking: 'T-1' };
    await channel.tellTracking(told);
    const back = {
      key: 'r',
      channel: 'web',
      channelNumber: 'N-1',
      tracking: 'T-1',
      pieces: [{ channelSku: 'A', sku: 'A-1', quantity: 1, resold: false }],
    };
    await channel.tellReturn(back);
    expect(asked.map(q => [q.path, JSON.parse(q.body)])).toEqual([
      ['stock', { levels: [{ channelSku: 'A', quantity: 3 }] }],
      ['tracking', told],
      ['returned', back],
    ]);
  }
});
