import { v7 } from 'uuid';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { Rounds } from '../src/leases/rounds.service.js';
import { bringIn, idOfOrder, productOf } from './drive.js';
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

test('the scan field finds by words: orders by their buyers and products by their names', async () => {
  await bringIn(lead, [['RD-1', 'BOOK-1ST', 1, '5.00', 'Philippa Quarrington']]);
  const { body } = await lead.get('find?text=quarrington');
  expect(body.exact).toBeNull();
  expect(body.others.map((f: { name: string }) => f.name)).toContainEqual(
    expect.stringContaining('Philippa Quarrington'),
  );
  expect((await lead.get('find?text=honey%20jar')).body.others).toContainEqual(
    expect.objectContaining({ kind: 'product', code: 'JAR-HEX-12' }),
  );
});

test('words of which one is too short for the index are tested order by order', async () => {
  await bringIn(lead, [
    ['RD-2', 'BOOK-1ST', 1, '5.00', 'Bo Quarrington'],
    ['RD-3', 'BOOK-1ST', 1, '5.00', 'Al Quarrington'],
  ]);
  const found = (await lead.get('orders?stage=all&words=bo%20quarrington')).body.rows;
  expect(found.map((o: { channelNumber: string }) => o.channelNumber)).toEqual(['RD-2']);
});

test('buyers of earlier orders are offered by the beginning of a name or mail, however short', async () => {
  const { body } = await lead.get('orders/buyers?words=bo');
  expect(body.map((b: { shipTo: { name: string } }) => b.shipTo.name)).toContain('Bo Quarrington');
});

test('products are listed by their stage', async () => {
  const { rows } = (await lead.get('products?stage=Live&size=200')).body;
  expect(rows.length).toBeGreaterThan(5);
  expect(new Set(rows.map((p: { stage: string }) => p.stage))).toEqual(new Set(['Live']));
});

test('a ledger goes on where its last page ended, with what lay there then', async () => {
  const first = (await lead.get('stock/ledger/BOOK-1ST')).body;
  const after = first.rows[1];
  const next = (await lead.get(`stock/ledger/BOOK-1ST?before=${first.rows[0].id}`)).body;
  expect(next.rows[0]).toEqual(after);
});

test('listings by file: a new one is linked by its SKU, the same file again changes nothing', async () => {
  const file = 'Channel SKU,Title,Our SKU\nLST-NEW-1,First book of bees,BOOK-1ST\n';
  const bring = () => lead.takeIn('listings', 'channel=web&name=l.csv', file);
  expect((await bring()).body.counts).toMatchObject({ new: 1 });
  expect((await bring()).body.counts).toMatchObject({ same: 1 });
  await bringIn(lead, [['RD-4', 'LST-NEW-1', 2, '5.00']]);
  const order = (await lead.get(`orders/${await idOfOrder(lead, 'RD-4')}`)).body;
  expect(order.lines[0]).toMatchObject({ product: { sku: 'BOOK-1ST' }, quantity: 2 });
});

test('goods of a lot are moved by the lot’s code; a code that is none is refused', async () => {
  const [lot] = await house.db.rows<{ sku: string; lot: string; place: string }>(
    "SELECT p.sku, l.code AS lot, c.code AS place FROM stockBalance b JOIN lot l ON l.id = b.lotKey JOIN product p ON p.id = b.productId JOIN place c ON c.id = b.placeId AND c.kind = 'bin' WHERE b.onHand > b.listed ORDER BY l.code LIMIT 1",
  );
  const to = (await house.db.one<{ code: string }>(
    "SELECT code FROM place WHERE kind = 'quarantine' ORDER BY code LIMIT 1",
  ))!.code;
  const move = (code: string) =>
    lead.post('stock/moves', {
      key: v7(),
      sku: lot!.sku,
      lot: code,
      from: lot!.place,
      to,
      quantity: 1,
      reason: 'looked at',
    });
  expect((await move(lot!.lot)).status).toBe(200);
  expect((await move('NO-SUCH-LOT')).status).toBe(404);
});

test('two pickers who open one list at the same moment are in one session', async () => {
  const { sku } = await productOf(lead, 'BOOK-1ST');
  await bringIn(lead, [['RD-5', sku, 1, '5.00']]);
  const { no } = (await lead.post('picking/lists', { orderIds: [await idOfOrder(lead, 'RD-5')] })).body;
  const opened = await Promise.all(
    ['a', 'b', 'c', 'd'].map(device => lead.post('picking/open', { code: no, device })),
  );
  expect(opened.map(o => o.status)).toEqual([200, 200, 200, 200]);
  expect(new Set(opened.map(o => o.body.sessionId)).size).toBe(1);
  expect(opened[0]!.body.state).toEqual(opened[3]!.body.state);
});

test('the scan sheet of a bench is printed with the codes of the boxes', async () => {
  const response = await fetch(`${house.url}/api/v1/printing/scan-sheet.pdf`, {
    headers: { cookie: lead.cookie },
  });
  expect(response.headers.get('content-type')).toContain('application/pdf');
  expect(
    Buffer.from(await response.arrayBuffer())
      .subarray(0, 5)
      .toString('latin1'),
  ).toBe('%PDF-');
});

test('sign-ins that are over and guesses that are long past are forgotten, and no other', async () => {
  const other = await house.signIn('AB-1003');
  await house.db.run(
    "UPDATE signedIn s JOIN person p ON p.id = s.personId SET s.expiresAt = NOW(3) - INTERVAL 1 SECOND WHERE p.badge = 'AB-1003'",
  );
  await house.db.run(
    "INSERT INTO signInTry (badge, tries, until) VALUES ('AB-9', 3, NOW(3) - INTERVAL 2 DAY)",
  );
  expect((await other.get('orders')).status).toBe(401);
  await house.app.get(Rounds).once('old sign-ins');
  const left = await house.db.one<{ signed: number; tries: number }>(
    "SELECT (SELECT COUNT(*) FROM signedIn) AS signed, (SELECT COUNT(*) FROM signInTry WHERE badge = 'AB-9') AS tries",
  );
  expect(left).toEqual({ signed: 1, tries: 0 });
  expect((await lead.get('orders')).status).toBe(200);
});
