import { v7 } from 'uuid';
import { afterAll, beforeAll, expect, test, vi } from 'vitest';
import { Db } from '../src/database/db.js';
import { Centers } from '../src/elsewhere/elsewhere.module.js';
import { HouseService } from '../src/house/house.module.js';
import { InboundLoading } from '../src/inbound/loading.service.js';
import { Rounds } from '../src/leases/rounds.service.js';
import { Places } from '../src/stock/stock.module.js';
import { bringIn, letLeave, pickAll, scanOf, wishOf } from './drive.js';
import { type Caller, differences, type House, openHouse } from './house.js';
import { pagesOf } from './pdf.js';

let house: House;
let lead: Caller;
beforeAll(async () => {
  house = await openHouse('small');
  lead = await house.signIn('AB-1001');
});
afterAll(() => house.close());

const FERNWAY = 'Fernway Centers';
const desk = () => house.standins.networks.get('network')!.inbound;
// biome-ignore lint/suspicious/noExplicitAny: a view of the API
const view = async (no: string): Promise<any> => (await lead.get(`inbound/${no}`)).body;
/** A file of shipments as it comes. */
async function paper(path: string): Promise<Buffer> {
  const answer = await fetch(`${house.url}/api/v1/inbound/${path}`, { headers: { cookie: lead.cookie } });
  return Buffer.from(await answer.arrayBuffer());
}
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
    (w: { network: string; placement: string; rates: string; form: string }) =>
      w.network === FERNWAY && w.placement === placement && w.rates === 'theirs' && w.form === form,
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

/** Books a part at the price that is asked now; gives its key. */
async function booked(partId: string): Promise<string> {
  const price = await lead.post(`inbound/parts/${partId}/price`);
  expect(price.status, JSON.stringify(price.body)).toBe(200);
  const key = v7();
  const done = await lead.post(`inbound/parts/${partId}/book`, { key, priceMinor: price.body.minor });
  expect(done.status, JSON.stringify(done.body)).toBe(200);
  return key;
}
const happens = (key: string, what: string, more = {}) =>
  desk().answer('POST', 'bookings', key, 'happens', JSON.stringify({ what, ...more }));
const lies = async (kind: string, sku: string) =>
  (await house.db.one<{ n: number }>(
    'SELECT CAST(COALESCE(SUM(b.onHand), 0) AS INT) AS n FROM stockBalance b JOIN place p ON p.id = b.placeId JOIN product t ON t.id = b.productId WHERE p.kind = ? AND t.sku = ?',
    [kind, sku],
  ))!.n;
const free = async (sku: string) => (await lead.get(`stock?words=${sku}`)).body.rows[0].free;

test('spread over centers of which one refuses: the others are booked, it is given up, and what was packed is put back', async () => {
  const no = await draft([
    ['QPN-YEL', 40],
    ['ENT-RED', 30],
  ]);
  const before = await free('QPN-YEL');
  const inParcels = await lies('parcel', 'QPN-YEL');
  await choose(no, 'spread');
  await packed(no);
  const { parts } = await view(no);
  const centers = parts.map((p: { center: string }) => p.center);
  expect(centers).toEqual(['Columbus', 'Reno', 'Tampa', 'Albany']);
  const tampa = parts[2];
  for (const p of parts) if (p !== tampa) await booked(p.id);
  const refused = await lead.post(`inbound/parts/${tampa.id}/price`);
  expect(refused.status).toBe(422);
  expect(refused.body.detail).toBe('Fernway Centers says: It takes nothing before 4 January.');
  const needs = async () =>
    (await lead.get('departures/board')).body.needs.filter((n: { subject: string }) => n.subject === no);
  expect(await needs()).toMatchObject([{ code: 'inbound', detail: expect.stringContaining('Tampa: ') }]);
  // The shipment shows its least advanced part; a booked one cannot be given up before its booking is called off.
  expect((await view(no)).stage).toBe('Boxed');
  const kept = await lead.post(`inbound/parts/${parts[0].id}/cancel`, { key: v7() });
  expect(kept.body.detail).toContain('is booked for Columbus');
  expect((await lead.post(`inbound/parts/${tampa.id}/cancel`, { key: v7() })).status).toBe(200);
  const after = await view(no);
  expect(after.stage).toBe('Booked');
  expect(after.parts[2]).toMatchObject({ stage: 'Cancelled', order: { stage: 'Cancelled' } });
  // Nothing of it is left to look at: its boxes are empty, and no parcel must not go.
  expect(await needs()).toEqual([]);
  expect(
    (await lead.get('departures/board')).body.needs.filter((n: { code: string }) => n.code === 'held'),
  ).toEqual([]);
  const back = tampa.lines.find((l: { sku: string }) => l.sku === 'QPN-YEL').units;
  expect(await lies('staging', 'QPN-YEL')).toBe(back);
  expect(await lies('parcel', 'QPN-YEL')).toBe(inParcels + 40 - back);
  expect(before - 40).toBe(await free('QPN-YEL'));
  // A booking that is called off for nothing frees the part again.
  expect((await lead.post(`inbound/parts/${parts[3].id}/call-off`)).status).toBe(200);
  expect((await view(no)).parts[3]).toMatchObject({ stage: 'Boxed', booking: { state: 'cancelled' } });
  expect(await differences(house)).toEqual([]);
});

test('counted short and over: missing units stay on the way until claimed, surplus and strangers are booked with a reason', async () => {
  const no = await draft([
    ['MLD-TAP', 12],
    ['WCK-COT', 18],
  ]);
  await choose(no, 'one dock');
  await packed(no);
  const [part] = (await view(no)).parts;
  const key = await booked(part.id);
  await lead.post(`inbound/parts/${part.id}/leave`);
  happens(key, 'late', { late: '2031-02-03' });
  await round('inbound');
  expect((await view(no)).parts[0].late).toBe('2031-02-03');
  const [away, there] = [await lies('away', 'WCK-COT'), await lies('center', 'WCK-COT')];
  happens(key, 'counted', { off: { 'WCK-COT': -3, 'MLD-TAP': 2, 'BRS-BEE': 1 } });
  await round('inbound', 'inbound');
  const counted = await view(no);
  expect(counted.stage).toBe('Counting in');
  const of = (code: string) => counted.parts[0].differences.find((d: { code: string }) => d.code === code);
  expect([of('WCK-COT'), of('MLD-TAP'), of('BRS-BEE')]).toMatchObject([
    { missing: 3, surplus: 0 },
    { missing: 0, surplus: 2 },
    { surplus: 1, stranger: true },
  ]);
  expect([away - (await lies('away', 'WCK-COT')), (await lies('center', 'WCK-COT')) - there]).toEqual([
    15, 15,
  ]);
  const decide = (code: string, as: string, reason = 'counted twice there') =>
    lead.post(`inbound/differences/${of(code).id}/decide`, { as, reason });
  expect((await decide('WCK-COT', 'booked')).body.detail).toBe('Missing units cannot be booked.');
  expect((await decide('MLD-TAP', 'claimed')).status).toBe(422);
  expect((await decide('WCK-COT', 'claimed', 'x')).status).toBe(400);
  for (const [code, as] of [
    ['WCK-COT', 'claimed'],
    ['WCK-COT', 'claimed'],
    ['MLD-TAP', 'booked'],
    ['BRS-BEE', 'booked'],
  ] as const)
    expect((await decide(code, as)).status).toBe(200);
  expect((await view(no)).stage).toBe('Closed');
  expect(await lies('center', 'MLD-TAP')).toBe(14);
  const claim = await fetch(`${house.url}/api/v1/inbound/${no}/claim.csv`, {
    headers: { cookie: lead.cookie },
  });
  expect(await claim.text()).toMatch(/,WCK-COT,3,claimed,counted twice there/);
  expect(await differences(house)).toEqual([]);
});

test('the code that is scanned there is compared; another one is stopped with both shown, until the goods prove it', async () => {
  const no = await draft([['JAR-HEX-12', 24]]);
  const [line] = (await view(no)).lines;
  expect(line.code).toMatchObject({ state: 'other', theirs: '2000000000183' });
  expect((await sections(no)).codes).toMatchObject({ done: false });
  const chosen = await lead.post(`inbound/${no}/way`, {
    placement: 'one dock',
    form: 'parcels',
    carrier: 'Fernway Pick-up',
    rates: 'theirs',
  });
  expect(chosen.body.detail).toContain('they will scan 2000000000183');
  const scan = (text: string) => lead.post(`inbound/${no}/scans`, { text });
  expect((await scan(line.code.ours)).body).toMatchObject({ confirmed: false });
  expect((await scan('9999')).body.says).toContain('Nothing of');
  // UPC and GTIN with leading zeros are one code.
  expect((await scan('02000000000183')).body).toMatchObject({ confirmed: true });
  expect((await sections(no)).codes.done).toBe(true);
  await choose(no, 'one dock');
  expect((await lead.post(`inbound/${no}/cancel`, { key: v7() })).status).toBe(200);
});

test('pallets: their count is asked for, and a box over the network’s limit is not taken by the scale', async () => {
  const no = await draft([['BKT-5G', 20]]);
  await choose(no, 'one dock', 'pallets');
  expect((await lead.post(`inbound/${no}/reserve`, { key: v7() })).status).toBe(200);
  const [part] = (await view(no)).parts;
  expect(part.pallets.length).toBeGreaterThan(0);
  const boxes = part.pallets.reduce((n: number, p: { boxes: number }) => n + p.boxes, 0);
  expect(boxes).toBe(part.planned.length);
  const list = await lead.post('picking/lists', { orderIds: [part.order.id] });
  await pickAll(lead, list.body.no);
  const opened = (await lead.post('packing/open', { code: part.order.no, device: 'test-device' })).body;
  const weighed = await lead.post(`packing/sessions/${opened.sessionId}/scans`, scanOf('51 lb'));
  expect(weighed.body.answer.says).toContain('is more than box');
  await packAsPlanned(part.order.no);
  await round('stages passed');
  await booked(part.id);
  const entry = desk().bookings.all().at(-1)!;
  expect(entry).toMatchObject({ form: 'pallets' });
  expect(entry.pallets).toHaveLength(part.pallets.length);
  expect(entry.pallets.flatMap(p => p.boxes).sort()).toEqual(entry.boxes.map(b => b.sscc).sort());
  const { loaded } = (await view(no)).parts[0];
  expect(loaded).toMatchObject(entry.pallets.map(({ sscc, weightMg }) => ({ sscc, weightMg })));
  const numbers = [...entry.pallets, ...entry.boxes].map(u => u.sscc);
  expect(new Set(numbers).size).toBe(numbers.length);
  const sheets = pagesOf(await paper(`parts/${part.id}/pallets.pdf`));
  expect(sheets).toHaveLength(loaded.length);
  const csv = (await paper(`parts/${part.id}/advice/csv`)).toString();
  expect(csv).toContain(loaded[0].sscc);
});

test('what is asked wrongly is refused with its sentence, and nothing of it is done', async () => {
  const no = await draft([['GTE-HNY', 5]]);
  const line = (input: object) => lead.post(`inbound/${no}/lines`, input);
  expect((await line({ sku: 'NOTHING', units: 3 })).status).toBe(404);
  expect((await line({ sku: 'GTE-HNY', units: 5, inCases: true })).body.detail).toContain(
    'no code of a case',
  );
  expect((await line({ sku: 'JAR-HEX-12', units: 13, inCases: true })).body.detail).toContain(
    'whole cases of 12',
  );
  expect((await line({ sku: 'SET-HARV', units: 1 })).body.detail).toContain('is a bundle');
  const file = (text: string) => lead.post(`inbound/${no}/file`, { text });
  const bad = await file('code,units\nGTE-HNY,4\nNOPE,2\nWCK-COT,many\n');
  expect(bad.body).toMatchObject({ taken: 0, problems: [{ row: 3 }, { row: 4 }] });
  expect((await view(no)).lines.map((l: { units: number }) => l.units)).toEqual([5]);
  expect((await file('code,units\nGTE-HNY,4\nWCK-COT,2\n')).body).toMatchObject({ taken: 2, problems: [] });
  expect((await lead.post(`inbound/${no}/reserve`, { key: v7() })).body.detail).toContain(
    'No way was chosen',
  );
  // What is not taken there, and what nobody knows enough of, goes no further.
  await line({ sku: 'WAX-MTH', units: 2 });
  const way = { placement: 'one dock', form: 'parcels', carrier: 'Fernway Pick-up', rates: 'theirs' };
  expect((await lead.post(`inbound/${no}/way`, way)).body.detail).toContain('It stores nothing hazardous.');
  await line({ sku: 'WAX-MTH', units: 0 });
  await line({ sku: 'MSE-GRD', units: 2 });
  expect((await lead.post(`inbound/${no}/way`, way)).body.detail).toContain('its category is not known');
  await line({ sku: 'MSE-GRD', units: 0 });
  // More than there is: what can go is named.
  expect((await line({ sku: 'WCK-COT', units: 5_000 })).body.detail).toContain('5000 units at most');
  await line({ sku: 'GTE-HNY', units: 900 });
  await lead.post(`inbound/${no}/codes`);
  expect((await lead.post(`inbound/${no}/way`, way)).status).toBe(200);
  expect((await lead.post(`inbound/${no}/reserve`, { key: v7() })).body.detail).toMatch(
    /\d+ of 900 Honey gate/,
  );
  expect((await lead.post('inbound', { key: v7(), network: 'Nowhere' })).status).toBe(404);
  expect((await lead.get('inbound/IN-9999')).status).toBe(404);
  const packer = await house.signIn('AB-1002');
  expect((await packer.post(`inbound/${no}/reserve`, { key: v7() })).status).toBe(403);
});

test('what is changed while a network is asked is not written over: neither by its answer nor by reserving what was seen before', async () => {
  const centers = house.app.get(Centers);
  const loading = house.app.get(InboundLoading);
  const lines = async (no: string, units: number) =>
    expect((await lead.post(`inbound/${no}/lines`, { sku: 'GLV-S', units })).status).toBe(200);
  const no = await draft([['GLV-S', 4]]);
  const { table } = (await lead.get(`inbound/${no}/ways`)).body;
  const { placement, form, carrier, rates } = table.ways.find(
    (w: { network: string }) => w.network === FERNWAY,
  );
  const elsewhere = { placement, form, carrier, rates, network: 'Nordhavn Lager' };
  const goes = async () => expect((await lead.post(`inbound/${no}/way`, elsewhere)).status).toBe(200);

  const plan = centers.plan;
  vi.spyOn(centers, 'plan').mockImplementationOnce(async (...asked) => {
    await goes();
    return plan(...asked);
  });
  const chosen = await lead.post(`inbound/${no}/way`, { placement, form, carrier, rates });
  expect(chosen.body).toMatchObject({ status: 409, detail: 'Somebody changed the shipment meanwhile.' });
  expect(await view(no)).toMatchObject({ network: 'Nordhavn Lager', way: null, parts: [] });

  await lead.post(`inbound/${no}/way`, { ...elsewhere, network: FERNWAY });
  const codes = centers.codes;
  vi.spyOn(centers, 'codes').mockImplementationOnce(async (...asked) => {
    await goes();
    return codes(...asked);
  });
  expect((await lead.post(`inbound/${no}/codes`)).status).toBe(409);
  expect(await view(no)).toMatchObject({ network: 'Nordhavn Lager', lines: [{ code: null }] });

  const other = await draft([['GLV-S', 4]]);
  await choose(other, 'one dock');
  const load = loading.load.bind(loading);
  vi.spyOn(loading, 'load').mockImplementationOnce(async (...asked) => {
    const seen = await load(...asked);
    await lines(other, 5);
    await choose(other, 'one dock');
    return seen;
  });
  expect((await lead.post(`inbound/${other}/reserve`, { key: v7() })).status).toBe(409);
  expect((await view(other)).parts[0].order).toBeNull();
  vi.restoreAllMocks();
});

test('how it is handed over is part of the way and of the price: what is brought costs nothing, a home costs more', async () => {
  const no = await draft([['STR-600', 10]]);
  const freightOf = async (more: object): Promise<number> => {
    const { source, storage, shipDay, weeks, handing, door } = await view(no);
    const change = { source, storage, shipDay, weeks, handing, door, ...more };
    expect((await lead.post(`inbound/${no}/change`, change)).status).toBe(200);
    const { table } = (await lead.get(`inbound/${no}/ways`)).body;
    const way = (w: { network: string; placement: string; carrier: string }) =>
      w.network === FERNWAY && w.placement === 'one dock' && w.carrier === 'Fernway Pick-up';
    return table.ways.find(way).freightMinor;
  };
  const dock = await freightOf({ door: 'dock' });
  expect((await freightOf({ door: 'home' })) - dock).toBe(450);
  expect((await freightOf({ door: 'hard to reach' })) - dock).toBe(900);
  expect((await freightOf({ handing: 'brought' })) - dock).toBe(0);
  await freightOf({ handing: 'fetched', door: 'home' });
  await choose(no, 'one dock');
  await packed(no);
  const [part] = (await view(no)).parts;
  const { minor } = (await lead.post(`inbound/parts/${part.id}/price`)).body;
  const kilograms = part.boxes.length === 0 ? 0 : (await view(no)).parts[0].boxes[0].weightMg / 1_000_000;
  expect(minor).toBe(420 + Math.ceil(38 * kilograms) + 450);
  // Another network's carrier only fetches.
  const there = await draft([['STR-600', 5]], 'Nordhavn Lager');
  const { source, storage, shipDay, weeks } = await view(there);
  const brought = { source, storage, shipDay, weeks, handing: 'brought', door: 'dock' };
  expect((await lead.post(`inbound/${there}/change`, brought)).status).toBe(200);
  const { dropped } = (await lead.get(`inbound/${there}/ways`)).body;
  expect(dropped.map((d: { why: string }) => d.why)).toContain(
    'Nordhavn Fragt fetches; nothing can be brought to it.',
  );
});

test('a product that the network does not take when it is asked leaves the draft, and that is told', async () => {
  const no = await draft([
    ['GLV-S', 2],
    ['HTL-S10', 2],
  ]);
  const centers = house.app.get(Centers);
  const plan = centers.plan;
  vi.spyOn(centers, 'plan').mockImplementationOnce(async (network, asked) => {
    const answer = await plan(network, { ...asked, lines: asked.lines.filter(l => l.code !== 'GLV-S') });
    if (answer.kind !== 'answered') throw new Error('The stand-in did not answer.');
    return {
      ...answer,
      value: { ...answer.value, refused: [{ code: 'GLV-S', why: 'It has enough gloves.' }] },
    };
  });
  await choose(no, 'one dock');
  const after = await view(no);
  expect(after.lines.map((l: { sku: string }) => l.sku)).toEqual(['HTL-S10']);
  expect(after.story.map((e: { says: string }) => e.says).join(' ')).toContain('It has enough gloves.');
  expect(after.parts[0].lines).toEqual([{ sku: 'HTL-S10', units: 2 }]);
});

test('the number of a shipping unit stands at one box: twice in one booking, or in another that lives, it is refused', () => {
  const box = (sscc: string) => ({ sscc, weightMg: 1_000_000, lines: [{ code: 'HTL-S10', units: 1 }] });
  const [live] = desk().bookings.all();
  const priced = (boxes: object[]) =>
    desk().answer(
      'POST',
      'prices',
      '',
      '',
      JSON.stringify({
        number: 'IN-99',
        center: 'Columbus',
        placement: 'one dock',
        form: 'parcels',
        freight: null,
        pallets: [],
        boxes,
      }),
    );
  const [one, two] = ['095299999000000010', '095299999000000027'].map(box);
  expect(priced([one!, two!])).toMatchObject({ status: 200 });
  for (const boxes of [
    [one!, one!],
    [one!, box(live!.boxes[0]!.sscc)],
  ])
    expect(priced(boxes)).toMatchObject({
      status: 422,
      body: { why: expect.stringContaining('at another box') },
    });
});

test('how it is handed over was changed while the network was asked: its answer is not taken', async () => {
  const no = await draft([['GLV-S', 3]]);
  const centers = house.app.get(Centers);
  const plan = centers.plan;
  vi.spyOn(centers, 'plan').mockImplementationOnce(async (...asked) => {
    const { source, storage, shipDay, weeks, handing } = await view(no);
    const change = { source, storage, shipDay, weeks, handing, door: 'home' };
    expect((await lead.post(`inbound/${no}/change`, change)).status).toBe(200);
    return plan(...asked);
  });
  const way = { placement: 'one dock', form: 'parcels', carrier: 'Fernway Pick-up', rates: 'theirs' };
  expect((await lead.post(`inbound/${no}/way`, way)).body.detail).toBe(
    'Somebody changed the shipment meanwhile.',
  );
  expect(await view(no)).toMatchObject({ door: 'home', way: null });
});

test('two at once reserve one shipment and book one part: each is done once; stock of it is not sold meanwhile', async () => {
  const no = await draft([['STR-600', 6]]);
  await choose(no, 'one dock');
  const key = v7();
  const both = await Promise.all([0, 1].map(() => lead.post(`inbound/${no}/reserve`, { key })));
  expect(both.map(r => r.status)).toEqual([200, 200]);
  const again = await lead.post(`inbound/${no}/reserve`, { key: v7() });
  expect(again.body.detail).toContain('is reserved');
  const [part] = (await view(no)).parts;
  // Its order is the house's own: nobody edits, splits or cancels it as one of a buyer.
  const cancelled = await lead.post(`orders/${part.order.id}/cancel`, { reason: 'just so' });
  expect(cancelled.body.detail).toContain('is a shipment to Columbus');
  await bringIn(lead, [['INB-SOLD', 'STR-600', 500, '9.00']]);
  const list = await lead.post('picking/lists', { orderIds: [part.order.id] });
  await pickAll(lead, list.body.no);
  await packAsPlanned(part.order.no);
  await round('stages passed');
  const unbooked = (await view(no)).parts[0];
  // Its boxes are no parcels of a buyer: they are not among them, no label is bought for them beside the booking, neither before it nor after.
  const { parcel } = unbooked.boxes[0];
  const listed = (await lead.get('parcels')).body.map((p: { no: string }) => p.no);
  expect(listed).not.toContain(parcel);
  const offers = () => lead.get(`parcels/${parcel}/offers`);
  expect((await offers()).body.detail).toContain('is not booked yet');
  const price = (await lead.post(`inbound/parts/${part.id}/price`)).body;
  const before = desk().bookings.all().length;
  const keys = [v7(), v7()];
  const answers = await Promise.all(
    keys.map(k => lead.post(`inbound/parts/${part.id}/book`, { key: k, priceMinor: price.minor })),
  );
  expect(answers.map(a => a.status).sort()).toEqual([200, 409]);
  expect(desk().bookings.all().length - before).toBe(1);
  const [offer] = (await offers()).body.offers;
  const label = await lead.post(`parcels/${parcel}/label`, wishOf(offer));
  expect(label.body.detail).toContain('goes by the carrier of the network');
  const all = (
    await house.db.rows<{ sscc: string }>('SELECT sscc FROM inboundBox WHERE sscc IS NOT NULL', [])
  ).map(r => r.sscc);
  expect(new Set(all).size).toBe(all.length);
});

test('two who count at a new center at once have one place for it', async () => {
  const places = house.app.get(Places);
  const { id } = await house.app.get(HouseService).warehouse(house.db);
  const nobody = { personId: null, at: new Date() };
  for (const center of ['Erie', 'Utica', 'Salem', 'Provo', 'Macon']) {
    const placeAt = (network: string) =>
      house.app.get(Db).tx(nobody, tx => places.centerPlace(tx, id, { network, center }));
    const [one, two] = await Promise.all([placeAt(FERNWAY), placeAt(FERNWAY)]);
    expect(two).toBe(one);
    // Another network in that town has a place of its own.
    expect(await placeAt('Nordhavn Lager')).not.toBe(one);
  }
});

const planCode = async (no: string): Promise<string> => (await view(no)).planCode;

test('a plan that the network changes after boxing: what must be repacked is named, taken in by a press, and booked as it is now', async () => {
  const no = await draft([
    ['HTL-J10', 30],
    ['SMK-4-ST', 10],
  ]);
  await choose(no, 'spread');
  await packed(no);
  const before = await view(no);
  const [columbus, reno, tampa] = ['Columbus', 'Reno', 'Tampa'].map(c =>
    before.parts.find((p: { center: string }) => p.center === c),
  );
  const move = (from: string, to: string) =>
    desk().answer('POST', 'plans', plan, 'happens', JSON.stringify({ from, to }));
  const plan = await planCode(no);
  const price = async (id: string) => lead.post(`inbound/parts/${id}/price`);
  const first = await price(columbus.id);
  expect(
    (
      await lead.post(`inbound/parts/${columbus.id}/book`, {
        key: v7(),
        priceMinor: first.body.minor,
      })
    ).status,
  ).toBe(200);
  // What was taken in when nothing has changed is refused, and changes nothing.
  expect((await lead.post(`inbound/${no}/replan`, { key: v7() })).status).toBe(422);

  move('Reno', 'Tampa');
  const refused = await price(reno.id);
  expect(refused.status).toBe(422);
  expect(refused.body.detail).toContain('has changed its plan: 0 instead of');
  const changed = await view(no);
  const leaves = changed.planChanged.find(
    (c: { center: string; sku: string }) => c.center === 'Reno' && c.sku === 'HTL-J10',
  );
  const its = reno.lines.find((l: { sku: string }) => l.sku === 'HTL-J10').units;
  expect(leaves).toMatchObject({ before: its, now: 0 });
  expect(leaves.boxes.length).toBeGreaterThan(0);
  expect(changed.story.at(-1).says).toContain('has changed its plan');
  expect(
    (await lead.get('departures/board')).body.needs.map((n: { subject: string }) => n.subject),
  ).toContain(no);

  // Taken twice, it is taken once; what is booked stands, what goes elsewhere is put back and made ready anew.
  const key = v7();
  for (const _ of [1, 2]) expect((await lead.post(`inbound/${no}/replan`, { key })).status).toBe(200);
  const after = await view(no);
  expect(after.planChanged).toEqual([]);
  const stages = Object.fromEntries(after.parts.map((p: { id: string; stage: string }) => [p.id, p.stage]));
  expect(stages).toMatchObject({ [columbus.id]: 'Booked', [reno.id]: 'Cancelled', [tampa.id]: 'Cancelled' });
  const fresh = after.parts.find(
    (p: { center: string; stage: string }) => p.center === 'Tampa' && p.stage === 'Draft',
  );
  expect(fresh.lines.find((l: { sku: string }) => l.sku === 'HTL-J10').units).toBe(
    its + tampa.lines.find((l: { sku: string }) => l.sku === 'HTL-J10').units,
  );
  const sum = after.parts
    .flatMap((p: { lines: { units: number }[] }) => p.lines)
    .reduce((n: number, l: { units: number }) => n + l.units, 0);
  expect(sum).toBe(40);
  expect(await differences(house)).toEqual([]);

  // What is booked is binding: the network may want more there, but nothing is taken out of it.
  move('Columbus', 'Albany');
  await lead.post(`inbound/${no}/follow`);
  const bound = await lead.post(`inbound/${no}/replan`, { key: v7() });
  expect(bound.status).toBe(422);
  expect(bound.body.detail).toContain('What goes to Columbus is booked already');
  move('Albany', 'Columbus');
});

test('two take a changed plan at once: it is taken once; while somebody picks, nothing of it is', async () => {
  const no = await draft([['GLV-S', 4]]);
  await choose(no, 'one dock');
  expect((await lead.post(`inbound/${no}/reserve`, { key: v7() })).status).toBe(200);
  const [part] = (await view(no)).parts;
  const list = await lead.post('picking/lists', { orderIds: [part.order.id] });
  const opened = (await lead.post('picking/open', { code: list.body.no, device: 'test-device' })).body;
  const moved = { from: 'Columbus', to: 'Reno' };
  desk().answer('POST', 'plans', await planCode(no), 'happens', JSON.stringify(moved));
  expect((await lead.post(`inbound/${no}/follow`)).status).toBe(200);
  const take = () => lead.post(`inbound/${no}/replan`, { key: v7() });
  const early = await take();
  expect(early.body.detail).toContain('Somebody is picking');
  expect((await view(no)).parts).toMatchObject([{ center: 'Columbus', stage: 'Draft' }]);
  expect((await view(no)).planChanged).not.toEqual([]);

  for (const stop of opened.state.stops) {
    const scans = [stop.placeCode, stop.product.codes[0].code, 'AUK-ALL'];
    for (const text of scans) await lead.post(`picking/sessions/${opened.sessionId}/scans`, scanOf(text));
  }
  const both = await Promise.all([take(), take()]);
  expect(both.filter(b => b.status === 200)).toHaveLength(1);
  const { parts, planChanged } = await view(no);
  expect(planChanged).toEqual([]);
  expect(parts.map((p: { center: string; stage: string }) => `${p.center} ${p.stage}`)).toEqual([
    'Columbus Cancelled',
    'Reno Draft',
  ]);
  expect(parts[1].lines).toEqual([{ sku: 'GLV-S', units: 4 }]);
  expect(await differences(house)).toEqual([]);
});

test('a plan that is changed before anything is reserved is chosen again', async () => {
  const no = await draft([['MLD-SKEP', 2]]);
  await choose(no, 'one dock');
  desk().answer(
    'POST',
    'plans',
    await planCode(no),
    'happens',
    JSON.stringify({ from: 'Columbus', to: 'Reno' }),
  );
  const reserved = await lead.post(`inbound/${no}/reserve`, { key: v7() });
  expect(reserved.status).toBe(422);
  expect(reserved.body.detail).toContain('has changed its plan since the way was chosen');
  expect((await view(no)).parts[0].order).toBeNull();
  await choose(no, 'one dock');
  expect((await lead.post(`inbound/${no}/reserve`, { key: v7() })).status).toBe(200);
  expect((await lead.post(`inbound/${no}/cancel`, { key: v7() })).status).toBe(200);
});

test('a price that has changed since it was confirmed charges nothing', async () => {
  const no = await draft([['QTB-MRK', 10]]);
  await choose(no, 'one dock');
  await packed(no);
  const [part] = (await view(no)).parts;
  // Nobody has confirmed a price that was not asked yet.
  const early = await lead.post(`inbound/parts/${part.id}/book`, { key: v7(), priceMinor: 1 });
  expect([early.status, early.body.cure]).toEqual([422, 'Ask for the price first.']);
  const { minor } = (await lead.post(`inbound/parts/${part.id}/price`)).body;
  const lower = await lead.post(`inbound/parts/${part.id}/book`, { key: v7(), priceMinor: minor - 1 });
  expect(lower.body.detail).toContain('Its price is another by now.');
  expect((await view(no)).parts[0].booking).toMatchObject({ state: 'refused' });
  await booked(part.id);
  const file = async (form: string) => (await paper(`parts/${part.id}/${form}`)).toString();
  const { sscc, parcel } = (await view(no)).parts[0].boxes[0];
  // What was told is what lies in it: the box stays closed while it is booked.
  const reopened = await lead.post(`packing/parcels/${parcel}/open`);
  expect(reopened.body.detail).toContain('was told what lies in it');
  for (const form of ['advice/xml', 'advice/edi', 'advice/csv', 'advice/json'])
    expect(await file(form)).toContain(sscc);
  expect((await file('labels.pdf')).slice(0, 4)).toBe('%PDF');
  expect((await file('packing-list.pdf')).slice(0, 4)).toBe('%PDF');
});

test('a metric network with other money: its rules are data, its fees stand in the house’s currency', async () => {
  await house.db.run(
    "INSERT INTO exchangeRate (currency, day, perHouse) VALUES ('EUR', '2026-01-01', 1.25) ON DUPLICATE KEY UPDATE perHouse = 1.25",
  );
  const no = await draft([['QCG-PLS', 20]], 'Nordhavn Lager');
  const shown = await view(no);
  expect(shown).toMatchObject({ currency: 'USD', rules: { units: 'metric', currency: 'USD' } });
  const { table, dropped } = (await lead.get(`inbound/${no}/ways`)).body;
  const of = (network: string) => table.ways.filter((w: { network: string }) => w.network === network);
  expect(of('Nordhavn Lager')[0]).toMatchObject({ placement: 'one dock', feeMinor: 20 * 13 });
  expect(dropped.some((d: { why: string }) => d.why.includes('takes nothing so: spread'))).toBe(true);
  // Both networks stand in one table; the other one is a press away, and its codes are asked anew.
  expect(of(FERNWAY).length).toBeGreaterThan(1);
  const { placement, form, carrier, rates } = of(FERNWAY)[0];
  const there = { network: FERNWAY, placement, form, carrier, rates };
  expect((await lead.post(`inbound/${no}/way`, { ...there, network: 'Nowhere' })).status).toBe(404);
  expect((await lead.post(`inbound/${no}/way`, there)).status).toBe(200);
  expect(await view(no)).toMatchObject({ network: FERNWAY, way: null, lines: [{ code: null }] });
  await lead.post(`inbound/${no}/codes`);
  expect((await lead.post(`inbound/${no}/way`, there)).status).toBe(200);
  expect(await view(no)).toMatchObject({ way: { carrier, placement } });
});

test('by our own carrier: booked for its fee alone, labelled as parcels are, gone with its departure, and on its way in its own place', async () => {
  const no = await draft([['FRK-UNC', 6]]);
  const { table } = (await lead.get(`inbound/${no}/ways`)).body;
  const way = table.ways.find(
    (w: { network: string; rates: string; form: string; placement: string }) =>
      w.network === FERNWAY && w.rates === 'ours' && w.form === 'parcels' && w.placement === 'one dock',
  );
  const { placement, form, carrier, rates } = way;
  expect((await lead.post(`inbound/${no}/way`, { placement, form, carrier, rates })).status).toBe(200);
  await packed(no);
  const [part] = (await view(no)).parts;
  const price = (await lead.post(`inbound/parts/${part.id}/price`)).body;
  expect(price.minor).toBe(0);
  // Nothing of it leaves, and no label is bought for it, before it is booked.
  const box = (await view(no)).parts[0].boxes[0].parcel;
  expect((await lead.get(`parcels/${box}/offers`)).body.detail).toContain('is not booked yet');
  await booked(part.id);
  expect((await lead.post(`inbound/parts/${part.id}/leave`)).body.detail).toBe('It goes by our own carrier.');
  const [offer] = (await lead.get(`parcels/${box}/offers`)).body.offers;
  const label = (await lead.post(`parcels/${box}/label`, wishOf(offer))).body;
  // What the carrier gave and what the center scans are on one sheet.
  const [sheet, ...more] = pagesOf(await paper(`parts/${part.id}/labels.pdf`));
  expect(more).toEqual([]);
  expect(sheet).toContain(label.tracking);
  expect(sheet).toContain('to Columbus');
  // Called off, it is not given up while its label lives: what was paid would be lost without a word.
  expect((await lead.post(`inbound/parts/${part.id}/call-off`)).status).toBe(200);
  const givenUp = await lead.post(`inbound/${no}/cancel`, { key: v7() });
  expect(givenUp.body.detail).toContain(`${box} has its label already`);
  await booked(part.id);
  const order = (await lead.get(`orders/${part.order.id}`)).body;
  const departure = order.parcels.find((p: { no: string }) => p.no === box).departureNo;
  await letLeave(lead, [
    { orderId: part.order.id, number: no, parcelNo: box, tracking: label.tracking, departure },
  ]);
  await round('stages passed');
  expect(await view(no)).toMatchObject({
    stage: 'Travelling',
    parts: [{ boxes: [{ tracking: label.tracking }] }],
  });
  expect(await lies('away', 'FRK-UNC')).toBe(6);
  // The network hears of it with the next round.
  await round('inbound');
  const key = desk().bookings.all().at(-1)!.key;
  expect(desk().answer('GET', 'bookings', key, '', '')!.body).toMatchObject({
    state: 'travelling',
    tracking: [],
  });
  expect(await differences(house)).toEqual([]);
});

test('a label that was bought elsewhere is stuck onto the sheet, which is printed all the same', async () => {
  const no = await draft([['HTL-S10', 2]]);
  const { table } = (await lead.get(`inbound/${no}/ways`)).body;
  const { placement, form, carrier, rates } = table.ways.find(
    (w: { network: string; rates: string; form: string }) =>
      w.network === FERNWAY && w.rates === 'ours' && w.form === 'parcels',
  );
  expect((await lead.post(`inbound/${no}/way`, { placement, form, carrier, rates })).status).toBe(200);
  await packed(no);
  const [part] = (await view(no)).parts;
  await booked(part.id);
  const { parcel } = (await view(no)).parts[0].boxes[0];
  const bought = {
    carrier: 'redfen',
    service: 'Their Ground',
    tracking: 'ELSE77001',
    minor: 900,
    arrives: '2031-12-04',
    key: v7(),
  };
  const typed = await lead.post(`parcels/${parcel}/elsewhere`, bought);
  expect(typed.status, JSON.stringify(typed.body)).toBe(200);
  const pages = pagesOf(await paper(`parts/${part.id}/labels.pdf`));
  expect(pages[0]).toContain('The label of its carrier is stuck here.');
});

test('a server that dies between the intention and the asking: the booking is asked for again, once', async () => {
  const no = await draft([['QCG-PLS', 8]]);
  await choose(no, 'one dock');
  await packed(no);
  const [part] = (await view(no)).parts;
  const { minor } = (await lead.post(`inbound/parts/${part.id}/price`)).body;
  const key = v7();
  await house.db.run("UPDATE inboundPart SET bookState = 'asked', bookKey = ?, askedMinor = ? WHERE id = ?", [
    key,
    minor,
    part.id,
  ]);
  const other = await lead.post(`inbound/parts/${part.id}/book`, { key: v7(), priceMinor: minor });
  expect(other.body.detail).toContain('is not known yet');
  const given = await lead.post(`inbound/${no}/cancel`, { key: v7() });
  expect(given.body.detail).toContain('as far as anybody knows');
  await round('inbound', 'inbound');
  expect((await view(no)).parts[0].booking).toMatchObject({ state: 'booked', minor });
  expect(
    desk()
      .bookings.all()
      .filter(b => b.key === key),
  ).toHaveLength(1);
  // What was told wrong would be seen: a count that nobody moved, a stage that does not follow.
  await house.db.run("UPDATE inboundShipment SET stage = 'Closed' WHERE CONCAT('IN-', no) = ?", [no]);
  expect(await differences(house)).toMatchObject([{ what: 'stage of a shipment to centers', where: no }]);
  await house.db.run("UPDATE inboundShipment SET stage = 'Booked' WHERE CONCAT('IN-', no) = ?", [no]);
  expect(await differences(house)).toEqual([]);
});

test('planned boxes are changed until the bench packs them; what does not fit stays, and the bench packs as it was changed', async () => {
  const no = await draft([
    ['HTL-S10', 8],
    ['FRK-UNC', 6],
  ]);
  await choose(no, 'one dock');
  const [part] = (await view(no)).parts;
  const move = (input: object) => lead.post(`inbound/parts/${part.id}/move`, { key: v7(), ...input });
  const first = part.planned.findIndex((b: { contents: { sku: string }[] }) =>
    b.contents.some(c => c.sku === 'HTL-S10'),
  );
  const moved = { sku: 'HTL-S10', units: 3, from: first + 1, to: null };
  expect((await move({ ...moved, units: 900 })).body.detail).toContain('of it lie in box');
  expect((await move({ ...moved, to: 77 })).body.detail).toBe('There is no such box.');
  const key = v7();
  // Sent twice it is one move.
  for (const _ of [1, 2]) expect((await move({ ...moved, key })).status).toBe(200);
  const after = (await view(no)).parts[0].planned;
  expect(after).toHaveLength(part.planned.length + 1);
  expect(after.at(-1).contents).toEqual([{ sku: 'HTL-S10', units: 3, cases: 0 }]);
  await packed(no);
  const { boxes } = (await view(no)).parts[0];
  expect(boxes.at(-1).contents).toMatchObject([{ sku: 'HTL-S10', units: 3 }]);
  expect((await move(moved)).body.detail).toContain('being packed already');
});

test('a case that was measured is boxed by its size and weight, one that was not by a guess that is shown as one', async () => {
  const { no } = (await lead.post('inbound', { key: v7(), network: FERNWAY })).body;
  const [code] = (await lead.get('products/JAR-HEX-12')).body.cases;
  expect(code).toMatchObject({ size: null, weightMg: null });
  const wanted = { sku: 'JAR-HEX-12', units: code.units, inCases: true };
  expect((await lead.post(`inbound/${no}/lines`, wanted)).status).toBe(200);
  const boxed = async () => {
    const { boxes } = (await lead.get(`inbound/${no}/ways`)).body;
    expect(boxes).toHaveLength(1);
    return boxes[0].placed[0].size;
  };
  const guessed = await boxed();
  expect((await view(no)).lines[0].caseGuessed).toBe(true);
  const measure = (more: object) =>
    lead.post('products/JAR-HEX-12/codes/measure', { code: code.code, ...more });
  const size = { length: 4_000, width: 3_000, height: 1_500 };
  expect((await measure({ size })).status).toBe(200);
  expect((await measure({ weightMg: 5_000_000 })).status).toBe(200);
  expect((await lead.get('products/JAR-HEX-12')).body.cases[0]).toMatchObject({ size, weightMg: 5_000_000 });
  const lies = await boxed();
  expect(lies).not.toEqual(guessed);
  expect(Object.values(lies).sort()).toEqual(Object.values(size).sort());
  expect((await view(no)).lines[0].caseGuessed).toBe(false);
  expect((await measure({ code: 'nothing', size })).status).toBe(404);
  expect((await measure({ size: { ...size, height: 0 } })).status).toBe(400);
  expect((await measure({ size: null, weightMg: null })).status).toBe(200);
  expect(await boxed()).toEqual(guessed);
});

test('goods of a purchase order and of a build go along; each unit that we label has its label', async () => {
  const no = await draft([['VEIL-SQF', 2]]);
  expect((await lead.post(`inbound/${no}/from`, { code: 'PO-99999' })).status).toBe(404);
  expect((await lead.post(`inbound/${no}/from`, { code: 'what' })).status).toBe(400);
  expect((await lead.post(`inbound/${no}/from`, { code: 'PO-1' })).status).toBe(200);
  expect((await lead.post(`inbound/${no}/from`, { code: 'BU-1' })).status).toBe(200);
  const { lines } = await view(no);
  const units = Object.fromEntries(lines.map((l: { sku: string; units: number }) => [l.sku, l.units]));
  expect(units).toMatchObject({ 'VEIL-SQF': 26, 'QPN-BLU': 40, 'JAR-HEX-12': 11, 'KIT-GARDEN': 6 });
  const labels = pagesOf(await paper(`${no}/unit-labels/thermal`));
  expect(labels).toHaveLength(26 + 40 + 11 + 6);
  expect((await lead.get(`inbound/${no}/unit-labels/round`)).status).toBe(400);
});

test('stock that expires too soon for the network is left out and named; the list takes what lasts', async () => {
  const lots = await house.db.rows<{ expiry: string; n: number; lot: string }>(
    "SELECT CAST(l.expiry AS CHAR) AS expiry, CAST(SUM(b.onHand) AS INT) AS n, l.code AS lot FROM stockBalance b JOIN lot l ON l.id = b.lotKey JOIN place p ON p.id = b.placeId AND p.kind IN ('bin', 'reserve') JOIN product t ON t.id = b.productId WHERE t.sku = 'MIT-STR-50' GROUP BY l.id ORDER BY l.expiry",
    [],
  );
  expect(lots).toHaveLength(2);
  const late = lots[1]!;
  const no = await draft([['MIT-STR-50', late.n + 1]]);
  await choose(no, 'one dock');
  const refused = await lead.post(`inbound/${no}/reserve`, { key: v7() });
  expect(refused.body.detail).toContain(`more expire within 90 days of arriving`);
  // Of the late ones some may be promised to orders.
  const some = Number(/Send (\d+), or wait for fresh ones\./.exec(refused.body.cure)?.[1]);
  expect(some).toBeGreaterThan(0);
  expect(some).toBeLessThanOrEqual(late.n);
  await lead.post(`inbound/${no}/lines`, { sku: 'MIT-STR-50', units: some });
  await choose(no, 'one dock');
  expect((await lead.post(`inbound/${no}/reserve`, { key: v7() })).status).toBe(200);
  const [part] = (await view(no)).parts;
  await lead.post('picking/lists', { orderIds: [part.order.id] });
  const taken = await house.db.rows<{ code: string }>(
    'SELECT DISTINCT l.code FROM pickStop s JOIN lot l ON l.id = s.lotId JOIN linePart p ON p.id = s.partId WHERE p.orderId = ?',
    [part.order.id],
  );
  expect(taken.map(t => t.code)).toEqual([late.lot]);
  expect((await lead.post(`inbound/${no}/cancel`, { key: v7() })).status).toBe(200);
  expect(await differences(house)).toEqual([]);
});
