import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { CarrierBuy, CarrierParcel, CarrierQuote } from '@auk/contract';
import { isS10 } from '@auk/core';
import { CARRIERS } from '@auk/demo';
import { expect, test } from 'vitest';
import { Books } from '../books.js';
import { Standins } from '../server.js';
import { CarrierDesk, type Charge } from './desk.js';

const folder = () => mkdtempSync(join(tmpdir(), 'auk-carrier-'));
const desk = (code: string, at = folder(), now = () => new Date()) =>
  new CarrierDesk(
    CARRIERS.find(c => c.code === code)!,
    {
      sold: new Books<Charge>(join(at, 'books.jsonl')),
      voids: new Books(join(at, 'voids.jsonl')),
      collections: new Books(join(at, 'collections.jsonl')),
      days: new Books(join(at, 'days.jsonl')),
      happened: new Books(join(at, 'happened.jsonl')),
    },
    now,
  );
const parcel = (more: Partial<CarrierParcel> = {}): CarrierParcel => ({
  from: { postcode: '43701', country: 'US' },
  to: { postcode: '83702', country: 'US', residential: true, lines: [] },
  size: { length: 3048, width: 2286, height: 1016 },
  weightMg: 1_400_000,
  shipDay: '2026-11-23',
  account: '',
  options: {},
  ...more,
});
const quotes = (d: CarrierDesk, p = parcel()): CarrierQuote[] => {
  const got = d.quotes(p);
  if ('refused' in got) throw new Error(got.refused);
  return got;
};
const order = (q: CarrierQuote, key: string, p = parcel()): CarrierBuy => ({
  key,
  quoteId: q.quoteId,
  minor: q.minor,
  service: q.service,
  parcel: p,
  reference: 'PA-1',
});

test('prices grow with distance, a home costs what the card says, a large box is rated by volume', () => {
  const redfen = desk('redfen');
  const near = quotes(
    redfen,
    parcel({ to: { postcode: '43215', country: 'US', residential: true, lines: [] } }),
  )[0]!;
  const far = quotes(redfen)[0]!;
  expect(far.minor).toBeGreaterThan(near.minor);
  const firm = quotes(
    redfen,
    parcel({ to: { postcode: '83702', country: 'US', residential: false, lines: [] } }),
  )[0]!;
  // 1.65 for a home, and 6.5 % fuel on it.
  expect(far.minor - firm.minor).toBeGreaterThanOrEqual(175);
  expect(far.minor - firm.minor).toBeLessThanOrEqual(177);
  const bulky = quotes(redfen, parcel({ size: { length: 6000, width: 5000, height: 5000 } }))[0]!;
  expect(bulky.billable.why).toBe('volume');
  expect(bulky.minor).toBeGreaterThan(far.minor);
});

test('arrival skips the weekend', () => {
  const quick = quotes(desk('heron'), parcel({ shipDay: '2026-11-27' })).find(q => q.service === 'quick')!;
  expect(quick.days).toBe(2);
  expect(quick.arrives).toBe('2026-12-01');
});

test('what is not served is refused in words', () => {
  const why = (more: Partial<CarrierParcel>) => {
    const got = desk('heron').quotes(parcel(more));
    return 'refused' in got ? got.refused : 'taken';
  };
  expect(why({ to: { postcode: '1000', country: 'XK', residential: true, lines: [] } })).toContain(
    'Heron Parcel does not go there',
  );
  expect(why({ to: { postcode: '0', country: 'US', residential: true, lines: [] } })).toContain(
    'does not go there',
  );
  expect(why({ weightMg: 90_000_000 })).toContain('the parcel is too heavy');
  expect(why({ account: 'OURS' })).toBe('there is no account OURS');
});

test('one key is charged once, also after the carrier started anew', () => {
  const at = folder();
  const first = desk('heron', at);
  const quote = quotes(first)[0]!;
  const bought = first.buy(order(quote, 'key-1'));
  expect(first.buy(order(quote, 'key-1'))).toEqual(bought);
  const anew = desk('heron', at);
  expect(anew.find('key-1')).toEqual(bought);
  expect(anew.buy(order(quote, 'key-1'))).toEqual(bought);
  expect(anew.books.all()).toHaveLength(1);
});

test('what was sold before accounts and currencies were kept is still in the books, and is not sold again', () => {
  const at = folder();
  const old = {
    key: 'old',
    tracking: 'HP047000001US',
    minor: 590,
    service: 'parcel',
    routing: '837 Z7',
    reference: 'PA-1',
  };
  writeFileSync(join(at, 'books.jsonl'), `${JSON.stringify(old)}\n`);
  const heron = desk('heron', at);
  expect(heron.find('old')).toMatchObject({ key: 'old', tracking: old.tracking, currency: 'USD' });
  expect(heron.buy(order(quotes(heron)[0]!, 'old'))).toMatchObject({ tracking: old.tracking });
  expect(heron.books.all()).toHaveLength(1);
  expect(heron.takeBack('old')).toEqual({ key: 'old', refundMinor: 590 });
});

test('tracking numbers never repeat, and the postal ones follow S10', () => {
  const heron = desk('heron');
  const quote = quotes(heron)[0]!;
  const numbers = Array.from({ length: 30 }, (_, i) => heron.buy(order(quote, `k${i}`))).map(b =>
    'tracking' in b ? b.tracking : '',
  );
  expect(new Set(numbers).size).toBe(30);
  expect(numbers.every(isS10)).toBe(true);
});

test('another price than the quote’s is refused and not charged', () => {
  const heron = desk('heron');
  const quote = quotes(heron)[0]!;
  expect(heron.buy({ ...order(quote, 'k'), minor: quote.minor - 1 })).toEqual({
    refused: expect.stringContaining('the price is'),
  });
  expect(heron.buy({ ...order(quote, 'k'), service: 'pigeon' })).toEqual({
    refused: 'pigeon does not take this parcel',
  });
  expect(heron.books.all()).toEqual([]);
});

test('over HTTP: garbage is 400, an unknown key 404, a channel told twice counts once', async () => {
  const standins = new Standins(folder());
  const base = `http://127.0.0.1:${await standins.listen()}`;
  const headers = { authorization: 'Bearer web-demo-key' };
  const post = (path: string, body: string) => fetch(`${base}/${path}`, { method: 'POST', body, headers });
  expect((await post('heron/quotes', '{"from":1}')).status).toBe(400);
  expect((await post('heron/quotes', 'not json')).status).toBe(400);
  expect((await post('nobody/quotes', '{}')).status).toBe(404);
  expect((await fetch(`${base}/heron/purchases/none`)).status).toBe(404);
  const told = JSON.stringify({
    key: 'k',
    channel: 'web',
    channelNumber: 'WS-1',
    carrier: 'Heron Post',
    tracking: 'T',
  });
  await post('channels/web/tracking', told);
  await post('channels/web/tracking', told);
  const stranger = await fetch(`${base}/channels/web/tracking`, { method: 'POST', body: told });
  expect(stranger.status).toBe(401);
  expect([standins.told.all().length, standins.tellings]).toEqual([1, 2]);
  await standins.close();
});
