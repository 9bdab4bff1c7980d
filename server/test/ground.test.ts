import { v7 } from 'uuid';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { KEEP_ACT_DAYS } from '../src/acts/age.js';
import { Expiry } from '../src/corrections/expiry.service.js';
import { Telling } from '../src/departures/telling.service.js';
import { LeaseLost, Leases } from '../src/leases/leases.service.js';
import { Rounds } from '../src/leases/rounds.service.js';
import {
  bringIn,
  idOfOrder,
  listAndPick,
  ordersIn,
  packAndClose,
  productOf,
  scanOf,
  seenIn,
  wishOf,
} from './drive.js';
import { type Caller, differences, type House, openHouse } from './house.js';

let house: House;
let lead: Caller;
beforeAll(async () => {
  house = await openHouse();
  lead = await house.signIn('AB-1001');
});
afterAll(async () => {
  expect(await differences(house)).toEqual([]);
  await house.close();
});

const view = async (id: string) => (await lead.get(`orders/${id}`)).body;
const needs = async () =>
  (await lead.get('departures/board')).body.needs as {
    code: string;
    subject: string;
    says: string;
    cure: string;
    job: string | null;
  }[];

/** An order of a channel, picked, packed, labelled and gone; gives its parcel and the departure's number. */
async function departed(id: string): Promise<{ parcelNo: string; tracking: string; departureNo: string }> {
  await listAndPick(lead, [id]);
  const { parcelNo } = await packAndClose(lead, (await view(id)).row.no);
  const { offers } = (await lead.get(`parcels/${parcelNo}/offers`)).body;
  const { tracking } = (await lead.post(`parcels/${parcelNo}/label`, wishOf(offers[0]))).body;
  const { departureNo } = (await view(id)).parcels[0];
  expect((await lead.post(`departures/${departureNo}/scans`, scanOf(parcelNo))).body.answer.tone).toBe(
    'right',
  );
  expect((await lead.post(`departures/${departureNo}/close`, { leaveBehind: true })).status).toBe(200);
  return { parcelNo, tracking, departureNo };
}
/** A piece of which most is free. */
const plentiful = async () =>
  (await house.db.one<{ sku: string }>(
    "SELECT x.sku FROM productStock s JOIN product x ON x.id = s.productId WHERE x.kind = 'piece' ORDER BY s.onHand - s.reserved DESC LIMIT 1",
  ))!.sku;
const told = (tracking: string) => house.standins.told.all().filter(t => t.tracking === tracking);

test('a lease is held by one, grows its fence, ends by the database’s clock, and writes nothing when it was lost', async () => {
  const leases = house.app.get(Leases);
  const all = await Promise.all(Array.from({ length: 8 }, () => leases.take('a test', 60_000)));
  const [lease] = all.filter(l => l !== null);
  expect(all.filter(l => l !== null)).toHaveLength(1);
  await house.db.run("UPDATE lease SET until = NOW(3) - INTERVAL 1 SECOND WHERE name = 'a test'");
  const next = await leases.take('a test', 60_000);
  expect(next!.fence).toBe(lease!.fence + 1);
  expect(await leases.renew(lease!, 60_000)).toBe(false);
  await expect(leases.must(house.db, lease!)).rejects.toThrow(LeaseLost);
  await leases.free(lease!);
  expect(await leases.take('a test', 1)).toBeNull();
  await leases.free(next!);
  expect(await leases.take('a test', 1)).not.toBeNull();
});

test('a channel that is down for a day stands under Needs a person and is told when it is back', async () => {
  await bringIn(lead, [['DOWN-1', 'SED-PHA', 1, '2.50']]);
  const { parcelNo, tracking } = await departed(await idOfOrder(lead, 'DOWN-1'));
  const rounds = house.app.get(Rounds);
  const desk = (await house.db.one<{ address: string }>(
    "SELECT l.address FROM channelLink l JOIN channel c ON c.id = l.channelId WHERE c.code = 'web'",
  ))!;
  const at = (address: string) =>
    house.db.run(
      "UPDATE channelLink l JOIN channel c ON c.id = l.channelId SET l.address = ?, l.pullAt = NOW(3) WHERE c.code = 'web'",
      [address],
    );
  await at('http://127.0.0.1:1/nobody');
  for (let hour = 0; hour < 24; hour++) {
    await rounds.once('jobs');
    await house.db.run(
      "UPDATE job SET runAt = runAt - INTERVAL 1 HOUR, createdAt = createdAt - INTERVAL 1 HOUR WHERE state = 'waiting'",
    );
  }
  expect(told(tracking)).toEqual([]);
  const need = (await needs()).find(n => n.code === 'untold' && n.subject === parcelNo);
  expect(need).toMatchObject({
    says: `Web store was not told that ${parcelNo} left.`,
    job: expect.any(String),
  });
  await house.db.run('UPDATE job SET runAt = NOW(3) + INTERVAL 5 MINUTE WHERE id = ?', [need!.job]);
  await at(desk.address);
  // The first pull that goes through says that the channel is back.
  await rounds.once('pull');
  await rounds.once('jobs');
  expect(told(tracking)).toHaveLength(1);
  expect((await needs()).filter(n => n.subject === parcelNo)).toEqual([]);
});

test('after the last try it waits for a person, whose retry is answered', async () => {
  await bringIn(lead, [['DOWN-2', 'SED-PHA', 1, '2.50']]);
  await lead.post('channels/web/connect', {
    ...(await lead.get('channels')).body.find((c: { code: string }) => c.code === 'web').link,
    key: '',
    active: false,
  });
  const { parcelNo, tracking } = await departed(await idOfOrder(lead, 'DOWN-2'));
  const rounds = house.app.get(Rounds);
  await house.db.run("UPDATE job SET createdAt = createdAt - INTERVAL 73 HOUR WHERE state = 'waiting'");
  await rounds.once('jobs');
  const need = (await needs()).find(n => n.subject === parcelNo)!;
  expect(need.cure).toContain('Auk has stopped trying');
  expect((await lead.post(`jobs/${need.job}/retry`)).status).toBe(200);
  await rounds.once('jobs');
  expect(told(tracking)).toEqual([]);
  await lead.post('channels/web/connect', {
    ...(await lead.get('channels')).body.find((c: { code: string }) => c.code === 'web').link,
    key: '',
    active: true,
  });
  await lead.post(`jobs/${need.job}/retry`);
  await rounds.once('jobs');
  expect(told(tracking)).toHaveLength(1);
  expect((await lead.post(`jobs/${need.job}/retry`)).status).toBe(404);
});

test('a job of a kind that nobody does is refused', async () => {
  expect(house.app.get(Telling)).toBeDefined();
  const { JobsService } = await import('../src/jobs/jobs.service.js');
  const jobs = house.app.get(JobsService);
  await expect(
    house.db.tx({ personId: null, at: new Date() }, tx =>
      jobs.add(tx, [{ kind: 'fly', lane: 'x', payload: {}, subjectId: null }]),
    ),
  ).rejects.toThrow('No feature does jobs of the kind “fly”.');
});

test('a number that ends in /digits is told whole; a part is told under the number that the channel knows', async () => {
  await bringIn(lead, [
    ['2026/17', 'SED-PHA', 1, '2.50'],
    ['PART-1', 'SED-PHA', 4, '2.50'],
  ]);
  const whole = await departed(await idOfOrder(lead, '2026/17'));
  const id = await idOfOrder(lead, 'PART-1');
  const split = async (of: string) => {
    const { version, lines } = await view(of);
    const { body } = await lead.post(`orders/${of}/split`, {
      version,
      lines: [{ key: lines[0].key, quantity: 1 }],
    });
    return body.id as string;
  };
  const second = await split(id);
  await split(second).catch(() => undefined);
  const part = await departed(second);
  await house.app.get(Rounds).once('jobs');
  expect(told(whole.tracking)).toMatchObject([{ channelNumber: '2026/17' }]);
  expect(told(part.tracking)).toMatchObject([{ channelNumber: 'PART-1' }]);
});

test('numbers of parts never collide: not at once, not with a channel’s own, not when they are long', async () => {
  const long = `${'L'.repeat(36)}-${'9'.repeat(3)}`;
  await bringIn(lead, [
    ['COL-1', 'SED-PHA', 9, '2.50'],
    ['COL-1/3', 'SED-PHA', 1, '2.50', 'Another Buyer'],
    [long, 'SED-PHA', 5, '2.50'],
  ]);
  const splitOff = async (number: string) => {
    const id = await idOfOrder(lead, number);
    const { version, lines } = await view(id);
    return lead.post(`orders/${id}/split`, { version, lines: [{ key: lines[0].key, quantity: 1 }] });
  };
  expect((await splitOff('COL-1')).status).toBe(200);
  const both = await Promise.all([
    splitOff('COL-1'),
    splitOff('COL-1/2').catch(() => null),
    splitOff('COL-1'),
  ]);
  expect(both.map(b => b?.status ?? 0).every(s => s === 200 || s === 409 || s === 422)).toBe(true);
  expect((await splitOff(long)).status).toBe(200);
  const numbers = await house.db.rows<{ n: string }>(
    "SELECT channelNumber AS n FROM orders WHERE channelNumber LIKE 'COL-1%' OR channelNumber LIKE ? ORDER BY n",
    [`${long}%`],
  );
  expect(new Set(numbers.map(r => r.n)).size).toBe(numbers.length);
  expect(numbers.map(r => r.n)).toEqual(
    expect.arrayContaining(['COL-1/2', 'COL-1/3', 'COL-1/4', `${long}/2`]),
  );
  // The channel sends an order of its own that bears the number of our part: ours makes way, nothing is merged.
  const part = await idOfOrder(lead, 'COL-1/2');
  await bringIn(lead, [['COL-1/2', 'SED-CLO', 2, '2.50', 'A Third Buyer']]);
  const theirs = await idOfOrder(lead, 'COL-1/2');
  expect(theirs).not.toBe(part);
  expect((await view(theirs)).row.buyer).toBe('A Third Buyer');
  expect((await view(part)).row.channelNumber).toMatch(/^COL-1\/\d$/);
});

test('an edited order says what is due, in its word for payment and in the list', async () => {
  await bringIn(lead, [['DUE-1', 'SED-PHA', 1, '2.50']]);
  const id = await idOfOrder(lead, 'DUE-1');
  expect((await view(id)).settled).toBe('paid');
  const { version, lines } = await view(id);
  await lead.post(`orders/${id}/edit`, { version, lines: [{ key: lines[0].key, quantity: 3 }] });
  expect((await view(id)).settled).toBe('part paid');
  expect((await lead.get('orders?payment=part+paid&words=DUE-1')).body.rows[0].payment).toBe('part paid');
});

test('a lot expires once, also when two servers sweep in the same second', async () => {
  const sku = 'MIT-STR-10';
  const other = await house.secondServer();
  const before = (await productOf(lead, sku)).onHand;
  const [lot] = await house.db.rows<{ id: string; lies: number }>(
    `SELECT l.id, SUM(b.onHand) AS lies FROM lot l JOIN product x ON x.id = l.productId JOIN stockBalance b ON b.lotKey = l.id JOIN place p ON p.id = b.placeId
     WHERE x.sku = ? AND p.kind IN ('bin', 'reserve', 'dock') AND b.onHand > b.listed AND l.expiredAt IS NULL GROUP BY l.id ORDER BY l.expiry LIMIT 1`,
    [sku],
  );
  await house.db.run('UPDATE lot SET expiry = CURRENT_DATE - INTERVAL 1 DAY WHERE id = ?', [lot!.id]);
  const swept = await Promise.all([
    house.app.get(Expiry).sweep(new Date()),
    other.app.get(Expiry).sweep(new Date()),
    house.app.get(Expiry).sweep(new Date()),
    other.app.get(Expiry).sweep(new Date()),
  ]);
  await other.close();
  expect(swept.reduce((a, b) => a + b, 0)).toBeGreaterThanOrEqual(1);
  expect((await productOf(lead, sku)).onHand).toBe(before - Number(lot!.lies));
  expect(await differences(house)).toEqual([]);
});

test('two people count one place: the second is told that the count is of an older state', async () => {
  const sku = 'SMK-4-ST';
  const at = (await productOf(lead, sku)).places.find((p: { listed: number }) => p.listed === 0).code;
  const seen = await seenIn(lead, at);
  const { onHand } = (await lead.get(`places/${at}`)).body.stock.find((s: { sku: string }) => s.sku === sku);
  const office = await house.signIn('AB-1004');
  const count = (who: Caller, counted: number) =>
    who.post('stock/counts', { key: v7(), place: at, seen, lines: [{ sku, lot: null, counted }] });
  const answers = await Promise.all([count(lead, onHand + 2), count(office, onHand + 5)]);
  expect(answers.map(a => a.status).sort()).toEqual([200, 409]);
  const late = answers.find(a => a.status === 409)!;
  expect(late.body.detail).toContain('of an older state');
  const lies = (await lead.get(`places/${at}`)).body.stock.find((s: { sku: string }) => s.sku === sku).onHand;
  expect([onHand + 2, onHand + 5]).toContain(lies);
  // Goods that were moved meanwhile make a count old as well.
  const begun = await seenIn(lead, at);
  await lead.post('stock/moves', {
    key: v7(),
    sku,
    from: at,
    to: 'DOCK-1',
    quantity: 1,
    reason: 'in between',
  });
  const after = await lead.post('stock/counts', {
    key: v7(),
    place: at,
    seen: begun,
    lines: [{ sku, lot: null, counted: lies }],
  });
  expect([after.status, after.body.detail]).toEqual([409, expect.stringContaining('by Ines Maddow')]);
});

test('an edit and a picker who opens the list at the same moment leave no stop without its goods', async () => {
  for (let round = 0; round < 6; round++) {
    const number = `RACE-${round}`;
    await bringIn(lead, [[number, await plentiful(), 3, '2.50']]);
    const id = await idOfOrder(lead, number);
    const made = await lead.post('picking/lists', { orderIds: [id] });
    expect(made.status, JSON.stringify(made.body)).toBe(200);
    const { no } = made.body;
    const { version, lines } = await view(id);
    const [edit, open] = await Promise.all([
      lead.post(`orders/${id}/edit`, { version, undo: true, lines: [{ key: lines[0].key, quantity: 1 }] }),
      lead.post('picking/open', { code: no, device: 'd' }),
    ]);
    expect([200, 422]).toContain(edit.status);
    expect([200, 422]).toContain(open.status);
    if (edit.status === 200) expect(open.status, 'the list has nothing left').toBe(422);
    else {
      // The list was opened first: all of it can be picked.
      const { sessionId, state } = open.body;
      for (const stop of state.stops)
        for (const text of [stop.placeCode, stop.product.codes[0].code, 'AUK-ALL'])
          await lead.post(`picking/sessions/${sessionId}/scans`, scanOf(text));
      expect((await view(id)).row.stage).toBe('Picked');
    }
  }
});

test('a collection with nothing scanned is closed or called off, and its orders move on', async () => {
  const waiting = await house.db.rows<{ no: number; id: string; orders: number }>(
    "SELECT d.no, d.id, COUNT(*) AS orders FROM departure d JOIN orders o ON o.departureId = d.id AND o.isOpen WHERE d.state = 'open' GROUP BY d.id ORDER BY d.cutOff LIMIT 2",
  );
  const [first, second] = waiting;
  const closed = await lead.post(`departures/DE-${first!.no}/close`, { leaveBehind: true });
  expect(closed.body.state).toBe('closed');
  const packer = await house.signIn('AB-1002');
  expect(
    (await packer.post(`departures/DE-${second!.no}/cancel`, { reason: 'snow on the road' })).status,
  ).toBe(403);
  expect((await lead.post(`departures/DE-${second!.no}/cancel`, { reason: '' })).status).toBe(400);
  const cancelled = await lead.post(`departures/DE-${second!.no}/cancel`, { reason: 'snow on the road' });
  expect(cancelled.body).toMatchObject({ state: 'cancelled', reason: 'snow on the road', parcels: [] });
  const left = await house.db.rows('SELECT id FROM orders WHERE isOpen AND departureId IN (?)', [
    [first!.id, second!.id],
  ]);
  expect(left).toEqual([]);
  expect((await lead.post(`departures/DE-${second!.no}/scans`, scanOf('PA-1'))).status).toBe(422);
});

test('what is repeated with its key answers as the first time, also at the same moment', async () => {
  const sku = 'SMK-4-ST';
  const place = (await productOf(lead, sku)).places.find((p: { listed: number }) => p.listed === 0).code;
  const seen = async () => seenIn(lead, place);
  const acts: [string, () => Promise<Record<string, unknown>>][] = [
    ['stock/moves', async () => ({ sku, from: place, to: 'DOCK-1', quantity: 1, reason: 'repeat' })],
    ['stock/write-offs', async () => ({ sku, from: place, quantity: 1, reason: 'repeat' })],
    ['stock/counts', async () => ({ place, seen: await seen(), lines: [{ sku, lot: null, counted: 3 }] })],
    [
      'builds',
      async () => ({ sku: 'KIT-GARDEN', quantity: 1, due: null, bench: '', instruction: '', source: 'pick' }),
    ],
    [
      'receiving',
      async () => ({
        supplier: 'Hive & Hollow',
        reference: `R-${v7()}`,
        expected: null,
        note: '',
        lines: [{ sku, quantity: 2 }],
      }),
    ],
  ];
  for (const [path, body] of acts) {
    const wish = { key: v7(), ...(await body()) };
    const answers = await Promise.all([lead.post(path, wish), lead.post(path, wish), lead.post(path, wish)]);
    answers.push(await lead.post(path, wish));
    expect(
      answers.map(a => a.status),
      path,
    ).toEqual([200, 200, 200, 200]);
    for (const a of answers) expect(a.body, path).toEqual(answers[0]!.body);
    const other = path === 'stock/moves' ? 'stock/write-offs' : 'stock/moves';
    const misused = await lead.post(other, {
      key: wish.key,
      sku,
      from: place,
      to: 'DOCK-1',
      quantity: 1,
      reason: 'again',
    });
    expect(misused.status, path).toBe(409);
  }
  const moved = await house.db.one<{ n: number }>(
    "SELECT COUNT(*) AS n FROM stockMove WHERE reason = 'repeat'",
  );
  expect(moved!.n).toBe(2);
});

test('an act that was sent more than its keys are kept after it was made is refused', async () => {
  const made = Date.now() - (KEEP_ACT_DAYS + 1) * 86_400_000;
  const key = v7({ msecs: made });
  const late = await lead.post('stock/moves', {
    key,
    sku: 'SMK-4-ST',
    from: 'A-01-1',
    to: 'DOCK-1',
    quantity: 1,
    reason: 'late',
  });
  expect([late.status, late.body.detail]).toEqual([409, expect.stringContaining('more than a year')]);
});

test('orders of the demo stand for every payment', async () => {
  const rows = await house.db.rows<{ settled: string }>(
    'SELECT DISTINCT settled FROM orders ORDER BY settled',
  );
  expect(rows.map(r => r.settled)).toEqual(
    expect.arrayContaining(['on delivery', 'paid', 'part refunded', 'refunded', 'unpaid']),
  );
  expect((await ordersIn(lead, 'Cancelled', 1)).length).toBe(1);
});

test('nothing is in a list of none', async () => {
  expect(await house.db.rows('SELECT 1 AS n WHERE 1 IN (?)', [[]])).toEqual([]);
  expect(await house.db.run('UPDATE place SET zone = zone WHERE id IN (?)', [[]])).toBe(0);
});

test('two at once make one place: it is there once, and whoever was slower is told', async () => {
  const lead = await house.signIn('AB-1001');
  const place = { code: 'Z-09-9', kind: 'bin', zone: 'Z', capacity: null };
  const answers = await Promise.all([1, 2, 3, 4].map(() => lead.post('stock/places', place)));
  expect(answers.filter(a => a.status === 200).length).toBeGreaterThan(0);
  for (const a of answers.filter(a => a.status !== 200))
    expect([a.status, a.body.retry]).toEqual([409, 'now']);
  expect(await house.db.rows("SELECT id FROM place WHERE code = 'Z-09-9'")).toHaveLength(1);
});
