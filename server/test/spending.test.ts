import { type RuleBook, readSentence } from '@auk/core';
import { afterAll, beforeAll, beforeEach, expect, test } from 'vitest';
import { Labels } from '../src/labels/labels.service.js';
import { Rounds } from '../src/leases/rounds.service.js';
import { Unattended } from '../src/rules/unattended.entity.js';
import { bringIn, idOfOrder, listAndPick, packAndClose, wishOf } from './drive.js';
import { type Caller, differences, type House, openHouse } from './house.js';

let house: House;
let lead: Caller;
beforeAll(async () => {
  house = await openHouse('small');
  lead = await house.signIn('AB-1001');
});
afterAll(() => house.close());
// Each test has a day's caps of its own: what earlier ones spent lies on another day.
beforeEach(() => house.db.run('UPDATE unattended SET day = day - INTERVAL 40 DAY'));

const rule = (id: string, name: string, sentence: string) => {
  const read = readSentence(sentence);
  if (!read.ok) throw new Error(read.problem.wanted);
  return { id, name, note: '', on: true, ...read.value };
};
const BOOK: RuleBook = {
  rows: [
    rule('ground', 'By ground', 'at arrival, always do send by "redfen ground"'),
    rule('alone', 'Bought alone', 'at packed, always do buy its label unattended'),
  ],
};
/** Saves the book, whatever runs now. */
const save = async (book = BOOK) => {
  const { no } = (await lead.get('rules')).body;
  expect((await lead.post('rules', { base: no, note: '', book })).status).toBe(200);
};
const caps = (labelMinor: number | null, dayMinor: number | null, ruleMinor: number | null) =>
  lead.post('rules/spending/caps', { labelMinor, dayMinor, rules: { alone: ruleMinor } });
const spending = async () => (await lead.get('rules/spending')).body;

/** Lets the rules of stages run, and what they cause. */
const settle = async () => {
  await house.app.get(Rounds).once('stages passed');
  await house.app.get(Rounds).once('jobs');
  await house.app.get(Rounds).once('jobs');
};

let count = 0;
/** Parcels that are packed, each of an order of its own. */
async function packed(n: number): Promise<{ id: string; parcelNo: string }[]> {
  const numbers = Array.from({ length: n }, () => `SP-${++count}`);
  await bringIn(
    lead,
    numbers.map(x => [x, 'FRK-UNC', 1, '9.00']),
  );
  const ids = await Promise.all(numbers.map(x => idOfOrder(lead, x)));
  await listAndPick(lead, ids);
  const all = [];
  for (const id of ids) {
    const { row } = (await lead.get(`orders/${id}`)).body;
    all.push({ id, parcelNo: (await packAndClose(lead, row.no)).parcelNo });
  }
  return all;
}
const sold = (parcelNo: string) =>
  house.standins.desks
    .get('redfen')!
    .kept.sold.all()
    .filter(s => s.reference === parcelNo);
const price = async (parcelNo: string): Promise<number> =>
  (await lead.get(`parcels/${parcelNo}/offers`)).body.offers[0].houseMinor;

test('without caps nothing is bought, and the order says why', async () => {
  await save();
  const [p] = await packed(1);
  await settle();
  expect(await spending()).toMatchObject({
    labels: 0,
    refused: 1,
    rows: [
      {
        parcel: p!.parcelNo,
        state: 'refused',
        why: expect.stringContaining('without one nothing is bought'),
      },
    ],
  });
  expect(sold(p!.parcelNo)).toEqual([]);
  const { history } = (await lead.get(`orders/${p!.id}`)).body;
  expect(history.at(-1)).toMatchObject({
    says: expect.stringContaining('was not bought unattended. No cap'),
  });
  expect(history.at(-1).person).toMatch(/^book \d+, rule 2$/);
});

test('within its caps a label is bought once, by the service that a rule chose, and is the label of its parcel', async () => {
  await caps(5_000, 100_000, 100_000);
  const [p] = await packed(1);
  await settle();
  await settle();
  await lead.post('rules/again', { ids: [p!.id] });
  await settle();
  const books = sold(p!.parcelNo);
  expect(books).toHaveLength(1);
  const { rows, minor, labels } = await spending();
  expect(rows[0]).toMatchObject({
    parcel: p!.parcelNo,
    service: 'Redfen Ground',
    state: 'bought',
    minor: books[0]!.minor,
  });
  expect({ minor, labels }).toEqual({ minor: books[0]!.minor, labels: 1 });
  expect((await lead.get(`orders/${p!.id}`)).body.row.stage).toBe('Labelled');
  expect(await differences(house)).toEqual([]);
});

test('however many workers want to buy at once, no cap is exceeded', async () => {
  await caps(5_000, 100_000, 0);
  const parcels = await packed(6);
  const each = await price(parcels[0]!.parcelNo);
  await caps(5_000, each * 4 + 10, each * 3);
  const other = await house.secondServer();
  await house.app.get(Rounds).once('stages passed');
  await Promise.all([house.app, other.app, house.app, other.app].map(app => app.get(Rounds).once('jobs')));
  await settle();
  await Promise.all([house.app, other.app].map(app => app.get(Rounds).once('jobs')));
  await other.close();
  const { minor, labels, refused, rows } = await spending();
  expect({ labels, refused }).toEqual({ labels: 3, refused: 3 });
  expect(minor).toBe(each * 3);
  expect(rows.filter((r: { why: string }) => r.why.includes('for this rule'))).toHaveLength(3);
  expect(parcels.flatMap(p => sold(p.parcelNo))).toHaveLength(3);
});

test('a refusal frees what was held; what is not answered holds it, and is found out', async () => {
  await caps(5_000, 100_000, 100_000);
  const [refused] = await packed(1);
  house.standins.misbehave('redfen', { on: 'buy', how: 'refuse', times: 1 });
  await settle();
  expect(await spending()).toMatchObject({ minor: 0, labels: 0, refused: 1, rows: [{ state: 'refused' }] });
  expect(sold(refused!.parcelNo)).toEqual([]);
  const [silent] = await packed(1);
  house.standins.misbehave('redfen', { on: 'buy', how: 'fail after', times: 1 });
  await settle();
  const held = await spending();
  expect(held).toMatchObject({ labels: 1, rows: [{ state: 'under way' }, { state: 'refused' }] });
  expect(held.minor).toBe(sold(silent!.parcelNo)[0]!.minor);
  // Its carrier's books say what became of it.
  await house.db.run("UPDATE label SET askedAt = askedAt - INTERVAL 60 SECOND WHERE state = 'unknown'");
  await house.app.get(Labels).recover();
  expect(await spending()).toMatchObject({ labels: 1, minor: held.minor, rows: [{ state: 'bought' }, {}] });
  expect(sold(silent!.parcelNo)).toHaveLength(1);
});

test('a label that is voided does not give its money back to the caps of the day', async () => {
  await caps(5_000, 100_000, 100_000);
  const [p] = await packed(1);
  await settle();
  const { minor } = await spending();
  expect(minor).toBeGreaterThan(0);
  expect((await lead.post(`parcels/${p!.parcelNo}/void`, {})).status).toBe(200);
  expect(await spending()).toMatchObject({ minor, rows: [{ state: 'voided' }] });
  // Nor is another bought by the same rule.
  await lead.post('rules/again', { ids: [p!.id] });
  await settle();
  expect(sold(p!.parcelNo)).toHaveLength(1);
});

test('anybody may pause it, and what is not yet asked stops; to lift the pause is a right', async () => {
  await caps(5_000, 100_000, 100_000);
  const packer = await house.signIn('AB-1002');
  expect((await packer.post('rules/spending/pause', {})).status).toBe(200);
  const [p] = await packed(1);
  await settle();
  expect(await spending()).toMatchObject({
    paused: true,
    labels: 0,
    rows: [{ why: 'Buying unattended is paused.' }],
  });
  expect(sold(p!.parcelNo)).toEqual([]);
  expect((await packer.post('rules/spending/resume', {})).status).toBe(403);
  expect((await packer.post('rules/spending/caps', { labelMinor: 1, dayMinor: 1, rules: {} })).status).toBe(
    403,
  );
  expect((await lead.post('rules/spending/resume', {})).status).toBe(200);
  expect((await spending()).paused).toBe(false);
});

/** What a server that was killed left behind: the price is held, and nobody has asked the carrier. */
async function heldFor(parcelNo: string): Promise<string> {
  const { offers } = (await lead.get(`parcels/${parcelNo}/offers`)).body;
  const [parcel] = await house.db.rows<{ id: string }>('SELECT id FROM parcel WHERE no = ?', [
    parcelNo.slice(3),
  ]);
  const wish = { ...wishOf(offers[0]), options: {} };
  await house.db.insert(Unattended, [
    {
      id: wish.key,
      parcelId: parcel!.id,
      ruleId: 'alone',
      rule: 'book 1, rule 2',
      day: (await spending()).day,
      minor: offers[0].houseMinor,
      service: offers[0].name,
      wish: JSON.stringify(wish),
      at: new Date(),
    },
  ]);
  return wish.key;
}

test('a server that is killed between holding and asking leaves a purchase that another carries out, under its key and once', async () => {
  await caps(5_000, 100_000, 100_000);
  const [p] = await packed(1);
  const key = await heldFor(p!.parcelNo);
  await settle();
  expect(sold(p!.parcelNo).map(s => s.key)).toEqual([key]);
  expect(await spending()).toMatchObject({ labels: 1, rows: [{ id: key, state: 'bought' }] });
});

test('what was held when the pause came, and not asked for yet, is let go of', async () => {
  await caps(5_000, 100_000, 100_000);
  const [p] = await packed(1);
  const key = await heldFor(p!.parcelNo);
  await lead.post('rules/spending/pause', {});
  await settle();
  expect(await spending()).toMatchObject({
    minor: 0,
    rows: [{ id: key, state: 'refused', why: 'Buying unattended is paused.' }],
  });
  expect(sold(p!.parcelNo)).toEqual([]);
  await lead.post('rules/spending/resume', {});
});

test('where a rule decided only a box the cheapest in time is bought; what a hand chose and no carrier sells is not replaced by another', async () => {
  await caps(9_000, 100_000, 100_000);
  await save({
    rows: [
      rule('box', 'Boxed', 'at arrival, always do pack in "BX-3"'),
      rule('alone', 'Bought alone', 'at packed, always do buy its label unattended'),
    ],
  });
  const [boxed] = await packed(1);
  await settle();
  expect(await spending()).toMatchObject({ labels: 1, rows: [{ parcel: boxed!.parcelNo, state: 'bought' }] });
  const [chosen] = await packed(1);
  const pallet = {
    carrier: 'stonewater',
    account: '',
    service: 'pallet',
    name: 'Pallet',
    boxes: [],
    options: {},
  };
  expect((await lead.post(`rating/orders/${chosen!.id}`, { chosen: pallet })).status).toBe(200);
  await settle();
  expect((await spending()).rows[0]).toMatchObject({
    parcel: chosen!.parcelNo,
    state: 'refused',
    why: 'The service that was chosen does not take it.',
  });
  await save();
});

test('what was guessed is never bought unattended', async () => {
  await caps(5_000, 100_000, 100_000);
  await house.db.run("UPDATE product SET length = NULL, width = NULL, height = NULL WHERE sku = 'FRK-UNC'");
  const [p] = await packed(1);
  await settle();
  expect(await spending()).toMatchObject({
    labels: 0,
    rows: [{ why: 'The size or weight of a product in it is a guess.' }],
  });
  expect(sold(p!.parcelNo)).toEqual([]);
});

test('a label over the cap for one is refused with both sums, and the day’s caps stand as they were', async () => {
  await house.db.run("UPDATE product SET length = 2000, width = 500, height = 200 WHERE sku = 'FRK-UNC'");
  await caps(100, 100_000, 100_000);
  await packed(1);
  await settle();
  const { rows, minor } = await spending();
  expect(rows[0].why).toMatch(/^The label costs \$\d+\.\d\d, and \$1\.00 is the most for one label\.$/);
  expect(minor).toBe(0);
  expect(await differences(house)).toEqual([]);
});

test('a cap is of the day of the warehouse: past its midnight there is room again, and what is tried once more stays on its own day', async () => {
  // Of these two zones, 25 hours apart, one is always a day further: the house goes over midnight at any hour.
  const zone = (name: string) => house.db.run('UPDATE warehouse SET zone = ?', [name]);
  await caps(5_000, 100_000, 100_000);
  const parcels = await packed(4);
  const each = await price(parcels[0]!.parcelNo);
  await caps(5_000, each + 10, each + 10);
  await zone('Pacific/Pago_Pago');
  const held = await heldFor(parcels[0]!.parcelNo);
  const { day } = await spending();
  await house.app.get(Rounds).once('stages passed');
  await zone('Pacific/Kiritimati');
  const other = await house.secondServer();
  await Promise.all([house.app, other.app].map(app => app.get(Rounds).once('jobs')));
  await settle();
  await other.close();
  const today = await spending();
  expect(today.day > day).toBe(true);
  // One of yesterday, under the key that was held then; one of today, and for the rest of today no room.
  expect(today).toMatchObject({ labels: 1, minor: each, refused: 2 });
  expect(parcels.flatMap(p => sold(p.parcelNo))).toHaveLength(2);
  expect(sold(parcels[0]!.parcelNo).map(s => s.key)).toEqual([held]);
  await zone('Pacific/Pago_Pago');
  expect(await spending()).toMatchObject({
    day,
    labels: 1,
    minor: each,
    rows: [{ id: held, state: 'bought' }],
  });
  await zone('America/New_York');
});
