import { v7 } from 'uuid';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { Tx } from '../src/database/db.js';
import {
  bringIn,
  idOfOrder,
  listAndPick,
  orderCsv,
  packAndClose,
  productOf,
  scanOf,
  wishOf,
} from './drive.js';
import { type Caller, differences, type House, openHouse } from './house.js';
import { ADDRESS } from './samples.js';

let house: House;
let lead: Caller;
let office: Caller;
/** Locks that an edit took out of the stated order. */
const outOfOrder = new Set<string>();
beforeAll(async () => {
  Tx.onOutOfOrder = o => outOfOrder.add(`${o.table} after ${o.held}`);
  house = await openHouse('small');
  [lead, office] = [await house.signIn('AB-1001'), await house.signIn('AB-1004')];
});
afterAll(async () => {
  Tx.onOutOfOrder = null;
  expect([...outOfOrder]).not.toContain('productStock after allocation');
  expect(await differences(house)).toEqual([]);
  await house.close();
});

const view = async (id: string) => (await lead.get(`orders/${id}`)).body;
const made = async (...rows: Parameters<typeof bringIn>[1]) => {
  await bringIn(lead, rows);
  return idOfOrder(lead, rows[0]![0]);
};
/** Pieces of a product on the staging place. */
const staged = async (sku: string): Promise<number> => {
  const { stock } = (await lead.get('places/STAGE-1')).body;
  return stock.find((s: { sku: string }) => s.sku === sku)?.onHand ?? 0;
};
const edit = async (id: string, change: object, caller = lead) =>
  caller.post(`orders/${id}/edit`, { version: (await view(id)).version, ...change });

test('a quantity up and down: parts, reservation, money and balance follow at once', async () => {
  const id = await made(['E-1', 'SCL-HV', 2, '10.00']);
  const before = await productOf(lead, 'SCL-HV');
  const [line] = (await view(id)).lines;
  expect((await edit(id, { lines: [{ key: line.key, quantity: 5 }] })).status).toBe(200);
  expect((await productOf(lead, 'SCL-HV')).free).toBe(before.free - 3);
  expect(await view(id)).toMatchObject({ money: { totalMinor: 5000, paidMinor: 2000, balanceMinor: -3000 } });
  await edit(id, { lines: [{ key: line.key, quantity: 1 }] });
  expect((await productOf(lead, 'SCL-HV')).free).toBe(before.free + 1);
  const after = await view(id);
  expect(after.money.balanceMinor).toBe(1000);
  expect(after.history.at(-1)).toMatchObject({
    person: 'Ines Maddow',
    changes: [{ field: 'quantity', before: 5, after: 1 }],
  });
});

test('a bundle line follows in all its parts, also when it goes away', async () => {
  const id = await made(['E-2', 'SET-SMKHTL', 1, '46.00'], ['E-2', 'JAR-HEX-12', 1, '1.00']);
  const free = async () => (await productOf(lead, 'SMK-4-ST')).free;
  const before = await free();
  const key = (await view(id)).lines[0].key;
  await edit(id, { lines: [{ key, quantity: 3 }] });
  expect(await free()).toBe(before - 2);
  await edit(id, { lines: [{ key, remove: true }] });
  expect(await free()).toBe(before + 1);
  expect((await view(id)).lines).toHaveLength(1);
});

test('one act over all lines: 10 % off, an amount, one tax rate, a weight shared out', async () => {
  const id = await made(['E-3', 'JAR-HEX-12', 1, '19.99'], ['E-3', 'BOOK-1ST', 2, '5.05']);
  const prices = async () => (await view(id)).lines.map((l: { priceMinor: number }) => l.priceMinor);
  await edit(id, { all: { type: 'percent', ppm: -100_000 } });
  expect(await prices()).toEqual([1799, 455]);
  await edit(id, { all: { type: 'amount', minor: 100 } });
  expect(await prices()).toEqual([1899, 555]);
  await edit(id, { all: { type: 'tax', ppm: 72_500 } });
  const taxed = await view(id);
  expect(taxed.money.taxMinor).toBe(138 + 80);
  expect(taxed.money.totalMinor).toBe(1899 + 1110 + 218);
  await edit(id, { all: { type: 'weight', mg: 3_000_000 } });
  expect((await view(id)).lines.map((l: { weightMg: number }) => l.weightMg)).toEqual([1_000_000, 2_000_000]);
  const refused = await edit(id, { all: { type: 'amount', minor: -1000 } });
  expect(refused.status).toBe(422);
  expect(refused.body.detail).toContain('would fall under zero');
  expect(await prices()).toEqual([1899, 555]);
});

test('two people: the second sees what the first changed, and nothing of theirs is lost', async () => {
  const id = await made(['E-4', 'BOOK-1ST', 1, '5.00']);
  const seen = await view(id);
  expect((await office.post(`orders/${id}/edit`, { version: seen.version, note: 'call first' })).status).toBe(
    200,
  );
  const late = await lead.post(`orders/${id}/edit`, { version: seen.version, shippingMinor: 500 });
  expect(late.status).toBe(409);
  expect(late.body.detail).toBe('Odile Marsh changed the order while you were at it.');
  expect(late.body.facts.since[0].changes).toEqual([
    { line: null, field: 'note', before: '', after: 'call first' },
  ]);
  expect(
    (await lead.post(`orders/${id}/edit`, { version: late.body.facts.version, shippingMinor: 500 })).status,
  ).toBe(200);
  expect(await view(id)).toMatchObject({ note: 'call first', money: { shippingMinor: 500 } });
});

test('an edit of a listed order says what it undoes, and undoes it when agreed to', async () => {
  const id = await made(['E-5', 'BOOK-1ST', 2, '5.00']);
  await lead.post('picking/lists', { orderIds: [id] });
  const key = (await view(id)).lines[0].key;
  const asked = await edit(id, { lines: [{ key, quantity: 1 }] });
  expect(asked.status).toBe(422);
  expect(asked.body).toMatchObject({ facts: { undoes: 'undo' } });
  expect(asked.body.detail).toMatch(/^This undoes work: It is taken off PL-\d+\.$/);
  expect((await view(id)).row.stage).toBe('Listed');
  expect((await edit(id, { undo: true, lines: [{ key, quantity: 1 }] })).status).toBe(200);
  expect(await view(id)).toMatchObject({ row: { stage: 'Clear', units: 1 } });
  // A price is no matter of the floor: no question is asked.
  await lead.post('picking/lists', { orderIds: [id] });
  expect((await edit(id, { lines: [{ key, priceMinor: 1 }] })).status).toBe(200);
  expect((await view(id)).row.stage).toBe('Listed');
});

test('an edit of a picked order lays the pieces on the staging place; while it is being picked, or its parcel is closed, it waits', async () => {
  const id = await made(['E-6', 'BOOK-1ST', 2, '5.00']);
  const list = await lead.post('picking/lists', { orderIds: [id] });
  const opened = (await lead.post('picking/open', { code: list.body.no, device: 'test-device' })).body;
  const key = (await view(id)).lines[0].key;
  await lead.post(`picking/sessions/${opened.sessionId}/scans`, scanOf(opened.state.stops[0].placeCode));
  const blocked = await edit(id, { undo: true, lines: [{ key, quantity: 1 }] });
  expect(blocked.body.detail).toMatch(/is picking it on PL-\d+ right now/);
  await lead.post(
    `picking/sessions/${opened.sessionId}/scans`,
    scanOf(opened.state.stops[0].product.codes[0].code),
  );
  await lead.post(`picking/sessions/${opened.sessionId}/scans`, scanOf('AUK-ALL'));
  expect((await view(id)).row.stage).toBe('Picked');
  expect((await view(id)).undoes).toContain('2 picked units leave tote');
  expect((await edit(id, { undo: true, lines: [{ key, quantity: 1 }] })).status).toBe(200);
  expect(await staged('BOOK-1ST')).toBe(2);
  expect((await view(id)).row.stage).toBe('Clear');
  await listAndPick(lead, [id]);
  const packed = await packAndClose(lead, (await view(id)).row.no);
  expect((await edit(id, { undo: true, lines: [{ key, quantity: 2 }] })).body.detail).toContain(
    `${packed.parcelNo} is closed`,
  );
  const { offers } = (await lead.get(`parcels/${packed.parcelNo}/offers`)).body;
  await lead.post(`parcels/${packed.parcelNo}/label`, wishOf(offers[0]));
  const { shipTo } = await view(id);
  const labelled = await edit(id, { undo: true, shipTo: { ...shipTo, line1: '2 Road' } });
  expect(labelled.status).toBe(422);
  expect(labelled.body.detail).toContain('has its label already');
});

test('a cancelled order comes off its list, or out of its tote; while it is picked or packed it waits', async () => {
  const cancel = (id: string) => lead.post(`orders/${id}/cancel`, { reason: 'changed their mind' });
  const listed = await made(['E-61', 'BOOK-1ST', 1, '5.00']);
  await lead.post('picking/lists', { orderIds: [listed] });
  expect((await cancel(listed)).status).toBe(200);
  expect((await view(listed)).row.stage).toBe('Cancelled');

  const picked = await made(['E-62', 'BOOK-1ST', 1, '5.00']);
  const list = await lead.post('picking/lists', { orderIds: [picked] });
  const { sessionId, state } = (
    await lead.post('picking/open', { code: list.body.no, device: 'test-device' })
  ).body;
  await lead.post(`picking/sessions/${sessionId}/scans`, scanOf(state.stops[0].placeCode));
  const picking = await cancel(picked);
  expect([picking.status, picking.body.detail]).toEqual([422, expect.stringMatching(/is picking it on PL-/)]);
  await lead.post(`picking/sessions/${sessionId}/scans`, scanOf(state.stops[0].product.codes[0].code));
  const before = await staged('BOOK-1ST');
  expect((await cancel(picked)).status).toBe(200);
  expect(await staged('BOOK-1ST')).toBe(before + 1);

  const packed = await made(['E-63', 'BOOK-1ST', 1, '5.00']);
  await listAndPick(lead, [packed]);
  const { parcelNo } = await packAndClose(lead, (await view(packed)).row.no);
  const packing = await cancel(packed);
  expect([packing.status, packing.body.detail]).toEqual([422, expect.stringContaining(`in ${parcelNo}`)]);
  expect(await differences(house)).toEqual([]);
});

test('a cancelled order says why, and what was paid for it is to refund until it was', async () => {
  const id = await made(['E-64', 'BOOK-1ST', 1, '5.00']);
  await edit(id, { payment: 'paid' });
  const { money } = await view(id);
  expect(money).toMatchObject({ paidMinor: money.totalMinor, balanceMinor: 0 });
  await lead.post(`orders/${id}/cancel`, { reason: 'changed their mind' });
  const gone = await view(id);
  expect(gone.row).toMatchObject({ stage: 'Cancelled', reason: 'changed their mind' });
  expect(gone.money.balanceMinor).toBe(money.totalMinor);
  expect((await edit(id, { payment: 'refunded' })).status).toBe(200);
  expect(await view(id)).toMatchObject({ settled: 'refunded', money: { paidMinor: 0, balanceMinor: 0 } });
});

test('an order that nobody paid owes nothing once it is cancelled', async () => {
  const id = await made(['E-65', 'BOOK-1ST', 1, '5.00']);
  await edit(id, { payment: 'unpaid' });
  expect((await view(id)).money).toMatchObject({
    paidMinor: 0,
    balanceMinor: -(await view(id)).money.totalMinor,
  });
  await lead.post(`orders/${id}/cancel`, { reason: 'not paid' });
  expect((await view(id)).money.balanceMinor).toBe(0);
});

test('the channel sends it again: what we changed stays, what both changed waits for a person', async () => {
  await bringIn(lead, [['E-7', 'BOOK-1ST', 1, '5.00', 'Ruth P']]);
  const id = await idOfOrder(lead, 'E-7');
  const { shipTo } = await view(id);
  await edit(id, { shipTo: { ...shipTo, postcode: '83704', line1: '9 Lane' } });
  const again = (street: string, quantity: number) =>
    lead.takeIn(
      'orders',
      'channel=web&name=t.csv',
      orderCsv([`E-7,Ruth P,${street},Boise,ID,83702,BOOK-1ST,Thing BOOK-1ST,${quantity},5.00`]),
    );
  const merged = await again('1 Road', 3);
  expect(merged.body.counts).toMatchObject({ new: 0, changed: 1 });
  expect(await view(id)).toMatchObject({
    shipTo: { postcode: '83704', line1: '9 Lane' },
    row: { stage: 'Clear', units: 3 },
  });
  await again('7 Square', 3);
  const stopped = await view(id);
  expect(stopped.row.stage).toBe('Stopped');
  expect(stopped.stops[0].says).toBe('The channel changed street to “7 Square”; here it was made “9 Lane”.');
  await lead.post(`orders/${id}/differences/${stopped.differences[0].id}`, { take: true });
  expect(await view(id)).toMatchObject({
    shipTo: { line1: '7 Square', postcode: '83704' },
    row: { stage: 'Clear' },
  });
  expect((await again('7 Square', 3)).body.counts).toMatchObject({ same: 1, changed: 0 });
});

test('news for an order under way never changes goods by itself', async () => {
  const id = await made(['E-8', 'BOOK-1ST', 1, '5.00', 'Ruth Q']);
  await listAndPick(lead, [id]);
  await bringIn(lead, [['E-8', 'BOOK-1ST', 4, '5.00', 'Ruth Q']]);
  const stopped = await view(id);
  expect(stopped.row).toMatchObject({ stage: 'Stopped', units: 1 });
  await lead.post(`orders/${id}/differences/${stopped.differences[0].id}`, { take: false });
  expect((await view(id)).row.stage).toBe('Picked');
});

test('a repeat of a purchase is stopped, and accepted in one press', async () => {
  await bringIn(lead, [['D-1', 'BOOK-1ST', 1, '5.00', 'Twin Buyer']]);
  await bringIn(lead, [['D-2', 'BOOK-1ST', 1, '5.00', 'Twin Buyer']]);
  const id = await idOfOrder(lead, 'D-2');
  expect((await view(id)).stops).toMatchObject([{ code: 'duplicate', subject: 'D-1' }]);
  await office.post(`orders/${id}/accept`, { code: 'duplicate', subject: 'D-1' });
  expect((await view(id)).row.stage).toBe('Clear');
  await bringIn(lead, [['D-3', 'BOOK-1ST', 1, '5.00', 'Twin Buyer']]);
  const third = await idOfOrder(lead, 'D-3');
  expect((await view(third)).row.stage).toBe('Stopped');
  await lead.post(`orders/${id}/cancel`, { reason: 'a repeat' });
  expect((await view(third)).row.stage).toBe('Clear');
});

test('typed in: three scans are three, a case code counts its pack, a repeated scan counts once', async () => {
  const { id } = (await office.post('orders')).body;
  expect((await view(id)).row).toMatchObject({ stage: 'Incoming', reason: 'a draft' });
  const jar = await productOf(lead, 'JAR-HEX-12');
  const scan = scanOf(jar.codes[0].code);
  for (const s of [scan, scan, { ...scan, id: v7() }, { ...scan, id: v7() }])
    await office.post(`orders/${id}/scans`, s);
  expect((await view(id)).lines).toMatchObject([{ quantity: 3, channelSku: 'JAR-HEX-12' }]);
  const big = (await office.post(`orders/${id}/scans`, scanOf('CASE-JAR-HEX-12'))).body;
  expect(big.answer.says).toBe('15 × Honey jar, hex, 12 oz.');
  expect((await office.post(`orders/${id}/scans`, scanOf('NO-SUCH'))).body.answer).toMatchObject({
    kind: 'refused',
  });
  await edit(id, {
    lines: [{ sku: 'BOOK-1ST', quantity: 1 }],
    mail: 'r@mail.example',
    shipTo: { ...ADDRESS, name: 'Ruth Typed' },
  });
  const free = (await productOf(lead, 'BOOK-1ST')).free;
  expect((await office.post(`orders/${id}/finish`, { version: (await view(id)).version })).status).toBe(200);
  const entered = await view(id);
  expect(entered.row).toMatchObject({ stage: 'Clear', channel: 'By hand' });
  expect(entered.money.balanceMinor).toBe(0);
  expect((await productOf(lead, 'BOOK-1ST')).free).toBe(free - 1);
  expect((await office.get('orders/buyers?words=ruth%20ty')).body[0]).toMatchObject({
    mail: 'r@mail.example',
    orders: 1,
  });
  const copy = (await office.post(`orders/${id}/copy`)).body.id;
  expect(await view(copy)).toMatchObject({
    draft: true,
    lines: [{ quantity: 15 }, { quantity: 1 }],
    money: { paidMinor: 0 },
  });
});

test('goods that came broken are sent again free of charge: a copy that costs nothing, is paid, and is no repeat', async () => {
  const first = await made(['E-66', 'BOOK-1ST', 2, '5.00']);
  await edit(first, { shippingMinor: 700, discountMinor: 100, payment: 'paid' });
  const id = (await office.post(`orders/${first}/copy`, { free: true })).body.id;
  const draft = await view(id);
  expect(draft).toMatchObject({
    draft: true,
    payment: 'paid',
    lines: [{ quantity: 2, priceMinor: 0 }],
    money: { totalMinor: 0, shippingMinor: 0, discountMinor: 0, balanceMinor: 0 },
  });
  expect((await office.post(`orders/${id}/finish`, { version: draft.version })).status).toBe(200);
  expect(await view(id)).toMatchObject({ row: { stage: 'Clear' }, stops: [], settled: 'paid' });
  expect((await view(first)).history.at(-1).says).toBe(
    `To be sent again, free of charge: ${draft.row.channelNumber}.`,
  );
});

test('split to the cent, and put together again', async () => {
  const id = await made(['S-1', 'BOOK-1ST', 3, '3.33'], ['S-1', 'JAR-HEX-12', 2, '1.00']);
  await edit(id, { shippingMinor: 1000, discountMinor: 77 });
  const before = await view(id);
  const [book, jar] = before.lines;
  const split = await lead.post(`orders/${id}/split`, {
    version: before.version,
    lines: [
      { key: book.key, quantity: 1 },
      { key: jar.key, quantity: 2 },
    ],
  });
  expect(split.status).toBe(200);
  const [stay, go] = [await view(id), await view(split.body.id)];
  expect(go.row.channelNumber).toBe('S-1/2');
  expect(stay.lines.map((l: { quantity: number }) => l.quantity)).toEqual([2]);
  expect(go.lines.map((l: { quantity: number }) => l.quantity)).toEqual([1, 2]);
  for (const sum of ['totalMinor', 'shippingMinor', 'discountMinor', 'paidMinor'])
    expect(stay.money[sum] + go.money[sum], sum).toBe(before.money[sum]);
  expect(stay.related).toMatchObject([{ number: 'S-1/2', how: 'split' }]);
  const everything = await lead.post(`orders/${id}/split`, {
    version: stay.version,
    lines: [{ key: book.key, quantity: 2 }],
  });
  expect(everything.status).toBe(422);
  expect((await lead.post('orders/merge', { ids: [id, split.body.id] })).body.id).toBe(id);
  const whole = await view(id);
  expect(whole.money).toEqual(before.money);
  expect((await view(split.body.id)).row.stage).toBe('Cancelled');
  const stranger = await made(['S-2', 'BOOK-1ST', 1, '1.00', 'Somebody Else']);
  expect((await lead.post('orders/merge', { ids: [id, stranger] })).body.detail).toContain(
    'different buyers',
  );
});

test('parked with words: freeing wants them typed', async () => {
  const id = await made(['P-1', 'BOOK-1ST', 1, '5.00']);
  await lead.post(`orders/${id}/park`, { reason: 'legal', word: 'cleared by Odile' });
  const refused = await lead.post(`orders/${id}/unpark`, {});
  expect(refused.body.detail).toContain('cleared by Odile');
  expect((await lead.post(`orders/${id}/unpark`, { word: 'Cleared by odile ' })).status).toBe(200);
  expect((await view(id)).row.stage).toBe('Clear');
});

test('many at once: each order answers for itself', async () => {
  const [a, b] = [await made(['B-1', 'BOOK-1ST', 1, '5.00']), await made(['B-2', 'BOOK-1ST', 1, '5.00'])];
  await lead.post(`orders/${b}/cancel`, { reason: 'no' });
  const answers = (await lead.post('orders/bulk', { ids: [a, b], act: 'park', text: 'stocktaking' })).body;
  expect(answers).toMatchObject([
    { number: 'B-1', done: true, says: 'parked' },
    { number: 'B-2', done: false, says: expect.stringContaining('The order is Cancelled.') },
  ]);
  expect((await lead.post('orders/bulk', { ids: [a], act: 'tag', text: '' })).body[0].done).toBe(false);
  await lead.post('orders/bulk', { ids: [a, b], act: 'tag', text: 'fair' });
  expect((await lead.get('orders?stage=all&tag=fair')).body.count).toEqual({ n: 2, over: false });
});

test('notes of three kinds stay apart and are kept in the history when they go', async () => {
  const id = await made(['N-9', 'BOOK-1ST', 1, '5.00']);
  for (const kind of ['packer', 'slip', 'staff'])
    await lead.post(`orders/${id}/notes`, { kind, text: `for ${kind}`, confirm: true });
  const { notes } = await view(id);
  expect(notes.map((n: { kind: string; confirm: boolean }) => [n.kind, n.confirm])).toEqual([
    ['packer', true],
    ['slip', false],
    ['staff', false],
  ]);
  await lead.post(`orders/${id}/notes/${notes[0].id}/remove`);
  const after = await view(id);
  expect(after.notes).toHaveLength(2);
  expect(after.history.at(-1).says).toBe('Note for the packer taken off: for packer');
});

test('what cannot be: foreign lines, unknown SKUs, cancelled orders; nothing changes', async () => {
  const id = await made(['X-1', 'BOOK-1ST', 1, '5.00']);
  const before = await view(id);
  expect((await edit(id, { lines: [{ key: 'NOPE#1', quantity: 2 }] })).status).toBe(422);
  expect((await edit(id, { lines: [{ sku: 'NO-SUCH-SKU', quantity: 2 }] })).status).toBe(422);
  expect((await edit(id, { lines: [{ key: before.lines[0].key, quantity: 0 }] })).status).toBe(400);
  expect((await edit(id, { shippingMinor: -5 })).status).toBe(400);
  expect(await view(id)).toEqual(before);
  await lead.post(`orders/${id}/cancel`, { reason: 'no' });
  expect((await edit(id, { note: 'x' })).status).toBe(422);
  expect((await (await house.signIn('AB-1003')).post(`orders/${id}/edit`, { version: 1 })).status).toBe(403);
});

test('a file without a column leaves what that column would say', async () => {
  const full =
    'Order number,Buyer name,E-mail,Phone,Address 1,City,State,Zip,SKU,Item title,Qty,Unit price,Deliver by\nSI-1,Ruth S,r@mail.example,555-0100,1 Road,Boise,ID,83702,BOOK-1ST,Book,1,5.00,2026-12-01\n';
  await lead.takeIn('orders', 'channel=web&name=a.csv', full);
  const id = await idOfOrder(lead, 'SI-1');
  const bare = orderCsv(['SI-1,Ruth S,1 Road,Boise,ID,83702,BOOK-1ST,Book,2,5.00']);
  const seen = (await lead.file('imports/orders?channel=web&name=b.csv', bare)).body.rows[0];
  expect(seen.changes.map((c: { field: string }) => c.field).sort()).toEqual(['paidMinor', 'quantity']);
  await lead.takeIn('orders', 'channel=web&name=b.csv', bare);
  expect(await view(id)).toMatchObject({
    mail: 'r@mail.example',
    shipTo: { phone: '555-0100' },
    row: { promised: '2026-12-01', units: 2 },
    money: { balanceMinor: 0 },
  });
});

test('a listed order that is parked is under way still: news of its goods wait for a person, and it is not split', async () => {
  await bringIn(lead, [['PKD-1', 'BOOK-LOG', 3, '5.00']]);
  const id = await idOfOrder(lead, 'PKD-1');
  expect((await lead.post('picking/lists', { orderIds: [id] })).status).toBe(200);
  expect((await lead.post(`orders/${id}/park`, { reason: 'wait' })).status).toBe(200);
  await bringIn(lead, [['PKD-1', 'BOOK-LOG', 1, '5.00']]);
  const { body } = await lead.get(`orders/${id}`);
  expect(body.lines[0].quantity).toBe(3);
  const split = await lead.post(`orders/${id}/split`, {
    version: body.version,
    lines: [{ key: body.lines[0].key, quantity: 1 }],
  });
  expect([split.status, split.body.detail]).toEqual([
    422,
    expect.stringMatching(/its pieces are on their way/),
  ]);
  expect(await differences(house)).toEqual([]);
});

test('an order that is read while its lines come and go is shown whole, as it was before or after', async () => {
  const id = await made(['E-RACE', 'FRK-UNC', 1, '9.00']);
  let going = true;
  const readers = Array.from({ length: 6 }, async () => {
    const answers: {
      status: number;
      body: { lines: { total: { total: number } }[]; money: { totalMinor: number } };
    }[] = [];
    while (going) answers.push(await office.get(`orders/${id}`));
    return answers;
  });
  for (let i = 0; i < 8; i++) {
    expect((await edit(id, { lines: [{ sku: 'SMK-4-ST', quantity: 1 }] })).status).toBe(200);
    const added = (await view(id)).lines.at(-1).key;
    expect((await edit(id, { lines: [{ key: added, remove: true }] })).status).toBe(200);
  }
  going = false;
  const answers = (await Promise.all(readers)).flat();
  expect(answers.length).toBeGreaterThan(10);
  for (const { status, body } of answers) {
    expect(status).toBe(200);
    expect(body.lines.reduce((n, l) => n + l.total.total, 0)).toBe(body.money.totalMinor);
  }
});
