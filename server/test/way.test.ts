import { isS10 } from '@auk/core';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { Rounds } from '../src/leases/rounds.service.js';
import { listAndPick, orderCsv, ordersIn, packAndClose, scanOf, wishOf } from './drive.js';
import { type Caller, differences, type House, openHouse } from './house.js';

let house: House;
let lead: Caller;
beforeAll(async () => {
  house = await openHouse();
  lead = await house.signIn('AB-1001');
});
afterAll(() => house.close());

test('the demo stands on its ledger', async () => {
  expect(await differences(house)).toEqual([]);
});

test('one order goes the whole way, and the stock is right after it', async () => {
  const before = (await lead.get('products/JAR-HEX-12')).body;
  const csv = orderCsv([
    'T-1,Ruth Penrose,1 Alder Lane,Boise,ID,83702,JAR-HEX-12,Jar,2,1.35',
    'T-1,Ruth Penrose,1 Alder Lane,Boise,ID,83702,SET-SMKHTL,Smoker set,1,46',
  ]);
  const taken = await lead.takeIn('orders', 'channel=web&name=t.csv', csv);
  expect(taken.body.counts).toMatchObject({ new: 1, same: 0, badRows: 0 });
  expect(taken.body.stages).toEqual({ Clear: 1 });
  const [id] = (await lead.get('orders?words=T-1&stage=Clear')).body.rows.map((r: { id: string }) => r.id);
  await listAndPick(lead, [id]);
  const view = await packAndClose(lead, (await lead.get(`orders/${id}`)).body.row.no);
  expect(view.state.parcels.every((p: { closed: boolean }) => p.closed)).toBe(true);
  const { offers } = (await lead.get(`parcels/${view.parcelNo}/offers`)).body;
  const kept = offers.filter((o: { keeps: boolean }) => o.keeps);
  expect(kept.map((o: { minor: number }) => o.minor)).toEqual(
    kept.map((o: { minor: number }) => o.minor).toSorted((a: number, b: number) => a - b),
  );
  const heron = offers.find((o: { carrier: string }) => o.carrier === 'heron');
  const label = (await lead.post(`parcels/${view.parcelNo}/label`, wishOf(heron))).body;
  expect(label).toMatchObject({ state: 'bought', minor: heron.minor });
  expect(isS10(label.tracking)).toBe(true);
  expect((await lead.get(`parcels/${view.parcelNo}/label.pdf`)).body.slice(0, 5)).toBe('%PDF-');
  const departure = { no: (await lead.get(`orders/${id}`)).body.parcels[0].departureNo };
  expect((await lead.post(`departures/${departure.no}/scans`, scanOf(label.tracking))).body.answer.tone).toBe(
    'right',
  );
  expect((await lead.post(`departures/${departure.no}/scans`, scanOf(view.parcelNo))).body.answer.tone).toBe(
    'info',
  );
  const others = (await lead.get(`departures/${departure.no}`)).body.parcels.filter(
    (p: { scanned: boolean }) => !p.scanned,
  );
  const early = await lead.post(`departures/${departure.no}/close`);
  expect(early.status).toBe(others.length > 0 ? 422 : 200);
  if (early.status === 422)
    expect((await lead.post(`departures/${departure.no}/close`, { leaveBehind: true })).body.state).toBe(
      'closed',
    );
  expect((await lead.get(`orders/${id}`)).body.row.stage).toBe('Departed');
  const behind = await house.db.rows(
    "SELECT o.id FROM orders o JOIN departure d ON d.id = o.departureId WHERE d.state = 'closed' AND o.stage NOT IN ('Departed', 'Cancelled')",
  );
  expect(behind).toEqual([]);
  const after = (await lead.get('products/JAR-HEX-12')).body;
  expect(after.onHand).toBe(before.onHand - 2);
  expect(after.reserved).toBe(before.reserved);
  await house.app.get(Rounds).once('jobs');
  expect(house.standins.told.all().map(t => t.tracking)).toContain(label.tracking);
  expect(await differences(house)).toEqual([]);
});

test('the same scan again gets the same answer and counts once', async () => {
  const [id] = await ordersIn(lead, 'Picked', 1);
  const { sessionId, state } = (
    await lead.post('packing/open', {
      code: (await lead.get(`orders/${id}`)).body.row.no,
      device: 'test-device',
    })
  ).body;
  const scan = scanOf(state.lines[0].product.codes[0].code);
  const path = `packing/sessions/${sessionId}/scans`;
  const all = await Promise.all([lead.post(path, scan), lead.post(path, scan), lead.post(path, scan)]);
  expect(new Set(all.map(a => JSON.stringify(a.body.answer))).size).toBe(1);
  expect(all.filter(a => !a.body.repeated)).toHaveLength(1);
  expect((await lead.get(`packing/sessions/${sessionId}`)).body.state.lines[0].packed).toBe(1);
});

test('a shortage is told, the order is Short, and undo finds the pieces again', async () => {
  const [id] = await ordersIn(lead, 'Clear', 1);
  const { no } = (await lead.post('picking/lists', { orderIds: [id] })).body;
  const { sessionId, state } = (await lead.post('picking/open', { code: no, device: 'd' })).body;
  const stop = state.stops[0];
  const before = (await lead.get(`products/${stop.product.sku}`)).body.onHand;
  const path = `picking/sessions/${sessionId}/scans`;
  await lead.post(path, scanOf(stop.placeCode));
  expect((await lead.post(path, scanOf('AUK-SHORT'))).body.answer.tone).not.toBe('wrong');
  expect((await lead.get(`products/${stop.product.sku}`)).body.onHand).toBe(before - stop.wanted);
  expect(await differences(house)).toEqual([]);
  await lead.post(path, scanOf('AUK-UNDO'));
  expect((await lead.get(`products/${stop.product.sku}`)).body.onHand).toBe(before);
  expect((await lead.get(`orders/${id}`)).body.row.stage).toBe('Listed');
  expect(await differences(house)).toEqual([]);
});

test('a linked listing frees every order that waited for it', async () => {
  const csv = orderCsv([
    'L-1,A Person,1 Road,Boise,ID,83702,NEW-SKU,New thing,1,9',
    'L-2,B Person,1 Road,Boise,ID,83702,NEW-SKU,New thing,2,9',
  ]);
  const { body } = await lead.takeIn('orders', 'channel=web&name=l.csv', csv);
  expect(body.stages).toEqual({ Stopped: 2 });
  expect(
    (await lead.post('listings/link-sku', { channelSku: 'NEW-SKU', sku: 'SED-CLO' })).body,
  ).toMatchObject({
    freed: 2,
  });
  expect((await lead.get('orders?words=L-&stage=Clear')).body.count.n).toBe(2);
  expect(await differences(house)).toEqual([]);
});
