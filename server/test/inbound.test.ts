import { v7 } from 'uuid';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { Rounds } from '../src/leases/rounds.service.js';
import { idOfOrder, pickAll, scanOf } from './drive.js';
import { type Caller, differences, type House, openHouse } from './house.js';

let house: House;
let lead: Caller;
beforeAll(async () => {
  house = await openHouse({ pastOrders: 20, openOrders: 5 });
  lead = await house.signIn('AB-1001');
});
afterAll(() => house.close());

const FERNWAY = 'Fernway Centers';
const desk = () => house.standins.networks.get('network')!.inbound;
// biome-ignore lint/suspicious/noExplicitAny: a view of the API
const view = async (no: string): Promise<any> => (await lead.get(`inbound/${no}`)).body;
const sections = async (no: string) =>
  Object.fromEntries((await view(no)).sections.map((s: { section: string }) => [s.section, s]));
const round = async (...names: string[]) => {
  for (const n of names) await house.app.get(Rounds).once(n);
};

/** A draft with some goods, with the codes asked. */
async function draft(lines: [sku: string, units: number][], network = FERNWAY): Promise<string> {
  const { no } = (await lead.post('inbound', { key: v7(), network })).body;
  for (const [sku, units] of lines)
    expect((await lead.post(`inbound/${no}/lines`, { sku, units })).status).toBe(200);
  expect((await lead.post(`inbound/${no}/codes`)).status).toBe(200);
  return no;
}

/** Chooses the cheapest way of a kind, by the network's carrier. */
async function choose(no: string, placement: 'one dock' | 'spread', form = 'parcels'): Promise<void> {
  const { table } = (await lead.get(`inbound/${no}/ways`)).body;
  const way = table.ways.find(
    (w: { placement: string; rates: string; form: string }) =>
      w.placement === placement && w.rates === 'theirs' && w.form === form,
  );
  const { carrier, rates } = way;
  const chosen = await lead.post(`inbound/${no}/way`, { placement, form, carrier, rates });
  expect(chosen.status, JSON.stringify(chosen.body)).toBe(200);
}

/** Reserves, picks and packs all parts as they are planned. */
async function packed(no: string): Promise<void> {
  const reserved = await lead.post(`inbound/${no}/reserve`, { key: v7() });
  expect(reserved.status, JSON.stringify(reserved.body)).toBe(200);
  for (const part of (await view(no)).parts) {
    const list = await lead.post('picking/lists', { orderIds: [part.order.id] });
    expect(list.status, JSON.stringify(list.body)).toBe(200);
    await pickAll(lead, list.body.no);
    await packAsPlanned(part.order.no);
  }
  await round('stages passed');
}

/** Packs an order into the boxes that were planned for it, and weighs each as what should be in it. */
async function packAsPlanned(no: string): Promise<void> {
  const opened = await lead.post('packing/open', { code: no, device: 'test-device' });
  const { sessionId, state } = opened.body;
  expect(state.planned.length).toBeGreaterThan(0);
  const scan = async (text: string) =>
    (await lead.post(`packing/sessions/${sessionId}/scans`, scanOf(text))).body;
  for (const [i, holds] of state.planned.entries()) {
    let mg = state.boxes.find((b: { code: string }) => b.code === state.proposed[i]).tareMg;
    for (const l of state.lines) {
      const units = holds[l.id] ?? 0;
      if (units === 0) continue;
      mg += units * l.piece.weightMg;
      await scan(l.product.codes[0].code);
      const after = units > 1 ? await scan('AUK-ALL') : null;
      if (after) expect(after.state.parcels.at(-1).holds[l.id]).toBe(units);
    }
    await scan(`${mg / 1_000} g`);
    const after = await scan(i === state.planned.length - 1 ? 'AUK-CLOSE' : 'AUK-NEXTBOX');
    expect(after.answer.tone, JSON.stringify(after.answer)).not.toBe('wrong');
  }
}

test('one dock from draft to Closed: codes, way, reserved, packed as planned, booked once, counted in', async () => {
  const no = await draft([
    ['HTL-J10', 30],
    ['BRS-BEE', 12],
  ]);
  expect((await sections(no)).codes).toMatchObject({ done: true, says: '2 of 2 agree' });
  await choose(no, 'one dock');
  await packed(no);
  const boxed = await view(no);
  expect(boxed).toMatchObject({ stage: 'Boxed', parts: [{ center: 'Columbus', stage: 'Boxed' }] });
  const part = boxed.parts[0].id;

  const price = await lead.post(`inbound/parts/${part}/price`);
  expect(price.status, JSON.stringify(price.body)).toBe(200);
  expect(price.body).toMatchObject({ units: 42, currency: 'USD' });
  const key = v7();
  house.standins.lostAnswers = 1;
  const lost = await lead.post(`inbound/parts/${part}/book`, { key, priceMinor: price.body.minor });
  expect(lost.body.detail).toContain('Whether it is booked is asked until it is known.');
  await round('inbound');
  expect((await lead.post(`inbound/parts/${part}/book`, { key, priceMinor: price.body.minor })).status).toBe(
    200,
  );
  expect(desk().bookings.all()).toHaveLength(1);
  const booked = await view(no);
  expect(booked.parts[0]).toMatchObject({
    stage: 'Booked',
    booking: { state: 'booked', minor: price.body.minor },
  });
  expect(booked.parts[0].boxes[0].sscc).toMatch(/^0952000112\d{8}$/);

  expect((await lead.post(`inbound/parts/${part}/leave`)).status).toBe(200);
  expect((await lead.post(`inbound/parts/${part}/leave`)).status).toBe(200);
  expect(await view(no)).toMatchObject({ stage: 'Travelling' });
  const lies = async (kind: string) =>
    (await house.db.one<{ n: number }>(
      'SELECT CAST(COALESCE(SUM(b.onHand), 0) AS INT) AS n FROM stockBalance b JOIN place p ON p.id = b.placeId WHERE p.kind = ?',
      [kind],
    ))!.n;
  expect([await lies('away'), await lies('center')]).toEqual([42, 0]);
  const happens = (what: string, more = {}) =>
    desk().answer('POST', 'bookings', key, 'happens', JSON.stringify({ what, ...more }));
  happens('at dock');
  await round('inbound');
  expect((await view(no)).stage).toBe('At dock');
  happens('counted');
  await round('inbound', 'inbound');
  expect(await view(no)).toMatchObject({ stage: 'Closed', parts: [{ differences: [] }] });
  expect([await lies('away'), await lies('center')]).toEqual([0, 42]);
  expect(await differences(house)).toEqual([]);
});

void idOfOrder;
