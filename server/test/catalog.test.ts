import { afterAll, beforeAll, expect, test } from 'vitest';
import { bringIn, idOfOrder, orderCsv, productOf } from './drive.js';
import { type Caller, differences, type House, openHouse } from './house.js';

let house: House;
let lead: Caller;
beforeAll(async () => {
  house = await openHouse('small');
  lead = await house.signIn('AB-1001');
});
afterAll(async () => {
  expect(await differences(house)).toEqual([]);
  await house.close();
});

const stageOf = async (number: string) =>
  (await lead.get(`orders/${await idOfOrder(lead, number)}`)).body.row;
const unlinked = async (words: string) => (await lead.get(`listings?words=${words}`)).body.rows;

test('an unlinked listing is proposed a product with the reason; linking many frees their orders at once', async () => {
  await bringIn(lead, [
    ['L-1', 'WS-SMOKER-4-ST', 1, '38.00'],
    ['L-2', 'WS-SMOKER-4-ST', 2, '38.00', 'Another'],
    ['L-3', 'XJAR-HEX-12-PAIR', 1, '2.70'],
  ]);
  expect(await stageOf('L-1')).toMatchObject({ stage: 'Stopped' });
  const [smoker] = await unlinked('WS-SMOKER');
  expect(smoker).toMatchObject({ waiting: 2, product: null });
  const [jars] = await unlinked('XJAR');
  expect(jars.proposals[0].why.length).toBeGreaterThan(0);
  const answer = await lead.post('listings/link', {
    links: [
      { listingId: smoker.id, sku: 'SMK-4-ST' },
      { listingId: jars.id, sku: 'JAR-HEX-12', units: 2 },
    ],
  });
  expect(answer.body).toMatchObject({ freed: 3, answers: [{ done: true }, { done: true }] });
  expect(await stageOf('L-2')).toMatchObject({ stage: 'Clear' });
  const pair = (await lead.get(`orders/${await idOfOrder(lead, 'L-3')}`)).body;
  expect(pair.lines[0]).toMatchObject({ quantity: 1, units: 2, parts: [{ sku: 'JAR-HEX-12', quantity: 2 }] });
});

test('products are made from listings; without a barcode they are Unproven and their orders wait for a code', async () => {
  await bringIn(lead, [['L-4', 'NEW-THING', 1, '9.00']]);
  const [listing] = await unlinked('NEW-THING');
  const made = await lead.post('listings/products', { listingIds: [listing.id] });
  expect(made.body.answers[0]).toMatchObject({ done: true, says: 'made NEW-THING' });
  expect(await productOf(lead, 'NEW-THING')).toMatchObject({
    stage: 'Unproven',
    name: 'Thing NEW-THING',
    openOrders: 1,
  });
  expect(await stageOf('L-4')).toMatchObject({
    stage: 'Stopped',
    reason: 'Thing NEW-THING has nothing to scan.',
  });
  const packer = await house.signIn('AB-1002');
  expect((await packer.post('products/NEW-THING/codes', { code: '4006381333931' })).body).toEqual({
    freed: 1,
  });
  expect(await productOf(lead, 'NEW-THING')).toMatchObject({
    stage: 'Live',
    codes: [{ code: '04006381333931', units: 1 }],
  });
  expect((await stageOf('L-4')).stage).toBe('Short');
  const taken = await lead.post('products/JAR-HEX-12/codes', { code: '4006381333931' });
  expect(taken.body.detail).toContain('belongs to Thing NEW-THING');
  expect((await lead.post('products/JAR-HEX-12/codes', { code: 'A-01-1' })).body.detail).toContain(
    'is the code of a place',
  );
});

test('a listing is not linked to a retired product; retiring stops orders, living again frees them', async () => {
  await bringIn(lead, [['R-1', 'BRS-BEE', 1, '7.00']]);
  const before = await productOf(lead, 'BRS-BEE');
  expect(
    (await lead.post('products/BRS-BEE', { version: before.version, fields: { stage: 'Retired' } })).status,
  ).toBe(200);
  expect((await stageOf('R-1')).stage).toBe('Stopped');
  await bringIn(lead, [['R-2', 'WS-BRUSH', 1, '7.00']]);
  const [listing] = await unlinked('WS-BRUSH');
  const refused = (await lead.post('listings/link', { links: [{ listingId: listing.id, sku: 'BRS-BEE' }] }))
    .body.answers[0];
  expect(refused).toMatchObject({ done: false, says: expect.stringContaining('is retired') });
  expect((await lead.post('products/BRS-BEE/remove')).body.detail).toContain('is in orders');
  await lead.post('products/BRS-BEE', {
    version: (await productOf(lead, 'BRS-BEE')).version,
    fields: { stage: 'Live' },
  });
  expect((await stageOf('R-1')).stage).toBe('Clear');
});

test('facts are edited one by one and in many products; who saw an old version is told so', async () => {
  const seen = await productOf(lead, 'BOOK-1ST');
  expect(
    (
      await lead.post('products/BOOK-1ST', {
        version: seen.version,
        fields: { warning: 'no bends', perParcel: 3, weightMg: 500_000, foldable: false },
      })
    ).status,
  ).toBe(200);
  expect(
    (await lead.post('products/BOOK-1ST', { version: seen.version, fields: { warning: 'x' } })).status,
  ).toBe(409);
  await lead.post('products/edit', { skus: ['BOOK-1ST', 'BOOK-LOG'], fields: { origin: 'de' } });
  expect((await productOf(lead, 'BOOK-LOG')).facts.origin).toBe('DE');
  const history = (await lead.get('products/BOOK-1ST/history')).body;
  expect(history.at(-2).changes).toContainEqual({
    line: null,
    field: 'warning',
    before: null,
    after: 'no bends',
  });
  for (const fields of [
    { origin: 'Narnia' },
    { customsCode: '12' },
    { nonsense: 1 },
    { name: '' },
    { weightMg: -1 },
    { fragile: 'maybe' },
  ])
    expect(
      (await lead.post('products/edit', { skus: ['BOOK-1ST'], fields })).status,
      JSON.stringify(fields),
    ).toBe(422);
});

test('abroad without customs facts an order waits, and goes on when they are given', async () => {
  await lead.post('products/edit', { skus: ['FRM-GRP'], fields: { customsCode: null } });
  const csv =
    'Order number,Buyer,Address 1,City,Zip,Country,Phone,SKU,Qty,Price\nAB-1,Jan,1 Kade,Utrecht,3511 AA,NL,+31 20 555 0101,FRM-GRP,1,16\n';
  await lead.takeIn('orders', 'channel=web&name=a.csv', csv);
  expect((await stageOf('AB-1')).reason).toContain('for customs it lacks: customs code');
  await lead.post('products/edit', { skus: ['FRM-GRP'], fields: { customsCode: '820559' } });
  expect((await stageOf('AB-1')).stage).toBe('Clear');
});

test('pictures are taken by their bytes, bounded, and served as pictures only', async () => {
  const png = Buffer.concat([
    Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]),
    Buffer.alloc(100),
  ]);
  expect((await lead.file('products/JAR-HEX-12/picture', png)).status).toBe(200);
  const { picture } = await productOf(lead, 'JAR-HEX-12');
  expect(picture).toMatch(/^up:/);
  expect((await lead.get(`pictures/${picture.slice(3)}`)).status).toBe(200);
  expect((await lead.file('products/JAR-HEX-12/picture', '<svg onload="alert(1)"/>')).body.detail).toContain(
    'is no PNG',
  );
  expect(
    (await lead.file('products/JAR-HEX-12/picture', Buffer.concat([png, Buffer.alloc(2_100_000)]))).status,
  ).toBe(422);
  expect((await lead.file('products/JAR-HEX-12/picture', Buffer.alloc(4_000_000))).status).toBe(413);
});

test('what is missing stands where it matters', async () => {
  await lead.post('products', { sku: 'BARE-1', fields: { name: 'Bare thing' } });
  expect((await productOf(lead, 'BARE-1')).missing.map((m: { fact: string }) => m.fact)).toEqual([
    'code',
    'weight',
    'size',
    'customs',
    'value',
    'picture',
  ]);
  expect((await lead.post('products', { sku: 'BARE-1', fields: { name: 'Again' } })).status).toBe(409);
  await lead.post('products/BARE-1', { version: 1, fields: { stage: 'Retired' } });
  expect((await lead.post('products/BARE-1/remove')).status).toBe(200);
  expect((await lead.get('products/BARE-1')).status).toBe(404);
});

test('two shops with one order number are two orders', async () => {
  const csv = orderCsv(['SAME-1,Ruth One,1 Road,Boise,ID,83702,BOOK-1ST,Book,1,5']);
  await lead.takeIn('orders', 'channel=web&name=a.csv', csv);
  await lead.takeIn(
    'orders',
    'channel=plaza&name=a.csv',
    csv.replace('BOOK-1ST', 'P9-BOOK-1ST').replace('Ruth One', 'Per Two'),
  );
  expect((await lead.get('orders?stage=all&words=SAME-1')).body.count.n).toBe(2);
});
