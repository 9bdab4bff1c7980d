import { afterAll, beforeAll, expect, test } from 'vitest';
import { Rounds } from '../src/leases/rounds.service.js';
import { DeparturePlanner } from '../src/timetable/planner.service.js';
import { orderCsv, ordersIn, packAndClose, scanOf, wishOf } from './drive.js';
import { type Caller, differences, type House, openHouse } from './house.js';

let house: House;
let lead: Caller;
beforeAll(async () => {
  house = await openHouse('small');
  lead = await house.signIn('AB-1001');
});
afterAll(() => house.close());

const take = (rows: string[]) => lead.takeIn('orders', 'channel=web&name=d.csv', orderCsv(rows));
const row = (number: string, sku: string, n: number, name = 'Ruth') =>
  `${number},${name},1 Road,Boise,ID,83702,${sku},Thing,${n},2.50`;
const idOf = async (number: string) => (await lead.get(`orders?stage=all&words=${number}`)).body.rows[0].id;

test('parked and freed: the stage follows, the history tells who and why', async () => {
  const [id] = await ordersIn(lead, 'Clear', 1);
  await lead.post(`orders/${id}/park`, { reason: 'buyer calls back' });
  expect((await lead.get(`orders/${id}`)).body.row).toMatchObject({
    stage: 'Parked',
    reason: 'buyer calls back',
  });
  expect((await lead.post('picking/lists', { orderIds: [id] })).status).toBe(409);
  await lead.post(`orders/${id}/unpark`);
  const { row: after, history } = (await lead.get(`orders/${id}`)).body;
  expect(after.stage).toBe('Clear');
  expect(history.slice(-2)).toMatchObject([
    { person: 'Ines Maddow', says: 'Parked: buyer calls back' },
    { says: 'No longer parked.' },
  ]);
  expect((await lead.post(`orders/${id}/park`, { reason: ' ' })).status).toBe(400);
});

test('what a cancelled order gave back goes to the order that was Short, at once', async () => {
  const free = (await lead.get('products/SCL-HV')).body.free;
  await take([row('K-1', 'SCL-HV', free)]);
  await take([row('K-2', 'SCL-HV', 1)]);
  expect((await lead.get(`orders/${await idOf('K-2')}`)).body.row.stage).toBe('Short');
  await lead.post(`orders/${await idOf('K-1')}/cancel`, { reason: 'changed their mind' });
  expect((await lead.get(`orders/${await idOf('K-1')}`)).body.row.stage).toBe('Cancelled');
  expect((await lead.get(`orders/${await idOf('K-2')}`)).body.row.stage).toBe('Clear');
  expect((await lead.get('products/SCL-HV')).body.free).toBe(free - 1);
  expect(await differences(house)).toEqual([]);
});

test('bundles are broken into parts, nested ones too, and the order keeps the recipe of its entry', async () => {
  await take([row('Y-1', 'SET-YEAR', 1)]);
  const id = await idOf('Y-1');
  const parts = () =>
    lead
      .get(`orders/${id}`)
      .then(a =>
        a.body.lines[0].parts.map((p: { sku: string; quantity: number }) => [p.sku, p.quantity]).toSorted(),
      );
  const before = await parts();
  expect(before).toEqual([
    ['BOOK-1ST', 1],
    ['BOOK-LOG', 1],
    ['HTL-S10', 1],
    ['KIT-START', 1],
    ['SMK-4-ST', 1],
    ['VEIL-RND', 1],
  ]);
  const [{ id: product }] = (await house.db.rows<{ id: string }>(
    "SELECT id FROM product WHERE sku = 'SET-READ'",
  )) as [{ id: string }];
  const [{ id: part }] = (await house.db.rows<{ id: string }>(
    "SELECT id FROM product WHERE sku = 'SED-CLO'",
  )) as [{ id: string }];
  const recipe = crypto.randomUUID();
  await house.db.insert('recipe', [{ id: recipe, productId: product, version: 2, createdAt: new Date() }]);
  await house.db.insert('recipePart', [{ recipeId: recipe, position: 0, productId: part, quantity: 3 }]);
  expect(await parts()).toEqual(before);
  await take([row('Y-2', 'SET-READ', 2)]);
  expect((await lead.get(`orders/${await idOf('Y-2')}`)).body.lines[0].parts).toMatchObject([
    { sku: 'SED-CLO', quantity: 6 },
  ]);
});

test('one number at two channels is two orders', async () => {
  const file = orderCsv([row('N-1', 'SED-CLO', 1)]);
  await lead.takeIn('orders', 'channel=web&name=n', file);
  await lead.takeIn('orders', 'channel=plaza&name=n', file);
  expect((await lead.get('orders?words=N-1')).body.count.n).toBe(2);
});

test('the list filters by stage, channel and words, and pages by key without gaps', async () => {
  const all = (await lead.get('orders?stage=all&size=200')).body;
  const seen: string[] = [];
  for (let after = ''; ; ) {
    const page = (await lead.get(`orders?stage=all&size=17${after ? `&after=${after}` : ''}`)).body;
    seen.push(...page.rows.map((r: { no: string }) => r.no));
    if (!page.next) break;
    after = page.next;
  }
  expect(seen).toEqual(all.rows.map((r: { no: string }) => r.no));
  expect(new Set(seen).size).toBe(all.count.n);
  const stopped = (await lead.get('orders?stage=Stopped&channel=fernway')).body.rows;
  expect(
    stopped.every(
      (r: { stage: string; channel: string }) => r.stage === 'Stopped' && r.channel === 'Fernway Market',
    ),
  ).toBe(true);
  expect((await lead.get('orders?stage=all&words=%25')).body.count.n).toBe(0);
  expect((await lead.get('orders?size=9999')).status).toBe(400);
});

test('names that would break things are only text', async () => {
  const name = `<script>alert(1)</script> O'Brien; -- 👩‍🌾`;
  await take([`X-1,"${name}",1 Road,Boise,ID,83702,SED-CLO,Thing,1,2.50`]);
  const id = await idOf('X-1');
  expect((await lead.get(`orders/${id}`)).body.shipTo.name).toBe(name);
  expect((await lead.get(`orders/${id}/slip.pdf`)).body.slice(0, 5)).toBe('%PDF-');
});

test('the board counts what the orders say, and its departures are of today or the next day', async () => {
  const board = (await lead.get('departures/board')).body;
  const planned = (await lead.get('orders?size=200')).body.rows.filter(
    (r: { stage: string; leavesWith: unknown }) =>
      ['Clear', 'Listed', 'Picked', 'Packed', 'Labelled'].includes(r.stage) && r.leavesWith,
  );
  const counted = board.departures
    .filter((d: { state: string }) => d.state === 'open')
    .reduce((n: number, d: { total: number }) => n + d.total, 0);
  expect(counted).toBeGreaterThan(0);
  expect(counted).toBeLessThanOrEqual(planned.length);
  expect(new Set(board.departures.map((d: { carrier: string }) => d.carrier))).toEqual(
    new Set(['heron', 'redfen', 'coldharbour', 'stonewater']),
  );
  const strip = (await lead.get('departures/strip')).body;
  expect(strip.stopped).toBe((await lead.get('orders?stage=Stopped')).body.count.n);
});

test('making departures again makes none twice', async () => {
  const count = async () => (await house.db.one<{ n: number }>('SELECT COUNT(*) AS n FROM departure'))!.n;
  const planner = house.app.get(DeparturePlanner);
  const again = () => house.db.tx({ personId: null, at: new Date() }, tx => planner.materialise(tx));
  await again();
  const before = await count();
  await again();
  expect(await count()).toBe(before);
});

test('a parcel for another truck, without a label, or unknown is refused at the handover', async () => {
  const [id] = await ordersIn(lead, 'Picked', 1);
  const view = await packAndClose(lead, (await lead.get(`orders/${id}`)).body.row.no);
  const nextOf = async (carrier: string) =>
    (await house.db.one<{ no: string }>(
      "SELECT CONCAT('DE-', no) AS no FROM departure WHERE carrier = ? AND state = 'open' AND cutOff > NOW() ORDER BY cutOff LIMIT 1",
      [carrier],
    ))!.no;
  const [heron, redfen] = [await nextOf('heron'), await nextOf('redfen')];
  const scanOn = async (no: string, text: string) =>
    (await lead.post(`departures/${no}/scans`, scanOf(text))).body.answer?.says;
  expect(await scanOn(heron, view.parcelNo)).toBe(`${view.parcelNo} has no label yet.`);
  const { offers } = (await lead.get(`parcels/${view.parcelNo}/offers`)).body;
  await lead.post(
    `parcels/${view.parcelNo}/label`,
    wishOf(offers.find((o: { carrier: string }) => o.carrier === 'redfen')),
  );
  expect(await scanOn(heron, view.parcelNo)).toBe(`Wrong truck: ${view.parcelNo} goes with Redfen Parcel.`);
  expect(await scanOn(redfen, view.parcelNo)).toBe(`Right, ${view.parcelNo} is on it.`);
  expect(await scanOn(redfen, 'PA-999999')).toBe('No parcel has the code PA-999999.');
  const packer = await house.signIn('AB-1002');
  expect((await packer.post(`departures/${redfen}/close`, { leaveBehind: true })).status).toBe(200);
  expect((await lead.post(`departures/${redfen}/close`, { leaveBehind: true })).status).toBe(422);
  expect(await scanOn(redfen, 'PA-1')).toBeUndefined();
  expect((await lead.get(`departures/${redfen}/sheet.pdf`)).body.slice(0, 5)).toBe('%PDF-');
});

test('a channel that is down is told later, and told once', async () => {
  const jobs = house.app.get(Rounds);
  const before = house.standins.told.all().length;
  const waiting = (await house.db.one<{ n: number }>(
    "SELECT COUNT(*) AS n FROM job WHERE state = 'waiting' AND kind = 'tell tracking'",
  ))!.n;
  expect(waiting).toBeGreaterThan(0);
  await jobs.once('jobs');
  await jobs.once('jobs');
  expect(house.standins.told.all().length).toBe(before + waiting);
  expect((await house.db.one<{ n: number }>("SELECT COUNT(*) AS n FROM job WHERE state <> 'done'"))!.n).toBe(
    0,
  );
});

test('the live stream says what changed', async () => {
  const response = await fetch(`${house.url}/api/v1/live`, { headers: { cookie: await cookie() } });
  const reader = response.body!.getReader();
  const [id] = await ordersIn(lead, 'Clear', 1);
  const heard = (async () => {
    let text = '';
    while (!text.includes(`"topic":"orders","ref":"${id}"`))
      text += new TextDecoder().decode((await reader.read()).value);
    return text;
  })();
  // The stream hands on what happens after its first look at the outbox: change something until it is heard.
  let done = false;
  void heard.then(() => {
    done = true;
  });
  for (let i = 0; !done && i < 50; i++)
    await lead.post(`orders/${id}/${i % 2 ? 'unpark' : 'park'}`, { reason: 'live' });
  expect(await heard).toContain('data: ');
  await reader.cancel();
});

async function cookie(): Promise<string> {
  const response = await fetch(`${house.url}/api/v1/people/sign-in`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ badge: 'AB-1004', pin: '2468' }),
  });
  return response.headers.get('set-cookie')!.split(';')[0]!;
}

test('signed out is signed out', async () => {
  const token = await cookie();
  const me = () => fetch(`${house.url}/api/v1/people/me`, { headers: { cookie: token } }).then(r => r.status);
  expect(await me()).toBe(200);
  await fetch(`${house.url}/api/v1/people/sign-out`, { method: 'POST', headers: { cookie: token } });
  expect(await me()).toBe(401);
});

test('scans of another session’s id, and a bench scan after closing, are refused', async () => {
  const ids = await ordersIn(lead, 'Picked', 2);
  const open = async (id: string) =>
    (await lead.post('packing/open', { code: (await lead.get(`orders/${id}`)).body.row.no, device: 'd' }))
      .body;
  const [a, b] = [await open(ids[0]!), await open(ids[1]!)];
  const scan = scanOf('x');
  await lead.post(`packing/sessions/${a.sessionId}/scans`, scan);
  expect((await lead.post(`packing/sessions/${b.sessionId}/scans`, scan)).status).toBe(400);
  const view = await packAndClose(lead, b.state.orderNo);
  const late = await lead.post(
    `packing/sessions/${view.sessionId}/scans`,
    scanOf(view.state.lines[0].product.codes[0].code),
  );
  expect(late.body.answer).toMatchObject({
    kind: 'refused',
    says: `${view.state.orderNo} is packed and closed.`,
  });
  expect(await differences(house)).toEqual([]);
});
