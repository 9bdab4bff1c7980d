import { afterAll, beforeAll, beforeEach, expect, test } from 'vitest';
import { Labels } from '../src/labels/labels.service.js';
import { bringIn, idOfOrder, listAndPick, packAndClose, scanOf, wishOf } from './drive.js';
import { type Caller, differences, type House, openHouse } from './house.js';
import { bookOf, saveBook, settle } from './ruleBooks.js';

let house: House;
let lead: Caller;
beforeAll(async () => {
  house = await openHouse('small');
  lead = await house.signIn('AB-1001');
  await saveBook(
    lead,
    bookOf(
      'By ground | at arrival, always do send by "redfen ground"',
      'Ahead | at clear, always do buy its label unattended',
    ),
  );
  await lead.post('rules/spending/caps', {
    labelMinor: 5_000,
    dayMinor: 100_000,
    rules: { 'r-2': 100_000, 'r-3': 100_000 },
  });
});
afterAll(() => house.close());
beforeEach(() => house.db.run('UPDATE unattended SET day = day - INTERVAL 40 DAY'));

const spending = async () => (await lead.get('rules/spending')).body;
const sold = (parcelNo: string) =>
  house.standins.desks
    .get('redfen')!
    .kept.sold.all()
    .filter(s => s.reference === parcelNo);
const parcelOf = async (parcelNo: string) =>
  (await lead.get('parcels')).body.find((p: { no: string }) => p.no === parcelNo);
const stageOf = async (id: string) => (await lead.get(`orders/${id}`)).body.row.stage;

/** An order that is Clear and whose label was bought before anybody packed. */
async function bought(
  number: string,
  sku = 'FRK-UNC',
  quantity = 1,
): Promise<{ id: string; no: string; parcelNo: string }> {
  await bringIn(lead, [[number, sku, quantity, '9.00']]);
  await settle(house);
  const id = await idOfOrder(lead, number);
  const { row, parcels } = (await lead.get(`orders/${id}`)).body;
  return { id, no: row.no, parcelNo: parcels[0]?.no };
}

/** Packs an order in a box and with a weight; gives the bench's view before anything was in, and after. */
async function packIn(no: string, box: string | null, weight: string | null) {
  const opened = (await lead.post('packing/open', { code: no, device: 'test-device' })).body;
  const { sessionId, state } = opened;
  const scan = (text: string) => lead.post(`packing/sessions/${sessionId}/scans`, scanOf(text));
  for (const l of state.lines) for (let i = 0; i < l.wanted; i++) await scan(l.product.codes[0].code);
  if (box) await scan(box);
  const planned = (await parcelOf(opened.parcels[0].no)).weightMg;
  await scan(weight ?? `${planned / 1_000} g`);
  await scan('AUK-YES');
  await scan('AUK-CLOSE');
  return { opened, closed: (await lead.get(`packing/sessions/${sessionId}`)).body };
}

test('a label bought when its order is clear is for the planned box and weight; packed so, it is the label', async () => {
  const { id, no, parcelNo } = await bought('AH-1');
  expect(await stageOf(id)).toBe('Clear');
  expect(await parcelOf(parcelNo)).toMatchObject({ state: 'labelled ahead', tracking: expect.any(String) });
  expect(await spending()).toMatchObject({ labels: 1, rows: [{ parcel: parcelNo, state: 'bought' }] });
  expect(sold(parcelNo)).toHaveLength(1);
  // Nothing of it is on a truck yet.
  const { departureNo } = await parcelOf(parcelNo);
  const scanned = await lead.post(`departures/${departureNo}/scans`, scanOf(parcelNo));
  expect(scanned.body.answer).toMatchObject({
    kind: 'refused',
    says: `${parcelNo} is not packed yet; its label was bought ahead.`,
  });
  await listAndPick(lead, [id]);
  const { opened, closed } = await packIn(no, null, null);
  expect(opened.parcels).toMatchObject([
    { no: parcelNo, closed: false, label: { state: 'bought' }, misfit: null },
  ]);
  expect(closed.parcels).toMatchObject([
    { no: parcelNo, closed: true, label: { state: 'bought' }, misfit: null },
  ]);
  expect(await stageOf(id)).toBe('Labelled');
  expect((await lead.post(`departures/${departureNo}/scans`, scanOf(parcelNo))).body.answer.kind).toBe(
    'counted',
  );
  expect(sold(parcelNo)).toHaveLength(1);
  expect(await differences(house)).toEqual([]);
});

test('it prints at the bench that opens the order, and not before; what is answered late prints there too', async () => {
  const packer = await house.signIn('AB-1002');
  expect((await packer.post('benches/BE-1/take', { device: 'test-device' })).status).toBe(200);
  const papers = async (parcelNo: string) =>
    (await packer.get('benches/tray')).body.filter(
      (j: { kind: string; what: string }) => j.kind === 'label' && j.what.startsWith(`${parcelNo}, `),
    );
  const first = await bought('AH-2');
  expect(await papers(first.parcelNo)).toEqual([]);
  house.standins.misbehave('redfen', { on: 'buy', how: 'fail after', times: 1 });
  const late = await bought('AH-3');
  await listAndPick(lead, [first.id, late.id]);
  await packer.post('packing/open', { code: first.no, device: 'test-device' });
  expect(await papers(first.parcelNo)).toHaveLength(1);
  await packer.post('packing/open', { code: first.no, device: 'test-device' });
  expect(await papers(first.parcelNo)).toHaveLength(1);
  await packer.post('packing/open', { code: late.no, device: 'test-device' });
  expect(await papers(late.parcelNo)).toEqual([]);
  await house.db.run("UPDATE label SET askedAt = askedAt - INTERVAL 60 SECOND WHERE state = 'unknown'");
  await house.app.get(Labels).recover();
  expect(await papers(late.parcelNo)).toHaveLength(1);
  expect(sold(late.parcelNo)).toHaveLength(1);
});

test('another box or weight makes the label wrong: it leaves with nothing until it is voided and bought anew', async () => {
  const { id, no, parcelNo } = await bought('AH-4');
  const { minor } = await spending();
  await listAndPick(lead, [id]);
  const { closed } = await packIn(no, 'BX-3', '3 lb');
  expect(closed.parcels[0].misfit).toMatch(/^Its label was bought for BX-\d, .*; it is BX-3, 3 lb/);
  expect(await stageOf(id)).toBe('Packed');
  const { state, departureNo } = await parcelOf(parcelNo);
  expect(state).toBe('wrong label');
  const scanned = await lead.post(`departures/${departureNo}/scans`, scanOf(parcelNo));
  expect(scanned.body.answer.says).toMatch(/^PA-\d+ has a wrong label\. Its label was bought for/);
  expect((await lead.post(`parcels/${parcelNo}/void`, {})).status).toBe(200);
  expect(await parcelOf(parcelNo)).toMatchObject({ state: 'packed' });
  const { offers } = (await lead.get(`parcels/${parcelNo}/offers`)).body;
  expect((await lead.post(`parcels/${parcelNo}/label`, wishOf(offers[0]))).body.state).toBe('bought');
  expect(await stageOf(id)).toBe('Labelled');
  // What was voided stays spent.
  expect((await spending()).minor).toBe(minor);
  expect(await differences(house)).toEqual([]);
});

test('what cannot be told before it is packed is not bought, once and with its reason; at packed it is', async () => {
  await saveBook(
    lead,
    bookOf(
      'By ground | at arrival, always do send by "redfen ground"',
      'Ahead | at clear, always do buy its label unattended',
      'Then | at packed, always do buy its label unattended',
    ),
  );
  const many = await bought('AH-5', 'HVB-DP-A', 8);
  expect(many.parcelNo).toBeUndefined();
  const { rows } = await spending();
  expect(rows).toMatchObject([
    {
      parcel: '',
      order: 'AH-5',
      state: 'refused',
      why: expect.stringMatching(/^It takes \d+ parcels; their labels are/),
    },
  ]);
  const { history } = (await lead.get(`orders/${many.id}`)).body;
  expect(history.at(-1).says).toMatch(/^Its label was not bought unattended\. It takes \d+ parcels/);
  await lead.post('rules/again', { ids: [many.id] });
  await settle(house);
  expect((await spending()).rows).toHaveLength(1);
  // A person has chosen two boxes for what would go into one.
  await bringIn(lead, [['AH-8', 'FRK-UNC', 2, '9.00']]);
  const two = await idOfOrder(lead, 'AH-8');
  const service = { carrier: 'redfen', account: '', service: 'ground', name: 'Redfen Ground' };
  const chosen = { ...service, boxes: ['BX-1', 'BX-1'] };
  expect((await lead.post(`rating/orders/${two}`, { chosen })).status).toBe(200);
  await settle(house);
  expect((await spending()).rows[0]).toMatchObject({
    order: 'AH-8',
    why: 'It takes 2 parcels; their labels are bought when they are packed.',
  });
  // One that the bench was faster with.
  await bringIn(lead, [['AH-6', 'FRK-UNC', 1, '9.00']]);
  const id = await idOfOrder(lead, 'AH-6');
  await listAndPick(lead, [id]);
  const { row } = (await lead.get(`orders/${id}`)).body;
  const { parcelNo } = await packAndClose(lead, row.no);
  await settle(house);
  expect(sold(parcelNo)).toHaveLength(1);
});

test('an order with a label bought ahead is changed and cancelled only when that was given back', async () => {
  const { id, parcelNo } = await bought('AH-7');
  const { version, shipTo } = (await lead.get(`orders/${id}`)).body;
  const edit = { version, shipTo: { ...shipTo, line1: '2 Road' } };
  const refused = await lead.post(`orders/${id}/edit`, edit);
  expect(refused.status).toBe(422);
  expect(refused.body).toMatchObject({
    detail: expect.stringContaining(`${parcelNo} has its label already`),
    cure: 'Void its label under Parcels, then do it again.',
  });
  expect((await lead.post(`parcels/${parcelNo}/void`, {})).status).toBe(200);
  const cancelled = await lead.post(`orders/${id}/cancel`, { reason: 'The buyer asked.' });
  expect(cancelled.body).toBeDefined();
  expect(cancelled.status).toBe(200);
  expect(await differences(house)).toEqual([]);
});
