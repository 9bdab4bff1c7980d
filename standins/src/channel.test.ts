import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { CHANNELS } from '@auk/demo';
import { expect, test } from 'vitest';
import { Books } from './books.js';
import { ChannelDesk, type ChannelEntry, type StockTold } from './channel.js';

const NOW = new Date('2026-11-23T12:00:00Z');
const folder = () => mkdtempSync(join(tmpdir(), 'auk-channel-'));
const desk = (code: string, at = folder()) =>
  new ChannelDesk(
    code,
    new Books<ChannelEntry>(join(at, 'orders.jsonl')),
    new Books<StockTold>(join(at, 'stock.jsonl')),
    () => NOW,
  );
const ask = (
  d: ChannelDesk,
  path: string,
  query = '',
  trick: 'repeat' | 'reorder' | 'future' | null = null,
  // biome-ignore lint/suspicious/noExplicitAny: answers of four habits
): any => d.answer(path, new URLSearchParams(query), trick)?.body;

test('every channel sells orders of its own, never one number twice, and knows them after a new start', () => {
  for (const { code, prefix } of CHANNELS) {
    const at = folder();
    const first = desk(code, at);
    const sold = [...first.sell(30), ...first.sell(30)];
    expect(new Set(sold).size).toBe(60);
    expect(sold.every(n => n.startsWith(`${prefix}-`))).toBe(true);
    expect(desk(code, at).sold).toBe(60);
  }
});

test('cursor pages: all of it, in order, a changed order once more at the end', () => {
  const web = desk('web');
  const sold = web.sell(70);
  const first = ask(web, 'orders');
  expect([first.entries.length, first.more]).toEqual([50, true]);
  const second = ask(web, 'orders', `cursor=${first.next}`);
  expect([second.entries.length, second.more]).toEqual([20, false]);
  web.change(sold[0]!, o => ({ ...o, note: 'changed' }));
  const third = ask(web, 'orders', `cursor=${second.next}`);
  expect(third.entries).toMatchObject([{ number: sold[0], note: 'changed', revision: 2 }]);
});

test('since-time pages: decimal texts, and stamps of the future when told to', () => {
  const fernway = desk('fernway');
  fernway.sell(3);
  const page = ask(fernway, 'sales', 'since=&page=1&size=2');
  expect(page.entries).toHaveLength(2);
  expect(page.entries[0].shipping).toMatch(/^\d+\.\d\d$/);
  const future = ask(fernway, 'sales', 'since=&page=1&size=2', 'future');
  expect(Date.parse(future.entries[0].changed)).toBeGreaterThan(Date.parse(future.now));
});

test('the feed sends whole orders again on every change, and the other way round when told to', () => {
  const plaza = desk('plaza');
  const [number] = plaza.sell(1);
  plaza.change(number!, o => ({ ...o, note: 'b' }));
  const revisions = (trick: 'reorder' | null) =>
    ask(plaza, 'feed', 'after=0', trick).entries.map((e: { revision: number }) => e.revision);
  expect(revisions(null)).toEqual([1, 2]);
  expect(revisions('reorder')).toEqual([2, 1]);
});

test('numbers first, then each order', () => {
  const loom = desk('loom');
  const sold = loom.sell(2);
  expect(ask(loom, 'changed').numbers).toEqual(sold);
  expect(ask(loom, `orders/${sold[1]}`).order.number).toBe(sold[1]);
  expect(loom.answer('orders/NONE', new URLSearchParams(), null)?.status).toBe(404);
  expect(loom.answer('nonsense', new URLSearchParams(), null)).toBeNull();
});

test('each channel lists what the house sells, and something that nobody linked', () => {
  expect(ask(desk('plaza'), 'listing-feed', 'after=0').entries).toHaveLength(50);
  expect(ask(desk('loom'), 'offers').entries.some((l: { sku: string }) => l.sku === 'LS-WAX-PENDANT')).toBe(
    true,
  );
});
