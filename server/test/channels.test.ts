import { CHANNELS } from '@auk/demo';
import { afterAll, beforeAll, expect, test, vi } from 'vitest';
import { retryAfter } from '../src/channels/ask.js';
import { ChannelsService } from '../src/channels/channels.service.js';
import { ChannelTrouble } from '../src/channels/channelTrouble.entity.js';
import { next } from '../src/channels/since/sinceChannel.js';
import { Tx } from '../src/database/db.js';
import { seal, unseal } from '../src/reference/sealing.js';
import { bringIn, idOfOrder, productOf } from './drive.js';
import { type Caller, differences, type House, openHouse } from './house.js';

let house: House;
let lead: Caller;
let channels: ChannelsService;
beforeAll(async () => {
  house = await openHouse('small');
  lead = await house.signIn('AB-1001');
  channels = house.app.get(ChannelsService);
});
afterAll(async () => {
  expect(await differences(house)).toEqual([]);
  await house.close();
});

const desk = (code: string) => house.standins.channels.get(code)!;
const link = async (code: string) =>
  (await lead.get('channels')).body.find((c: { code: string }) => c.code === code).link;
const numbers = async (list: readonly string[]) =>
  (
    await house.db.rows<{ channelNumber: string }>(
      'SELECT channelNumber FROM orders WHERE channelNumber IN (?) ORDER BY channelNumber',
      [[...list]],
    )
  ).map(r => r.channelNumber);
/** Pulls now, as the button does, and whatever the channel asks to wait for is over. */
async function pull(code: string): Promise<void> {
  await lead.post(`channels/${code}/pull`);
  await channels.pullDue();
}
/** So many seconds pass for a channel. */
const later = (code: string, column: 'pullAt' | 'pushAt', seconds: number) =>
  house.db.run(
    `UPDATE channelLink l JOIN channel c ON c.id = l.channelId SET l.${column} = l.${column} - INTERVAL ? SECOND WHERE c.code = ?`,
    [seconds, code],
  );
const trick = (code: string, how: string, times = 1, on = 'pull') =>
  house.standins.misbehave(code, { on, how, times, ms: 3_000 } as never);

for (const { code, kind } of CHANNELS)
  test(`${code} (${kind}): every order once, its listings, its changes`, async () => {
    const sold = desk(code).sell(120);
    await pull(code);
    expect(await numbers(sold)).toEqual([...sold].sort());
    expect(await link(code)).toMatchObject({
      error: null,
      doing: null,
      lastCounts: { new: 120, unreadable: 0 },
    });
    await pull(code);
    expect((await link(code)).lastCounts).toMatchObject({ new: 0, changed: 0 });
    desk(code).change(sold[3]!, o => ({
      ...o,
      note: 'leave at the gate',
      lines: o.lines.map((l, i) => (i === 0 ? { ...l, quantity: l.quantity + 1 } : l)),
    }));
    await pull(code);
    expect((await lead.get(`orders/${await idOfOrder(lead, sold[3]!)}`)).body.note).toBe('leave at the gate');
    const price = (await house.db.one<{ p: number }>(
      'SELECT l.priceMinor AS p FROM orderLine l JOIN orders o ON o.id = l.orderId WHERE o.channelNumber = ? ORDER BY l.position LIMIT 1',
      [sold[0]],
    ))!.p;
    expect(price).toBeGreaterThan(50);
  });

test('a part of a pull that is tried again, because another was in the way, is told once', async () => {
  const sold = desk('web').sell(7);
  const { of } = Tx.prototype;
  let ways = 1;
  const inTheWay = vi.spyOn(Tx.prototype, 'of').mockImplementation(function (this: Tx, entity) {
    if (entity === ChannelTrouble && ways-- > 0)
      throw Object.assign(new Error('Another was in the way.'), { errno: 1213 });
    return of.call(this, entity) as never;
  });
  await pull('web');
  inTheWay.mockRestore();
  expect(ways).toBeLessThan(1);
  expect(await numbers(sold)).toEqual([...sold].sort());
  expect((await link('web')).lastCounts).toMatchObject({ new: 7 });
});

test('repeats, other orders of pages, stamps of the future, cut answers, lost answers and failures lose and double nothing', async () => {
  for (const { code } of CHANNELS) {
    const sold = desk(code).sell(80);
    for (const how of ['cut', 'error', 'repeat', 'fail after', 'reorder', 'future', 'cut', 'repeat']) {
      trick(code, how);
      await pull(code);
    }
    await pull(code);
    expect(await numbers(sold), code).toEqual([...sold].sort());
    const more = desk(code).sell(5);
    trick(code, 'future', 1);
    await pull(code);
    const later = desk(code).sell(5);
    await pull(code);
    await pull(code);
    expect(await numbers([...more, ...later]), code).toHaveLength(10);
  }
}, 60_000);

test('older news that come late do not undo newer ones', async () => {
  const [number] = desk('plaza').sell(1);
  for (const note of ['first', 'second', 'third']) desk('plaza').change(number!, o => ({ ...o, note }));
  // Listings are asked first, so the second answer of the round is the one with the orders.
  trick('plaza', 'reorder', 3);
  await pull('plaza');
  expect((await lead.get(`orders/${await idOfOrder(lead, number!)}`)).body.note).toBe('third');
});

test('429: the time that the channel asks for is kept, the error is on screen, and the next round goes through', async () => {
  trick('web', 'busy');
  await lead.post('channels/web/pull');
  const began = Date.now();
  await channels.pullDue();
  const after = await link('web');
  expect(after.error).toBe('Web store asks us to wait (429).');
  expect(Date.parse(after.nextPullAt) - began).toBeGreaterThanOrEqual(2_900);
  const [number] = desk('web').sell(1);
  await channels.pullDue();
  expect(await numbers([number!])).toEqual([]);
  await later('web', 'pullAt', 4);
  await channels.pullDue();
  expect(await numbers([number!])).toEqual([number]);
});

test('a wrong key is said, kept sealed, and shown by its end only', async () => {
  const body = { kind: 'cursor', address: (await link('web')).address, key: 'not-the-key' };
  await lead.post('channels/web/connect', body);
  await pull('web');
  expect((await link('web')).error).toContain('refuses the key');
  await lead.post('channels/web/connect', { ...body, key: 'web-demo-key' });
  await pull('web');
  expect(await link('web')).toMatchObject({ error: null, keyEnds: 'key' });
  const stored = (await house.db.one<{ keySealed: string }>(
    "SELECT l.keySealed FROM channelLink l JOIN channel c ON c.id = l.channelId WHERE c.code = 'web'",
  ))!;
  expect(stored.keySealed).not.toContain('demo');
  expect(unseal(stored.keySealed)).toBe('web-demo-key');
  expect(seal('x')).not.toBe(seal('x'));
  expect(() => unseal(`${seal('x').slice(0, -4)}AAAA`)).toThrow();
});

test('one unreadable order is named and the others go on', async () => {
  const [bad, good] = desk('loom').sell(2);
  desk('loom').change(bad!, o => ({ ...o, lines: o.lines.map(l => ({ ...l, quantity: -4 })) }));
  await pull('loom');
  expect(await numbers([bad!, good!])).toEqual([good]);
  const trouble = (await lead.get('channels/loom/trouble')).body;
  expect(trouble[0]).toMatchObject({ number: bad, why: expect.stringContaining('quantity') });
  desk('loom').change(bad!, o => ({ ...o, lines: o.lines.map(l => ({ ...l, quantity: 4 })) }));
  await pull('loom');
  expect(await numbers([bad!])).toEqual([bad]);
  expect((await lead.get('channels/loom/trouble')).body).toEqual([]);
});

test('stock for sale is gathered: one message after many changes, bundles included, and nothing when nothing changed', async () => {
  const stock = () => desk('web').stock.all();
  const push = async () => {
    for (const { code } of CHANNELS) await later(code, 'pushAt', 100);
    await channels.pushDue();
  };
  await push();
  const before = stock().length;
  for (let i = 0; i < 5; i++) await bringIn(lead, [[`ST-${i}`, 'SET-SMKHTL', 1, '46.00']]);
  await push();
  const told = stock().slice(before);
  expect(told).toHaveLength(1);
  const smoker = await productOf(lead, 'SMK-4-ST');
  const levels = new Map(told[0]!.levels.map(l => [l.channelSku, l.quantity]));
  expect(levels.get('SMK-4-ST')).toBe(smoker.free);
  const set = (await lead.get('listings?state=linked&channel=web&words=SET-SMKHTL')).body.rows[0];
  expect(levels.get('SET-SMKHTL')).toBe(set.forSale);
  await push();
  expect(stock().length).toBe(before + 1);
  await bringIn(lead, [['ST-9', 'SMK-4-ST', 1, '38.00']]);
  trick('web', 'busy', 1, 'push');
  await push();
  expect((await link('web')).pushError).toContain('asks us to wait');
  await push();
  expect(stock().at(-1)!.levels).toContainEqual({ channelSku: 'SMK-4-ST', quantity: smoker.free - 1 });
});

test('the mark of a since-time channel never passes its clock, and full pages of one stamp are turned', () => {
  const now = '2026-11-23T10:00:00.000Z';
  const at = { since: '2026-11-23T09:00:00.000Z', page: 1 };
  expect(next(at, ['2026-11-25T00:00:00.000Z'], now, true).since).toBe(now);
  expect(next(at, [at.since], now, true)).toEqual({ since: at.since, page: 2 });
  expect(next({ ...at, page: 3 }, ['2026-11-23T09:30:00.000Z'], now, true)).toEqual({
    since: '2026-11-23T09:30:00.000Z',
    page: 1,
  });
  expect(next(at, ['2026-11-25T00:00:00.000Z'], now, false).since).toBe('2026-11-23T09:58:00.000Z');
});

test('Retry-After in seconds and as a date (RFC 9110)', () => {
  const now = Date.parse('2026-11-23T10:00:00Z');
  expect(retryAfter('7', now)).toBe(7_000);
  expect(retryAfter('Mon, 23 Nov 2026 10:00:30 GMT', now)).toBe(30_000);
  expect(retryAfter('soon', now)).toBe(30_000);
  expect(retryAfter(null, now)).toBe(30_000);
  expect(retryAfter('999999', now)).toBe(3_600_000);
});
