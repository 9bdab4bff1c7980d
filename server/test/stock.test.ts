import { v7 } from 'uuid';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { bringIn, idOfOrder, listAndPick, productOf, scanOf, seenIn } from './drive.js';
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
  (await lead.get(`orders/${await idOfOrder(lead, number)}`)).body.row.stage;
const count = async (place: string, sku: string, counted: number, key = v7(), seen?: number) =>
  lead.post('stock/counts', {
    key,
    place,
    seen: seen ?? (await seenIn(lead, place)),
    reason: 'cycle count',
    lines: [{ sku, lot: null, counted }],
  });
/** Puts all free stock of a product in one place, by moves. */
async function gathered(sku: string, to: string): Promise<void> {
  for (const p of (await productOf(lead, sku)).places as { code: string; onHand: number; listed: number }[])
    if (p.code !== to && p.onHand > p.listed)
      expect(
        (
          await lead.post('stock/moves', {
            key: v7(),
            sku,
            from: p.code,
            to,
            quantity: p.onHand - p.listed,
            reason: 'gather',
          })
        ).status,
      ).toBe(200);
}

test('a count below what is promised makes orders Short, the newest promise first, and they say why', async () => {
  const sku = 'HTL-J10';
  await gathered(sku, 'D-04-1');
  const free = (await productOf(lead, sku)).free;
  // One after the other, so that the second has the newest promise.
  await bringIn(lead, [['CT-1', sku, free - 1, '12.00']]);
  await bringIn(lead, [['CT-2', sku, 1, '12.00']]);
  expect([await stageOf('CT-1'), await stageOf('CT-2')]).toEqual(['Clear', 'Clear']);
  const { onHand } = (await productOf(lead, sku)).places.find((p: { code: string }) => p.code === 'D-04-1');
  const key = v7();
  const less = await count('D-04-1', sku, onHand - 1, key);
  expect(less.body).toMatchObject({
    changes: [{ sku, before: onHand, after: onHand - 1 }],
    short: [{ channelNumber: 'CT-2' }],
  });
  expect((await count('D-04-1', sku, onHand - 1, key)).body).toEqual(less.body);
  expect([await stageOf('CT-1'), await stageOf('CT-2')]).toEqual(['Clear', 'Short']);
  const story = JSON.stringify((await lead.get(`orders/${await idOfOrder(lead, 'CT-2')}`)).body.history);
  expect(story).toMatch(/1 promised to it are not there: \d+ of \d+ counted in D-04-1/);
  // Found after all: whoever waits has it at once.
  await count('D-04-1', sku, onHand);
  expect(await stageOf('CT-2')).toBe('Clear');
  expect(await differences(house)).toEqual([]);
});

test('a count takes goods back off a list nobody began, and waits for a picker who is there', async () => {
  const sku = 'SMK-4-ST';
  await gathered(sku, 'D-05-1');
  const { free } = await productOf(lead, sku);
  await bringIn(lead, [['CL-1', sku, free, '30.00']]);
  const id = await idOfOrder(lead, 'CL-1');
  const list = (await lead.post('picking/lists', { orderIds: [id] })).body.no;
  const { onHand } = (await productOf(lead, sku)).places.find((p: { code: string }) => p.code === 'D-05-1');
  expect((await count('D-05-1', sku, onHand - 1)).status).toBe(200);
  expect(await stageOf('CL-1')).toBe('Short');
  await count('D-05-1', sku, onHand);
  expect(await stageOf('CL-1')).toBe('Clear');
  const next = (await lead.post('picking/lists', { orderIds: [id] })).body.no;
  expect(next).not.toBe(list);
  await lead.post('picking/open', { code: next, device: 'd' });
  const busy = await count('D-05-1', sku, 0);
  expect([busy.status, busy.body.detail]).toEqual([
    422,
    expect.stringMatching(new RegExp(`^${next} is being picked from there right now`)),
  ]);
  expect((await productOf(lead, sku)).places.find((p: { code: string }) => p.code === 'D-05-1').onHand).toBe(
    onHand,
  );
});

test('moves: between places nothing is lost; into quarantine it is promised no more; never more than lies there', async () => {
  const sku = 'BKT-5G-GT';
  await gathered(sku, 'D-06-1');
  const before = await productOf(lead, sku);
  const move = (from: string, to: string, quantity: number) =>
    lead.post('stock/moves', { key: v7(), sku, from, to, quantity, reason: 'test move' });
  expect((await move('D-06-1', 'QUARANTINE', 2)).status).toBe(200);
  expect((await productOf(lead, sku)).free).toBe(before.free - 2);
  expect((await move('QUARANTINE', 'D-06-1', 2)).status).toBe(200);
  expect((await productOf(lead, sku)).free).toBe(before.free);
  expect((await move('D-06-1', 'D-07-1', 10_000)).body.detail).toMatch(/lie in D-06-1, not 10000/);
  expect((await move('D-06-1', 'D-06-1', 1)).body.detail).toBe('Both places are the same.');
  expect((await move('D-06-1', 'NOWHERE', 1)).status).toBe(404);
  expect((await move('D-06-1', 'TO-001', 1)).body.detail).toMatch(/TO-001 is a tote/);
  expect((await move('D-06-1', 'D-07-1', -1)).status).toBe(400);
  const off = await lead.post('stock/write-offs', {
    key: v7(),
    sku,
    from: 'D-06-1',
    quantity: 1,
    reason: 'cracked',
  });
  expect(off.status).toBe(200);
  expect((await productOf(lead, sku)).onHand).toBe(before.onHand - 1);
});

test('places: made by hand and by file, their kind and room judged; too much does not fit', async () => {
  const place = (body: object) =>
    lead.post('stock/places', { code: 'C-12-1-B', kind: 'bin', zone: 'Shelves', capacity: 5, ...body });
  expect((await place({})).status).toBe(200);
  expect((await place({ kind: 'reserve' })).status).toBe(200);
  expect((await place({ kind: 'quarantine' })).body.detail).toMatch(/is a reserve place and stays one/);
  expect((await place({ code: 'TO-001', kind: 'staging' })).body.detail).toMatch(/is the code of a tote/);
  const row = (await lead.get('stock/places?words=C-12-1-B')).body.rows[0];
  expect(row).toMatchObject({ aisle: 'C', bay: 12, level: 1, bin: 'B', capacity: 5, kind: 'reserve' });
  const sku = 'HTL-S10';
  const from = (await productOf(lead, sku)).places[0].code;
  const full = await lead.post('stock/moves', {
    key: v7(),
    sku,
    from,
    to: 'C-12-1-B',
    quantity: 6,
    reason: 'too many',
  });
  expect(full.body.detail).toBe('C-12-1-B holds 5 units and 0 lie there; 6 more do not fit.');
  const file =
    'Place,Kind,Zone,Capacity\nH-12-3-A,reserve,Bulk,40\nH-12-3-C,reserve,Bulk,\n12,bin,Bulk,\nDOCK-2,dock,Dock,\n';
  const taken = await lead.takeIn('places', 'name=places.csv', file);
  expect(taken.body.counts).toMatchObject({ new: 3, cannotChange: 1 });
  const again = await lead.takeIn('places', 'name=places.csv', file);
  expect(again.body.counts).toMatchObject({ new: 0, same: 3 });
});

test('a place bears any code of its house: filled, walked last, picked by scanning it; what is something else already is refused', async () => {
  const place = (code: string) => lead.post('stock/places', { code, kind: 'bin', zone: '', capacity: null });
  const sku = 'ODD-1';
  await lead.post('products', { sku, fields: { name: 'Odd thing', kind: 'piece' } });
  await lead.post(`products/${sku}/codes`, { code: 'ODD CODE 1' });
  for (const code of ['row 7/upper', 'Z-99-9', '4000123']) expect((await place(code)).status).toBe(200);
  for (const [code, why] of [
    ['12', /read as a quantity/],
    ['6291041500213', /read as a product/],
    ['OR-17', /another kind of code/],
    ['AUK-UNDO', /read as a command/],
    ['2 KG', /read as a weight/],
    ['ODD-1', /is a code of Odd thing/],
    ['ODD CODE 1', /is a code of Odd thing/],
    ['RÄUM', /cannot be a barcode/],
  ] as const)
    expect((await place(code)).body.detail).toMatch(why);
  const taken = await lead.post(`products/${sku}/codes`, { code: 'Row 7/Upper' });
  expect(taken.body.detail).toMatch(/the code of a place/);

  const code = 'ROW 7/UPPER';
  expect((await lead.get('stock/places?words=ROW 7')).body.rows[0]).toMatchObject({ code, aisle: null });
  const counted = await count(
    code,
    sku,
    4,
    v7(),
    (await lead.get(`places/${encodeURIComponent(code)}`)).body.seen,
  );
  expect(counted.status, JSON.stringify(counted.body)).toBe(200);
  await bringIn(lead, [
    ['ODD-A', sku, 2, '5.00'],
    ['ODD-A', 'JAR-HEX-12', 1, '5.00'],
  ]);
  await lead.post('listings/link-sku', { channelSku: sku, sku, units: 1 });
  const list = await lead.post('picking/lists', { orderIds: [await idOfOrder(lead, 'ODD-A')] });
  const opened = (await lead.post('picking/open', { code: list.body.no, device: 'test-device' })).body;
  expect(list.status, JSON.stringify(list.body)).toBe(200);
  expect(opened.state.stops.map((s: { placeCode: string }) => s.placeCode).at(-1)).toBe(code);
  const scan = (text: string) =>
    lead.post(`picking/sessions/${opened.sessionId}/scans`, scanOf(text)).then(r => r.body.answer.says);
  expect(await scan('row 7/upper')).toBe(`Right place, ${code}.`);
  expect(await scan('Z-99-9')).toBe('Z-99-9 is not a place of this list.');
  expect(await scan('odd code 1')).toBe('Right. 1 more.');
  expect((await lead.get(`picking/lists/${list.body.no}`)).body.rows.at(-1)).toMatchObject({ aisle: null });
});

test('goods are understood by element strings and Digital Links in the scan field and where they are counted', async () => {
  const { code } = (await productOf(lead, 'JAR-HEX-12')).codes[0];
  const gtin = code.padStart(14, '0');
  const count = v7();
  await lead.post('stock/counts/sessions', { id: count, place: 'DOCK-1', device: 'test-device' });
  for (const text of [
    `(01)${gtin}(10)L 1`.replace(' ', ''),
    `]C101${gtin}`,
    `https://id.example/01/${gtin}/10/L1`,
  ]) {
    const asked = encodeURIComponent(text);
    expect((await lead.get(`find?text=${asked}`)).body.exact).toMatchObject({
      kind: 'product',
      code: 'JAR-HEX-12',
    });
    const judged = await lead.post(`stock/counts/sessions/${count}/scans`, scanOf(text));
    expect(judged.body.answer).toMatchObject({ kind: 'counted', tone: 'right' });
  }
  // The lot counts where the product is kept by lots, and nowhere else.
  const strips = (await productOf(lead, 'MIT-STR-10')).codes[0].code.padStart(14, '0');
  const last = await lead.post(`stock/counts/sessions/${count}/scans`, scanOf(`(01)${strips}(10)L7`));
  const lots = last.body.state.lines.map((l: { sku: string; lot: string | null }) => [l.sku, l.lot]);
  expect(lots).toContainEqual(['MIT-STR-10', 'L7']);
  expect(lots).toContainEqual(['JAR-HEX-12', null]);
});

test('purchase orders by file: several lines one order, the same file again makes nothing new', async () => {
  const file =
    'Supplier,Reference,SKU,Quantity,Expected\nNewark Hives,N-1,JAR-HEX-12,11,2026-12-01\nNewark Hives,N-1,LIDS-58-G,5,2026-12-01\nOther,N-1,JAR-HEX-12,2,\nOther,N-2,NO-SUCH,2,\n';
  const taken = await lead.takeIn('purchases', 'name=po.csv', file);
  expect(taken.body.counts, JSON.stringify(taken.body)).toMatchObject({ new: 2, cannotChange: 1 });
  const rows = (await lead.get('receiving')).body.filter((r: { reference: string }) => r.reference === 'N-1');
  expect(
    rows
      .map((r: { supplier: string; ordered: number; lines: number }) => [r.supplier, r.ordered, r.lines])
      .sort(),
  ).toEqual([
    ['Newark Hives', 16, 2],
    ['Other', 2, 1],
  ]);
  const again = await lead.takeIn('purchases', 'name=po.csv', file);
  expect(again.body.counts).toMatchObject({ new: 0, same: 2 });
});

test('the ledger tells every move with why, who and document, and its balance is the stock', async () => {
  const sku = 'JAR-HEX-12';
  await bringIn(lead, [['LG-1', sku, 1, '2.50']]);
  await listAndPick(lead, [await idOfOrder(lead, 'LG-1')]);
  const page = (await lead.get(`stock/ledger/${sku}`)).body;
  const product = await productOf(lead, sku);
  expect(page.onHand).toBe(product.onHand);
  expect(page.rows[0]).toMatchObject({
    why: 'pick',
    change: -1,
    onHand: product.onHand,
    document: { name: expect.stringMatching(/^PL-\d+ for LG-1$/) },
  });
  expect(page.rows[0].person).toBeTruthy();
  for (let i = 1; i < page.rows.length; i++)
    expect(page.rows[i].onHand).toBe(page.rows[i - 1].onHand - page.rows[i - 1].change);
  expect(page.days.at(-1).onHand).toBe(product.onHand);
  if (page.next) {
    const older = (await lead.get(`stock/ledger/${sku}?before=${page.next}`)).body;
    expect(older.rows[0].onHand).toBe(page.rows.at(-1).onHand - page.rows.at(-1).change);
  }
  expect((await lead.get('stock/ledger/NO-SUCH')).status).toBe(404);
});

test('counts are proposed: what was found missing comes before what is only dear', async () => {
  const sku = 'HTL-S10';
  const place = (await productOf(lead, sku)).places[0];
  await count(place.code, sku, place.onHand + 1);
  const proposed = (await lead.get('stock/counts/proposed')).body;
  const mine = proposed.find((p: { sku: string; place: string }) => p.sku === sku && p.place === place.code);
  expect(mine.why).toMatch(/1 × found otherwise/);
  await count(place.code, sku, place.onHand + 1);
  const later = (await lead.get('stock/counts/proposed')).body;
  expect(later.some((p: { sku: string; place: string }) => p.sku === sku && p.place === place.code)).toBe(
    false,
  );
});

test('scarce goods are given out anew by urgency; what is on a list stays', async () => {
  const sku = 'VEIL-RND';
  const free = (await productOf(lead, sku)).free;
  await bringIn(lead, [['SA-1', sku, 1, '20.00']]);
  await bringIn(lead, [['SA-2', sku, free - 1, '20.00']]);
  await bringIn(lead, [['SA-3', sku, 1, '20.00']]);
  expect([await stageOf('SA-1'), await stageOf('SA-2'), await stageOf('SA-3')]).toEqual([
    'Clear',
    'Clear',
    'Short',
  ]);
  const listed = (await lead.post('picking/lists', { orderIds: [await idOfOrder(lead, 'SA-1')] })).status;
  expect(listed).toBe(200);
  // The youngest becomes the most urgent, by its departure.
  await house.db.run(
    "UPDATE orders SET departureId = (SELECT id FROM departure WHERE state = 'open' AND NOT freight ORDER BY cutOff LIMIT 1) WHERE channelNumber = 'SA-3'",
  );
  await house.db.run("UPDATE orders SET departureId = NULL WHERE channelNumber IN ('SA-1', 'SA-2')");
  await house.db.run(
    'UPDATE orders o LEFT JOIN departure d ON d.id = o.departureId SET o.leavesAt = d.cutOff',
  );
  const done = await lead.post('stock/serve-again');
  expect(done.body.cleared).toBeGreaterThanOrEqual(1);
  expect(done.body.shorted).toBeGreaterThanOrEqual(1);
  expect([await stageOf('SA-1'), await stageOf('SA-2'), await stageOf('SA-3')]).toEqual([
    'Listed',
    'Short',
    'Clear',
  ]);
  expect((await lead.post('stock/serve-again')).body).toEqual({ cleared: 0, shorted: 0 });
  const story = JSON.stringify((await lead.get(`orders/${await idOfOrder(lead, 'SA-2')}`)).body.history);
  expect(story).toMatch(/more urgent orders have them now/);
  expect(await differences(house)).toEqual([]);
  expect((await (await house.signIn('AB-1003')).post('stock/serve-again')).status).toBe(403);
});

test('stock is found by words that stand apart in its name, its place or its lot', async () => {
  const found = async (words: string) =>
    (await lead.get(`stock?size=100&words=${encodeURIComponent(words)}`)).body.rows as {
      name: string;
      place: string;
    }[];
  const jars = await found('honey  hex 9');
  expect(jars.length).toBeGreaterThan(0);
  expect(jars.every(r => r.name === 'Honey jar, hex, 9 oz')).toBe(true);
  const at = await found(`hex ${jars[0]!.place}`);
  expect(at.some(r => r.place === jars[0]!.place)).toBe(true);
  expect(at.every(r => r.place.includes(jars[0]!.place))).toBe(true);
  expect(await found('honey 100%')).toEqual([]);
});

test('whole orders only, when the lead has set it so', async () => {
  await house.db.run("REPLACE INTO setting (name, value) VALUES ('reserveMode', '\"whole\"')");
  const free = (await productOf(lead, 'BOOK-LOG')).free;
  const csvFree = (await productOf(lead, 'SUIT-M')).free;
  await bringIn(lead, [['WH-1', 'BOOK-LOG', free + 1, '20.00']]);
  expect((await productOf(lead, 'BOOK-LOG')).free).toBe(free);
  await bringIn(lead, [['WH-2', 'BOOK-LOG', free, '20.00']]);
  expect([await stageOf('WH-1'), await stageOf('WH-2')]).toEqual(['Short', 'Clear']);
  expect((await productOf(lead, 'SUIT-M')).free).toBe(csvFree);
  await house.db.run("DELETE FROM setting WHERE name = 'reserveMode'");
});
