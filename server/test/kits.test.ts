import { v7 } from 'uuid';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { bringIn, idOfOrder, listAndPick, productOf } from './drive.js';
import { type Caller, differences, type House, openHouse } from './house.js';

let house: House;
let lead: Caller;
let packer: Caller;
beforeAll(async () => {
  house = await openHouse('small');
  lead = await house.signIn('AB-1001');
  packer = await house.signIn('AB-1006');
});
afterAll(async () => {
  expect(await differences(house)).toEqual([]);
  await house.close();
});

const kit = async (sku: string) => (await lead.get(`kits/${sku}`)).body;
const stageOf = async (number: string) =>
  (await lead.get(`orders/${await idOfOrder(lead, number)}`)).body.row.stage;
const recipe = async (sku: string, parts: [string, number][], note = '') =>
  lead.post(`kits/${sku}/recipe`, {
    parts: parts.map(([s, quantity]) => ({ sku: s, quantity })),
    note,
    version: (await kit(sku)).versions[0]?.version ?? 0,
  });

/** A build that is planned; gives its number and its order. */
async function plan(sku: string, quantity: number, more: object = {}) {
  const made = await lead.post('builds', { key: v7(), sku, quantity, ...more });
  expect(made.status, JSON.stringify(made.body)).toBe(200);
  return (await lead.get(`builds/${made.body.no}`)).body;
}

test('a build from start to stock: reserved, picked like an order, finished in portions, left over put back', async () => {
  const before = await productOf(lead, 'KIT-TOOLS');
  const part = before.parts[0].sku as string;
  const partBefore = await productOf(lead, part);
  const b = await plan('KIT-TOOLS', 5, { bench: 'BE-1', instruction: 'Tie them together.' });
  expect([b.state, b.orderStage, b.parts]).toEqual(['open', 'Clear', 'parts reserved']);
  expect((await productOf(lead, part)).reserved).toBe(partBefore.reserved + 5 * before.parts[0].quantity);
  const early = await packer.post(`builds/${b.no}/finish`, { key: v7(), made: 1, to: 'A-01-1' });
  expect([early.status, early.body.detail]).toEqual([422, expect.stringMatching(/^0 of .* are at hand; /)]);
  await listAndPick(lead, [b.orderId]);
  expect((await lead.get(`builds/${b.no}`)).body).toMatchObject({
    orderStage: 'Picked',
    canMake: 5,
    parts: 'parts at hand',
  });
  const bench = await packer.post('packing/open', { code: b.no, device: 'x' });
  expect([bench.status, bench.body.detail]).toEqual([422, expect.stringMatching(/is a build/)]);
  const key = v7();
  const finish = { key, made: 2, to: 'A-01-1' };
  expect((await packer.post(`builds/${b.no}/finish`, finish)).status).toBe(200);
  expect((await packer.post(`builds/${b.no}/finish`, finish)).status).toBe(200);
  expect((await productOf(lead, 'KIT-TOOLS')).onHand).toBe(before.onHand + 2);
  const over = await packer.post(`builds/${b.no}/finish`, { key: v7(), made: 4, to: 'A-01-1' });
  expect(over.body.detail).toMatch(/was started for 5 and 2 are made; 4 more would be too many/);
  const spoiled = await packer.post(`builds/${b.no}/finish`, {
    key: v7(),
    made: 1,
    to: 'A-01-1',
    scrapped: [{ sku: part, quantity: 1, why: 'bent in the vice' }],
  });
  expect(spoiled.status, JSON.stringify(spoiled.body)).toBe(200);
  expect((await lead.get(`builds/${b.no}`)).body.canMake).toBe(1);
  expect((await lead.post(`builds/${b.no}/stop`)).status).toBe(200);
  const done = (await lead.get(`builds/${b.no}`)).body;
  expect(done).toMatchObject({ state: 'done', made: 3, tote: null });
  expect(done.story.map((s: { says: string }) => s.says).join('\n')).toMatch(
    /spoiled: bent in the vice[\s\S]*left over/,
  );
  const partAfter = await productOf(lead, part);
  expect(partAfter.onHand).toBe(partBefore.onHand - 3 * before.parts[0].quantity - 1);
  expect(partAfter.reserved).toBe(partBefore.reserved);
  expect((await lead.get(`orders/${b.orderId}`)).body.row.stage).toBe('Departed');
  expect(await differences(house)).toEqual([]);
});

test('a kit that orders wait for makes them Clear when it is built', async () => {
  const free = (await productOf(lead, 'KIT-JAR24')).free;
  await bringIn(lead, [['KB-1', 'KIT-JAR24', free + 2, '36.00']]);
  expect(await stageOf('KB-1')).toBe('Short');
  const proposed = (await lead.get('builds/proposed')).body.find(
    (p: { sku: string }) => p.sku === 'KIT-JAR24',
  );
  expect(proposed).toMatchObject({
    quantity: 2 + 6,
    why: expect.stringMatching(/open orders lack 2; 0 free, 6 is the least/),
  });
  const b = await plan('KIT-JAR24', 2);
  await listAndPick(lead, [b.orderId]);
  expect((await packer.post(`builds/${b.no}/finish`, { key: v7(), made: 2, to: 'B-02-1' })).status).toBe(200);
  expect((await lead.get(`builds/${b.no}`)).body.state).toBe('done');
  expect(await stageOf('KB-1')).toBe('Clear');
});

test('a build given up before it is picked gives everything back; its order cannot be changed by hand', async () => {
  const b = await plan('KIT-TOOLS', 2);
  const cancel = await lead.post(`orders/${b.orderId}/cancel`, { reason: 'no' });
  expect(cancel.body.detail).toMatch(/is a build/);
  expect((await lead.post(`builds/${b.no}/stop`)).status).toBe(200);
  expect((await lead.get(`builds/${b.no}`)).body.state).toBe('cancelled');
  expect((await lead.get(`orders/${b.orderId}`)).body.row.stage).toBe('Cancelled');
  expect((await lead.post(`builds/${b.no}/stop`)).body.detail).toMatch(/given up/);
});

test('a build goes on by the recipe it was started with, also when the kit’s newest one has other parts', async () => {
  const before = (await kit('KIT-TOOLS')).versions[0];
  const old = (await productOf(lead, 'KIT-TOOLS')).parts as { sku: string; quantity: number }[];
  const b = await plan('KIT-TOOLS', 2);
  await listAndPick(lead, [b.orderId]);
  expect((await recipe('KIT-TOOLS', [['SED-CLO', 1]], 'for the test')).status).toBe(200);
  const made = await packer.post(`builds/${b.no}/finish`, { key: v7(), made: 1, to: 'A-01-1' });
  expect([made.status, JSON.stringify(made.body)]).toEqual([200, expect.anything()]);
  expect((await lead.post(`builds/${b.no}/stop`)).status).toBe(200);
  expect(
    (
      await recipe(
        'KIT-TOOLS',
        old.map(p => [p.sku, p.quantity]),
        'as before',
      )
    ).status,
  ).toBe(200);
  expect((await kit('KIT-TOOLS')).versions[0].version).toBe(before.version + 2);
  expect(await differences(house)).toEqual([]);
});

test('parts from a bench stock: used from where they lie, never more than lies there', async () => {
  const part = (await productOf(lead, 'KIT-TOOLS')).parts;
  for (const p of part) {
    const from = (await productOf(lead, p.sku)).places[0].code;
    const moved = await lead.post('stock/moves', {
      key: v7(),
      sku: p.sku,
      from,
      to: 'BE-1',
      quantity: p.quantity * 2,
      reason: 'for the build',
    });
    expect(moved.status, JSON.stringify(moved.body)).toBe(200);
  }
  const b = await plan('KIT-TOOLS', 3, { source: 'bench', bench: 'BE-1' });
  expect([b.orderId, b.canMake]).toEqual([null, 2]);
  const over = await packer.post(`builds/${b.no}/finish`, { key: v7(), made: 3, to: 'A-01-1' });
  expect(over.status).toBe(422);
  expect((await packer.post(`builds/${b.no}/finish`, { key: v7(), made: 2, to: 'A-01-1' })).status).toBe(200);
  expect(
    (await lead.get('stock?kind=bench')).body.rows.filter((r: { place: string }) => r.place === 'BE-1'),
  ).toEqual([]);
  await lead.post(`builds/${b.no}/stop`);
});

test('taking kits apart gives their parts back, and never takes what is promised', async () => {
  const k = await productOf(lead, 'KIT-TOOLS');
  const at = k.places[0].code;
  const part = k.parts[0];
  const before = (await productOf(lead, part.sku)).onHand;
  const all = await lead.post('builds/unbuild', {
    key: v7(),
    sku: 'KIT-TOOLS',
    quantity: 1000,
    from: at,
    to: 'C-01-1',
    reason: 'parts wanted',
  });
  expect(all.body.detail).toMatch(/1000 cannot be taken apart/);
  const input = { key: v7(), sku: 'KIT-TOOLS', quantity: 1, from: at, to: 'C-01-1', reason: 'parts wanted' };
  const one = await lead.post('builds/unbuild', input);
  expect([one.status, (await lead.post('builds/unbuild', input)).body.no]).toEqual([200, one.body.no]);
  expect((await productOf(lead, part.sku)).onHand).toBe(before + part.quantity);
  expect((await productOf(lead, 'KIT-TOOLS')).onHand).toBe(k.onHand - 1);
});

test('what can be made and promised agrees with the stock, and names what limits', async () => {
  const row = (await lead.get('kits')).body.find((r: { sku: string }) => r.sku === 'SET-HARV');
  const view = await kit('SET-HARV');
  expect(row.own).toBe(0);
  const frees = await Promise.all(
    view.versions[0].parts.map(async (p: { sku: string; quantity: number }) =>
      Math.floor((await productOf(lead, p.sku)).free / p.quantity),
    ),
  );
  expect(row.makeable).toBe(Math.min(...frees));
  const missing = (await lead.get(`kits/SET-HARV/missing?quantity=${row.makeable + 1}`)).body.missing;
  expect(missing.map((m: { sku: string }) => m.sku)).toEqual(row.limits.map((m: { sku: string }) => m.sku));
  const ask = (quantity: number) =>
    lead.post('kits/promise', {
      wishes: [
        { sku: 'JAR-HEX-12', quantity: 1 },
        { sku: 'SET-HARV', quantity },
      ],
    });
  expect((await ask(1)).body).toMatchObject({ yes: true });
  const no = (await ask(100_000)).body;
  expect(no.says).toMatch(
    /^No: .* out at Harvest set\. \d+ of 100000 can be promised beside what stands above it\.$/,
  );
  expect((await lead.post('kits/promise', { wishes: [{ sku: 'NONE', quantity: 1 }] })).status).toBe(404);
});

test('recipes: versions with who and what changed; open orders keep theirs until they are moved knowingly', async () => {
  await bringIn(lead, [['RV-1', 'SET-SMKHTL', 2, '46.00']]);
  const id = await idOfOrder(lead, 'RV-1');
  const parts = async () =>
    (await lead.get(`orders/${id}`)).body.lines[0].parts
      .map((p: { sku: string; quantity: number }) => `${p.quantity} ${p.sku}`)
      .sort();
  expect(await parts()).toEqual(['2 HTL-S10', '2 SMK-4-ST']);
  expect(
    (
      await recipe(
        'SET-SMKHTL',
        [
          ['SMK-4-ST', 1],
          ['HTL-J10', 1],
        ],
        'the better tool',
      )
    ).status,
  ).toBe(200);
  const view = await kit('SET-SMKHTL');
  expect(view.versions[0]).toMatchObject({ version: 2, note: 'the better tool', person: expect.any(String) });
  expect(view.versions[0].changes).toEqual([
    { sku: 'HTL-S10', before: 1, after: 0 },
    { sku: 'HTL-J10', before: 0, after: 1 },
  ]);
  expect(await parts()).toEqual(['2 HTL-S10', '2 SMK-4-ST']);
  expect(view.older.map((o: { channelNumber: string }) => o.channelNumber)).toContain('RV-1');
  // An order of the bundle that holds it is older too.
  await bringIn(lead, [['RV-2', 'SET-YEAR', 1, '399.00']]);
  expect((await lead.post('kits/SET-SMKHTL/orders', { orderIds: [id] })).body).toEqual({ moved: 1 });
  expect(await parts()).toEqual(['2 HTL-J10', '2 SMK-4-ST']);
  expect(
    (await kit('SET-SMKHTL')).older.map((o: { channelNumber: string }) => o.channelNumber),
  ).not.toContain('RV-1');
  const again = await recipe('SET-SMKHTL', [
    ['HTL-J10', 1],
    ['SMK-4-ST', 1],
  ]);
  expect(again.body.detail).toBe('Nothing in the recipe is different.');
  expect(await differences(house)).toEqual([]);
});

test('recipes that cannot be: of itself, in a loop spelled out, of the unknown and the retired, 50 levels deep', async () => {
  expect((await recipe('SET-SMKHTL', [['SET-SMKHTL', 1]])).body.detail).toBe(
    'It would contain itself: SET-SMKHTL > SET-SMKHTL.',
  );
  expect((await recipe('SET-SMKHTL', [['SET-YEAR', 1]])).body.detail).toBe(
    'It would contain itself: SET-SMKHTL > SET-YEAR > SET-SMKHTL.',
  );
  expect((await recipe('SET-SMKHTL', [['NO-SUCH', 1]])).body.detail).toMatch(/NO-SUCH is no product/);
  expect((await recipe('SET-SMKHTL', [['HTL-S10', 0]])).status).toBe(400);
  expect(
    (await lead.post('kits/HTL-S10/recipe', { parts: [{ sku: 'SMK-4-ST', quantity: 1 }], version: 0 })).body
      .detail,
  ).toMatch(/is a piece/);
  const stale = await lead.post('kits/SET-HARV/recipe', {
    parts: [{ sku: 'JAR-HEX-12', quantity: 1 }],
    version: 99,
  });
  expect(stale.status).toBe(409);
  await lead.post('products/edit', { skus: ['BOOK-LOG'], fields: { stage: 'Retired' } });
  expect((await recipe('SET-SMKHTL', [['BOOK-LOG', 1]])).body.detail).toMatch(/BOOK-LOG is retired/);
  const csv = (rows: string[]) => `SKU,Part,Qty\n${rows.join('\n')}\n`;
  for (let i = 0; i <= 50; i++)
    await lead.post('products', {
      sku: `DEEP-${i}`,
      fields: { name: `Deep ${i}`, kind: i === 0 ? 'piece' : 'bundle', stage: 'Live' },
    });
  const deep = csv(Array.from({ length: 50 }, (_, i) => `DEEP-${i + 1},DEEP-${i},1`));
  const taken = await lead.takeIn('recipes', 'name=deep.csv', deep);
  expect(taken.body.counts).toMatchObject({ new: 50, cannotChange: 0 });
  expect((await kit('DEEP-50')).makeable).toBe(0);
  const loop = await lead.takeIn('recipes', 'name=loop.csv', csv(['DEEP-1,DEEP-2,1']));
  expect(loop.body.rows[0].says).toBe('It would contain itself: DEEP-1 > DEEP-2 > DEEP-1.');
});

test('a kit that may be eked out: stock first, the rest from parts, recorded on the line, whole again when edited', async () => {
  expect((await lead.post('kits/NO-SUCH/policy', { kitPolicy: 'stock' })).status).toBe(404);
  const sku = 'KIT-JAR24';
  expect((await lead.post(`kits/${sku}/policy`, { kitPolicy: 'stock then parts' })).status).toBe(200);
  const k = await kit(sku);
  expect(k.makeable).toBeGreaterThan(0);
  await bringIn(lead, [['EK-1', sku, k.own + 1, '36.00']]);
  const id = await idOfOrder(lead, 'EK-1');
  expect((await lead.get(`orders/${id}`)).body.row.stage).toBe('Clear');
  const parts = await house.db.rows<{ sku: string; quantity: number; made: number; kit: string | null }>(
    'SELECT p.sku, t.quantity, t.made, k.sku AS kit FROM linePart t JOIN product p ON p.id = t.productId LEFT JOIN product k ON k.id = t.kitId WHERE t.orderId = ? ORDER BY p.sku',
    [id],
  );
  expect(parts).toContainEqual({ sku, quantity: k.own, made: 1, kit: null });
  expect(parts).toContainEqual({ sku: 'JAR-HEX-12', quantity: 24, made: 0, kit: sku });
  const order = (await lead.get(`orders/${id}`)).body;
  const edit = await lead.post(`orders/${id}/edit`, {
    version: order.version ?? order.row.version,
    lines: [{ key: order.lines[0].key, quantity: k.own + 2 }],
  });
  expect(edit.status, JSON.stringify(edit.body)).toBe(200);
  expect(await differences(house)).toEqual([]);
  const whole = await house.db.one<{ n: number }>(
    'SELECT CAST(SUM(quantity + made) AS INT) AS n FROM linePart t JOIN product p ON p.id = t.productId WHERE t.orderId = ? AND p.sku = ?',
    [id, sku],
  );
  expect(whole!.n).toBe(k.own + 2);
  if ((await lead.get(`orders/${id}`)).body.row.stage === 'Clear') await listAndPick(lead, [id]);
  expect(await differences(house)).toEqual([]);
  await lead.post(`kits/${sku}/policy`, { kitPolicy: 'stock' });
});
