import { v7 } from 'uuid';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { KEEP_ACT_DAYS } from '../src/acts/age.js';
import { Rounds } from '../src/leases/rounds.service.js';
import { orderCsv, scanOf } from './drive.js';
import { type Caller, differences, type House, openHouse } from './house.js';

let house: House;
let lead: Caller;
beforeAll(async () => {
  house = await openHouse('small');
  lead = await house.signIn('AB-1001');
});
afterAll(async () => {
  expect(await differences(house)).toEqual([]);
  await house.close();
});

const DAY_MS = 86_400_000;
const ago = (days: number) => new Date(Date.now() - days * DAY_MS);
const forget = () => house.app.get(Rounds).once('upkeep');
const count = async (table: string, where: string) =>
  (await house.db.one<{ n: number }>(`SELECT COUNT(*) AS n FROM ${table} WHERE ${where}`))!.n;

/** A draft with one scan, the scan made so many days ago. */
async function scannedBefore(days: number) {
  const { id } = (await lead.post('orders')).body;
  const fresh = scanOf('CASE-JAR-HEX-12');
  expect((await lead.post(`orders/${id}/scans`, fresh)).status).toBe(200);
  const scan = { ...fresh, id: v7({ msecs: ago(days).getTime() }) };
  await house.db.run('UPDATE scanEvent SET id = ?, at = ? WHERE id = ?', [scan.id, ago(days), fresh.id]);
  await house.db.run('UPDATE scanSession SET lastScanAt = ? WHERE orderId = ?', [ago(days), id]);
  return { id, scan };
}

test('what is done and older than the house keeps it is forgotten, and what is younger or open stays', async () => {
  const [old, young] = [await scannedBefore(801), await scannedBefore(399)];
  await house.db.insert(
    'actKey',
    [801, 799].map(days => ({ id: v7(), at: ago(days), personId: null, kind: 'move' })),
  );
  const job = (state: string, days: number) => ({
    id: v7(),
    kind: 'tell tracking',
    lane: 'old ones',
    payload: '{}',
    state,
    createdAt: ago(days),
    runAt: ago(days),
  });
  await house.db.insert('job', [job('done', 31), job('done', 29), job('given up', 500)]);
  await forget();
  expect(await count('scanSession', `orderId = '${old.id}'`)).toBe(0);
  expect(await count('scanEvent', `id = '${old.scan.id}'`)).toBe(0);
  expect(await count('scanEvent', `id = '${young.scan.id}'`)).toBe(1);
  expect(await count('actKey', "kind = 'move'")).toBe(1);
  expect(await count('job', "state = 'done' AND lane = 'old ones'")).toBe(1);
  expect(await count('job', "state = 'given up' AND lane = 'old ones'")).toBe(1);
  // What is forgotten is refused when it comes again; what is known is answered as the first time.
  expect((await lead.post(`orders/${old.id}/scans`, old.scan)).status).toBe(409);
  const again = await lead.post(`orders/${young.id}/scans`, young.scan);
  expect(again.body).toMatchObject({ repeated: true, answer: { kind: 'counted' } });
  for (const { id } of [old, young]) expect((await lead.get(`orders/${id}`)).body.lines[0].quantity).toBe(12);
});

test('how long things are kept is set by the lead, and never so short that a repeat could count twice', async () => {
  const { body } = await lead.get('upkeep');
  expect(body.scansDays).toBeGreaterThan(KEEP_ACT_DAYS);
  expect((await lead.post('upkeep', { ...body, scansDays: KEEP_ACT_DAYS })).status).toBe(400);
  await lead.takeIn(
    'orders',
    'channel=web&name=old.csv',
    orderCsv(['KEEP-1,Ruth,1 Road,Boise,ID,83702,BOOK-1ST,Book,1,5.00']),
  );
  await house.db.run('UPDATE importFile SET doneAt = doneAt - INTERVAL 10 DAY');
  await forget();
  expect(await count('importFile', 'report IS NOT NULL')).toBe(1);
  expect((await lead.post('upkeep', { ...body, filesDays: 9 })).status).toBe(200);
  expect((await lead.get('upkeep')).body).toEqual({ ...body, filesDays: 9 });
  await forget();
  expect(await count('importFile', 'report IS NOT NULL')).toBe(0);
  const picker = await house.signIn('AB-1003');
  expect((await picker.post('upkeep', body)).status).toBe(403);
});
