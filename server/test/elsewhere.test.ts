import { afterAll, beforeAll, expect, test } from 'vitest';
import { Rounds } from '../src/leases/rounds.service.js';
import { bringIn, idOfOrder } from './drive.js';
import { type Caller, differences, type House, openHouse } from './house.js';
import { bookOf, saveBook, settle } from './ruleBooks.js';

let house: House;
let lead: Caller;
beforeAll(async () => {
  house = await openHouse('small');
  lead = await house.signIn('AB-1001');
  const facts = {
    supplierName: 'Marl Glassworks',
    supplierCode: 'MG-77',
    supplierMinor: 1_850,
    supplier: true,
  };
  expect((await lead.post('products/edit', { skus: ['SMK-4-ST'], fields: facts })).status).toBe(200);
  await saveBook(
    lead,
    bookOf(
      'Glass from there | at arrival, always do let the supplier send lines where (properties of the line have "shipped by the supplier")',
    ),
  );
});
afterAll(() => house.close());

const view = async (id: string) => (await lead.get(`orders/${id}`)).body;
const sent = async (id: string) => (await lead.get(`elsewhere/orders/${id}`)).body.sent;
const text = async (path: string) =>
  (await fetch(`${house.url}/api/v1/${path}`, { headers: { cookie: lead.cookie } })).text();
/** Mails to the supplier, whose lines may be broken as mail breaks them. */
const mails = () =>
  house.standins.mail
    .names()
    .map(n =>
      house.standins.mail
        .mail(n)!
        .toString('utf8')
        .replace(/=\r?\n/g, ''),
    )
    .filter(m => /^To: .*desk@marl\.example/m.test(m));
/** An order of some of our own and some of the supplier's; gives both halves. */
async function both(number: string): Promise<{ ours: string; theirs: string }> {
  await bringIn(lead, [
    [number, 'FRK-UNC', 1, '9.00', `Buyer ${number}`],
    [number, 'SMK-4-ST', 2, '38.00', `Buyer ${number}`],
  ]);
  await settle(house);
  await settle(house);
  return { ours: await idOfOrder(lead, number), theirs: await idOfOrder(lead, `${number}/2`) };
}
const left = (id: string, tracking: string, carrier = 'Northway') =>
  lead.post(`elsewhere/orders/${id}/left`, { carrier, tracking });

test('lines of a supplier become an order of their own that wants nothing of the house; our half goes on without waiting', async () => {
  // The supplier is made with the first order; before that nobody could tell where they read mail.
  const first = await both('EL-0');
  expect(await sent(first.theirs)).toMatchObject({ by: 'supplier', name: 'Marl Glassworks', mail: '' });
  const [supplier] = (await lead.get('receiving/suppliers')).body.filter(
    (s: { name: string }) => s.name === 'Marl Glassworks',
  );
  await lead.post(`receiving/suppliers/${supplier.id}/mail`, { mail: 'desk@marl.example' });

  const { ours, theirs } = await both('EL-1');
  const [a, b] = [await view(ours), await view(theirs)];
  expect(a.row.stage).toBe('Clear');
  expect(a.lines.map((l: { product: { sku: string } }) => l.product.sku)).toEqual(['FRK-UNC']);
  expect(b.row).toMatchObject({ stage: 'Elsewhere', units: 2 });
  const said = await sent(theirs);
  expect(said).toMatchObject({
    purchase: expect.stringMatching(/^PO-\d+$/),
    mail: 'desk@marl.example',
    leftAt: null,
  });
  expect(b.row.reason).toBe(`Marl Glassworks, ${said.purchase}`);
  // Found in Orders under its stage, and promised nothing.
  const listed = (await lead.get('orders?stage=Elsewhere&words=EL-1')).body.rows;
  expect(listed.map((r: { id: string }) => r.id)).toEqual([theirs]);
  expect(b.lines[0].parts.every((p: { quantity: number }) => p.quantity === 0)).toBe(true);
  // The purchase order is never received.
  const purchase = (await lead.get('receiving')).body.find((p: { no: string }) => p.no === said.purchase);
  expect(purchase).toMatchObject({ state: 'to buyer', ordered: 2, supplier: 'Marl Glassworks' });
  const dock = await lead.post(`receiving/${said.purchase}/open`, { device: 'test-device' });
  expect(dock).toMatchObject({ status: 422 });
  expect(await differences(house)).toEqual([]);
});

test('the supplier has it by mail, as a table and as a UBL order: their code, our price, and where it ships', async () => {
  const { theirs } = await both('EL-2');
  const { purchase } = await sent(theirs);
  const mail = mails().filter(m => m.includes(`${purchase}: please send to our buyer`));
  expect(mail).toHaveLength(1);
  expect(mail[0]).toContain('2 × MG-77'.replace('×', '=C3=97'));
  expect(mail[0]).toContain('Buyer EL-2');
  const csv = (await text(`elsewhere/purchases/${purchase}/csv`)).split('\r\n');
  expect(csv[1]).toContain(`${purchase},`);
  expect(csv[1]).toContain('MG-77,SMK-4-ST');
  expect(csv[1]).toContain(',2,18.50,USD,Buyer EL-2,');
  const xml = await text(`elsewhere/purchases/${purchase}/xml`);
  expect(xml).toContain(`<cbc:ID>${purchase}</cbc:ID>`);
  expect(xml).toContain('<cbc:PayableAmount currencyID="USD">37.00</cbc:PayableAmount>');
  expect((await lead.get('elsewhere/purchases/PO-999999/csv')).status).toBe(404);
});

test('when it left there, it is departed, its channel is told once, and the purchase order is done', async () => {
  const { ours, theirs } = await both('EL-3');
  const { purchase } = await sent(theirs);
  expect((await left(ours, 'NW-1')).status).toBe(422);
  expect((await left(theirs, 'NW 00345')).status).toBe(200);
  // Told again, as by a file that is brought in twice, it is the same.
  expect((await left(theirs, 'NW 00345')).status).toBe(200);
  expect((await left(theirs, 'NW 00346')).status).toBe(409);
  await settle(house);
  const order = await view(theirs);
  expect(order.row.stage).toBe('Departed');
  expect(order.parcels).toMatchObject([{ tracking: 'NW 00345' }]);
  const way = await lead.get(`parcels/${order.parcels[0].no}/way`);
  expect(way.body).toMatchObject({
    state: null,
    events: [],
    why: 'Auk does not speak with Northway; ask there for NW 00345.',
  });
  expect(order.related.map((r: { number: string; stage: string }) => [r.number, r.stage])).toEqual([
    ['EL-3', 'Clear'],
  ]);
  expect((await sent(theirs)).leftAt).not.toBeNull();
  const row = (await lead.get('receiving')).body.find((p: { no: string }) => p.no === purchase);
  expect(row.state).toBe('done');
  expect((await view(ours)).row.stage).toBe('Clear');
  expect(await differences(house)).toEqual([]);
});

test('two who tell one number at once for two orders: one of them has it, the other is told', async () => {
  const [a, b] = [await both('EL-4'), await both('EL-5')];
  const answers = await Promise.all([left(a.theirs, 'NW-77', 'heron'), left(b.theirs, 'NW-77', 'heron')]);
  expect(answers.map(x => x.status).sort()).toEqual([200, 409]);
  const stages = [(await view(a.theirs)).row.stage, (await view(b.theirs)).row.stage];
  expect(stages.sort()).toEqual(['Departed', 'Elsewhere']);
  expect(await differences(house)).toEqual([]);
});

test('sent from here after all it wants its goods again, and the supplier is told; cancelled it is called off', async () => {
  const { theirs } = await both('EL-6');
  const { purchase } = await sent(theirs);
  expect((await lead.post(`elsewhere/orders/${theirs}/back`)).status).toBe(200);
  await settle(house);
  const order = await view(theirs);
  expect(['Clear', 'Short']).toContain(order.row.stage);
  expect(order.lines[0].parts.reduce((n: number, p: { quantity: number }) => n + p.quantity, 0)).toBe(2);
  expect(await sent(theirs)).toBeNull();
  expect(mails().some(m => m.includes(`${purchase} is called off`))).toBe(true);
  // The rule has had its turn: the order is not routed again.
  await lead.post('rules/again', { ids: [theirs] });
  await settle(house);
  expect(await sent(theirs)).toBeNull();

  const other = await both('EL-7');
  const { purchase: second } = await sent(other.theirs);
  await lead.post(`orders/${other.theirs}/cancel`, { reason: 'Asked by the buyer' });
  await settle(house);
  expect(mails().some(m => m.includes(`${second} is called off`))).toBe(true);
  expect((await left(other.theirs, 'NW-9')).status).toBe(422);
  expect(await differences(house)).toEqual([]);
});

test('what is ordered elsewhere is not changed, split or merged here; an order wholly of the supplier goes as it is', async () => {
  await bringIn(lead, [['EL-8', 'SMK-4-ST', 1, '38.00']]);
  await settle(house);
  await settle(house);
  const id = await idOfOrder(lead, 'EL-8');
  const order = await view(id);
  expect(order.row.stage).toBe('Elsewhere');
  const [line] = order.lines;
  const edit = await lead.post(`orders/${id}/edit`, {
    version: order.version,
    lines: [{ key: line.key, quantity: 3 }],
    undo: true,
  });
  expect(edit).toMatchObject({ status: 422 });
  const split = await lead.post(`orders/${id}/split`, {
    version: order.version,
    lines: [{ key: line.key, quantity: 1 }],
  });
  expect(split.status).toBe(422);
  expect((await lead.post('picking/lists', { orderIds: [id] })).status).not.toBe(200);
  expect(await differences(house)).toEqual([]);
});

test('while it is stopped its address may be mended, and it is ordered when that is done; its lines stay', async () => {
  await saveBook(
    lead,
    bookOf(
      'Glass from there | at arrival, always do let the supplier send lines where (properties of the line have "shipped by the supplier")',
    ),
  );
  const csv =
    'Order number,Buyer name,Address 1,City,State,Zip,SKU,Item title,Qty,Unit price\nEL-10,Buyer EL-10,1 Road,Boise,ID,9999,SMK-4-ST,Smoker,1,38.00\n';
  await lead.takeIn('orders', 'channel=web&name=t.csv', csv);
  await settle(house);
  await settle(house);
  const id = await idOfOrder(lead, 'EL-10');
  const stopped = await view(id);
  expect(stopped.row.stage).toBe('Stopped');
  expect(await sent(id)).toMatchObject({ purchase: null, placedAt: null });
  const edit = (more: object) =>
    lead.post(`orders/${id}/edit`, { version: stopped.version, undo: true, ...more });
  expect((await edit({ lines: [{ sku: 'FRK-UNC', quantity: 1 }] })).status).toBe(422);
  expect((await edit({ shipTo: { ...stopped.shipTo, postcode: '83702' } })).status).toBe(200);
  await settle(house);
  expect((await view(id)).row.stage).toBe('Elsewhere');
  expect(await sent(id)).toMatchObject({ purchase: expect.stringMatching(/^PO-\d+$/) });
  // What the channel adds to it by itself takes nothing from here either.
  await lead.takeIn(
    'orders',
    'channel=web&name=t.csv',
    `${csv.replace(',9999,', ',83702,')}EL-10,Buyer EL-10,1 Road,Boise,ID,83702,FRK-UNC,Fork,1,9.00\n`,
  );
  await settle(house);
  const { lines } = await view(id);
  const parts = lines.flatMap((l: { parts: { quantity: number }[] }) => l.parts);
  expect(parts.every((p: { quantity: number }) => p.quantity === 0)).toBe(true);
  expect(await differences(house)).toEqual([]);
});

test('a file of the supplier tells many at once; each row says what became of it, and twice is once', async () => {
  const { theirs } = await both('EL-9');
  const { purchase } = await sent(theirs);
  const file = `Order,Carrier,Tracking number\n${purchase},Northway,NW-200\nEL-NONE,Northway,NW-201\n`;
  const first = await lead.takeIn('sent', 'name=sent.csv', file);
  expect(first.body.rows.map((r: { state: string }) => r.state).sort()).toEqual(['cannot change', 'changed']);
  expect((await view(theirs)).row.stage).toBe('Departed');
  const again = await lead.takeIn('sent', 'name=sent.csv', file);
  expect(again.body.rows.map((r: { state: string }) => r.state).sort()).toEqual(['cannot change', 'same']);
  expect((await view(theirs)).parcels).toHaveLength(1);
});

const CENTER = 'Fernway Centers';
const center = () => house.standins.networks.get('network')!.orders;
/** An order of a book that lies at the center, split off for it by a rule. */
async function atCenter(number: string, sku = 'BOOK-1ST'): Promise<{ ours: string; theirs: string }> {
  await saveBook(
    lead,
    bookOf(
      `Books from there | at arrival, always do let a fulfillment center send lines where (product is "${sku}")`,
    ),
  );
  await bringIn(lead, [
    [number, 'FRK-UNC', 1, '9.00', `Buyer ${number}`],
    [number, sku, 1, '20.00', `Buyer ${number}`],
  ]);
  await settle(house);
  await settle(house);
  return { ours: await idOfOrder(lead, number), theirs: await idOfOrder(lead, `${number}/2`) };
}

test('a center is ordered from once, also where its answer was lost; it leaves with the number that it tells', async () => {
  expect((await lead.get('elsewhere/centers')).body).toMatchObject([
    { name: CENTER },
    { name: 'Nordhavn Lager' },
  ]);
  const lies = await lead.get(`elsewhere/centers/${encodeURIComponent(CENTER)}/stock`);
  expect(lies.body.rows).toContainEqual({ code: 'BOOK-1ST', units: 25 });
  const long = (name: string) =>
    lead.post('elsewhere/centers', {
      name,
      address: `http://127.0.0.1:${house.standinsPort}/none`,
      key: 'k',
    });
  expect((await long('x'.repeat(31))).status).toBe(400);
  expect((await long('x'.repeat(30))).status).toBe(200);
  expect((await lead.get(`elsewhere/centers/${'x'.repeat(30)}/stock`)).status).toBe(422);
  // What nobody answers is remembered under the longest name, too.
  expect((await lead.get('inbound/networks')).status).toBe(200);
  expect((await lead.get('elsewhere/centers/Nowhere/stock')).status).toBe(404);
  house.standins.lostAnswers = 1;
  const { ours, theirs } = await atCenter('CE-1');
  expect((await view(theirs)).row.stage).toBe('Elsewhere');
  expect(await sent(theirs)).toMatchObject({ by: 'center', name: CENTER, placedAt: null });
  await house.db.run("UPDATE job SET runAt = NOW(3) WHERE kind = 'order at center' AND state = 'waiting'");
  await settle(house);
  expect((await sent(theirs)).placedAt).not.toBeNull();
  expect(
    center()
      .orders.all()
      .filter(o => o.key === theirs),
  ).toHaveLength(1);
  center().answer('POST', 'orders', theirs, 'send', '');
  await house.app.get(Rounds).once('centers');
  await house.app.get(Rounds).once('centers');
  const order = await view(theirs);
  expect(order.row.stage).toBe('Departed');
  expect(order.parcels).toMatchObject([{ tracking: expect.stringMatching(/^NP\d{8}$/) }]);
  expect((await view(ours)).row.stage).toBe('Clear');
  expect(await differences(house)).toEqual([]);
});

test('what a center has not got waits and says so; taken back, the house sends it, and never both', async () => {
  const none = await atCenter('CE-2', 'SMK-4-ST');
  const said = await sent(none.theirs);
  expect(said).toMatchObject({ placedAt: null, why: `${CENTER} says: 0 of 1 SMK-4-ST are there.` });
  expect((await view(none.theirs)).row.reason).toContain(CENTER);
  expect((await lead.post(`elsewhere/orders/${none.theirs}/back`)).status).toBe(200);
  expect(['Clear', 'Short']).toContain((await view(none.theirs)).row.stage);

  const { theirs } = await atCenter('CE-3');
  expect((await lead.post(`elsewhere/orders/${theirs}/back`)).status).toBe(200);
  expect(center().answer('GET', 'orders', theirs, '', '').body).toMatchObject({ state: 'cancelled' });

  const gone = await atCenter('CE-4');
  center().answer('POST', 'orders', gone.theirs, 'send', '');
  const late = await lead.post(`elsewhere/orders/${gone.theirs}/back`);
  expect(late).toMatchObject({ status: 409, body: { detail: `${CENTER} says: It has left already.` } });
  expect((await view(gone.theirs)).row.stage).toBe('Elsewhere');

  // On its way there while it is called off: the center is told behind it.
  house.standins.lostAnswers = 1;
  const crossed = await atCenter('CE-5');
  expect((await sent(crossed.theirs)).placedAt).toBeNull();
  expect((await lead.post(`elsewhere/orders/${crossed.theirs}/back`)).status).toBe(200);
  await settle(house);
  expect(center().answer('GET', 'orders', crossed.theirs, '', '').body).toMatchObject({ state: 'cancelled' });
  expect(await differences(house)).toEqual([]);
});
