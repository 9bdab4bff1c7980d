import { afterAll, beforeAll, expect, test } from 'vitest';
import { Opening } from '../src/packing/opening.service.js';
import { bringIn, idOfOrder, listAndPick, ordersIn, packAndClose, wishOf } from './drive.js';
import { type Caller, differences, type House, openHouse } from './house.js';
import { pagesOf } from './pdf.js';

let house: House;
let lead: Caller;
beforeAll(async () => {
  house = await openHouse('large');
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

test('an order of very many parcels is not compared as a whole', async () => {
  await bringIn(lead, [['CMP-MANY', 'BKT-5G', 400, '5.00']]);
  const { status, body } = await compare({ kind: 'order', id: await idOfOrder(lead, 'CMP-MANY') });
  expect([status, body.detail]).toEqual([
    422,
    expect.stringMatching(/^CMP-MANY fills \d+ parcels; more than 40 are not compared at once\.$/),
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

/** A picked order that is packed, after something was changed of it by hand. */
async function packedAs(change: string, values: unknown[]): Promise<{ id: string; no: string }> {
  const [id] = await ordersIn(lead, 'Picked', 1);
  await house.db.run(`UPDATE orders SET ${change} WHERE id = ?`, [...values, id]);
  const { parcelNo } = await packAndClose(lead, (await lead.get(`orders/${id}`)).body.row.no);
  return { id: id!, no: parcelNo };
}
const offersOf = async (
  no: string,
): Promise<(Row & { chosen: boolean; preferred: boolean; name: string })[]> =>
  (await lead.get(`parcels/${no}/offers`)).body.offers;
/** What the carrier was asked for when the first offer was bought. */
async function boughtWith(no: string): Promise<{ options: object; to: { lines: string[] } }> {
  const [offer] = (await lead.get(`parcels/${no}/offers`)).body.offers;
  const { status } = await lead.post(`parcels/${no}/label`, wishOf(offer));
  expect(status).toBe(200);
  const row = await house.db.one<{ request: string }>(
    "SELECT CAST(b.request AS CHAR) AS request FROM label b JOIN parcel c ON c.id = b.parcelId WHERE c.no = ? AND b.state = 'bought'",
    [no.slice(3)],
  );
  return JSON.parse(row!.request).parcel;
}

test('an order to a pick-up point goes there by itself: services that have none are not offered, and the label names it', async () => {
  const { no } = await packedAs('pickUpPoint = ?', ['Corner Books, 12 High Street']);
  const offers = await offersOf(no);
  expect(offers.length).toBeGreaterThan(0);
  expect(new Set(offers.map(o => o.carrier)).has('coldharbour')).toBe(false);
  const view = (await compare({ kind: 'parcel', no })).body;
  expect(view.asks).toEqual({ toPoint: true });
  const bought = await boughtWith(no);
  expect(bought.options).toEqual({ toPoint: true });
  expect(bought.to.lines[0]).toBe('Pick-up point: Corner Books, 12 High Street');
  const pdf = await fetch(`${house.url}/api/v1/parcels/${no}/label.pdf`, {
    headers: { cookie: lead.cookie },
  });
  expect(pagesOf(Buffer.from(await pdf.arrayBuffer()))[0]).toContain('Corner Books');
});

test('what is to be paid at the door is asked of the carrier once, and only of those that take money', async () => {
  const { no } = await packedAs("payment = 'on delivery', paidMinor = ?", [0]);
  const offers = await offersOf(no);
  expect(new Set(offers.map(o => o.carrier))).toEqual(new Set(['redfen']));
  const total = await house.db.one<{ totalMinor: number }>(
    'SELECT o.totalMinor FROM orders o JOIN parcel c ON c.orderId = o.id WHERE c.no = ?',
    [no.slice(3)],
  );
  expect((await boughtWith(no)).options).toEqual({ cashMinor: total!.totalMinor });
});

test('a service that the products prefer stands first, and what a person chose before it, with what was asked of it', async () => {
  const { id, no } = await packedAs('pickUpPoint = ?', ['']);
  const before = await offersOf(no);
  const last = before.at(-1)!;
  const skus = await house.db.rows<{ sku: string }>(
    'SELECT DISTINCT p.sku FROM linePart t JOIN product p ON p.id = t.productId WHERE t.orderId = ?',
    [id],
  );
  await lead.post('products/edit', { skus: skus.map(s => s.sku), fields: { service: last.name } });
  const [first] = await offersOf(no);
  expect(first).toMatchObject({ service: last.service, preferred: true });
  const { row } = (await lead.get(`orders/${id}`)).body;
  const other = before.find(o => o.carrier === 'redfen' && o.service !== last.service)!;
  const chosen = {
    carrier: other.carrier,
    account: other.account.number,
    service: other.service,
    name: other.name,
  };
  const choice = { chosen: { ...chosen, options: { signature: true } } };
  expect((await lead.post(`rating/orders/${row.id}`, choice)).status).toBe(200);
  const [chosenFirst] = await offersOf(no);
  expect(chosenFirst).toMatchObject({ service: other.service, chosen: true, preferred: false });
  expect((await boughtWith(no)).options).toEqual({ signature: true });
  await lead.post('products/edit', { skus: skus.map(s => s.sku), fields: { service: null } });
});

test('a parcel is insured for what is in it: each box for its own, and for nothing that nobody knows the value of', async () => {
  const worth = async (valueMinor: number | null) => {
    const edited = await lead.post('products/edit', { skus: ['FRK-UNC'], fields: { valueMinor } });
    expect(edited.status).toBe(200);
  };
  await worth(30_000);
  await bringIn(lead, [['INS-1', 'FRK-UNC', 2, '450.00']]);
  const id = await idOfOrder(lead, 'INS-1');
  const insured = { insured: true };
  const { body } = await compare({ kind: 'order', id }, insured);
  const declared = (row: Row) =>
    row.parcels.map(p => [
      body.parcels[p.parcel].worthMinor,
      p.quote.charges.find(c => c.name === 'declared value')?.minor ?? 0,
    ]);
  const ground: Row[] = body.rows.filter((r: Row) => r.service === 'ground');
  expect(ground.length).toBeGreaterThan(0);
  for (const row of ground) {
    // 1.40 for each begun 100 above 100, of each parcel.
    for (const [value, minor] of declared(row))
      expect(minor).toBe(140 * Math.ceil(Math.max(0, value - 10_000) / 10_000));
    expect(declared(row).reduce((n, [value]) => n + value, 0)).toBe(60_000);
  }
  expect(body.rows.map((r: Row) => r.service)).not.toContain('letter');
  // A quote without an order has nothing in it.
  expect((await compare(QUOTE, insured)).body.rows).toEqual([]);
  const { carrier, account, service } = ground[0]!;
  const chosen = { carrier, account: account.number, service, name: 'Redfen Ground', options: insured };
  expect((await lead.post(`rating/orders/${id}`, { chosen })).status).toBe(200);
  await listAndPick(lead, [id]);
  const { parcelNo } = await packAndClose(lead, (await lead.get(`orders/${id}`)).body.row.no);
  await worth(null);
  const unknown = (await lead.get(`parcels/${parcelNo}/offers`)).body;
  expect(unknown.offers).toEqual([]);
  expect(JSON.stringify(unknown.silent)).toContain('has no value to be insured for');
  await worth(30_000);
  expect((await boughtWith(parcelNo)).options).toEqual({ valueMinor: 60_000 });
});

test('a parcel template sends orders as it says, one by one or many, each with its own answer', async () => {
  const template = {
    name: 'Small, signed for',
    carrier: 'redfen',
    service: 'ground',
    serviceName: 'Redfen Ground',
    box: 'BX-2',
    options: { signature: true },
  };
  const templates = async () => (await lead.get('rating/templates')).body;
  expect((await lead.post('rating/templates', { ...template, carrier: 'pigeon' })).status).toBe(404);
  expect((await lead.post('rating/templates', { ...template, box: 'BX-99' })).status).toBe(404);
  expect((await lead.post('rating/templates', { ...template, name: ' ' })).status).toBe(400);
  const both = await Promise.all([1, 2].map(() => lead.post('rating/templates', template)));
  expect(both.map(b => b.status).sort()).toEqual([200, 409]);
  const [small] = (await templates()).filter((t: { name: string }) => t.name === template.name);
  const id: string = small.id;
  expect((await lead.post('rating/templates', { ...template, id, name: 'Signed' })).status).toBe(200);
  expect(await templates()).toContainEqual(
    expect.objectContaining({ id, name: 'Signed', carrierName: 'Redfen Parcel', box: 'BX-2' }),
  );
  const clear = await ordersIn(lead, 'Clear', 2);
  const [gone] = await ordersIn(lead, 'Departed', 1);
  const used = await lead.post(`rating/templates/${id}/use`, { ids: [...clear, gone] });
  expect(used.body.map((a: { done: boolean }) => a.done)).toEqual([true, true, false]);
  for (const order of clear) {
    const { chosen } = (await house.db.one<{ chosen: string }>(
      'SELECT CAST(chosen AS CHAR) AS chosen FROM shipment WHERE orderId = ?',
      [order],
    ))!;
    expect(JSON.parse(chosen)).toMatchObject({
      service: 'ground',
      boxes: ['BX-2'],
      options: { signature: true },
    });
    await lead.post(`rating/orders/${order}`, { chosen: null });
  }
  const packer = await house.signIn('AB-1002');
  expect((await packer.post(`rating/templates/${id}/use`, { ids: clear })).status).toBe(403);
  expect((await lead.post(`rating/templates/${id}/remove`)).status).toBe(200);
  expect((await lead.post(`rating/templates/${id}/use`, { ids: clear })).status).toBe(404);
});

test('a product without size or weight counts as its category does, and is named as a guess', async () => {
  const [id] = await ordersIn(lead, 'Clear', 1);
  const skus = (
    await house.db.rows<{ sku: string }>(
      'SELECT DISTINCT p.sku FROM linePart t JOIN product p ON p.id = t.productId WHERE t.orderId = ?',
      [id],
    )
  ).map(s => s.sku);
  const before = await house.db.rows<{ sku: string; weightMg: number }>(
    'SELECT sku, weightMg FROM product WHERE sku IN (?)',
    [skus],
  );
  await house.db.run('UPDATE product SET weightMg = NULL, packedWeightMg = NULL WHERE sku IN (?)', [skus]);
  const heaviest = async () => {
    const { parcels, guessed } = (await compare({ kind: 'order', id })).body;
    expect(guessed.sort()).toEqual([...skus].sort());
    return parcels[0].weightMg;
  };
  const plain = await heaviest();
  const small = { length: 500, width: 500, height: 500 };
  const heavy = { category: 'Irons', ...small, weightMg: 4_000_000 };
  expect((await lead.post('boxes/guesses', { guesses: [heavy] })).status).toBe(200);
  expect(await heaviest()).toBe(plain);
  await lead.post('products/edit', { skus, fields: { category: 'irons' } });
  expect(await heaviest()).toBeGreaterThan(plain);
  expect((await lead.get('boxes')).body.guesses.map((g: { category: string }) => g.category)).toEqual([
    '',
    'Irons',
  ]);
  expect((await lead.post('boxes/guesses', { guesses: [{ ...heavy, weightMg: 0 }] })).status).toBe(400);
  for (const { sku, weightMg } of before)
    await house.db.run('UPDATE product SET weightMg = ? WHERE sku = ?', [weightMg, sku]);
});

test('after all of it, the data is whole', async () => {
  expect(await differences(house)).toEqual([]);
});
