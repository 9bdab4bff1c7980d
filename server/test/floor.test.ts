import { v7 } from 'uuid';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { listAndPick, orderCsv, ordersIn, scanOf } from './drive.js';
import { type Caller, differences, type House, openHouse } from './house.js';

let house: House;
let lead: Caller;
beforeAll(async () => {
  house = await openHouse({ pastOrders: 0, openOrders: 120 });
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

test('a released list reserves places hard: each stop is held in its place, stops go aisle by aisle', async () => {
  const { no, stops } = await openList(8);
  const view = (await lead.get(`picking/lists/${no}`)).body;
  expect(view.rows).toHaveLength(stops.length);
  const aisles = view.rows.map((r: { aisle: number }) => r.aisle);
  expect(aisles).toEqual(aisles.toSorted((a: number, b: number) => a - b));
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
  const rows = await house.db.rows<{ sku: string; onHand: number }>(
    `SELECT p.sku, MIN(b.onHand) AS onHand FROM stockBalance b JOIN product p ON p.id = b.productId JOIN place l ON l.id = b.placeId AND l.kind = 'bin'
     WHERE p.kind = 'piece' AND b.onHand - b.listed > 2 GROUP BY p.id HAVING COUNT(*) > 1 LIMIT 1`,
  );
  expect(rows).toHaveLength(1);
  await import_([`A-1,Ruth,1 Road,Boise,ID,83702,${rows[0]!.sku},Thing,1,2.50`]);
  const [id] = (await lead.get('orders?words=A-1&stage=Clear')).body.rows.map((r: { id: string }) => r.id);
  const { no } = (await lead.post('picking/lists', { orderIds: [id] })).body;
  const { sessionId, state } = (await lead.post('picking/open', { code: no, device: 'floor' })).body;
  const path = `picking/sessions/${sessionId}/scans`;
  await lead.post(path, scanOf(state.stops[0].placeCode));
  await lead.post(path, scanOf('AUK-SHORT'));
  expect((await lead.get(`orders/${id}`)).body.row.stage).toBe('Clear');
  const second = (await lead.post('picking/lists', { orderIds: [id] })).body.no;
  const again = (await lead.get(`picking/lists/${second}`)).body.rows[0];
  expect(again.quantity).toBe(1);
  expect(await differences(house)).toEqual([]);
});

test('a whole list picked by scans makes every order Picked', async () => {
  const ids = await ordersIn(lead, 'Clear', 4);
  const no = await listAndPick(lead, ids);
  expect((await lead.get(`picking/lists/${no}`)).body.state).toBe('done');
  for (const id of ids) expect((await lead.get(`orders/${id}`)).body.row.stage).toBe('Picked');
  expect(await differences(house)).toEqual([]);
});
