import { v7 } from 'uuid';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { Rounds } from '../src/leases/leases.module.js';
import { bringIn, idOfOrder, listAndPick, scanOf, wishOf } from './drive.js';
import { type Caller, differences, type House, openHouse } from './house.js';

let house: House;
let lead: Caller;
let packer: Caller;
beforeAll(async () => {
  house = await openHouse();
  lead = await house.signIn('AB-1001');
  packer = await house.signIn('AB-1002');
});
afterAll(() => house.close());

/** Orders of the web store that are picked, each `[number, sku, quantity][]` of one buyer a number. */
async function pickedOrders(lines: [number: string, sku: string, quantity: number][]): Promise<string[]> {
  await bringIn(
    lead,
    lines.map(([number, sku, quantity]) => [number, sku, quantity, '9.00', `Buyer ${number}`]),
  );
  const ids: string[] = [];
  for (const number of new Set(lines.map(l => l[0]))) ids.push(await idOfOrder(lead, number));
  await listAndPick(lead, ids);
  return ids;
}

const order = async (id: string) => (await lead.get(`orders/${id}`)).body;
// biome-ignore lint/suspicious/noExplicitAny: a view of the API
async function opened(code: string, caller = packer): Promise<any> {
  const { status, body } = await caller.post('packing/open', { code, device: 'bench-1' });
  expect([status, body.detail]).toEqual([200, undefined]);
  return body;
}
// biome-ignore lint/suspicious/noExplicitAny: a view of the API
async function scans(sessionId: string, texts: string[], caller = packer): Promise<any> {
  // biome-ignore lint/suspicious/noExplicitAny: a view of the API
  let last: any;
  for (const text of texts)
    last = (await caller.post(`packing/sessions/${sessionId}/scans`, scanOf(text))).body;
  return last;
}
const codeOf = (
  view: { state: { lines: { product: { sku: string; codes: { code: string }[] } }[] } },
  sku: string,
) => view.state.lines.find(l => l.product.sku === sku)!.product.codes[0]!.code;
const rows = (sql: string, params: unknown[] = []) => house.db.rows<Record<string, unknown>>(sql, params);

test('one order leaves in two parcels: each has its lines, box, weight and label', async () => {
  const [id] = await pickedOrders([
    ['TWO-1', 'JAR-HEX-12', 2],
    ['TWO-1', 'BOOK-1ST', 1],
  ]);
  const view = await opened((await order(id!)).row.no);
  const [jar, book] = [codeOf(view, 'JAR-HEX-12'), codeOf(view, 'BOOK-1ST')];
  const first = await scans(view.sessionId, [jar, jar, 'BX-2', '1 kg', 'AUK-NEXTBOX']);
  expect(first.answer.says).toBe('Parcel 1 closed. Parcel 2 is open.');
  expect((await order(id!)).row.stage).toBe('Picked');
  expect(await rows('SELECT 1 FROM place WHERE busyWith = ?', [id])).not.toEqual([]);
  const last = await scans(view.sessionId, [book, 'BX-1', '900 g', 'AUK-YES', 'AUK-CLOSE']);
  expect(last.answer.says).toBe('Parcel 2 closed: the order is packed.');
  expect((await order(id!)).row.stage).toBe('Packed');
  expect(await rows('SELECT 1 FROM place WHERE busyWith = ?', [id])).toEqual([]);
  const { parcels } = (await packer.get(`packing/sessions/${view.sessionId}`)).body;
  expect(parcels).toMatchObject([
    { seq: 1, closed: true },
    { seq: 2, closed: true },
  ]);
  expect(
    await rows(
      "SELECT c.seq, c.boxCode, CAST(SUM(a.quantity) AS INT) AS units FROM parcel c JOIN allocation a ON a.parcelKey = c.id AND a.hold = 'packed' WHERE c.orderId = ? GROUP BY c.id ORDER BY c.seq",
      [id],
    ),
  ).toEqual([
    { seq: 1, boxCode: 'BX-2', units: 2 },
    { seq: 2, boxCode: 'BX-1', units: 1 },
  ]);
  for (const p of parcels)
    expect((await packer.get(`parcels/${p.no}/offers`)).body.offers.length).toBeGreaterThan(0);
  expect(await differences(house)).toEqual([]);
});

test('a serial number is one unit only, also for two benches at once, until it is undone', async () => {
  const [a, b] = await pickedOrders([
    ['SER-1', 'SCL-HV', 1],
    ['SER-2', 'SCL-HV', 1],
  ]);
  const views = [await opened((await order(a!)).row.no), await opened((await order(b!)).row.no, lead)];
  const code = codeOf(views[0], 'SCL-HV');
  expect((await scans(views[0].sessionId, [code, 'HS-12'])).answer.says).toBe(
    'HS-12 is no serial number of the form HS-999999.',
  );
  await scans(views[1].sessionId, [code], lead);
  const both = await Promise.all([
    scans(views[0].sessionId, ['HS-000777']),
    scans(views[1].sessionId, ['HS-000777'], lead),
  ]);
  expect(both.map(r => r.answer.tone).sort()).toEqual(['complete', 'wrong']);
  const loser = both.findIndex(r => r.answer.tone === 'wrong');
  expect(both[loser].answer.says).toMatch(/^HS-000777 left with OR-\d+ and did not come back\.$/);
  await scans(views[1 - loser].sessionId, ['AUK-UNDO'], loser === 1 ? packer : lead);
  const then = await scans(views[loser].sessionId, ['HS-000777'], loser === 0 ? packer : lead);
  expect(then.answer.tone).toBe('complete');
  expect(await rows('SELECT serial FROM unitFact')).toEqual([{ serial: 'HS-000777' }]);
  expect((await lead.get('find?text=HS-000777')).body).toMatchObject({
    exact: { kind: 'order', name: expect.stringContaining('HS-000777') },
  });
  expect(await differences(house)).toEqual([]);
});

test('what may be left out makes no order Short, and what was left out is put back', async () => {
  await bringIn(lead, [
    ['OPT-1', 'JAR-HEX-12', 1, '5.00', 'Buyer OPT-1'],
    ['OPT-1', 'SED-BOR', 9_000, '0.00', 'Buyer OPT-1'],
  ]);
  const first = await idOfOrder(lead, 'OPT-1');
  expect((await order(first)).row.stage).toBe('Clear');
  expect((await lead.post(`orders/${first}/cancel`, { reason: 'It was only tried' })).status).toBe(200);
  const [id] = await pickedOrders([
    ['OPT-2', 'JAR-HEX-12', 1],
    ['OPT-2', 'SED-BOR', 2],
  ]);
  const view = await opened((await order(id!)).row.no);
  const after = await scans(view.sessionId, [
    codeOf(view, 'JAR-HEX-12'),
    codeOf(view, 'SED-BOR'),
    'AUK-WITHOUT',
    'AUK-UNDO',
    'AUK-WITHOUT',
    'BX-2',
    '1 kg',
    'AUK-YES',
  ]);
  expect(after.state.lines.find((l: { optional: boolean }) => l.optional)).toMatchObject({
    packed: 1,
    leftOut: 1,
  });
  expect((await scans(view.sessionId, ['AUK-CLOSE'])).answer.says).toBe('Parcel closed.');
  expect((await order(id!)).row.stage).toBe('Packed');
  expect(
    await rows(
      "SELECT CAST(SUM(m.quantity) AS INT) AS n FROM stockMove m JOIN product p ON p.id = m.productId WHERE m.causeId = ? AND m.why = 'put back' AND p.sku = 'SED-BOR'",
      [id],
    ),
  ).toEqual([{ n: 1 }]);
  expect(await differences(house)).toEqual([]);
});

test('an order is opened by its list, its staging place or one of its pieces: the most urgent', async () => {
  const [id] = await pickedOrders([['WAY-1', 'SMK-4-ST', 1]]);
  const { row } = await order(id!);
  const [{ no }] = (await rows(
    'SELECT l.no FROM pickList l JOIN pickStop s ON s.listId = l.id JOIN allocation a ON a.stopKey = s.id WHERE a.orderId = ? LIMIT 1',
    [id],
  )) as [{ no: number }];
  expect((await opened(`PL-${no}`)).orderId).toBe(id);
  const piece = await packer.post('packing/open', { code: 'SMK-4-ST', device: 'bench-1' });
  expect(piece.body.state.lines.map((l: { product: { sku: string } }) => l.product.sku)).toContain(
    'SMK-4-ST',
  );
  await house.db.run(
    "UPDATE place t JOIN place g ON g.code = 'STAGE-1' SET t.standsAtId = g.id, t.stoodSince = NOW(3) WHERE t.busyWith = ?",
    [id],
  );
  expect((await packer.post('packing/open', { code: 'STAGE-1', device: 'bench-1' })).status).toBe(200);
  expect((await packer.get('packing/queue')).body.length).toBeGreaterThan(0);
  expect((await packer.post('packing/open', { code: 'NOTHING-7', device: 'bench-1' })).status).toBe(404);
  expect(row.stage).toBe('Picked');
});

test('a piece that another order wants is named with that order, and one that looks alike', async () => {
  const [a, b] = await pickedOrders([
    ['WHO-1', 'JAR-HEX-12', 1],
    ['WHO-2', 'JAR-HEX-09', 1],
  ]);
  const view = await opened((await order(a!)).row.no);
  const { answer } = await scans(view.sessionId, ['JAR-HEX-09']);
  expect(answer.tone).toBe('wrong');
  expect(answer.says).toContain('Not in this order: Honey jar, hex, 9 oz');
  expect(answer.next).toContain((await order(b!)).row.no);
  expect(answer.next).toContain('read the label');
});

test('pressing and counting all the rest are rights', async () => {
  const [id] = await pickedOrders([['RIGHT-1', 'JAR-HEX-12', 3]]);
  const view = await opened((await order(id!)).row.no);
  const path = `packing/sessions/${view.sessionId}/scans`;
  const admin = await house.signIn('AB-1005');
  const rights = (await admin.get('people/rights')).body;
  expect(rights).toBeDefined();
  for (const right of ['pack.by-hand', 'pack.all'])
    expect((await admin.post('people/rights', { right, role: 'packer', on: false })).status).toBe(200);
  const pressed = { ...scanOf(codeOf(view, 'JAR-HEX-12')), by: 'pressed' };
  expect((await packer.post(path, pressed)).status).toBe(403);
  expect((await packer.post(path, scanOf('AUK-ALL'))).status).toBe(403);
  expect((await lead.post(path, { ...pressed, id: v7() })).body.answer.says).toContain('1 of 3');
  expect((await lead.post(path, scanOf('AUK-ALL'))).body.state.lines[0].packed).toBe(3);
});

test('bad scans: very long, a finished order again, the same scan twice at once', async () => {
  const [id] = await pickedOrders([['BAD-1', 'JAR-HEX-12', 1]]);
  const view = await opened((await order(id!)).row.no);
  expect((await scans(view.sessionId, ['x'.repeat(4_000)])).answer.says).toContain('characters');
  const scan = scanOf(codeOf(view, 'JAR-HEX-12'));
  const path = `packing/sessions/${view.sessionId}/scans`;
  const twice = await Promise.all([packer.post(path, scan), packer.post(path, scan)]);
  expect(twice.map(t => t.body.repeated).sort()).toEqual([false, true]);
  await scans(view.sessionId, ['BX-1', '1 kg', 'AUK-YES', 'AUK-CLOSE']);
  expect((await scans(view.sessionId, [scan.text])).answer.says).toContain('is packed and closed');
  expect((await opened((await order(id!)).row.no)).state.parcels[0].closed).toBe(true);
});

test('slip and label come out at the bench of the order; without paper they wait, and are printed again only when asked', async () => {
  const { printers, benches } = (await packer.get('benches')).body;
  expect(benches.map((b: { code: string }) => b.code)).toEqual(['BE-1', 'BE-2']);
  expect((await packer.get('benches/mine?device=bench-1')).body).toEqual({ bench: null });
  expect((await packer.post('benches/BE-7/take', { device: 'bench-1' })).status).toBe(404);
  expect((await packer.post('benches/be-1/take', { device: 'bench-1' })).body.bench.name).toBe('Bench 1');
  const sheets = (code: string) => house.standins.printers.get(code)!.sheets().length;
  house.standins.printers.get('labels-1')!.hasPaper = false;
  const [id] = await pickedOrders([['PRINT-1', 'JAR-HEX-12', 1]]);
  const view = await opened((await order(id!)).row.no);
  await scans(view.sessionId, [codeOf(view, 'JAR-HEX-12'), 'BX-1', '1 kg', 'AUK-YES', 'AUK-CLOSE']);
  const { no } = view.parcels[0];
  const { offers } = (await packer.get(`parcels/${no}/offers`)).body;
  expect((await packer.post(`parcels/${no}/label`, wishOf(offers[0]))).body.state).toBe('bought');
  await house.app.get(Rounds).once('jobs');
  expect([sheets('papers'), sheets('labels-1')]).toEqual([1, 0]);
  const tray = async () => (await packer.get('benches/tray')).body;
  expect((await tray())[0]).toMatchObject({
    kind: 'label',
    state: 'waiting',
    why: 'Labels, bench 1: It is out of paper.',
    bench: 'Bench 1',
  });
  const troubled = (await packer.get('benches')).body.printers.find(
    (p: { waiting: number }) => p.waiting === 1,
  );
  expect(troubled).toMatchObject({
    name: 'Labels, bench 1',
    trouble: 'Labels, bench 1: It is out of paper.',
  });
  house.standins.printers.get('labels-1')!.hasPaper = true;
  const [job] = await tray();
  // Twice: what waits comes out once.
  for (let i = 0; i < 2; i++) expect((await packer.post(`benches/tray/${job.id}/again`)).status).toBe(200);
  await house.app.get(Rounds).once('jobs');
  expect(sheets('labels-1')).toBe(1);
  const printed = (await tray()).find((j: { id: string }) => j.id === job.id);
  expect(printed).toMatchObject({ state: 'printed', copies: 1, why: null });
  expect((await packer.post(`benches/tray/${job.id}/again`)).status).toBe(200);
  await house.app.get(Rounds).once('jobs');
  expect(sheets('labels-1')).toBe(2);
  expect(
    house.standins.desks
      .get(offers[0].carrier)!
      .books.all()
      .filter(b => b.reference === no),
  ).toHaveLength(1);
  expect((await packer.post(`benches/tray/${v7()}/again`)).status).toBe(404);
  expect(printers).toHaveLength(3);
});

test('benches and printers are set up by who may; names are told apart', async () => {
  expect(
    (await packer.post('benches', { name: 'X', label: null, slip: null, invoice: null, afterOrder: 'next' }))
      .status,
  ).toBe(403);
  const plain = {
    label: null,
    slip: null,
    invoice: null,
    scale: null,
    afterOrder: 'next',
    checkOnly: false,
    wantsPhoto: false,
    takesFirst: false,
  };
  expect((await lead.post('benches', { name: 'By the door', ...plain })).status).toBe(200);
  expect((await lead.post('benches', { name: 'By the door', ...plain })).body.detail).toContain(
    'There is a bench “By the door” already',
  );
  const made = (await lead.get('benches')).body.benches.find(
    (b: { name: string }) => b.name === 'By the door',
  );
  expect(made).toMatchObject({ code: 'BE-3', afterOrder: 'next', takesFirst: false });
  await lead.post('benches', { id: made.id, name: 'By the door', ...plain, takesFirst: true });
  expect((await lead.get('benches')).body.benches).toContainEqual({ ...made, takesFirst: true });
  expect(
    (await lead.post('benches', { id: made.id, name: 'At the door', ...plain, label: v7() })).status,
  ).toBe(409);
  expect((await lead.post('benches', { id: v7(), name: 'No such', ...plain })).status).toBe(404);
  expect((await lead.post('benches/printers', { name: 'Spare', url: 'ftp://printer' })).status).toBe(400);
  expect((await lead.post('benches/printers', { name: 'Spare', url: 'http://127.0.0.1:9/p' })).status).toBe(
    200,
  );
});

test('a photo is kept once with its order, is a picture, and is forgotten when its time is over', async () => {
  const [id] = await pickedOrders([['PHOTO-1', 'JAR-HEX-12', 1]]);
  const { sessionId } = await opened((await order(id!)).row.no);
  const photo = v7();
  const send = async (bytes: Buffer, session = sessionId, key = photo) => {
    const answer = await fetch(
      `${house.url}/api/v1/packing/sessions/${session}/photos/${key}?at=2026-11-26T08:00:00.000Z`,
      {
        method: 'POST',
        headers: { cookie: packer.cookie, 'content-type': 'application/octet-stream', origin: house.url },
        body: new Uint8Array(bytes),
      },
    );
    return answer.status;
  };
  const picture = Buffer.concat([Buffer.from([0xff, 0xd8, 0xff, 0xe0]), Buffer.alloc(500, 7)]);
  expect([await send(picture), await send(picture)]).toEqual([200, 200]);
  expect(await send(Buffer.from('<svg onload="x">'), sessionId, v7())).toBe(400);
  expect(await send(picture, v7(), v7())).toBe(404);
  const walk = await house.db.one<{ id: string }>("SELECT id FROM scanSession WHERE kind <> 'pack' LIMIT 1");
  expect(await send(picture, walk!.id, v7())).toBe(404);
  expect((await lead.get(`orders/${id}/photos`)).body).toEqual([
    { id: photo, takenAt: '2026-11-26T08:00:00.000Z', person: 'Tomas Brandt' },
  ]);
  expect((await order(id!)).history.filter((h: { says: string }) => h.says.includes('photo'))).toHaveLength(
    1,
  );
  await house.db.run('UPDATE orderPhoto SET at = NOW(3) - INTERVAL 401 DAY');
  await house.app.get(Rounds).once('upkeep');
  expect((await lead.get(`orders/${id}/photos`)).body).toEqual([]);
});

test('boxes are kept, put into an order, and retired ones are proposed no more', async () => {
  const { boxes } = (await lead.get('boxes')).body;
  const codes = boxes.map((b: { code: string }) => b.code);
  const small = { ...boxes[0], code: 'BX-S', name: 'Small', kind: 'mailer', stock: 4 };
  expect((await packer.post('boxes', small)).status).toBe(403);
  expect((await lead.post('boxes', small)).status).toBe(200);
  expect((await lead.post('boxes', { ...small, length: 0 })).status).toBe(400);
  expect(
    (await lead.post('boxes/order', { codes: ['BX-S', 'BX-NONE', ...codes.slice(1), codes[0]] })).status,
  ).toBe(200);
  const after = (await lead.get('boxes')).body.boxes;
  expect(after.map((b: { code: string }) => b.code)).toEqual(['BX-S', ...codes.slice(1), codes[0]]);
  expect((await lead.post('boxes', { ...small, retired: true })).status).toBe(200);
  const [id] = await pickedOrders([['BOX-1', 'SED-PHA', 1]]);
  const view = await opened((await order(id!)).row.no);
  expect(view.state.boxes.map((b: { code: string }) => b.code)).not.toContain('BX-S');
  expect(view.state.proposed).toEqual([codes[0]]);
  // How they are proposed, and how far a weight may be off, is the lead's too; an order that is open keeps what it was opened with.
  const choices = { padding: 400, parcelCostMinor: 0, toleranceMg: 5_000_000, tolerancePpm: 0 };
  expect((await packer.post('boxes/choices', choices)).status).toBe(403);
  expect((await lead.post('boxes/choices', { ...choices, padding: -1 })).status).toBe(400);
  const [plain, soft] = await pickedOrders([
    ['PAD-1', 'JAR-HEX-12', 2],
    ['PAD-2', 'JAR-HEX-12', 2],
  ]);
  const first = await opened((await order(plain!)).row.no);
  const was = (await lead.get('boxes')).body.choices;
  expect((await lead.post('boxes/choices', choices)).status).toBe(200);
  const second = await opened((await order(soft!)).row.no);
  const volume = ({ state }: typeof first) => {
    const { inner } = state.boxes.find((b: { code: string }) => b.code === state.proposed[0]);
    return inner.length * inner.width * inner.height;
  };
  expect(volume(second)).toBeGreaterThan(volume(first));
  const code = codeOf(second, 'JAR-HEX-12');
  const weighed = await scans(second.sessionId, [code, code, 'BX-6', '9 lb']);
  expect(weighed.answer.says).toBe('Weight 9 lb.');
  await lead.post('boxes/choices', was);
});

test('a scale gives the weight that lies still, in any unit; one that jitters or hangs is named', async () => {
  const { benches } = (await lead.get('benches')).body;
  const at = (name: string) => benches.find((b: { name: string }) => b.name === name);
  const weigh = async (name: string) => {
    const { status, body } = await packer.get(`benches/${at(name).id}/weight`);
    return status === 200 ? body.mg : body.detail;
  };
  const { scale } = house.standins;
  scale.weight = 2.35;
  expect(await weigh('Bench 2')).toBe(1_065_942);
  scale.unit = 'kg';
  expect(await weigh('Bench 2')).toBe(2_350_000);
  expect(await weigh('Bench 1')).toBe('Bench 1 has no scale.');
  scale.mood = 'jitters';
  expect(await weigh('Bench 2')).toBe('The scale does not come to rest.');
  scale.mood = 'hangs';
  expect(await weigh('Bench 2')).toBe('The scale says nothing.');
  scale.mood = 'still';
  const { code: _, devices: __, ...facts } = at('Bench 2');
  expect((await lead.post('benches', { ...facts, scale: 'no port' })).status).toBe(400);
  expect((await lead.post('benches', { ...facts, scale: '127.0.0.1:1' })).status).toBe(200);
  expect(await weigh('Bench 2')).toBe('The scale cannot be reached.');
});

test('a closed parcel is taken open again by who may, until it has its label; and what a product is called by then is known', async () => {
  const [id] = await pickedOrders([['OPEN-1', 'JAR-HEX-12', 1]]);
  const { row } = await order(id!);
  const view = await opened(row.no);
  const { no } = view.parcels[0];
  const reopen = (caller = packer) => caller.post(`packing/parcels/${no}/open`);
  expect((await reopen()).body.detail).toBe('This order is being packed.');
  await scans(view.sessionId, [codeOf(view, 'JAR-HEX-12'), 'BX-1', '1 kg', 'AUK-YES', 'AUK-CLOSE']);
  const picker = await house.signIn('AB-1003');
  expect((await reopen(picker)).status).toBe(403);
  // Two at once: one opens it, the other finds it open.
  const both = await Promise.all([reopen(), reopen(lead)]);
  expect(both.map(r => r.status).sort()).toEqual([200, 409]);
  expect((await order(id!)).row.stage).toBe('Picked');
  expect((await lead.post('products/JAR-HEX-12/codes', { code: 'JAR-BY-HAND' })).status).toBe(200);
  const again = await opened(row.no);
  expect(again.state.parcels).toMatchObject([
    { no: 1, closed: false, boxCode: 'BX-1', holds: expect.anything() },
  ]);
  expect(again.state.lines[0].product.codes.map((c: { code: string }) => c.code)).toContain('JAR-BY-HAND');
  expect((await scans(again.sessionId, ['BX-2', '2 kg', 'AUK-YES', 'AUK-CLOSE'])).answer.says).toBe(
    'Parcel closed.',
  );
  expect(await rows('SELECT boxCode FROM parcel WHERE orderId = ?', [id])).toEqual([{ boxCode: 'BX-2' }]);
  const { offers } = (await packer.get(`parcels/${no}/offers`)).body;
  await packer.post(`parcels/${no}/label`, wishOf(offers[0]));
  expect((await reopen()).body.detail).toContain('has its label already (bought)');
  expect((await packer.post('packing/parcels/PA-999999/open')).status).toBe(404);
  expect(await differences(house)).toEqual([]);
});

test('stand-ins that moved to other ports are found again', async () => {
  const { DemoLoader } = await import('../src/demo/load.js');
  await house.app.get(DemoLoader).moveStandins('http://127.0.0.1:4', '127.0.0.1:5', null);
  const { printers, benches } = (await lead.get('benches')).body;
  expect(printers.map((p: { url: string }) => p.url)).toContain('http://127.0.0.1:4/printers/papers');
  expect(benches.map((b: { scale: string | null }) => b.scale)).toContain('127.0.0.1:5');
  await house.app.get(DemoLoader).moveStandins(`http://127.0.0.1:${house.standinsPort}`, '127.0.0.1:5', null);
});

test('a bench may only check, and may want a photo before a parcel closes', async () => {
  const made = (await lead.get('benches')).body.benches.find(
    (b: { name: string }) => b.name === 'By the door',
  );
  const { code, devices: _, ...facts } = made;
  expect((await lead.post('benches', { ...facts, checkOnly: true, wantsPhoto: true })).status).toBe(200);
  expect((await packer.post(`benches/${code}/take`, { device: 'bench-1' })).body.bench).toMatchObject({
    checkOnly: true,
  });
  const [id] = await pickedOrders([['CHECK-1', 'JAR-HEX-12', 1]]);
  const view = await opened((await order(id!)).row.no);
  const close = await scans(view.sessionId, [codeOf(view, 'JAR-HEX-12'), 'AUK-CLOSE']);
  expect(close.answer.says).toBe('A photo of the open box is wanted.');
  expect((await scans(view.sessionId, ['AUK-PHOTO', 'AUK-CLOSE'])).answer.says).toBe('Parcel closed.');
  expect(
    await rows('SELECT boxCode, weightMg, closedAt IS NOT NULL AS closed FROM parcel WHERE orderId = ?', [
      id,
    ]),
  ).toEqual([{ boxCode: view.state.proposed[0], weightMg: null, closed: 1 }]);
  expect((await order(id!)).row.stage).toBe('Packed');
  expect(await differences(house)).toEqual([]);
});

test('a size measured at the bench counts there at once, a weight is learned from the scale; both wait for somebody to look', async () => {
  await packer.post('benches/BE-1/take', { device: 'bench-1' });
  await house.db.run("UPDATE product SET length = NULL, width = NULL, height = NULL WHERE sku = 'HAT-STR'");
  const [id] = await pickedOrders([['SIZE-1', 'HAT-STR', 2]]);
  const { row } = await order(id!);
  const view = await opened(row.no);
  expect(view.state).toMatchObject({ proposed: [], lines: [{ piece: { size: null } }] });
  const size = { length: 3_810, width: 3_556, height: 1_270 };
  expect((await packer.post('products/HAT-STR/measures', { ...size, length: 0 })).status).toBe(400);
  for (let i = 0; i < 2; i++) expect((await packer.post('products/HAT-STR/measures', size)).status).toBe(200);
  const again = await opened(row.no);
  expect(again.state.lines[0].piece.size).toEqual(size);
  await scans(again.sessionId, [
    codeOf(again, 'HAT-STR'),
    codeOf(again, 'HAT-STR'),
    'BX-5',
    '4 lb',
    'AUK-YES',
    'AUK-CLOSE',
  ]);
  const found = (await lead.get('measures')).body.filter((m: { sku: string }) => m.sku === 'HAT-STR');
  expect(found).toMatchObject([
    {
      size: null,
      weightMg: Math.round((4 * 453_592.37 - 725_748) / 2),
      order: row.no,
      person: 'Tomas Brandt',
    },
    { size, weightMg: null, keptSize: null },
  ]);
  const decide = (at: number, take: boolean, caller = lead) =>
    caller.post(`measures/${found[at].id}`, { take });
  expect((await decide(1, true, packer)).status).toBe(403);
  expect((await decide(1, true)).status).toBe(200);
  expect((await decide(1, true)).status).toBe(404);
  expect((await decide(0, false)).status).toBe(200);
  expect((await lead.get('measures')).body.filter((m: { sku: string }) => m.sku === 'HAT-STR')).toEqual([]);
  expect((await lead.get('products/HAT-STR')).body).toMatchObject({ size });
});

test('a note is confirmed by the word that the office asks for, before the first piece', async () => {
  const [id] = await pickedOrders([['NOTE-1', 'JAR-HEX-12', 1]]);
  const note = { kind: 'packer', text: 'It is a gift.', confirm: true, word: 'gift' };
  expect((await lead.post(`orders/${id}/notes`, note)).status).toBe(200);
  const view = await opened((await order(id!)).row.no);
  expect(view.state.notes).toEqual([{ text: 'It is a gift.', word: 'gift', confirmed: false }]);
  const piece = codeOf(view, 'JAR-HEX-12');
  for (const text of [piece, 'AUK-YES', 'AUK-CLOSE'])
    expect((await scans(view.sessionId, [text])).answer.says).toBe('Read this first: It is a gift.');
  expect((await scans(view.sessionId, ['Gift'])).answer.says).toBe('The note is confirmed.');
  expect((await scans(view.sessionId, [piece])).answer.says).toBe('Everything is in.');
});

test('papers that came out long ago are forgotten; what waits is not', async () => {
  const states = async () => (await packer.get('benches/tray')).body.map((j: { state: string }) => j.state);
  expect(await states()).toContain('printed');
  await house.db.run('UPDATE printJob SET printedAt = NOW(3) - INTERVAL 31 DAY WHERE printedAt IS NOT NULL');
  await house.app.get(Rounds).once('upkeep');
  expect(await states()).not.toContain('printed');
});

test('what comes twice at once is there once: a photo, a box, a bench', async () => {
  const [id] = await pickedOrders([['TWICE-1', 'JAR-HEX-12', 1]]);
  const { sessionId } = await opened((await order(id!)).row.no);
  const picture = new Uint8Array([0xff, 0xd8, 0xff, 0xe0, 1, 2, 3]);
  const photo = v7();
  const send = () =>
    fetch(`${house.url}/api/v1/packing/sessions/${sessionId}/photos/${photo}?at=2026-11-26T08:00:00.000Z`, {
      method: 'POST',
      headers: { cookie: packer.cookie, 'content-type': 'application/octet-stream', origin: house.url },
      body: picture,
    });
  expect((await Promise.all([send(), send(), send()])).map(a => a.status)).toEqual([200, 200, 200]);
  expect((await order(id!)).history.filter((h: { says: string }) => h.says.includes('photo'))).toHaveLength(
    1,
  );
  const [box] = (await lead.get('boxes')).body.boxes;
  const twin = () => lead.post('boxes', { ...box, code: 'BX-TWIN', name: 'Twin', retired: true });
  expect((await Promise.all([twin(), twin(), twin()])).map(a => a.status)).toEqual([200, 200, 200]);
  const plain = {
    label: null,
    slip: null,
    invoice: null,
    scale: null,
    afterOrder: 'wait',
    checkOnly: false,
    wantsPhoto: false,
    takesFirst: false,
  };
  const made = await Promise.all(
    ['North', 'South', 'West'].map(name => lead.post('benches', { name, ...plain })),
  );
  expect(made.map(a => a.status)).toEqual([200, 200, 200]);
  const codes = (await lead.get('benches')).body.benches.map((b: { code: string }) => b.code);
  expect(new Set(codes).size).toBe(codes.length);
});

test('bad input of benches and printers is refused, never a fault of ours', async () => {
  const plain = {
    name: 'Bad',
    label: null,
    slip: null,
    invoice: null,
    afterOrder: 'wait',
    checkOnly: false,
    wantsPhoto: false,
    takesFirst: false,
  };
  expect((await lead.post('benches', { ...plain, scale: '127.0.0.1:99999' })).status).toBe(400);
  expect(
    (await lead.post('benches/printers', { id: v7(), name: 'Gone', url: 'http://127.0.0.1:9/p' })).status,
  ).toBe(404);
});

test('a paper that was given up is tried again when somebody asks', async () => {
  house.standins.printers.get('papers')!.hasPaper = false;
  await packer.post('benches/BE-1/take', { device: 'bench-1' });
  const [id] = await pickedOrders([['GIVE-1', 'JAR-HEX-12', 1]]);
  const view = await opened((await order(id!)).row.no);
  await scans(view.sessionId, [codeOf(view, 'JAR-HEX-12'), 'BX-1', '1 kg', 'AUK-YES', 'AUK-CLOSE']);
  await house.app.get(Rounds).once('jobs');
  await house.db.run("UPDATE job SET state = 'given up' WHERE kind = 'print' AND state <> 'done'");
  house.standins.printers.get('papers')!.hasPaper = true;
  const slip = async () =>
    (await packer.get('benches/tray')).body.find((j: { what: string }) => j.what.includes('GIVE-1'));
  expect((await slip()).state).toBe('waiting');
  for (let i = 0; i < 3; i++)
    expect((await packer.post(`benches/tray/${(await slip()).id}/again`)).status).toBe(200);
  await house.app.get(Rounds).once('jobs');
  expect(await slip()).toMatchObject({ state: 'printed', copies: 1 });
});

test('an order that was only checked has no prices; it says so', async () => {
  const row = await house.db.one<{ no: number }>(
    "SELECT c.no FROM parcel c JOIN orders o ON o.id = c.orderId WHERE o.channelNumber = 'CHECK-1'",
  );
  const { status, body } = await packer.get(`parcels/PA-${row!.no}/offers`);
  expect([status, body.detail]).toEqual([422, expect.stringContaining('was only checked')]);
});

test('what may be left out and is not there does not keep an order at staging from the benches', async () => {
  await bringIn(lead, [
    ['STAND-1', 'JAR-HEX-12', 1, '5.00', 'Buyer STAND-1'],
    ['STAND-1', 'SED-BOR', 9_000, '0.00', 'Buyer STAND-1'],
  ]);
  const id = await idOfOrder(lead, 'STAND-1');
  await listAndPick(lead, [id]);
  await house.db.run(
    "UPDATE place t JOIN place g ON g.code = 'STAGE-1' SET t.standsAtId = g.id, t.stoodSince = NOW(3) WHERE t.busyWith = ?",
    [id],
  );
  const row = (await packer.get('packing/arrived')).body.find((a: { id: string }) => a.id === id);
  expect(row.lacks).toBe('');
});

test('two benches that scan alike pieces open two orders, and neither takes the other’s', async () => {
  const ids = await pickedOrders([
    ['LIKE-1', 'SMK-7-ST', 1],
    ['LIKE-2', 'SMK-7-ST', 1],
  ]);
  const one = await packer.post('packing/open', { code: 'SMK-7-ST', device: 'bench-1' });
  const other = await lead.post('packing/open', { code: 'SMK-7-ST', device: 'bench-2' });
  expect([one.body.orderId, other.body.orderId].sort()).toEqual([...ids].sort());
  expect((await lead.post('packing/open', { code: one.body.state.orderNo, device: 'bench-2' })).status).toBe(
    409,
  );
});

const edited = async (id: string, change: object) =>
  lead.post(`orders/${id}/edit`, { version: (await order(id)).version, undo: true, ...change });
const onStaging = async (sku: string) =>
  (await lead.get('places/STAGE-1')).body.stock.find((s: { sku: string }) => s.sku === sku)?.onHand ?? 0;
const keyOf = async (id: string, sku: string) =>
  (await order(id)).lines.find((l: { channelSku: string }) => l.channelSku === sku).key;

test('an edit while the bench packs: scans stay, what is not wanted any more is taken out, the books follow at once', async () => {
  const [id] = await pickedOrders([
    ['ED-1', 'JAR-HEX-12', 3],
    ['ED-1', 'BOOK-1ST', 1],
  ]);
  const no = (await order(id!)).row.no;
  const view = await opened(no);
  const [jar, book] = [codeOf(view, 'JAR-HEX-12'), codeOf(view, 'BOOK-1ST')];
  await scans(view.sessionId, [jar, jar, book]);
  const before = [await onStaging('JAR-HEX-12'), await onStaging('BOOK-1ST')];
  expect((await order(id!)).undoes).toMatch(/^The bench is packing it: 3 units are in PA-\d+\./);
  const asked = await lead.post(`orders/${id}/edit`, {
    version: (await order(id!)).version,
    lines: [{ key: await keyOf(id!, 'BOOK-1ST'), remove: true }],
  });
  expect([asked.status, asked.body.facts.undoes]).toEqual([422, 'undo']);
  const done = await edited(id!, {
    lines: [
      { key: await keyOf(id!, 'BOOK-1ST'), remove: true },
      { key: await keyOf(id!, 'JAR-HEX-12'), quantity: 1 },
    ],
  });
  expect([done.status, done.body?.detail]).toEqual([200, undefined]);
  // One jar out of the tote, one out of the parcel; the book out of the parcel.
  expect([await onStaging('JAR-HEX-12'), await onStaging('BOOK-1ST')]).toEqual([
    before[0] + 2,
    before[1] + 1,
  ]);
  expect(await differences(house)).toEqual([]);
  expect((await packer.get(`packing/sessions/${view.sessionId}`)).body.changed).toBe(true);
  // Who scans on without having heard of it is told.
  const late = await packer.post(`packing/sessions/${view.sessionId}/scans`, scanOf(jar));
  expect([late.status, late.body.detail]).toEqual([
    409,
    'The pieces of this order have changed since it was opened.',
  ]);
  const again = await opened(no);
  expect(again.news.says).toMatch(/^The order was changed: 1 × .+ instead of 3, no .+ any more\.$/);
  expect(again.changed).toBe(false);
  const refused = await scans(view.sessionId, ['BX-2', '2 lb', 'AUK-CLOSE']);
  expect(refused.answer.says).toMatch(/the order does not want it any more/);
  const out = await scans(view.sessionId, [jar, book]);
  expect(out.answer.tone).toBe('complete');
  expect(await onStaging('JAR-HEX-12')).toBe(before[0] + 2);
  expect((await scans(view.sessionId, ['400 g', 'AUK-YES', 'AUK-CLOSE'])).answer.says).toBe('Parcel closed.');
  expect((await order(id!)).row.stage).toBe('Packed');
  expect(await differences(house)).toEqual([]);
});

test('more is wanted while the bench packs: the rest is picked on a list of its own, the order comes back, and nothing closes before', async () => {
  const [id] = await pickedOrders([['ED-2', 'JAR-HEX-12', 1]]);
  const no = (await order(id!)).row.no;
  const view = await opened(no);
  const jar = codeOf(view, 'JAR-HEX-12');
  await scans(view.sessionId, [jar, 'BX-2', '2 lb', 'AUK-YES']);
  const money = (await order(id!)).money;
  // A code of a product adds it as well as its SKU does.
  const gtin = (
    await rows(
      "SELECT c.code FROM productCode c JOIN product p ON p.id = c.productId WHERE p.sku = 'BOOK-1ST' AND c.units = 1",
    )
  )[0]!.code as string;
  expect((await edited(id!, { lines: [{ sku: gtin, quantity: 2, priceMinor: 700 }] })).status).toBe(200);
  expect((await order(id!)).money.totalMinor).toBe(money.totalMinor + 1400);
  expect((await order(id!)).row.stage).toBe('Clear');
  expect((await packer.get(`packing/sessions/${view.sessionId}`)).body.lacks).toMatch(/^2 × [^(]+$/);
  const early = await packer.post(`packing/sessions/${view.sessionId}/scans`, scanOf('AUK-CLOSE'));
  expect([early.status, early.body.detail]).toEqual([
    422,
    expect.stringMatching(/^Not all of it is here: 2 × /),
  ]);
  await listAndPick(lead, [id!]);
  expect((await order(id!)).row.stage).toBe('Picked');
  const again = await opened(no);
  expect([again.lacks, again.news.says]).toEqual(['', expect.stringMatching(/2 × .+ instead of 0\.$/)]);
  const book = codeOf(again, 'BOOK-1ST');
  const closed = await scans(view.sessionId, [book, book, '4 lb', 'AUK-YES', 'AUK-CLOSE']);
  expect(closed.answer.says).toBe('Parcel closed.');
  expect((await order(id!)).row.stage).toBe('Packed');
  // Closed, it is changed only when it was taken open again.
  const blocked = await edited(id!, { lines: [{ key: await keyOf(id!, 'JAR-HEX-12'), remove: true }] });
  expect([blocked.status, blocked.body.detail]).toEqual([
    422,
    expect.stringMatching(/^It is packed: PA-\d+ is closed\.$/),
  ]);
  expect(await differences(house)).toEqual([]);
});

test('an edit and the scan of the piece that it takes away, at once: one of them comes first, and the books are whole', async () => {
  const ids = await pickedOrders(
    Array.from({ length: 4 }, (_, i): [string, string, number] => [`ED-3${i}`, 'JAR-HEX-12', 2]),
  );
  for (const id of ids) {
    const view = await opened((await order(id)).row.no);
    const jar = codeOf(view, 'JAR-HEX-12');
    await scans(view.sessionId, [jar]);
    const change = { lines: [{ key: await keyOf(id, 'JAR-HEX-12'), quantity: 1 }] };
    const [scan, edit] = await Promise.all([
      packer.post(`packing/sessions/${view.sessionId}/scans`, scanOf(jar)),
      edited(id, change),
    ]);
    expect([scan.status, edit.status]).toEqual([expect.toBeOneOf([200, 409]), 200]);
    const again = await opened((await order(id)).row.no);
    const inside = again.state.lines[0].packed;
    const last = await scans(view.sessionId, [
      ...Array(inside - 1).fill(jar),
      'BX-2',
      '1 lb',
      'AUK-YES',
      'AUK-CLOSE',
    ]);
    expect(last.answer.says).toBe('Parcel closed.');
  }
  expect(await differences(house)).toEqual([]);
});

test('a label that was given back is not printed any more; the one bought instead comes out once', async () => {
  const printer = house.standins.printers.get('labels-1')!;
  await packer.post('benches/BE-1/take', { device: 'bench-1' });
  const [id] = await pickedOrders([['GONE-1', 'JAR-HEX-12', 1]]);
  const view = await opened((await order(id!)).row.no);
  await scans(view.sessionId, [codeOf(view, 'JAR-HEX-12'), 'BX-1', '1 kg', 'AUK-YES', 'AUK-CLOSE']);
  const { no } = view.parcels[0];
  const buy = async () => {
    const { offers } = (await packer.get(`parcels/${no}/offers`)).body;
    return (await packer.post(`parcels/${no}/label`, wishOf(offers[0]))).body.state;
  };
  const before = printer.sheets().length;
  printer.hasPaper = false;
  expect(await buy()).toBe('bought');
  await house.app.get(Rounds).once('jobs');
  expect((await packer.post(`parcels/${no}/void`, {})).status).toBe(200);
  expect(await buy()).toBe('bought');
  printer.hasPaper = true;
  const waiting = (await packer.get('benches/tray')).body.filter(
    (j: { state: string }) => j.state === 'waiting',
  );
  for (const job of waiting) await packer.post(`benches/tray/${job.id}/again`);
  await house.app.get(Rounds).once('jobs');
  expect(printer.sheets().length).toBe(before + 1);
});

test('what is on a list that nobody began is taken off it unit by unit; what somebody picks is not', async () => {
  const [id] = await pickedOrders([['ED-4', 'JAR-HEX-12', 1]]);
  const no = (await order(id!)).row.no;
  const view = await opened(no);
  await scans(view.sessionId, [codeOf(view, 'JAR-HEX-12')]);
  await edited(id!, { lines: [{ sku: 'BOOK-1ST', quantity: 3 }] });
  const list = (await lead.post('picking/lists', { orderIds: [id] })).body.no;
  const key = await keyOf(id!, 'BOOK-1ST');
  expect((await edited(id!, { lines: [{ key, quantity: 2 }] })).status).toBe(200);
  const rest = (await lead.get(`picking/lists/${list}`)).body.rows;
  expect(rest.reduce((n: number, r: { quantity: number }) => n + r.quantity, 0)).toBe(2);
  expect(await differences(house)).toEqual([]);
  expect((await edited(id!, { lines: [{ key, remove: true }] })).status).toBe(200);
  expect((await rows('SELECT state FROM pickList WHERE no = ?', [list.slice(3)]))[0]!.state).toBe('done');
  expect((await order(id!)).row.stage).toBe('Picked');
  await edited(id!, { lines: [{ sku: 'BOOK-1ST', quantity: 1 }] });
  const next = (await lead.post('picking/lists', { orderIds: [id] })).body.no;
  await lead.post('picking/open', { code: next, device: 'test-device' });
  const busy = await edited(id!, { lines: [{ key: await keyOf(id!, 'BOOK-1ST'), remove: true }] });
  expect([busy.status, busy.body.detail]).toEqual([
    422,
    expect.stringMatching(/is picking it on PL-\d+ right now/),
  ]);
  expect(await differences(house)).toEqual([]);
});

test('a line may be left out though its product says nothing, and must go along though its product may be left out', async () => {
  const { version } = (await lead.get('products/JKT-L')).body;
  await lead.post('products/JKT-L', { version, fields: { optional: true } });
  await bringIn(lead, [
    ['LINE-1', 'JAR-HEX-12', 1, '5.00', 'Buyer LINE-1'],
    ['LINE-1', 'BOOK-1ST', 1, '5.00', 'Buyer LINE-1'],
    ['LINE-1', 'JKT-L', 1, '0.00', 'Buyer LINE-1'],
  ]);
  const id = await idOfOrder(lead, 'LINE-1');
  const optional = async () =>
    Object.fromEntries(
      (await order(id)).lines.map((l: { channelSku: string; parts: { optional: boolean }[] }) => [
        l.channelSku,
        l.parts[0]!.optional,
      ]),
    );
  expect(await optional()).toEqual({ 'JAR-HEX-12': false, 'BOOK-1ST': false, 'JKT-L': true });
  const lines = [
    { key: await keyOf(id, 'BOOK-1ST'), leaveOut: 'yes' },
    { key: await keyOf(id, 'JKT-L'), leaveOut: 'no' },
  ];
  expect((await edited(id, { lines })).status).toBe(200);
  expect(await optional()).toEqual({ 'JAR-HEX-12': false, 'BOOK-1ST': true, 'JKT-L': false });
  await listAndPick(lead, [id]);
  const view = await opened((await order(id)).row.no);
  const last = await scans(view.sessionId, [codeOf(view, 'JAR-HEX-12'), codeOf(view, 'JKT-L')]);
  expect(last.answer.says).toBe('All that must go in is in. What is left may be left out.');
  // As its products say again.
  await edited(id, { lines: [{ key: await keyOf(id, 'JKT-L'), leaveOut: null }] });
  expect(await optional()).toEqual({ 'JAR-HEX-12': false, 'BOOK-1ST': true, 'JKT-L': true });
  await edited(id, { lines: [{ key: await keyOf(id, 'BOOK-1ST'), leaveOut: null }] });
  expect((await opened((await order(id)).row.no)).news.says).toContain('must go along');
  expect((await scans(view.sessionId, ['AUK-WITHOUT'])).answer.says).toBe(
    'Nothing of this order may be left out.',
  );
});

test('the box that a product prefers is proposed when all goes into it, and when nobody knows a size', async () => {
  const { version } = (await lead.get('products/BOOK-1ST')).body;
  const fields = { box: 'BX-4' };
  expect((await lead.post('products/BOOK-1ST', { version, fields })).status).toBe(200);
  const ids = await pickedOrders([
    ['OWN-1', 'BOOK-1ST', 1],
    ['OWN-2', 'BOOK-1ST', 1],
    ['OWN-2', 'SED-PHA', 1],
  ]);
  for (const id of ids) expect((await opened((await order(id)).row.no)).state.proposed).toEqual(['BX-4']);
  const now = (await lead.get('products/BOOK-1ST')).body;
  await lead.post('products/BOOK-1ST', {
    version: now.version,
    fields: { box: 'BX-1', length: null, width: null, height: null },
  });
  const [unsized] = await pickedOrders([['OWN-3', 'BOOK-1ST', 1]]);
  const view = await opened((await order(unsized!)).row.no);
  expect([view.state.proposed, view.state.lines[0].piece.size]).toEqual([['BX-1'], null]);
  const { length, width, height } = now.size;
  const last = (await lead.get('products/BOOK-1ST')).body.version;
  await lead.post('products/BOOK-1ST', { version: last, fields: { box: null, length, width, height } });
});
