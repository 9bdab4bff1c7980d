import { afterAll, beforeAll, expect, test } from 'vitest';
import { bringIn, idOfOrder, listAndPick, packAndClose } from './drive.js';
import { type Caller, differences, type House, openHouse } from './house.js';
import { pagesOf } from './pdf.js';
import { bookOf, saveBook, settle } from './ruleBooks.js';

let house: House;
let lead: Caller;
let packer: Caller;
beforeAll(async () => {
  house = await openHouse('small');
  lead = await house.signIn('AB-1001');
  packer = await house.signIn('AB-1002');
});
afterAll(() => house.close());

const view = async (id: string) => (await lead.get(`orders/${id}`)).body;
const press = (who: Caller, code: string, ...orders: string[]) =>
  who.post(`rules/buttons/${code}/press`, { orders });
const made = async (number: string): Promise<string> => {
  await bringIn(lead, [[number, 'FRK-UNC', 1, '9.00']]);
  return idOfOrder(lead, number);
};

test('a button runs its own rule for an order, by its code, and history names book, rule and deed', async () => {
  const no = await saveBook(
    lead,
    bookOf(
      'RB-GIFT Gift | Wrapped | at button, when units is under 3 do tag it "gift", tell the packer "Wrap it"',
      'RB-BOX8 Large box | Large | at button, always do pack in "BX-4"',
      'RB-BOX2 Small box | Small | at button, always do pack in "BX-2"',
      'Others | at arrival, always do tag it "came"',
    ),
  );
  const id = await made('BT-1');
  const { row } = await view(id);
  expect(row.tags).toEqual(['came']);
  // By number, as the bench and the Floor know an order, in any case of letters.
  const answer = await press(packer, 'rb-gift', row.no);
  expect(answer).toMatchObject({
    status: 200,
    body: [{ id, done: true, says: 'Gift: tag it "gift", tell the packer "Wrap it".' }],
  });
  // Pressed twice it is told once.
  await press(packer, 'RB-GIFT', id);
  const order = await view(id);
  expect(order.row.tags).toEqual(['came', 'gift']);
  expect(order.notes).toHaveLength(1);
  const says = order.history.map((h: { person: string; says: string }) => `${h.person}: ${h.says}`);
  expect(says).toContain(`book ${no}, rule 1: Wrapped: tag it "gift", tell the packer "Wrap it".`);
  // Of two buttons that decide one thing, the last that was pressed counts; what the other one decided beside it stays.
  for (const [code, box] of [
    ['RB-BOX8', 'BX-4'],
    ['RB-BOX2', 'BX-2'],
    ['RB-BOX8', 'BX-4'],
  ]) {
    await press(packer, code!, id);
    const { fields } = (await lead.get(`rules/orders/${id}/why`)).body;
    expect(fields).toMatchObject([{ field: 'box', value: box }]);
  }
  // Rules that are run again press no button.
  await lead.post('rules/again', { ids: [id] });
  expect((await lead.get(`rules/orders/${id}/why`)).body.fields).toMatchObject([{ value: 'BX-4' }]);
  expect(await differences(house)).toEqual([]);
});

test('a button that is not for an order, comes too late, or is not there any more says so and does nothing', async () => {
  const id = await made('BT-2');
  await saveBook(
    lead,
    bookOf(
      'RB-MANY Many | Many | at button, when units is at least 3 do tag it "many"',
      'RB-LINE Apart | Apart | at button, always do let it go first',
    ),
  );
  expect((await press(packer, 'RB-MANY', id)).body).toEqual([
    {
      id,
      number: 'BT-2',
      done: false,
      says: '“Many” is not for it: at button, when units is at least 3 do tag it "many".',
    },
  ]);
  await listAndPick(lead, [id]);
  expect((await press(lead, 'RB-LINE', id)).body).toMatchObject([
    { done: false, says: 'It is too late to let it go first: the order is picked.' },
  ]);
  expect(await press(packer, 'RB-GONE', id)).toMatchObject({
    status: 404,
    body: { detail: 'The button RB-GONE is not in Auk.' },
  });
  expect((await press(packer, 'RB-MANY', 'OR-999999')).status).toBe(404);
  expect((await press(packer, 'what-is', id)).status).toBe(400);
  expect((await view(id)).row.tags).toEqual(['came']);
});

test('who may not do what a button does may not press it, and is told what it is', async () => {
  await saveBook(
    lead,
    bookOf(
      'RB-HOLD Hold it | Held | at button, always do park it: "Asked the buyer"',
      'RB-GIFT Gift | Gift | at button, always do tag it "gift"',
    ),
  );
  const id = await made('BT-3');
  expect(await press(packer, 'RB-HOLD', id)).toMatchObject({
    status: 403,
    body: {
      detail: 'You may not park it.',
      cure: 'Ask the lead to press “Hold it”, or for that right.',
    },
  });
  const seen = async (who: Caller) =>
    (await who.get('rules/buttons')).body.map((b: { code: string; refused: string | null }) => [
      b.code,
      b.refused,
    ]);
  expect(await seen(packer)).toEqual([
    ['RB-HOLD', 'You may not park it.'],
    ['RB-GIFT', null],
  ]);
  expect(await seen(lead)).toEqual([
    ['RB-HOLD', null],
    ['RB-GIFT', null],
  ]);
  // Who presses again what a person freed wants it parked again.
  const parked = async () => (await view(id)).row.stage === 'Parked';
  await press(lead, 'RB-HOLD', id);
  expect(await parked()).toBe(true);
  await lead.post('orders/bulk', { ids: [id], act: 'unpark', text: '' });
  expect(await parked()).toBe(false);
  await press(lead, 'RB-HOLD', id);
  expect(await parked()).toBe(true);
});

test('orders of which one is not here are left alone, all of them; a button that met no line did nothing', async () => {
  await saveBook(
    lead,
    bookOf(
      'RB-TAG Tag | Tag | at button, always do tag it "pressed"',
      'RB-APART Apart | Apart | at button, always do give a parcel of its own to each line where (product is "BOOK-1ST")',
    ),
  );
  const id = await made('BT-7');
  expect((await press(lead, 'RB-TAG', id, 'OR-999999')).status).toBe(404);
  expect((await view(id)).row.tags).not.toContain('pressed');
  expect((await press(lead, 'RB-APART', id)).body).toMatchObject([{ done: false }]);
});

test('two who press two buttons at once for one order both count', async () => {
  await saveBook(
    lead,
    bookOf(
      'RB-A One | One | at button, always do tag it "one", pack in "BX-2"',
      'RB-B Two | Two | at button, always do tag it "two", ask for a signature',
    ),
  );
  const id = await made('BT-4');
  const both = await Promise.all([press(packer, 'RB-A', id), press(lead, 'RB-B', id)]);
  expect(both.map(b => b.body[0].done)).toEqual([true, true]);
  expect((await view(id)).row.tags.sort()).toEqual(['one', 'two']);
  const { fields } = (await lead.get(`rules/orders/${id}/why`)).body;
  expect(fields.map((f: { field: string }) => f.field)).toEqual(['box', 'signature']);
  expect(await differences(house)).toEqual([]);
});

test('the codes of buttons are printed, each with what it does', async () => {
  const response = await fetch(`${house.url}/api/v1/rules/buttons.pdf`, { headers: { cookie: lead.cookie } });
  const [page] = pagesOf(Buffer.from(await response.arrayBuffer()));
  expect(page).toContain('RB-A');
  expect(page).toContain('One');
  expect(page).toContain('pack in "BX-2"');
});

test('a line that a rule wants apart has a parcel of its own in every plan, and the bench proposes both', async () => {
  await saveBook(
    lead,
    bookOf(
      'Forks apart | at arrival, always do give a parcel of its own to each line where (product is "FRK-UNC")',
    ),
  );
  await bringIn(lead, [
    ['BT-5', 'FRK-UNC', 2, '9.00', 'One Buyer'],
    ['BT-5', 'SMK-4-ST', 1, '38.00', 'One Buyer'],
    ['BT-6', 'FRK-UNC', 2, '9.00'],
  ]);
  await settle(house);
  const [two, one] = [await idOfOrder(lead, 'BT-5'), await idOfOrder(lead, 'BT-6')];
  const compared = await lead.post('rating/compare', { about: { kind: 'order', id: two } });
  expect(compared.body.rows[0].parcels).toHaveLength(2);
  await listAndPick(lead, [two, one]);
  const boxes = async (id: string) => {
    const { row } = await view(id);
    const { state } = (await lead.post('packing/open', { code: row.no, device: 'test-device' })).body;
    return [state.proposed.length, state.lines.map((l: { apart?: string }) => l.apart !== undefined)];
  };
  expect(await boxes(two)).toEqual([2, [true, false]]);
  // The one line of an order has its parcel anyway.
  expect(await boxes(one)).toEqual([1, [false]]);
  expect(await differences(house)).toEqual([]);
  await packAndClose(lead, (await view(one)).row.no);
});

test('a mail that rules name is written once for an order and moment, whichever rules want it; one that is gone is told', async () => {
  const template = { moment: 'rule', name: 'Care of glass', channel: '', inUse: true };
  const saved = await lead.post('mails/templates', {
    ...template,
    subject: 'About your glass, {order}',
    text: 'Hello {buyer}',
  });
  expect(saved.status).toBe(200);
  for (const wrong of [{ name: '' }, { moment: 'departed' }])
    expect(
      (await lead.post('mails/templates', { ...template, subject: 'S', text: 'T', ...wrong })).status,
    ).toBe(400);
  await saveBook(lead, { rows: [] });
  await bringIn(lead, [['BT-9', 'FRK-UNC', 1, '9.00']]);
  const id = await idOfOrder(lead, 'BT-9');
  await house.db.run("UPDATE orders SET mail = 'glass@buyer.example' WHERE id = ?", [id]);
  await saveBook(
    lead,
    bookOf(
      'One | at arrival, always do write the mail "Care of glass"',
      'Two | at arrival, when units is under 9 do write the mail "Care of glass"',
      'Gone | at arrival, always do write the mail "Care of wood"',
      'RB-CARE Care | Button | at button, always do write the mail "Care of glass"',
    ),
  );
  const { missing } = (await lead.get('rules')).body;
  expect(missing).toMatchObject([{ says: expect.stringContaining('names the mail “Care of wood”') }]);
  await lead.post('rules/again', { ids: [id] });
  await settle(house);
  const written = async () =>
    (await house.db.rows("SELECT cause FROM mail WHERE orderId = ? AND moment = 'rule'", [id])).length;
  expect(await written()).toBe(1);
  const sent = () =>
    house.standins.mail
      .names()
      .map(n => house.standins.mail.mail(n)!.toString('utf8'))
      .filter(m => m.includes('About your glass, BT-9'));
  expect(sent()).toHaveLength(1);
  await press(lead, 'RB-CARE', id);
  await press(lead, 'RB-CARE', id);
  await settle(house);
  expect(sent()).toHaveLength(2);
  expect(await written()).toBe(2);
});
