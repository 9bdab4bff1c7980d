import { ORDER_SORTS } from '@auk/contract';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { foldStageCounts, stageCounts } from '../src/records/stages.js';
import { bringIn, idOfOrder } from './drive.js';
import { type Caller, differences, type House, openHouse } from './house.js';

let house: House;
let lead: Caller;
beforeAll(async () => {
  house = await openHouse();
  lead = await house.signIn('AB-1001');
});
afterAll(() => house.close());

interface Row {
  id: string;
  no: string;
  stage: string;
  channelNumber: string;
  promised: string | null;
  totalMinor: number;
  placedAt: string | null;
  leavesWith: { cutOff: string } | null;
}
const list = async (question: string): Promise<{ rows: Row[]; next: string | null; count: { n: number } }> =>
  (await lead.get(`orders?${question}`)).body;

/** All rows of a question, page by page. */
async function all(question: string, size = 7): Promise<Row[]> {
  const rows: Row[] = [];
  let after = '';
  do {
    const page = await list(`${question}&size=${size}${after ? `&after=${encodeURIComponent(after)}` : ''}`);
    rows.push(...page.rows);
    after = page.next ?? '';
  } while (after);
  return rows;
}

const KEY: Record<string, (r: Row) => string | number | null> = {
  newest: r => -Number(r.no.slice(3)),
  oldest: r => Number(r.no.slice(3)),
  promised: r => r.promised,
  leaves: r => r.leavesWith?.cutOff ?? null,
  total: r => -r.totalMinor,
  placed: r => (r.placedAt ? -Date.parse(r.placedAt) : null),
};

for (const sort of ORDER_SORTS)
  test(`sorted by ${sort}: pages hold every order once, in order, those without a value last`, async () => {
    await house.db.run('UPDATE orders SET promised = NULL, placedAt = NULL WHERE MOD(no, 9) = 4');
    const rows = await all(`stage=all&sort=${sort}`);
    const { n } = (await house.db.one<{ n: number }>('SELECT COUNT(*) AS n FROM orders'))!;
    expect(rows).toHaveLength(n);
    expect(new Set(rows.map(r => r.id)).size).toBe(n);
    const keys = rows.map(KEY[sort]!);
    const filled = keys.filter(k => k !== null);
    expect(keys.slice(filled.length).every(k => k === null)).toBe(true);
    expect(filled).toEqual([...filled].sort((a, b) => (a! < b! ? -1 : a! > b! ? 1 : 0)));
  });

test('the neighbours of each order are those of the list', async () => {
  for (const sort of ['promised', 'total']) {
    const rows = await all(`stage=all&sort=${sort}`, 50);
    for (const i of [0, 1, 17, rows.length - 1]) {
      const { before, after } = (await lead.get(`orders/${rows[i]!.id}/beside?stage=all&sort=${sort}`)).body;
      expect([before, after], `${sort} ${i}`).toEqual([rows[i - 1]?.id ?? null, rows[i + 1]?.id ?? null]);
    }
  }
});

test('every part of the sentence filters as it says', async () => {
  await bringIn(lead, [
    ['FIND-1', 'JAR-HEX-12', 2, '1.35', 'Quentin Zephyr'],
    ['FIND-2', 'BOOK-1ST', 1, '5.00', 'Quentin Zephyr'],
    ['FIND-3', 'NO-SUCH-LISTING', 1, '5.00', 'Other Person'],
  ]);
  const numbers = async (question: string) => (await list(question)).rows.map(r => r.channelNumber).sort();
  expect(await numbers('words=zephyr')).toEqual(['FIND-1', 'FIND-2']);
  expect(await numbers('words=quentin%20zeph')).toEqual(['FIND-1', 'FIND-2']);
  expect(await numbers('words=find-2')).toEqual(['FIND-2']);
  expect(await numbers(`words=${(await list('words=FIND-3')).rows[0]!.no}`)).toEqual(['FIND-3']);
  expect(await numbers('words=zephyr&product=JAR-HEX-12')).toEqual(['FIND-1']);
  expect(await numbers('words=such%20listing')).toEqual(['FIND-3']);
  expect(await numbers('words=find&reason=unlinked-listing')).toEqual(['FIND-3']);
  expect(await numbers('words=zephyr&together=yes')).toEqual(['FIND-1', 'FIND-2']);
  expect(await numbers('words=zephyr&country=nl')).toEqual([]);
  expect(await numbers('words=zephyr&channel=plaza')).toEqual([]);
  expect(await numbers('words=zephyr&payment=paid&leaves=never')).toEqual([]);
  await lead.post(`orders/${await idOfOrder(lead, 'FIND-2')}/star`, { starred: true });
  expect(await numbers('words=zephyr&starred=yes')).toEqual(['FIND-2']);
  expect(await numbers('words=o%20zz')).toEqual([]);
  for (const bad of ['leaves=whenever', 'sort=prettiest', 'size=0', 'promised=2026-13-77x'])
    expect((await lead.get(`orders?${bad}`)).status, bad).toBe(400);
});

test('numbers among, kept questions and columns belong to the person', async () => {
  const among = (await lead.get('orders/among?words=find')).body;
  expect(among).toMatchObject({ stopped: { n: 1 }, starred: { n: 1 } });
  await lead.post('orders/questions', { name: 'Mine', question: 'words=zephyr' });
  await lead.post('orders/questions', { name: 'Mine', question: 'words=zephyr&starred=yes' });
  const kept = (await lead.get('orders/questions')).body;
  expect(kept).toMatchObject([{ name: 'Mine', count: { n: 1, over: false } }]);
  const office = await house.signIn('AB-1004');
  expect((await office.get('orders/questions')).body).toEqual([]);
  expect((await office.post(`orders/questions/${kept[0].id}/forget`)).status).toBe(404);
  await lead.post('orders/preferences/order-columns', { value: { order: ['buyer'], hidden: [] } });
  expect((await lead.get('orders/preferences/order-columns')).body.value.order).toEqual(['buyer']);
  expect((await office.get('orders/preferences/order-columns')).body.value).toBeNull();
});

test('the counters of stages are kept in every change and survive folding', async () => {
  const counted = async () =>
    new Map(
      (
        await house.db.rows<{ stage: string; n: number }>(
          'SELECT stage, COUNT(*) AS n FROM orders GROUP BY stage',
        )
      ).map(r => [r.stage, r.n]),
    );
  const kept = async () => new Map([...(await stageCounts(house.db))].filter(([, n]) => n !== 0));
  expect(await kept()).toEqual(await counted());
  for (let i = 0; i < 40; i++)
    await lead.post(`orders/${await idOfOrder(lead, 'FIND-1')}/${i % 2 ? 'unpark' : 'park'}`, {
      reason: 'r',
    });
  await house.db.tx({ personId: null, at: new Date() }, tx => foldStageCounts(tx));
  const { n } = (await house.db.one<{ n: number }>('SELECT COUNT(*) AS n FROM stageCount'))!;
  expect(n).toBeLessThanOrEqual(11);
  expect(await kept()).toEqual(await counted());
  expect((await list('stage=Clear')).count.n).toBe((await counted()).get('Clear'));
  expect((await differences(house)).filter(d => d.what === 'stage counter')).toEqual([]);
});

test('papers are chosen by channel and destination, the first that fits from the top', async () => {
  const { PaperTemplates } = await import('../src/printing/templates.service.js');
  const templates = house.app.get(PaperTemplates);
  const paper = {
    kind: 'slip',
    position: 0,
    channel: '',
    country: '',
    heading: '',
    message: '',
    prices: false,
    metric: false,
  };
  await lead.post('printing/templates', {
    ...paper,
    name: 'Plaza abroad',
    channel: 'plaza',
    country: 'abroad',
  });
  await lead.post('printing/templates', { ...paper, name: 'Dutch', country: 'NL', position: 1 });
  const chosen = async (channel: string, country: string) =>
    (await templates.choose('slip', { channel, country, home: 'US', mail: 'a@b.example' })).name;
  expect(await chosen('plaza', 'NL')).toBe('Plaza abroad');
  expect(await chosen('web', 'DE')).toBe('Abroad');
  expect(await chosen('web', 'US')).toBe('At home');
  expect((await lead.post('printing/templates', { ...paper, name: 'x', country: 'Nowhere' })).status).toBe(
    400,
  );
  expect(
    (await (await house.signIn('AB-1003')).post('printing/templates', { ...paper, name: 'x' })).status,
  ).toBe(403);
});
