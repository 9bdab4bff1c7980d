import { pathThrough } from '@auk/core';
import { LAYOUT } from '@auk/demo';
import { v7 } from 'uuid';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { listAndPick, orderCsv, ordersIn, pickAll, scanOf } from './drive.js';
import { type Caller, differences, type House, openHouse } from './house.js';

let house: House;
let lead: Caller;
beforeAll(async () => {
  house = await openHouse();
  lead = await house.signIn('AB-1001');
});
afterAll(() => house.close());

interface Stop {
  id: string;
  placeCode: string;
  wanted: number;
  taken: number;
  product: { sku: string; codes: { code: string; units: number }[] };
  tote: { code: string; mark: string };
}

/** A list of some Clear orders, opened on the Floor. */
async function openList(orders: number): Promise<{ no: string; path: string; stops: Stop[] }> {
  const { body } = await lead.post('picking/lists', { orderIds: await ordersIn(lead, 'Clear', orders) });
  const opened = (await lead.post('picking/open', { code: body.no, device: 'floor' })).body;
  return { no: body.no, path: `picking/sessions/${opened.sessionId}/scans`, stops: opened.state.stops };
}

async function import_(rows: string[]): Promise<void> {
  expect((await lead.takeIn('orders', 'channel=web&name=f.csv', orderCsv(rows))).status).toBe(200);
}

test('a released list reserves places hard: each stop is held in its place, stops go along the walk that is said', async () => {
  const { no, stops } = await openList(8);
  const view = (await lead.get(`picking/lists/${no}`)).body;
  expect(view.rows).toHaveLength(stops.length);
  const spots = view.rows.map((r: { aisle: number; along: number }) => ({ aisle: r.aisle, along: r.along }));
  const path = pathThrough(LAYOUT, [...spots, LAYOUT.end]);
  const walked = path
    .slice(1)
    .reduce((n, p, i) => n + Math.abs(p.x - path[i]!.x) + Math.abs(p.y - path[i]!.y), 0);
  expect(Math.round(walked / 10_000)).toBe(view.metres);
  for (const stop of stops.slice(0, 3)) {
    const place = (await lead.get(`places/${stop.placeCode}`)).body;
    const held = place.stock.find((s: { sku: string }) => s.sku === stop.product.sku);
    expect(held.listed).toBeGreaterThanOrEqual(stop.wanted);
    expect(held.onHand).toBeGreaterThanOrEqual(held.listed);
  }
  expect(await differences(house)).toEqual([]);
});

test('every order of a list has a tote of its own, busy until it is packed', async () => {
  const { no } = await openList(5);
  const rows = (await lead.get(`picking/lists/${no}`)).body.rows as { tote: string; order: string }[];
  const totes = new Map(rows.map(r => [r.order, r.tote]));
  expect(new Set(totes.values()).size).toBe(totes.size);
  for (const r of rows) expect(r.tote).toBe(totes.get(r.order));
  const busy = await house.db.one<{ n: number }>(
    "SELECT COUNT(*) AS n FROM place WHERE kind = 'tote' AND busyWith IS NOT NULL",
  );
  expect(busy!.n).toBeGreaterThanOrEqual(totes.size);
});

test('taking moves pieces from the place into the tote; undo moves them back', async () => {
  const { path, stops } = await openList(1);
  const stop = stops[0]!;
  const onHand = async (code: string) =>
    (await lead.get(`places/${code}`)).body.stock.find((s: { sku: string }) => s.sku === stop.product.sku)
      ?.onHand ?? 0;
  const before = await onHand(stop.placeCode);
  await lead.post(path, scanOf(stop.placeCode));
  await lead.post(path, scanOf(stop.product.codes[0]!.code));
  expect([await onHand(stop.placeCode), await onHand(stop.tote.code)]).toEqual([before - 1, 1]);
  await lead.post(path, scanOf('AUK-UNDO'));
  expect([await onHand(stop.placeCode), await onHand(stop.tote.code)]).toEqual([before, 0]);
  expect(await differences(house)).toEqual([]);
});

test('a case code counts its pack, on the Floor as at the Bench', async () => {
  await import_(['C-1,Ruth,1 Road,Boise,ID,83702,JAR-HEX-12,Jar,12,1.35']);
  const [id] = (await lead.get('orders?words=C-1&stage=Clear')).body.rows.map((r: { id: string }) => r.id);
  const { no } = (await lead.post('picking/lists', { orderIds: [id] })).body;
  const { sessionId, state } = (await lead.post('picking/open', { code: no, device: 'floor' })).body;
  const path = `picking/sessions/${sessionId}/scans`;
  await lead.post(path, scanOf(state.stops[0].placeCode));
  expect((await lead.post(path, scanOf('CASE-JAR-HEX-12'))).body.answer.kind).toBe('complete');
  const bench = (await lead.post('packing/open', { code: state.stops[0].tote.code, device: 'bench' })).body;
  const packed = await lead.post(`packing/sessions/${bench.sessionId}/scans`, scanOf('CASE-JAR-HEX-12'));
  expect(packed.body.answer.says).toBe('Everything is in.');
});

test('a list opened on another device goes on where it stood', async () => {
  const { no, path, stops } = await openList(2);
  await lead.post(path, scanOf(stops[0]!.placeCode));
  await lead.post(path, scanOf(stops[0]!.product.codes[0]!.code));
  const picker = await house.signIn('AB-1003');
  const again = (await picker.post('picking/open', { code: no, device: 'another' })).body;
  expect(again.state.stops[0].taken).toBe(1);
  expect((await lead.get('picking/lists')).body.find((l: { no: string }) => l.no === no)).toMatchObject({
    state: 'picking',
    picker: 'Wren Okoye',
    taken: 1,
  });
});

test('lists that cannot be: no orders, unknown orders, one order twice, more orders than totes', async () => {
  expect((await lead.post('picking/lists', { orderIds: [] })).status).toBe(400);
  expect((await lead.post('picking/lists', { orderIds: [v7()] })).status).toBe(422);
  const [id] = await ordersIn(lead, 'Clear', 1);
  const made = await lead.post('picking/lists', { orderIds: [id, id] });
  expect(made.status).toBe(200);
  expect((await lead.get(`picking/lists/${made.body.no}`)).body.orders).toBe(1);
  expect((await lead.post('picking/lists', { orderIds: [id] })).status).toBe(409);
  await house.db.run("UPDATE place SET busyWith = id WHERE kind = 'tote' AND busyWith IS NULL");
  const refused = await lead.post('picking/lists', { orderIds: await ordersIn(lead, 'Clear', 2) });
  await house.db.run("UPDATE place SET busyWith = NULL WHERE kind = 'tote' AND busyWith = id");
  expect(refused.status).toBe(422);
  expect(refused.body.detail).toContain('Only 0 totes are free');
  expect(await differences(house)).toEqual([]);
});

test('two leads make a list of one order at the same moment: one gets it, the other is told', async () => {
  const [id] = await ordersIn(lead, 'Clear', 1);
  const both = await Promise.all([
    lead.post('picking/lists', { orderIds: [id] }),
    lead.post('picking/lists', { orderIds: [id] }),
  ]);
  expect(both.map(b => b.status).toSorted((a, b) => a - b)).toEqual([200, 409]);
  expect(both.find(b => b.status === 409)!.body.detail).toContain('is Listed, not Clear');
  expect(await differences(house)).toEqual([]);
});

test('a shortage is served from another place when there is one', async () => {
  const { places } = (await lead.get('products/SMK-4-ST')).body;
  const spare = (await house.db.one<{ code: string }>(
    "SELECT code FROM place WHERE kind = 'bin' AND code <> ? AND id NOT IN (SELECT placeId FROM stockBalance WHERE onHand > 0) ORDER BY code LIMIT 1",
    [places[0].code],
  ))!;
  const act = {
    key: v7(),
    sku: 'SMK-4-ST',
    from: places[0].code,
    to: spare.code,
    quantity: 3,
    reason: 'room',
  };
  expect((await lead.post('stock/moves', act)).status).toBe(200);
  await import_(['A-1,Ruth,1 Road,Boise,ID,83702,SMK-4-ST,Smoker,1,31.00']);
  const [id] = (await lead.get('orders?words=A-1&stage=Clear')).body.rows.map((r: { id: string }) => r.id);
  const { no } = (await lead.post('picking/lists', { orderIds: [id] })).body;
  const { sessionId, state } = (await lead.post('picking/open', { code: no, device: 'floor' })).body;
  const path = `picking/sessions/${sessionId}/scans`;
  await lead.post(path, scanOf(state.stops[0].placeCode));
  const short = (await lead.post(path, scanOf('AUK-SHORT'))).body;
  // The other place is the next stop of the same walk, into the same tote.
  const [first, added] = short.state.stops;
  expect(short.answer.says).toContain(`1 piece of ${first.product.name} lies at ${added.placeCode} too`);
  expect([added.wanted, added.tote.code]).toEqual([1, first.tote.code]);
  expect(added.placeCode).not.toBe(first.placeCode);
  expect((await lead.get(`orders/${id}`)).body.row.stage).toBe('Listed');
  expect((await lead.get(`picking/lists/${no}`)).body).toMatchObject({ state: 'picking', stops: 2 });
  expect(await differences(house)).toEqual([]);
  await lead.post(path, scanOf(added.placeCode));
  const taken = (await lead.post(path, scanOf(first.product.codes[0].code))).body;
  expect(taken.answer.says).toBe('List complete, 1 piece not found.');
  expect((await lead.get(`orders/${id}`)).body.row.stage).toBe('Picked');
  expect(await differences(house)).toEqual([]);
});

test('a whole list picked by scans makes every order Picked', async () => {
  const ids = await ordersIn(lead, 'Clear', 4);
  const no = await listAndPick(lead, ids);
  expect((await lead.get(`picking/lists/${no}`)).body.state).toBe('done');
  for (const id of ids) expect((await lead.get(`orders/${id}`)).body.row.stage).toBe('Picked');
  expect(await differences(house)).toEqual([]);
});

test('two pickers who take the next list at one moment get two, and each goes on with their own', async () => {
  const orders = await ordersIn(lead, 'Clear', 6);
  for (const part of [orders.slice(0, 2), orders.slice(2, 4), orders.slice(4)])
    expect((await lead.post('picking/lists', { orderIds: part })).status).toBe(200);
  const [one, two] = [await house.signIn('AB-1003'), await house.signIn('AB-1002')];
  const next = (who: Caller, device: string) => who.post('picking/next', { device });
  const taken = await Promise.all([next(one, 'phone-1'), next(two, 'phone-2')]);
  expect(taken.map(t => t.status)).toEqual([200, 200]);
  const numbers = taken.map(t => t.body.state.listNo);
  expect(new Set(numbers).size).toBe(2);
  // Battery empty: the same list on another device, not one more.
  expect((await next(one, 'phone-3')).body.state.listNo).toBe(numbers[0]);
  expect(await differences(house)).toEqual([]);
});

test('a list that was set aside for somebody is theirs next, and nobody else’s', async () => {
  const waiting = (await lead.get('picking/lists')).body.filter(
    (l: { state: string }) => l.state === 'released',
  );
  for (const l of waiting) await pickAll(lead, l.no);
  const orders = await ordersIn(lead, 'Clear', 4);
  const made = [orders.slice(0, 2), orders.slice(2)].map(part =>
    lead.post('picking/lists', { orderIds: part }),
  );
  const [first, second] = (await Promise.all(made)).map(m => m.body.no).sort();
  const { id } = (await lead.get('picking/pickers')).body.find(
    (p: { name: string }) => p.name === 'Mika Solberg',
  );
  expect((await lead.post(`picking/lists/${second}/hand`, { personId: id })).status).toBe(200);
  const nobody = await lead.post(`picking/lists/${first}/hand`, { personId: v7() });
  expect(nobody).toMatchObject({ status: 404, body: { cure: 'Choose somebody who works here.' } });
  const mika = await house.signIn('AB-1006');
  expect((await lead.get(`picking/lists/${second}`)).body.for).toBe('Mika Solberg');
  expect((await mika.post('picking/next', { device: 'm' })).body.state.listNo).toBe(second);
  // Being picked, it is handed to nobody any more; the other one may not be handed over by a picker.
  expect(await lead.post(`picking/lists/${second}/hand`, { personId: null })).toMatchObject({
    status: 409,
    body: { detail: `${second} is being picked already.` },
  });
  expect((await mika.post(`picking/lists/${first}/hand`, { personId: id })).status).toBe(403);
  const office = await house.signIn('AB-1004');
  expect((await office.post('picking/next', { device: 'o' })).status).toBe(403);
});

test('where no list waits, taking the next says so', async () => {
  for (const l of (await lead.get('picking/lists')).body)
    if (l.state === 'released') await pickAll(lead, l.no);
  const abel = await house.signIn('AB-1005');
  expect(await abel.post('picking/next', { device: 'a' })).toMatchObject({
    status: 404,
    body: { cure: 'Ask the lead to release one under Pick.' },
  });
});
