import { afterAll, beforeAll, expect, test } from 'vitest';
import { Opening } from '../src/packing/opening.service.js';
import { ordersIn, packAndClose } from './drive.js';
import { type Caller, differences, type House, openHouse } from './house.js';

let house: House;
let lead: Caller;
beforeAll(async () => {
  house = await openHouse({ pastOrders: 10, openOrders: 160 });
  lead = await house.signIn('AB-1001');
});
afterAll(() => house.close());

const compare = (about: object, options: object = {}) => lead.post('rating/compare', { about, options });
const QUOTE = {
  kind: 'quote',
  postcode: '83702',
  country: 'US',
  residential: true,
  size: { length: 2032, width: 2032, height: 2032 },
  weightMg: 2_000_000,
};
interface Row {
  carrier: string;
  service: string;
  account: { number: string };
  minor: number;
  houseMinor: number;
  currency: string;
  labelMinor: number;
  boxesMinor: number;
  keeps: boolean;
  cheapest: boolean;
  fastest: boolean;
  usual: boolean;
  arrives: string;
  collected: string;
  marginMinor: number | null;
  parcels: { parcel: number; quote: { minor: number; charges: { name: string; minor: number }[] } }[];
}
const rowOf = (rows: Row[], service: string, number = '') =>
  rows.find(r => r.service === service && r.account.number === number)!;

test('a quick quote without an order: every carrier, itemised, in house money, and what is dropped says why', async () => {
  const { status, body } = await compare(QUOTE);
  expect(status).toBe(200);
  const rows: Row[] = body.rows;
  expect(new Set(rows.map(r => r.carrier))).toEqual(new Set(['heron', 'redfen', 'coldharbour']));
  for (const r of rows)
    for (const p of r.parcels) expect(p.quote.charges.reduce((n, c) => n + c.minor, 0)).toBe(p.quote.minor);
  // Canadian dollars at 0.72, rounded to the cent.
  const morning = rowOf(rows, 'morning');
  expect([morning.currency, morning.houseMinor]).toEqual(['CAD', Math.round(morning.labelMinor * 0.72)]);
  expect(rowOf(rows, 'parcel').parcels[0]!.quote).toMatchObject({ billable: { why: 'cubic' } });
  expect(rows.filter(r => r.cheapest)).toHaveLength(1);
  expect(rows[0]!.minor).toBe(Math.min(...rows.map(r => r.minor)));
  expect(rows.find(r => r.fastest)!.arrives).toBe(rows.map(r => r.arrives).sort()[0]);
  expect(body.paidMinor).toBeNull();
  expect(body.dropped).toContainEqual(
    expect.objectContaining({ carrierName: 'Stonewater Freight', why: expect.stringContaining('too light') }),
  );
  const heavy = await compare({ ...QUOTE, weightMg: 90_000_000 });
  expect(heavy.body.rows.map((r: Row) => r.carrier)).toContain('stonewater');
});

test('what is asked beside carrying is priced, and services that lack it are dropped with why', async () => {
  const plain: Row[] = (await compare(QUOTE)).body.rows;
  const signed = (await compare(QUOTE, { signature: true, valueMinor: 30_000 })).body;
  const ground = rowOf(signed.rows, 'ground').parcels[0]!.quote.charges.map(c => c.name);
  expect(ground).toEqual(expect.arrayContaining(['signature', 'declared value']));
  expect(rowOf(signed.rows, 'letter')).toBeUndefined();
  const point: Row[] = (await compare(QUOTE, { toPoint: true })).body.rows;
  expect(rowOf(point, 'parcel').minor).toBe(rowOf(plain, 'parcel').minor - 60);
  expect(rowOf(point, 'ground').parcels[0]!.quote.charges.map(c => c.name)).not.toContain('home address');
  const cash: Row[] = (await compare(QUOTE, { cashMinor: 5_000 })).body.rows;
  expect(new Set(cash.map(r => r.carrier))).toEqual(new Set(['redfen']));
});

test('abroad: only services that go there, an address that nobody serves has none', async () => {
  const abroad: Row[] = (await compare({ ...QUOTE, country: 'NL', postcode: '1011 AB' })).body.rows;
  expect(abroad.map(r => r.service).sort()).toEqual(['abroad', 'world']);
  const nobody = (await compare({ ...QUOTE, country: 'AQ', postcode: '' })).body;
  expect(nobody.rows).toEqual([]);
  expect(nobody.dropped.length).toBeGreaterThan(0);
});

test('bad questions are refused in words and never break', async () => {
  expect((await compare({ ...QUOTE, weightMg: 0 })).status).toBe(400);
  expect((await compare({ ...QUOTE, country: 'nl' })).status).toBe(400);
  expect((await compare({ kind: 'order', id: '00000000-0000-7000-8000-000000000001' })).status).toBe(404);
  expect((await compare({ kind: 'parcel', no: 'PA-999999' })).status).toBe(404);
  expect((await compare({ kind: 'moon' })).status).toBe(400);
});

test('an order: each service with its own boxes; together is never dearer than any single service in time', async () => {
  let cheaper = 0;
  for (const id of await ordersIn(lead, 'Clear', 25)) {
    const { status, body } = await compare({ kind: 'order', id });
    expect(status, JSON.stringify(body)).toBe(200);
    const rows: Row[] = body.rows;
    expect(rows.filter(r => r.usual)).toHaveLength(1);
    const usual = rows.find(r => r.usual)!;
    for (const r of rows) expect(r.minor).toBe(r.houseMinor + r.boxesMinor);
    const wanted = new Map<string, number>();
    for (const p of usual.parcels)
      for (const c of body.parcels[p.parcel].contents)
        wanted.set(c.sku, (wanted.get(c.sku) ?? 0) + c.quantity);
    // Whatever the boxes, the same pieces go.
    for (const r of rows) {
      const own = new Map<string, number>();
      for (const p of r.parcels)
        for (const c of body.parcels[p.parcel].contents) own.set(c.sku, (own.get(c.sku) ?? 0) + c.quantity);
      expect(own).toEqual(wanted);
    }
    const inTime = rows.filter(r => r.keeps).map(r => r.minor);
    if (!body.together) continue;
    cheaper++;
    expect(body.together.savesMinor).toBe(usual.minor - body.together.minor);
    if (inTime.length > 0) expect(body.together.minor).toBeLessThanOrEqual(Math.min(...inTime));
  }
  expect(cheaper).toBeGreaterThan(0);
});

test('the service that a person chose moves the order to that carrier’s departure, stands first at the bench, and can be freed', async () => {
  const [id] = await ordersIn(lead, 'Picked', 1);
  const packed = await packAndClose(lead, (await lead.get(`orders/${id}`)).body.row.no);
  const departure = async () =>
    (
      await house.db.one<{ carrier: string | null }>(
        'SELECT d.carrier FROM orders o LEFT JOIN departure d ON d.id = o.departureId WHERE o.id = ?',
        [id],
      )
    )?.carrier;
  const chosen = { carrier: 'redfen', account: '', service: 'two-day', name: 'Redfen Two Day' };
  const packer = await house.signIn('AB-1002');
  expect((await packer.post(`rating/orders/${id}`, { chosen })).status).toBe(403);
  expect((await lead.post(`rating/orders/${id}`, { chosen })).status).toBe(200);
  expect(await departure()).toBe('redfen');
  const first = (await lead.get(`parcels/${packed.parcelNo}/offers`)).body.offers[0];
  expect(first).toMatchObject({ service: 'two-day', chosen: true });
  expect((await compare({ kind: 'order', id })).body.order.chosen).toBe('redfen  two-day');
  await lead.post(`rating/orders/${id}`, { chosen: null });
  const free = (await lead.get(`parcels/${packed.parcelNo}/offers`)).body.offers;
  expect(free.some((o: { chosen: boolean }) => o.chosen)).toBe(false);
  expect((await lead.post(`rating/orders/${id}`, { chosen: { ...chosen, carrier: 'pigeon' } })).status).toBe(
    404,
  );
  const told = await house.db.rows<{ says: string }>(
    "SELECT says FROM orderEvent WHERE orderId = ? AND kind = 'service'",
    [id],
  );
  expect(told.map(t => t.says)).toEqual([
    'Redfen Two Day of Redfen Parcel was chosen.',
    'The service is chosen at the bench again.',
  ]);
});

test('the boxes that were compared with the chosen service are what the bench proposes', async () => {
  const [id] = await ordersIn(lead, 'Picked', 1);
  const { no } = (await lead.get(`orders/${id}`)).body.row;
  const chosen = { carrier: 'heron', account: '', service: 'parcel', name: 'Heron Parcel' };
  const proposed = async (boxes: string[]) => {
    await lead.post(`rating/orders/${id}`, { chosen: { ...chosen, boxes } });
    const opened = await house.db.tx({ personId: null, at: new Date() }, async tx =>
      house.app.get(Opening).state(tx, { id: id!, no: Number(no.slice(3)) }, 'a device'),
    );
    return opened.proposed;
  };
  const usual = await proposed([]);
  expect(await proposed(['BX-6'])).toEqual(['BX-6']);
  expect(await proposed(['BX-4', 'BX-5'])).toEqual(['BX-4', 'BX-5']);
  // One that is kept no more is passed over.
  expect(await proposed(['BX-99'])).toEqual(usual);
  await lead.post(`rating/orders/${id}`, { chosen: null });
});

test('the same question of a closed parcel is answered with its own box and weight', async () => {
  const [id] = await ordersIn(lead, 'Picked', 1);
  const { parcelNo } = await packAndClose(lead, (await lead.get(`orders/${id}`)).body.row.no);
  const { body } = await compare({ kind: 'parcel', no: parcelNo });
  const bench = (await lead.get(`parcels/${parcelNo}/offers`)).body.offers;
  expect(body.rows.map((r: Row) => r.labelMinor).sort()).toEqual(
    bench.map((o: { minor: number }) => o.minor).sort(),
  );
  expect(body.parcels).toHaveLength(1);
});

test('days off move the arrival of services by own rate sheet', async () => {
  const before: Row = rowOf((await compare(QUOTE)).body.rows, 'ground', 'SK-4120');
  const days = Array.from({ length: 10 }, (_, i) => ({
    day: new Date(Date.parse(`${before.collected}T00:00:00Z`) + (i + 1) * 86_400_000)
      .toISOString()
      .slice(0, 10),
    name: 'Closed',
  }));
  const kept = (await lead.get('carriers/closed')).body;
  await lead.post('carriers/closed', { days });
  const after: Row = rowOf((await compare(QUOTE)).body.rows, 'ground', 'SK-4120');
  expect(after.arrives > days.at(-1)!.day).toBe(true);
  await lead.post('carriers/closed', { days: kept });
  expect(rowOf((await compare(QUOTE)).body.rows, 'ground', 'SK-4120').arrives).toBe(before.arrives);
});

test('after all of it, the data is whole', async () => {
  expect(await differences(house)).toEqual([]);
});
