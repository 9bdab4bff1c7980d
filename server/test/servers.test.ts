import { v7 } from 'uuid';
import { afterAll, afterEach, beforeAll, expect, test } from 'vitest';
import { bringIn, idOfOrder, orderCsv, packAndClose, productOf, scanOf, wishOf } from './drive.js';
import { type Caller, callerAt, differences, type House, openHouse } from './house.js';
import { type ServerProcess, serveProcess } from './processes.js';

let house: House;
const running = new Set<ServerProcess>();
beforeAll(async () => {
  house = await openHouse();
});
afterEach(async () => {
  for (const s of running) await s.kill();
  running.clear();
});
afterAll(async () => {
  expect(await differences(house)).toEqual([]);
  await house.close();
});

async function serve(): Promise<ServerProcess> {
  const server = await serveProcess(house);
  running.add(server);
  return server;
}

/** Sends until some server answers: what was not answered is sent again, with the same body, to the next. */
async function sendTo(callers: () => Caller[], path: string, body: unknown) {
  for (;;)
    for (const caller of callers()) {
      const answer = await caller.post(path, body).catch(() => null);
      if (answer && answer.status < 500) return answer;
    }
}

test('scans of one list sent to two servers, one of them killed on the way and started again: each counts once', async () => {
  const sku = (await house.db.one<{ sku: string }>(
    "SELECT x.sku FROM productStock s JOIN product x ON x.id = s.productId WHERE x.kind = 'piece' ORDER BY s.onHand - s.reserved DESC LIMIT 1",
  ))!.sku;
  let [a, b] = await Promise.all([serve(), serve()]);
  let [one, two] = [await a.signIn(), await b.signIn()];
  await bringIn(one, [['TWO-1', sku, 24, '2.50']]);
  const id = await idOfOrder(one, 'TWO-1');
  const { no } = (await one.post('picking/lists', { orderIds: [id] })).body;
  const { sessionId, state } = (await two.post('picking/open', { code: no, device: 'd' })).body;
  const before = (await productOf(one, sku)).onHand;
  const path = `picking/sessions/${sessionId}/scans`;
  const scans: ReturnType<typeof scanOf>[] = [];
  for (const stop of state.stops) {
    scans.push(scanOf(stop.placeCode));
    for (let i = 0; i < stop.wanted; i++) scans.push(scanOf(stop.product.codes[0].code));
  }
  let turn = 0;
  let restarted: Promise<void> = Promise.resolve();
  for (const [i, scan] of scans.entries()) {
    const both = () => (turn++ % 2 === 0 ? [one, two] : [two, one]);
    const sent = sendTo(both, path, scan);
    if (i === 10) {
      // Killed while this scan is on its way.
      await a.kill();
      restarted = serve().then(async again => {
        a = again;
        one = await again.signIn();
      });
    }
    expect((await sent).body.answer.tone, JSON.stringify((await sent).body)).not.toBe('wrong');
    // The device did not hear the answer and sends it again, to the other one.
    if (i % 3 === 0) expect((await sendTo(() => [two, one], path, scan)).body.repeated).toBe(true);
  }
  await restarted;
  expect((await one.get(`orders/${id}`)).body.row.stage).toBe('Picked');
  expect((await productOf(two, sku)).onHand).toBe(before - 24);
  const events = await house.db.one<{ n: number }>(
    'SELECT COUNT(*) AS n FROM scanEvent WHERE sessionId = ?',
    [sessionId],
  );
  expect(events!.n).toBe(scans.length);
  expect(await differences(house)).toEqual([]);
}, 120_000);

test('a file of which a server has taken in a part when it is killed: another goes on, and the end is as in one go', async () => {
  const [a, b] = await Promise.all([serve(), serve()]);
  const [one, two] = [await a.signIn(), await b.signIn()];
  const N = 3_000;
  const file = orderCsv(
    Array.from(
      { length: N },
      (_, i) => `KILL-${i},Buyer ${i},${i} Road,Boise,ID,83702,NO-SUCH-${i % 7},Thing,1,5.00`,
    ),
  );
  const id = v7();
  await one.file(`imports/orders/runs?channel=web&name=long.csv&id=${id}`, file);
  const run = async () => (await two.get(`imports/runs/${id}`)).body;
  while ((await run()).taken === 0);
  await a.kill();
  const torn = await run();
  expect(torn).toMatchObject({ state: 'under way', things: N });
  expect(torn.taken % 1_000).toBe(0);
  // What the dead one held is given up by the database's clock; this is that it was.
  await house.db.run("UPDATE lease SET until = NOW(3) - INTERVAL 1 SECOND WHERE name LIKE 'jobs import%'");
  await house.db.run('UPDATE job SET runAt = NOW(3) WHERE subjectId = ?', [id]);
  while ((await run()).state === 'under way');
  const end = await run();
  expect(end).toMatchObject({ state: 'done', taken: N, report: { counts: { new: N, same: 0, changed: 0 } } });
  expect(end.report.stages).toEqual({ Stopped: N });
  const stored = await house.db.one<{ n: number; numbers: number }>(
    "SELECT COUNT(*) AS n, COUNT(DISTINCT channelNumber) AS numbers FROM orders WHERE channelNumber LIKE 'KILL-%'",
  );
  expect(stored).toEqual({ n: N, numbers: N });
  expect(await differences(house)).toEqual([]);
  await b.kill();
}, 120_000);

test('a server killed between asking a carrier and its answer: the other finds out, and the label is bought once', async () => {
  const [a, b] = await Promise.all([serve(), serve()]);
  const [one, two] = [await a.signIn(), await b.signIn()];
  const id = await idOfOrder(two, 'TWO-1');
  const { parcelNo } = await packAndClose(two, (await two.get(`orders/${id}`)).body.row.no);
  const offer = (await two.get(`parcels/${parcelNo}/offers`)).body.offers.find(
    (o: { carrier: string }) => o.carrier === 'redfen',
  );
  house.standins.misbehave('redfen', { on: 'buy', how: 'late', times: 1, ms: 3_000 });
  const wish = wishOf(offer);
  void one.post(`parcels/${parcelNo}/label`, wish).catch(() => undefined);
  const charges = () =>
    house.standins.desks
      .get('redfen')!
      .books.all()
      .filter(c => c.reference === parcelNo);
  await expect.poll(() => charges().length).toBe(1);
  await a.kill();
  expect((await two.post(`parcels/${parcelNo}/label`, wish)).body.state).toBe('asked');
  // A minute passes: the dead server's lease is over.
  await house.db.run(
    "UPDATE lease SET until = until - INTERVAL 60 SECOND WHERE name LIKE 'label %' OR name LIKE 'recover%'",
  );
  await house.db.run("UPDATE label SET askedAt = askedAt - INTERVAL 60 SECOND WHERE state = 'asked'");
  await expect
    .poll(async () => (await two.post(`parcels/${parcelNo}/label`, wish)).body.state, { timeout: 40_000 })
    .toBe('bought');
  expect(charges()).toHaveLength(1);
}, 120_000);

test('jobs and sweeps of two servers, one of them killed while it works: channels are told once, lots expire once', async () => {
  const sku = 'MIT-STR-10';
  const [lot] = await house.db.rows<{ id: string; lies: number }>(
    `SELECT l.id, SUM(b.onHand) AS lies FROM lot l JOIN product x ON x.id = l.productId JOIN stockBalance b ON b.lotKey = l.id JOIN place p ON p.id = b.placeId
     WHERE x.sku = ? AND p.kind IN ('bin', 'reserve', 'dock') AND b.onHand > 0 AND l.expiredAt IS NULL GROUP BY l.id ORDER BY l.expiry DESC LIMIT 1`,
    [sku],
  );
  const here = await callerAt(house.url, 'AB-1001');
  const id = await idOfOrder(here, 'TWO-1');
  const { departureNo, no, tracking } = (await here.get(`orders/${id}`)).body.parcels[0];
  await here.post(`departures/${departureNo}/scans`, scanOf(no));
  expect((await here.post(`departures/${departureNo}/close`, { leaveBehind: true })).status).toBe(200);
  const before = (await productOf(here, sku)).onHand;
  await house.db.run('UPDATE lot SET expiry = CURRENT_DATE - INTERVAL 1 DAY WHERE id = ?', [lot!.id]);
  const [a, b] = await Promise.all([serve(), serve()]);
  await a.kill();
  const two = await b.signIn();
  await house.db.run("UPDATE lease SET until = NOW(3) WHERE name NOT LIKE 'live%'");
  // What the killed one had taken is free when its minute is over: it is over now.
  await house.db.run("UPDATE job SET runAt = NOW(3) WHERE state = 'taken'");
  await expect
    .poll(() => house.standins.told.all().filter(t => t.tracking === tracking).length, { timeout: 100_000 })
    .toBe(1);
  await expect
    .poll(async () => (await productOf(two, sku)).onHand, { timeout: 70_000 })
    .toBe(before - Number(lot!.lies));
  expect(await differences(house)).toEqual([]);
}, 240_000);

test('a listener at one server hears what happens at another, also after the one that gave the positions was killed', async () => {
  const [a, b] = await Promise.all([serve(), serve()]);
  const two = await b.signIn();
  const heard: string[] = [];
  const gone = new AbortController();
  const stream = await fetch(`${b.url}/api/v1/live`, {
    headers: { cookie: two.cookie },
    signal: gone.signal,
  });
  void (async () => {
    try {
      for await (const chunk of stream.body!) heard.push(new TextDecoder().decode(chunk));
    } catch {
      // Hung up at the end.
    }
  })();
  await a.kill();
  const ref = v7();
  await house.db.tx({ personId: null, at: new Date() }, tx => tx.tell('stock', ref));
  await expect.poll(() => heard.join(''), { timeout: 20_000 }).toContain(ref);
  gone.abort();
}, 60_000);
