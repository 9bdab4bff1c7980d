import { CARRIED_OUT } from '@auk/contract';
import { ACTIONS, type RuleBook } from '@auk/core';
import { v7 } from 'uuid';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { Rounds } from '../src/leases/rounds.service.js';
import { bringIn, idOfOrder, listAndPick, packAndClose } from './drive.js';
import { type Caller, differences, type House, openHouse } from './house.js';
import { pagesOf } from './pdf.js';
import { bookOf } from './ruleBooks.js';

let house: House;
let lead: Caller;
let services: { code: string; name: string }[];
beforeAll(async () => {
  house = await openHouse('small');
  lead = await house.signIn('AB-1001');
  services = (await lead.get('rules/words')).body.services;
});
afterAll(() => house.close());

/** Lets rules of stages and of prices run. */
const settle = async () => {
  await house.app.get(Rounds).once('stages passed');
  await house.app.get(Rounds).once('jobs');
};

let shown = 0;
/** Saves a book over the one that runs. */
async function save(book: RuleBook, note = ''): Promise<number> {
  const answer = await lead.post('rules', { base: shown, note, book });
  if (answer.status !== 200) throw new Error(JSON.stringify(answer.body));
  shown = answer.body.no;
  return shown;
}

const view = async (id: string) => (await lead.get(`orders/${id}`)).body;
const why = async (id: string) => (await lead.get(`rules/orders/${id}/why`)).body;
/** The first service of a carrier's house account. */
const service = (carrier: string) =>
  services.find(s => s.code.split(' ').length === 2 && s.code.startsWith(`${carrier} `))!.code;

test('a book is saved in versions; the second of two who change it is told what the first changed', async () => {
  expect((await lead.get('rules')).body).toMatchObject({ no: 0, book: { rows: [] } });
  const first = bookOf('Dear | at arrival, when value is over 100.00 do ask for a signature');
  expect(await save(first, 'A beginning')).toBe(1);
  const other = await lead.post('rules', {
    base: 0,
    note: '',
    book: bookOf('Mine | at arrival, always do tag it "x"'),
  });
  expect(other).toMatchObject({
    status: 409,
    body: { facts: { no: 1, differences: [{ id: 'r-1', name: 'Dear', how: 'new' }] } },
  });
  expect(other.body.detail).toContain('Ines Maddow saved version 1');
  // The same book again is no version.
  expect(await save(first)).toBe(1);
  const second = bookOf('Dear | at arrival, when value is over 60.00 do ask for a signature');
  expect(await save(second, 'From 60')).toBe(2);
  const against = (await lead.get('rules/versions/2/against/1')).body.differences;
  expect(against).toMatchObject([{ how: 'changed', after: expect.stringContaining('100.00') }]);
  const back = await lead.post('rules/versions/1/again', { base: 2 });
  expect(back.body).toEqual({ no: 3 });
  shown = 3;
  expect((await lead.get('rules')).body.book).toEqual(first);
  expect((await lead.get('rules/versions')).body.map((v: { no: number }) => v.no)).toEqual([3, 2, 1]);
});

test('what is not said well is not saved, and every fault is named with its rule', async () => {
  const wrong = async (book: unknown) => lead.post('rules', { base: shown, note: '', book });
  const late = await wrong(bookOf('Late | at departed, always do let it go first'));
  expect(late).toMatchObject({ status: 422 });
  expect(late.body.detail).toBe('Rule 1 “Late” cannot let it go first at the moment departed.');
  expect((await wrong({ rows: [{ id: 'x', name: '', at: 'clear', do: [] }] })).status).toBe(400);
  expect(
    (
      await wrong({
        rows: [{ id: 'x', name: 'X', at: 'clear', when: { field: 'colour', is: 'yes' }, do: [] }],
      })
    ).status,
  ).toBe(400);
  expect((await lead.get('rules')).body.no).toBe(shown);
  const picker = await house.signIn('AB-1003');
  expect((await picker.post('rules', { base: shown, note: '', book: { rows: [] } })).status).toBe(403);
  // A thousand rules are slow, never refused; texts stay texts.
  const many = {
    rows: Array.from({ length: 1000 }, (_, i) => ({
      ...bookOf('R | at clear, always do tag it "<script>"').rows[0]!,
      id: `r-${i}`,
      on: false,
    })),
  };
  await save(many as RuleBook);
  expect((await lead.get('rules')).body.book.rows).toHaveLength(1000);
});

test('an order that comes in is decided by the rules of arrival, later rows over earlier ones, and says why', async () => {
  await save(
    bookOf(
      'Usual box | at arrival, always do pack in "BX-2"',
      'Many | at arrival, when units is at least 3 do pack in "BX-4", tag it "many", let it go first',
      'Tagged | at arrival, when tags have "Many" do write on the slip "Thank you", send by "' +
        service('redfen') +
        '"',
      'Few | at arrival, when units is under 3 do tag it "few"',
    ),
  );
  await bringIn(lead, [
    ['RU-1', 'FRK-UNC', 3, '9.00'],
    ['RU-2', 'FRK-UNC', 1, '9.00'],
  ]);
  const [one, two] = [await idOfOrder(lead, 'RU-1'), await idOfOrder(lead, 'RU-2')];
  const order = await view(one);
  expect(order.row.starred).toBe(true);
  expect(order.row.tags).toEqual(['many']);
  expect(order.notes).toMatchObject([{ kind: 'slip', text: 'Thank you' }]);
  const says = order.history.map((h: { person: string; says: string }) => `${h.person}: ${h.says}`);
  expect(says).toContain(`book ${shown}, rule 2: Many: pack in "BX-4", tag it "many", let it go first.`);
  expect((await why(one)).fields).toMatchObject([
    {
      field: 'service',
      value: services.find(s => s.code === service('redfen'))!.name,
      from: 'rule',
      by: `book ${shown}, rule 3 “Tagged”`,
    },
    { field: 'box', value: 'BX-4' },
    { field: 'first', value: 'yes' },
  ]);
  expect((await why(one)).runs).toMatchObject([
    { moment: 'arrival', book: shown, acted: [{ no: 1 }, { no: 2 }, { no: 3 }] },
  ]);
  expect((await why(two)).fields).toMatchObject([{ field: 'box', value: 'BX-2' }]);
  // It leaves with the carrier that was chosen for it.
  const { carrier } = (await house.db.one<{ carrier: string }>(
    'SELECT d.carrier FROM orders o JOIN departure d ON d.id = o.departureId WHERE o.id = ?',
    [one],
  ))!;
  expect(carrier).toBe('redfen');
  expect(await differences(house)).toEqual([]);
});

test('what a rule decided is offered first at the bench with its reason; a hand goes over it, and freed the rule counts again', async () => {
  const id = await idOfOrder(lead, 'RU-1');
  await listAndPick(lead, [id]);
  const { parcelNo, state } = await packAndClose(lead, (await view(id)).row.no);
  expect(state.proposed[0]).toBe('BX-4');
  const offers = async () => {
    const { chosenBy, offers } = (await lead.get(`parcels/${parcelNo}/offers`)).body;
    return { chosenBy, first: offers[0] };
  };
  expect(await offers()).toMatchObject({
    chosenBy: `book ${shown}, rule 3 “Tagged”`,
    first: { carrier: 'redfen', chosen: true },
  });
  const chosen = {
    carrier: 'heron',
    account: '',
    service: 'parcel',
    name: 'By hand',
    boxes: [],
    options: {},
  };
  expect((await lead.post(`rating/orders/${id}`, { chosen })).status).toBe(200);
  expect(await offers()).toMatchObject({ chosenBy: null, first: { carrier: 'heron', chosen: true } });
  expect((await why(id)).fields[0]).toMatchObject({
    from: 'hand',
    over: [{ by: `book ${shown}, rule 3 “Tagged”` }],
  });
  await lead.post(`rating/orders/${id}`, { chosen: null });
  expect(await offers()).toMatchObject({ first: { carrier: 'redfen', chosen: true } });
});

test('rules that want prices follow by a job: the cheapest in time, and what comes of a loss', async () => {
  await save(
    bookOf(
      'Cheapest | at clear, always do send by the cheapest in time of all',
      'Loss | at clear, when margin on shipping is under 0.00 do tag it "loss"',
      'Gain | at clear, when margin on shipping is at least 0.00 do tag it "gain"',
    ),
  );
  await bringIn(lead, [['RU-3', 'FRK-UNC', 1, '9.00']]);
  const id = await idOfOrder(lead, 'RU-3');
  expect((await why(id)).fields).toEqual([]);
  await settle();
  const { fields, runs } = await why(id);
  expect(fields).toMatchObject([{ field: 'service', from: 'rule' }]);
  expect(runs).toMatchObject([{ moment: 'clear', waiting: [] }]);
  // Nothing was paid for shipping.
  expect((await view(id)).row.tags).toEqual(['loss']);
  expect(await differences(house)).toEqual([]);
});

test('an order that a person freed is not parked again by the same rule for the same facts, for others it is', async () => {
  await save(
    bookOf(
      'Ask first | at arrival, when units is at least 2 do park it: "Ask the buyer first"',
      'Ask | at clear, when units is at least 2 do park it: "Ask the buyer again"',
    ),
  );
  await bringIn(lead, [['RU-4', 'FRK-UNC', 2, '9.00']]);
  const id = await idOfOrder(lead, 'RU-4');
  expect((await view(id)).row.stage).toBe('Parked');
  await lead.post(`orders/${id}/unpark`, { word: '' });
  await settle();
  expect((await view(id)).row).toMatchObject({ stage: 'Parked' });
  await lead.post(`orders/${id}/unpark`, { word: '' });
  await settle();
  await lead.post('rules/again', { ids: [id] });
  expect((await view(id)).row).toMatchObject({ stage: 'Clear' });
  const { version, lines } = await view(id);
  await lead.post(`orders/${id}/edit`, { version, lines: [{ key: lines[0].key, quantity: 3 }] });
  await lead.post('rules/again', { ids: [id] });
  expect((await view(id)).row).toMatchObject({ stage: 'Parked' });
  expect(await differences(house)).toEqual([]);
});

test('running again does nothing twice, and answers for each order', async () => {
  await save(bookOf('Note | at arrival, always do note for the staff "Once", tag it "seen"'));
  await bringIn(lead, [['RU-5', 'FRK-UNC', 1, '9.00']]);
  const id = await idOfOrder(lead, 'RU-5');
  const before = (await view(id)).history.length;
  for (let i = 0; i < 3; i++)
    expect((await lead.post('rules/again', { ids: [id] })).body).toMatchObject([
      { number: 'RU-5', done: true },
    ]);
  const order = await view(id);
  expect(order.notes).toHaveLength(1);
  expect(order.row.tags).toEqual(['seen']);
  expect(order.history).toHaveLength(before);
  expect((await lead.post('rules/again', { ids: [v7()] })).body).toMatchObject([{ done: false }]);
});

/** All that carriers, channels and mailboxes have in their books. */
const standinsBooks = () =>
  JSON.stringify([
    ...[...house.standins.desks.values()].map(d => Object.values(d.kept).map(books => books.all())),
    house.standins.told.all(),
    house.standins.returned.all(),
    house.standins.tellings,
  ]);

/** Every table but those of jobs and dry runs, to be compared. */
async function everything(): Promise<string> {
  const tables = await house.db.rows<{ t: string }>(
    "SELECT table_name AS t FROM information_schema.tables WHERE table_schema = DATABASE() AND table_name NOT IN ('job', 'dryRun', 'lease', 'outbox', 'counter', 'session') ORDER BY table_name",
  );
  const sums = [];
  for (const { t } of tables) {
    const [row] = await house.db.rows<{ Checksum: number }>(`CHECKSUM TABLE ${t} EXTENDED`);
    sums.push(`${t} ${row!.Checksum}`);
  }
  return [...sums, standinsBooks()].join('\n');
}

type Priced = { costBeforeMinor: number | null; costAfterMinor: number | null };

/** A dry run when it is done. */
async function dryRunDone(id: string) {
  await expect
    .poll(async () => (await lead.get(`rules/dry-runs/${id}`)).body.state, { timeout: 60_000 })
    .toBe('done');
  return (await lead.get(`rules/dry-runs/${id}`)).body;
}

test('a dry run says what a book would change, with its cost and which rule decided, and changes nothing', async () => {
  await save(bookOf('Usual | at clear, always do pack in "BX-3"'));
  await settle();
  const book = bookOf(
    'Usual | at clear, always do pack in "BX-3"',
    `Redfen | at clear, always do send by "${service('redfen')}"`,
    'Never | at clear, when units is over 5000 do pack in "BX-1"',
  );
  const before = await everything();
  const id = v7();
  const ask = { id, book, rule: null, on: { open: true } };
  await lead.post('rules/dry-runs', ask);
  await lead.post('rules/dry-runs', ask);
  const { done, total, result } = await dryRunDone(id);
  expect(total).toBeGreaterThan(20);
  expect(done).toBe(total);
  expect(result.changed).toBeGreaterThan(10);
  expect(result.rows[0].fields[0]).toMatchObject({ field: 'service', before: null, rule: 'rule 2 “Redfen”' });
  expect(result.rules).toMatchObject([{ rule: 'r-1' }, { rule: 'r-2' }, { rule: 'r-3', acted: 0 }]);
  // Orders that do not change cost the same before and after.
  const priced = result.rows.filter((r: Priced) => r.costBeforeMinor !== null && r.costAfterMinor !== null);
  const more = priced.reduce((n: number, r: Priced) => n + r.costAfterMinor! - r.costBeforeMinor!, 0);
  expect(result.costAfterMinor - result.costBeforeMinor).toBe(more);
  expect(await everything()).toBe(before);
  const one = v7();
  await lead.post('rules/dry-runs', { id: one, book, rule: 'r-2', on: { last: 5 } });
  expect((await dryRunDone(one)).result).toMatchObject({ orders: 5, rules: [{ rule: 'r-2' }] });
});

test('proofs stand beside the book: dead, overridden and contradictory rules by the names of who is to blame', async () => {
  const book = bookOf(
    'All abroad | at clear, when goes abroad do tag it "far", then stop',
    'Dear abroad | at clear, when goes abroad and value is over 50.00 do ask for a signature',
    'Box | at clear, when units is over 2 do pack in "BX-2"',
    'Box again | at clear, when units is over 1 do pack in "BX-3"',
    'Nonsense | at clear, when units is over 5 and units is under 4 do let it go first',
  );
  const { body } = await lead.post('rules/proofs', { book });
  expect(body.map((p: { is: string; by: string[] }) => [p.is, ...p.by])).toEqual([
    ['acts'],
    ['never acts', 'r-1'],
    ['always overridden', 'r-4'],
    ['acts'],
    ['contradicts itself'],
  ]);
  expect(body[1].says).toBe('It can never act because of rule 1 “All abroad”.');
});

test('a rule that names what is not there any more is told, decides nothing, and is cured in its place', async () => {
  await save(bookOf('Gone | at arrival, always do use the template "Nobody’s", pack in "BX-9"'));
  const { missing } = (await lead.get('rules')).body;
  expect(missing.map((m: { says: string }) => m.says)).toEqual([
    'Rule 1 “Gone” names the template “Nobody’s”, which is not there.',
    'Rule 1 “Gone” names the box “BX-9”, which is not there.',
  ]);
  await bringIn(lead, [['RU-6', 'FRK-UNC', 1, '9.00']]);
  const id = await idOfOrder(lead, 'RU-6');
  await listAndPick(lead, [id]);
  const { state } = await packAndClose(lead, (await view(id)).row.no);
  expect(state.proposed[0]).not.toBe('BX-9');
  expect(await differences(house)).toEqual([]);
});

test('lines become an order of their own by a rule, once; the part is not split by it again', async () => {
  await save(
    bookOf(
      'Tools apart | at arrival, when lines is at least 2 do give an order of its own to lines where (product is "FRK-UNC")',
      'Tools apart again | at clear, always do give an order of its own to lines where (product is "FRK-UNC")',
    ),
  );
  await bringIn(lead, [
    ['RU-7', 'FRK-UNC', 2, '9.00', 'One Buyer'],
    ['RU-7', 'SMK-4-ST', 1, '38.00', 'One Buyer'],
  ]);
  const id = await idOfOrder(lead, 'RU-7');
  await settle();
  await settle();
  const whole = await view(id);
  expect(whole.lines.map((l: { quantity: number; title: string }) => l.title)).toEqual(['Thing SMK-4-ST']);
  const part = await view(await idOfOrder(lead, 'RU-7/2'));
  expect(part.lines).toMatchObject([{ title: 'Thing FRK-UNC', quantity: 2 }]);
  expect(whole.money.totalMinor + part.money.totalMinor).toBe(5600);
  const says = whole.history.map((h: { person: string; says: string }) => `${h.person}: ${h.says}`);
  expect(says).toContain(`book ${shown}, rule 1: Tools apart: split off.`);
  expect(whole.related.filter((r: { how: string }) => r.how === 'split')).toHaveLength(1);
  // What the rule of another moment would divide is whole by then: one line cannot be parted from itself.
  expect(part.related.filter((r: { how: string }) => r.how === 'split')).toHaveLength(1);
  await lead.post('rules/again', { ids: [id, part.row.id] });
  await settle();
  expect((await view(id)).related.filter((r: { how: string }) => r.how === 'split')).toHaveLength(1);
  expect(await differences(house)).toEqual([]);
});

test('a slip is printed by the template that a rule names, else by the first that fits', async () => {
  const look = (name: string, message: string, position: number) => ({
    kind: 'slip',
    name,
    position,
    channel: '',
    country: '',
    buyer: '',
    heading: '',
    message,
    prices: false,
    metric: false,
  });
  await lead.post('printing/templates', look('Plain words', 'Kept in plain words', 0));
  await lead.post('printing/templates', look('For gifts', 'Wrapped as a gift', 9));
  await save(bookOf('Gifts | at arrival, when units is at least 2 do print the slip "For gifts"'));
  await bringIn(lead, [
    ['RU-8', 'FRK-UNC', 2, '9.00'],
    ['RU-9', 'FRK-UNC', 1, '9.00'],
  ]);
  const slip = async (number: string) => {
    const id = await idOfOrder(lead, number);
    const pdf = await fetch(`${house.url}/api/v1/orders/${id}/slip.pdf`, {
      headers: { cookie: lead.cookie },
    });
    return pagesOf(Buffer.from(await pdf.arrayBuffer())).join();
  };
  expect(await slip('RU-8')).toContain('Wrapped as a gift');
  expect(await slip('RU-9')).not.toContain('Wrapped as a gift');
});

/** What each action is given in the next test. */
const GIVEN: Record<string, string> = {
  'send by': ' "redfen ground"',
  cheapest: ' all',
  template: ' "Nobody’s"',
  box: ' "BX-2"',
  declare: ' 12.50',
  park: ' "Later"',
  tag: ' "seen"',
  'note packer': ' "Look"',
  'note slip': ' "Look"',
  'note staff': ' "Look"',
  'own order': ' (product is "FRK-UNC")',
  'own parcel': ' (product is "FRK-UNC")',
  supplier: ' (product is "FRK-UNC")',
  center: ' (product is "FRK-UNC")',
  mail: ' "Thanks"',
  slip: ' "For gifts"',
  papers: ' "Any"',
};

test.each([...CARRIED_OUT].filter(a => a !== 'buy'))(
  'after “%s” the order is found, stands in a stage that is counted, and all that follows agrees',
  async action => {
    const { words, moments } = ACTIONS[action];
    const at = (moments as readonly string[]).includes('arrival') ? 'arrival' : 'clear';
    await save(bookOf(`Does it | at ${at}, always do ${words}${GIVEN[action] ?? ''}`));
    const number = `AC-${action.replace(/ /g, '-')}`;
    await bringIn(lead, [
      [number, 'FRK-UNC', 1, '9.00', 'One Buyer'],
      [number, 'SMK-4-ST', 1, '38.00', 'One Buyer'],
    ]);
    await settle();
    await settle();
    const found = (await lead.get(`orders?stage=all&words=${encodeURIComponent(number)}`)).body.rows;
    expect(found.map((r: { channelNumber: string }) => r.channelNumber)).toContain(number);
    for (const row of found) {
      const { rows } = (await lead.get(`orders?stage=${row.stage}&words=${encodeURIComponent(number)}`)).body;
      expect(rows.map((r: { id: string }) => r.id)).toContain(row.id);
      expect(['Stopped', 'Parked', 'Short', 'Clear', 'Elsewhere']).toContain(row.stage);
    }
    expect(await differences(house)).toEqual([]);
  },
);

test('what a product prefers counts below rules, and is named where a rule went over it; two that prefer otherwise prefer nothing', async () => {
  await lead.post('products/edit', { skus: ['FRK-UNC'], fields: { box: 'BX-3' } });
  await lead.post('products/edit', { skus: ['SMK-4-ST'], fields: { box: 'BX-4' } });
  await save(bookOf('Many | at arrival, when units is at least 3 do pack in "BX-2"'));
  await bringIn(lead, [
    ['PR-1', 'FRK-UNC', 1, '9.00'],
    ['PR-2', 'FRK-UNC', 3, '9.00'],
    ['PR-3', 'FRK-UNC', 1, '9.00', 'One Buyer'],
    ['PR-3', 'SMK-4-ST', 1, '38.00', 'One Buyer'],
  ]);
  const box = async (number: string) =>
    (await why(await idOfOrder(lead, number))).fields.find((f: { field: string }) => f.field === 'box');
  expect(await box('PR-1')).toMatchObject({
    value: 'BX-3',
    from: 'product',
    by: 'Uncapping fork prefers it',
  });
  expect(await box('PR-2')).toMatchObject({
    value: 'BX-2',
    from: 'rule',
    over: [{ value: 'BX-3', by: 'Uncapping fork prefers it' }],
  });
  expect(await box('PR-3')).toBeUndefined();
  await lead.post('products/edit', { skus: ['FRK-UNC', 'SMK-4-ST'], fields: { box: null } });
});

test('what is stored of a decision gives it again, and another one is found out', async () => {
  expect(await differences(house)).toEqual([]);
  await house.db.run(
    "UPDATE ruleOutcome SET ruled = JSON_REPLACE(ruled, '$.fields.box.value', 'BX-1') WHERE JSON_VALUE(ruled, '$.fields.box.value') = 'BX-4'",
  );
  expect(await differences(house)).toMatchObject([{ what: 'what rules decided' }]);
});
