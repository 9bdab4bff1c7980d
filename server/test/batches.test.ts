import { PDFDocument } from 'pdf-lib';
import { v7 } from 'uuid';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { Labels } from '../src/labels/labels.service.js';
import { ordersIn, packAndClose, wishOf } from './drive.js';
import { type Caller, differences, type House, openHouse } from './house.js';

let house: House;
let lead: Caller;
const parcels: string[] = [];
beforeAll(async () => {
  house = await openHouse('large');
  lead = await house.signIn('AB-1001');
  for (const id of await ordersIn(lead, 'Picked', 26))
    parcels.push((await packAndClose(lead, (await lead.get(`orders/${id}`)).body.row.no)).parcelNo);
});
afterAll(() => house.close());

const some = (n: number): string[] => {
  if (parcels.length < n) throw new Error('The demo has too few picked orders for these tests.');
  return parcels.splice(0, n);
};
const charged = (no: string) =>
  [...house.standins.desks.values()].flatMap(d => d.books.all()).filter(c => c.reference === no);
interface Item {
  parcel: string;
  state: string;
  minor: number;
  why: string | null;
  tracking: string | null;
  carrierName: string;
}
const begun = async (nos: string[]): Promise<string> =>
  (await lead.post('labels/batches', { parcels: nos })).body.id;
const view = async (id: string) => (await lead.get(`labels/batches/${id}`)).body;
/** The batch once its job has brought it into a state; it is asked again and again until then. */
async function settled(id: string, state: string) {
  let now = await view(id);
  while (now.state !== state) now = await view(id);
  return now;
}

test('a batch is priced, shown with its sum, bought exactly, and printed as one document', async () => {
  const nos = some(6);
  const id = await begun([...nos, nos[0]!]);
  const priced = await settled(id, 'priced');
  const items: Item[] = priced.items;
  expect(items.map(i => i.parcel).sort()).toEqual([...nos].sort());
  expect(priced.toBuyMinor).toBe(items.reduce((n, i) => n + i.minor, 0));
  expect(nos.flatMap(charged)).toEqual([]);
  const other = await lead.post(`labels/batches/${id}/buy`, { minor: priced.toBuyMinor - 1 });
  expect(other.status).toBe(422);
  expect(other.body.detail).toMatch(/^The batch costs \$/);
  const both = await Promise.all([
    lead.post(`labels/batches/${id}/buy`, { minor: priced.toBuyMinor }),
    lead.post(`labels/batches/${id}/buy`, { minor: priced.toBuyMinor }),
  ]);
  expect(both.map(b => b.status)).toEqual([200, 200]);
  const done = await settled(id, 'done');
  expect(done.items.map((i: Item) => i.state)).toEqual(nos.map(() => 'bought'));
  expect(done.boughtMinor).toBe(priced.toBuyMinor);
  for (const item of done.items as Item[]) {
    expect(charged(item.parcel)).toHaveLength(1);
    expect(item.tracking).toBe(charged(item.parcel)[0]!.tracking);
  }
  // It is printed with the batch, not at the benches.
  expect(
    await house.db.rows(
      "SELECT j.id FROM printJob j JOIN parcel c ON c.no = j.parcelNo WHERE j.kind = 'label' AND c.no IN (?)",
      [nos.map(n => n.slice(3))],
    ),
  ).toEqual([]);
  for (const [paper, pages] of [
    ['4x6', 6],
    ['half', 6],
    ['two', 3],
  ] as const) {
    const pdf = await fetch(`${house.url}/api/v1/labels/batches/${id}/labels.pdf?paper=${paper}`, {
      headers: { cookie: lead.cookie },
    });
    expect((await PDFDocument.load(await pdf.arrayBuffer())).getPageCount(), paper).toBe(pages);
  }
});

test('each parcel has its own result: labelled already, parked, dearer by then, unanswered and found out', async () => {
  const [has, parked, dearer, lost] = some(4) as [string, string, string, string];
  const offer = (await lead.get(`parcels/${has}/offers`)).body.offers[0];
  await lead.post(`parcels/${has}/label`, wishOf(offer));
  const id = await begun([has, parked, dearer]);
  const priced = await settled(id, 'priced');
  const item = (v: { items: Item[] }, no: string) => v.items.find(i => i.parcel === no)!;
  expect(item(priced, has)).toMatchObject({ state: 'none', why: 'It has a label already.' });
  // What happens between price and purchase.
  const orderOf = async (no: string) => (await lead.get(`parcels/${no}`)).body.orderId;
  await lead.post(`orders/${await orderOf(parked)}/park`, { reason: 'the buyer asked' });
  const codeOf = (v: { items: Item[] }, no: string) =>
    [...house.standins.desks.values()].find(d => d.carrier.name === item(v, no).carrierName)!.carrier.code;
  house.standins.misbehave(codeOf(priced, dearer), { on: 'buy', how: 'dearer', times: 1, ms: 0 });
  await lead.post(`labels/batches/${id}/buy`, { minor: priced.toBuyMinor });
  const bought = await settled(id, 'done');
  expect(item(bought, parked).state).toBe('refused');
  expect(item(bought, parked).why).toMatch(/parked|Parked/);
  expect(item(bought, dearer)).toMatchObject({
    state: 'refused',
    why: expect.stringContaining('the price is'),
  });
  expect([parked, dearer].flatMap(charged)).toEqual([]);
  const again = await begun([lost]);
  const anew = await settled(again, 'priced');
  house.standins.misbehave(codeOf(anew, lost), { on: 'buy', how: 'fail after', times: 1, ms: 0 });
  await lead.post(`labels/batches/${again}/buy`, { minor: anew.toBuyMinor });
  expect(item(await settled(again, 'done'), lost).state).toBe('unanswered');
  await house.db.run('UPDATE label SET askedAt = askedAt - INTERVAL 60 SECOND');
  await house.app.get(Labels).recover();
  expect((await lead.get(`parcels/${lost}`)).body.label.state).toBe('bought');
  // The batch says so too: what became of it tells the label.
  expect(item(await view(again), lost)).toMatchObject({
    state: 'bought',
    tracking: charged(lost)[0]!.tracking,
  });
  expect(charged(lost)).toHaveLength(1);
});

test('a batch that is stopped buys no more, and can be bought later', async () => {
  const nos = some(4);
  const id = await begun(nos);
  const priced = await settled(id, 'priced');
  expect((await lead.post(`labels/batches/${id}/stop`)).body.state).toBe('stopped');
  expect(nos.flatMap(charged)).toEqual([]);
  await lead.post(`labels/batches/${id}/buy`, { minor: priced.toBuyMinor });
  await settled(id, 'done');
  expect(nos.map(no => charged(no).length)).toEqual([1, 1, 1, 1]);
});

test('what cannot be asked for is refused in words', async () => {
  expect((await lead.post('labels/batches', { parcels: [] })).status).toBe(400);
  expect((await lead.post('labels/batches', { parcels: ['PA-999999'] })).status).toBe(404);
  expect((await lead.get(`labels/batches/${v7()}`)).status).toBe(404);
  expect((await lead.post(`labels/batches/${v7()}/stop`)).status).toBe(404);
  const packer = await house.signIn('AB-1002');
  expect((await packer.post('labels/batches', { parcels: ['PA-1'] })).status).toBe(403);
});

test('a label bought elsewhere: typed once, leaves with its carrier, is no other parcel’s number, and only stops counting when voided', async () => {
  const [no, other] = some(2) as [string, string];
  const label = {
    carrier: 'redfen',
    service: 'Their Ground',
    tracking: 'ELSE12345',
    minor: 900,
    arrives: '2026-12-04',
    key: v7(),
  };
  const both = await Promise.all([
    lead.post(`parcels/${no}/elsewhere`, label),
    lead.post(`parcels/${no}/elsewhere`, label),
  ]);
  expect(both.map(b => b.status)).toEqual([200, 200]);
  const seen = (await lead.get(`parcels/${no}`)).body;
  expect(seen).toMatchObject({
    state: 'labelled',
    tracking: 'ELSE12345',
    label: { elsewhere: true, minor: 900 },
  });
  expect(seen.departure).toContain('Redfen');
  expect(seen.address.at(-1)).toMatch(/\d/);
  expect(seen.contents.length).toBeGreaterThan(0);
  const taken = await lead.post(`parcels/${other}/elsewhere`, { ...label, key: v7() });
  expect(taken.body.detail).toBe(`ELSE12345 is the number of ${no}.`);
  expect(
    (await lead.post(`parcels/${no}/elsewhere`, { ...label, key: v7(), tracking: 'ELSE99999' })).status,
  ).toBe(409);
  expect((await lead.post(`parcels/${other}/elsewhere`, { ...label, key: v7(), tracking: 'x' })).status).toBe(
    400,
  );
  expect((await lead.get(`parcels/${no}/label.pdf`)).body.detail).toMatch(/no label that was bought here/);
  expect((await lead.post(`parcels/${no}/void`)).status).toBe(200);
  const after = (await lead.get(`parcels/${no}`)).body;
  expect(after).toMatchObject({ state: 'packed', label: null });
  expect(after.before[0].says).toContain('given back');
  expect(charged(no)).toEqual([]);
});

test('after all of it, the data is whole', async () => {
  expect(await differences(house)).toEqual([]);
});
