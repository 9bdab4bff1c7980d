import { PDFDocument } from 'pdf-lib';
import { v7 } from 'uuid';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { bringIn, idOfOrder, ordersIn, packAndClose, productOf, scanOf } from './drive.js';
import { type Caller, differences, type House, openHouse } from './house.js';

let house: House;
let lead: Caller;
/** What is scanned of a jar and of a smoker. */
let jar: string;
let smoker: string;
beforeAll(async () => {
  house = await openHouse();
  lead = await house.signIn('AB-1001');
  [jar, smoker] = (await Promise.all(
    ['JAR-HEX-12', 'SMK-4-ST'].map(async sku => (await productOf(lead, sku)).codes[0].code),
  )) as [string, string];
});
afterAll(() => house.close());

interface Walk {
  no: string;
  // biome-ignore lint/suspicious/noExplicitAny: a state of the core
  state: any;
  // biome-ignore lint/suspicious/noExplicitAny: a judgement of the API
  scan: (text: string) => Promise<any>;
}

/** A list of orders, opened on the Floor. */
async function walk(orderIds: string[], method = 'cluster'): Promise<Walk> {
  const { no } = (await lead.post('picking/lists', { orderIds, method })).body;
  const opened = (await lead.post('picking/open', { code: no, device: 'floor' })).body;
  const scan = async (text: string) =>
    (await lead.post(`picking/sessions/${opened.sessionId}/scans`, scanOf(text))).body;
  return { no, state: opened.state, scan };
}

/** Picks what is open of a walk, whatever is added to it on the way. */
async function toTheEnd({ state, scan }: Walk): Promise<void> {
  for (let at = state; ; ) {
    const stop = at.stops.find((s: Walk['state']) => s.wanted > s.taken + s.missing);
    if (!stop) return;
    await scan(stop.placeCode);
    at = (await scan(stop.product.codes[0].code)).state;
    if (stop.wanted > 1) at = (await scan('AUK-ALL')).state;
  }
}

/** Three orders of two jars and a smoker, as one heap on the trolley. */
async function heapOn(trolley: string, prefix: string): Promise<{ ids: string[]; no: string }> {
  await bringIn(lead, [
    [`${prefix}-1`, 'JAR-HEX-12', 2, '1.35', `Ada ${prefix}`],
    [`${prefix}-1`, 'SMK-4-ST', 1, '31.00', `Ada ${prefix}`],
    [`${prefix}-2`, 'JAR-HEX-12', 1, '1.35', `Ben ${prefix}`],
    [`${prefix}-2`, 'SMK-4-ST', 1, '31.00', `Ben ${prefix}`],
  ]);
  const ids = [await idOfOrder(lead, `${prefix}-1`), await idOfOrder(lead, `${prefix}-2`)];
  const list = await walk(ids, 'batch');
  expect(await list.scan(trolley)).toMatchObject({ answer: { tone: 'right' } });
  await toTheEnd(list);
  return { ids, no: list.no };
}

const stageOf = async (id: string): Promise<string> => (await lead.get(`orders/${id}`)).body.row.stage;
const unitsIn = async (code: string): Promise<number> =>
  (await house.db.one<{ n: number }>(
    'SELECT CAST(COALESCE(SUM(b.onHand), 0) AS INT) AS n FROM stockBalance b JOIN place p ON p.id = b.placeId WHERE p.code = ?',
    [code],
  ))!.n;

test('a heap: one stop for each product and place, nothing before it has a carrier, all of it lies there', async () => {
  await bringIn(lead, [
    ['H-1', 'JAR-HEX-12', 2, '1.35', 'Ada'],
    ['H-2', 'JAR-HEX-12', 1, '1.35', 'Ben'],
    ['H-3', 'JAR-HEX-12', 3, '1.35', 'Cy'],
  ]);
  const ids = await Promise.all(['H-1', 'H-2', 'H-3'].map(n => idOfOrder(lead, n)));
  const list = await walk(ids, 'batch');
  expect(list.state.stops.map((s: { wanted: number; tote: null }) => [s.wanted, s.tote])).toEqual([
    [6, null],
  ]);
  const [stop] = list.state.stops;
  expect((await list.scan(stop.placeCode)).answer.next).toBe(
    'Scan a trolley or a tote; all goods of the list go onto it.',
  );
  await list.scan('TR-001');
  await list.scan(stop.placeCode);
  await list.scan(jar);
  expect(await unitsIn('TR-001')).toBe(1);
  // Taken back and taken anew, it lies on the trolley once.
  await list.scan('AUK-UNDO');
  expect(await unitsIn('TR-001')).toBe(0);
  await list.scan(jar);
  await list.scan('AUK-ALL');
  expect(await unitsIn('TR-001')).toBe(6);
  expect(await Promise.all(ids.map(stageOf))).toEqual(['Picked', 'Picked', 'Picked']);
  expect(
    (await lead.get('stock/totes')).body.find((t: { code: string }) => t.code === 'TR-001'),
  ).toMatchObject({
    kind: 'trolley',
    list: list.no,
    units: 6,
    left: false,
  });
  expect(await differences(house)).toEqual([]);
  // Another list may not take a trolley on which a heap lies.
  const other = await walk((await ordersIn(lead, 'Clear', 1)).slice(0, 1), 'batch');
  expect((await other.scan('TR-001')).answer.says).toBe('TR-001 has 6 pieces of before in it; take another.');
  await other.scan('TR-004');
  await toTheEnd(other);
});

test('sorted at the wall a heap lies in the cells of its orders, and the bench opens those by scan', async () => {
  const { ids, no } = await heapOn('TR-002', 'W');
  expect((await lead.get('sorting/heaps')).body.find((h: { list: string }) => h.list === no)).toMatchObject({
    code: 'TR-002',
    orders: 2,
    units: 5,
    sorted: 0,
  });
  const { body: opened } = await lead.post('sorting/open', { code: 'TR-002', wall: null, device: 'w' });
  expect([opened.listNo, opened.columns, opened.state.cells.length]).toEqual([no, 4, 12]);
  const path = `sorting/sessions/${opened.sessionId}/scans`;
  const scan = async (text: string) => (await lead.post(path, scanOf(text))).body;
  const first = (await scan(smoker)).answer.says;
  expect(first).toBe('Cell 1. 2 more to come.');
  expect(await unitsIn('CE-A01')).toBe(1);
  expect((await scan(jar)).answer.says).toBe('Cell 1. 1 more to come.');
  expect((await scan('CE-A02')).answer.says).toBe('That is cell 2; it goes into 1.');
  expect((await scan('AUK-ALL')).answer.says).toMatch(/^Cell 1\. OR-\d+ is whole\.$/);
  expect(await differences(house)).toEqual([]);
  // Opened on another device it goes on where it stood, in the same session.
  const again = (await lead.post('sorting/open', { code: no, wall: null, device: 'v' })).body;
  expect([again.sessionId, again.state.lit.cell]).toEqual([opened.sessionId, 0]);
  await scan(jar);
  expect((await scan(smoker)).answer.next).toBe('All is sorted. Bring what is whole to the benches.');
  expect([await unitsIn('TR-002'), await unitsIn('CE-A01'), await unitsIn('CE-A02')]).toEqual([0, 3, 2]);
  const packed = await packAndClose(lead, 'CE-A01');
  expect(packed.orderId).toBe(ids[0]);
  expect([await unitsIn('CE-A01'), await stageOf(ids[0]!)]).toEqual([0, 'Packed']);
  const walls = (await lead.get('stock/walls')).body;
  expect(walls[0].cells.slice(0, 2).map((c: { order: string | null }) => c.order !== null)).toEqual([
    false,
    true,
  ]);
  expect(await differences(house)).toEqual([]);
});

test('two at one wall, scans twice, and a piece packed meanwhile: each piece is in one place', async () => {
  const { ids } = await heapOn('TR-003', 'X');
  const open = (device: string) => lead.post('sorting/open', { code: 'TR-003', wall: 'A', device });
  const both = await Promise.all([open('a'), open('b')]);
  expect(new Set(both.map(b => b.status))).toEqual(new Set([200]));
  const { body: opened } = await open('a');
  const path = `sorting/sessions/${opened.sessionId}/scans`;
  const scan = scanOf(smoker);
  const twice = await Promise.all([lead.post(path, scan), lead.post(path, scan)]);
  expect(twice.map(t => t.body.repeated).toSorted()).toEqual([false, true]);
  // The bench takes the second order straight out of the heap; the wall is told when it wants that piece.
  const bench = (await lead.post('packing/open', { code: 'X-2', device: 'bench' })).body;
  await lead.post(`packing/sessions/${bench.sessionId}/scans`, scanOf(smoker));
  const late = await lead.post(path, scanOf(smoker));
  expect(late.status).toBe(409);
  expect(late.body.cure).toContain('Scan the trolley');
  expect(await differences(house)).toEqual([]);
  // Opened anew it knows what is left.
  const fresh = (await open('a')).body;
  expect(fresh.sessionId).not.toBe(opened.sessionId);
  expect(
    fresh.state.lines.reduce(
      (n: number, l: { wanted: number; sorted: number }) => n + l.wanted - l.sorted,
      0,
    ),
  ).toBe(3);
  expect(await stageOf(ids[1]!)).toBe('Picked');
});

test('two heaps sorted at one wall at once: no cell gets two orders', async () => {
  const scanner = async (trolley: string, prefix: string) => {
    await heapOn(trolley, prefix);
    return async () => {
      const { body } = await lead.post('sorting/open', { code: trolley, wall: 'A', device: prefix });
      return (text: string) => lead.post(`sorting/sessions/${body.sessionId}/scans`, scanOf(text));
    };
  };
  const [one, two] = [await scanner('TO-109', 'Y'), await scanner('TO-110', 'Z')];
  // Both see the same cells free, and both want the first of them.
  const [first, second] = [await one(), await two()];
  const both = await Promise.all([first(smoker), second(smoker)]);
  expect(both.map(b => b.status).toSorted()).toEqual([200, 409]);
  const late = both.findIndex(b => b.status === 409);
  expect(both[late]!.body.cure).toBe('Scan the trolley again; what is sorted stays sorted.');
  const again = await [one, two][late]!();
  expect((await again(smoker)).status).toBe(200);
  const shared = await house.db.rows(
    "SELECT s.cellId FROM pickStop s JOIN allocation a ON a.stopKey = s.id AND a.hold = 'sorted' AND a.quantity > 0 GROUP BY s.cellId HAVING COUNT(DISTINCT s.orderId) > 1",
  );
  expect(shared).toEqual([]);
  expect(await differences(house)).toEqual([]);
});

test('what cannot be sorted is refused with what to do', async () => {
  const open = (code: string, wall: string | null = null) =>
    lead.post('sorting/open', { code, wall, device: 'w' });
  expect((await open('TR-777')).body.cure).toContain('Scan the trolley or tote that a batch list');
  expect((await open('TR-002')).body.detail).toContain('all of it is sorted or packed');
  expect((await open('TR-003', 'Q')).status).toBe(200);
  const picker = await house.signIn('AB-1004');
  expect((await picker.post('sorting/open', { code: 'TR-003', wall: null, device: 'w' })).status).toBe(403);
});

test('walls are set up by rows and columns, and taken down while nothing ever lay in them', async () => {
  expect((await lead.post('stock/walls', { rows: 2, columns: 3 })).body).toEqual({ wall: 'B' });
  const [, b] = (await lead.get('stock/walls')).body;
  expect([b.wall, b.columns, b.cells.map((c: { code: string }) => c.code)]).toEqual([
    'B',
    3,
    ['CE-B01', 'CE-B02', 'CE-B03', 'CE-B04', 'CE-B05', 'CE-B06'],
  ]);
  expect((await lead.post('stock/walls/B/remove')).status).toBe(200);
  const used = await lead.post('stock/walls/A/remove');
  expect([used.status, used.body.detail]).toEqual([
    422,
    'Goods went through wall A, and the ledger names its cells.',
  ]);
  expect((await lead.post('stock/walls/B/remove')).status).toBe(404);
});

test('a wall more than there are letters is refused in words', async () => {
  const wallsFrom = (sql: string) =>
    house.db.run(
      `INSERT INTO place (id, warehouseId, code, kind, mark, zone, level, bay) SELECT UUID(), id, CONCAT('CE-', z, '01'), 'cell', '1', z, 1, 1 FROM warehouse, (${sql}) walls`,
    );
  const letters = 'SELECT CHAR(64 + seq) AS z FROM seq_1_to_26 s';
  await wallsFrom(`${letters} WHERE seq > 1`);
  await wallsFrom(`SELECT CONCAT(a.z, b.z) AS z FROM (${letters}) a, (${letters}) b`);
  const refused = await lead.post('stock/walls', { rows: 1, columns: 1 });
  expect([refused.status, refused.body.detail]).toEqual([
    422,
    'There are 702 put walls, as many as have letters.',
  ]);
  expect((await lead.post('stock/walls/ZZ/remove')).status).toBe(200);
  expect((await lead.post('stock/walls', { rows: 1, columns: 1 })).body).toEqual({ wall: 'ZZ' });
  await house.db.run("DELETE FROM place WHERE kind = 'cell' AND zone <> 'A'");
});

test('totes are brought to a list by scan; one tote never carries two orders', async () => {
  const [one, two] = await ordersIn(lead, 'Clear', 2);
  const lists = [await walk([one!]), await walk([two!])] as const;
  const free = (await lead.get('stock/totes')).body.filter(
    (t: { kind: string; order: string | null; units: number }) =>
      t.kind === 'tote' && !t.order && t.units === 0,
  );
  const code = free.at(-1).code;
  // One that is not there is said to be not there.
  expect((await lists[0].scan('TO-999')).answer.says).toBe('Nothing here is called TO-999.');
  const both = await Promise.all(lists.map(l => l.scan(code)));
  const says = both.map(b => b.answer?.says ?? b.detail);
  expect(says.filter(s => s.includes(' is for OR-'))).toHaveLength(1);
  expect(says.filter(s => !s.includes(' is for OR-'))[0]).toMatch(/take another|something else a moment ago/);
  const busy = await house.db.one<{ n: number }>(
    'SELECT COUNT(DISTINCT s.orderId) AS n FROM pickStop s JOIN place p ON p.id = s.toteId WHERE p.code = ?',
    [code],
  );
  expect(busy!.n).toBe(1);
  // What is taken lies in it; the tote that had been given is free again.
  const winner = lists[says.findIndex(s => s.includes(' is for OR-'))]!;
  await toTheEnd({ ...winner, state: both.find(b => b.state)!.state });
  expect(await unitsIn(code)).toBeGreaterThan(0);
  expect(await differences(house)).toEqual([]);
});

test('a plan can be picked as heaps; a list of it has no more orders than the wall has cells', async () => {
  const question = {
    departures: [],
    tags: [],
    areas: [],
    apart: false,
    pickers: 1,
    until: null,
    method: 'batch',
    trolley: { totes: 12, toteLitres: 40, toteKg: 15, trolleyKg: 150 },
    keep: null,
  };
  const id = '01890000-0000-7000-8000-00000000beef';
  expect((await lead.post('planning/plans', { id, ...question })).status).toBe(200);
  // biome-ignore lint/suspicious/noExplicitAny: a view of the API
  let plan: any;
  await expect
    .poll(
      async () => {
        plan = (await lead.get(`planning/plans/${id}`)).body;
        return plan.state;
      },
      { timeout: 60_000 },
    )
    .toBe('ready');
  expect(plan.method).toBe('batch');
  for (const l of plan.lists) expect(l.orders.length).toBeLessThanOrEqual(12);
  const { lists } = (await lead.post(`planning/plans/${id}/release`, { listIds: [plan.lists[0].id] })).body;
  const opened = (await lead.post('picking/open', { code: lists[0].no, device: 'floor' })).body;
  expect([opened.state.heap, opened.state.stops.every((s: { tote: null }) => s.tote === null)]).toEqual([
    true,
    true,
  ]);
  expect(await differences(house)).toEqual([]);
});

test('dropped at a staging place by scan, the bench sees what arrived whole and what lacks; it takes over', async () => {
  const [id] = await ordersIn(lead, 'Clear', 1);
  const list = await walk([id!]);
  await toTheEnd(list);
  const before = await list.scan('D-01-1');
  expect(before.answer.tone).toBe('wrong');
  const dropped = await list.scan('STAGE-2');
  expect(dropped.answer.says).toBe(`${list.no} stands at STAGE-2.`);
  const row = (await lead.get('packing/arrived')).body.find((a: { id: string }) => a.id === id);
  expect(row).toMatchObject({ stands: 'STAGE-2', lacks: '', lists: null });
  expect(row.here).toBe(row.wanted);
  expect(row.marks).toBe(list.state.stops[0].tote.mark);
  // The bench takes it over by opening it.
  expect((await lead.post('packing/open', { code: row.no, device: 'bench' })).status).toBe(200);
  expect((await lead.get('packing/arrived')).body.find((a: { id: string }) => a.id === id)).toBeUndefined();
});

test('what of a dropped order was not found is named, with the day on which it is expected', async () => {
  await bringIn(lead, [
    ['L-1', 'SMK-4-ST', 1, '31.00', 'Late'],
    ['L-1', 'JAR-HEX-12', 2, '1.35', 'Late'],
  ]);
  const id = await idOfOrder(lead, 'L-1');
  const list = await walk([id]);
  // All other smokers are gone, so nothing takes the place of the one that is missing.
  for (const { sku, place, free } of (await lead.get('stock?words=SMK-4-ST')).body.rows) {
    if (sku !== 'SMK-4-ST' || free === 0) continue;
    const act = { key: v7(), sku, from: place, to: 'QUARANTINE', quantity: free, reason: 'damp' };
    expect((await lead.post('stock/moves', act)).status).toBe(200);
  }
  for (const stop of list.state.stops) {
    await list.scan(stop.placeCode);
    if (stop.product.sku === 'SMK-4-ST') await list.scan('AUK-SHORT');
    else {
      await list.scan(stop.product.codes[0].code);
      await list.scan('AUK-ALL');
    }
  }
  expect((await list.scan('STAGE-1')).answer.says).toBe(`${list.no} stands at STAGE-1.`);
  const row = (await lead.get('packing/arrived')).body.find((a: { id: string }) => a.id === id);
  expect(row).toMatchObject({ stands: 'STAGE-1', here: 2, wanted: 3, lacks: '1 Smoker, 4 in, steel' });
  expect(await stageOf(id)).toBe('Short');
});

test('the lead chooses what follows and what is seen; a walk that is under way keeps what it began with', async () => {
  const first = await walk((await ordersIn(lead, 'Clear', 1)).slice(0, 1));
  const choices = (await lead.get('picking/choices')).body;
  const changed = {
    ...choices,
    show: ['codes', 'buyer note'],
    sorting: 'name',
    bringTotes: true,
    confirmTote: true,
  };
  const picker = await house.signIn('AB-1003');
  expect((await picker.post('picking/choices', changed)).status).toBe(403);
  expect((await lead.post('picking/choices', { ...changed, sorting: 'colour' })).status).toBe(400);
  expect((await lead.post('picking/choices', changed)).status).toBe(200);
  const two = await walk(await ordersIn(lead, 'Clear', 2));
  const names = two.state.stops.map((s: { product: { name: string } }) => s.product.name);
  expect(names).toEqual([...names].sort((a, b) => a.localeCompare(b, 'en', { numeric: true })));
  expect((await two.scan(two.state.stops[0].placeCode)).answer.next).toMatch(/^Scan a tote for OR-/);
  expect((await first.scan(first.state.stops[0].placeCode)).answer.tone).toBe('right');
  expect((await lead.post('picking/choices', choices)).status).toBe(200);
});

test('codes that are typed or pressed are kept as such, and are a right', async () => {
  const { no } = (await lead.post('picking/lists', { orderIds: await ordersIn(lead, 'Clear', 1) })).body;
  const opened = (await lead.post('picking/open', { code: no, device: 'floor' })).body;
  const path = `picking/sessions/${opened.sessionId}/scans`;
  const [stop] = opened.state.stops;
  const pressed = { ...scanOf(stop.placeCode), by: 'pressed' };
  expect((await lead.post(path, pressed)).body.answer.says).toBe(`Right place, ${stop.placeCode}.`);
  // Sent twice it is kept once.
  expect((await lead.post(path, pressed)).body.repeated).toBe(true);
  await lead.post(path, { ...scanOf('AUK-UNDO'), by: 'pressed' });
  const troubles = async () => (await lead.get('picking/troubles')).body;
  expect((await troubles()).byHand).toEqual([
    expect.objectContaining({ said: stop.placeCode, what: stop.placeCode, times: 1, people: 'Ines Maddow' }),
  ]);
  const admin = await house.signIn('AB-1005');
  const rights = { right: 'pick.by-hand', role: 'picker', on: false };
  expect((await admin.post('people/rights', rights)).status).toBe(200);
  const picker = await house.signIn('AB-1003');
  const refused = await picker.post(path, { ...scanOf(stop.product.codes[0].code), by: 'typed' });
  expect([refused.status, refused.body.detail]).toEqual([403, 'You may not type or press codes here.']);
  // Commands and numbers are no codes.
  expect((await picker.post(path, { ...scanOf('AUK-SKIP'), by: 'pressed' })).status).toBe(200);
});

test('what is taken for something else is counted, with what would keep the two apart', async () => {
  await bringIn(lead, [['M-1', 'JAR-HEX-12', 1, '1.35', 'Mixed']]);
  const list = await walk([await idOfOrder(lead, 'M-1')]);
  await list.scan(list.state.stops[0].placeCode);
  for (let i = 0; i < 3; i++)
    expect((await list.scan(smoker)).answer.says).toBe('Wrong product: this is Smoker, 4 in, steel.');
  const { mixUps } = (await lead.get('picking/troubles')).body;
  expect(mixUps).toEqual([
    expect.objectContaining({
      wanted: expect.objectContaining({ sku: 'JAR-HEX-12' }),
      scanned: expect.objectContaining({ sku: 'SMK-4-ST' }),
      times: 3,
    }),
  ]);
  // Nothing of it touched the stock.
  expect((await lead.get(`picking/lists/${list.no}`)).body.taken).toBe(0);
});

test('lists, slips and place labels come as one document in walking order, or each kind alone', async () => {
  const two = [await ordersIn(lead, 'Clear', 2), await ordersIn(lead, 'Clear', 4)].map(ids => ids.slice(-2));
  const nos: string[] = [];
  for (const ids of two) nos.push((await lead.post('picking/lists', { orderIds: ids })).body.no);
  const pages = async (query: string) => {
    const got = await fetch(`${house.url}/api/v1/picking/papers.pdf?${query}`, {
      headers: { cookie: lead.cookie },
    });
    expect([got.status, got.headers.get('content-type')]).toEqual([200, 'application/pdf']);
    const document = await PDFDocument.load(await got.arrayBuffer());
    return document.getPageCount();
  };
  const of = (papers: string) => pages(`lists=${nos.join(',')}&papers=${papers}`);
  const [lists, slips, labels] = [await of('lists'), await of('slips'), await of('labels')];
  expect(lists).toBeGreaterThanOrEqual(2);
  expect(slips).toBeGreaterThanOrEqual(4);
  expect(labels).toBeGreaterThanOrEqual(2);
  expect(await pages(`lists=${nos.join(',')}`)).toBe(lists + slips + labels);
  for (const bad of ['lists=', 'lists=OR-1', `lists=${nos[0]}&papers=photos`])
    expect((await lead.get(`picking/papers.pdf?${bad}`)).status).toBe(400);
  expect((await lead.get('picking/papers.pdf?lists=PL-999999')).status).toBe(404);
});

test('a list that another takes over shows who scanned how much, and scans of the first still count', async () => {
  const list = await walk((await ordersIn(lead, 'Clear', 1)).slice(0, 1));
  const [stop] = list.state.stops;
  await list.scan(stop.placeCode);
  const wren = await house.signIn('AB-1003');
  const taken = (await wren.post('picking/open', { code: list.no, device: 'phone-2' })).body;
  expect(taken.state.placeSeen).toBe(stop.placeCode);
  const path = `picking/sessions/${taken.sessionId}/scans`;
  expect((await wren.post(path, { ...scanOf(stop.product.codes[0].code), device: 'phone-2' })).status).toBe(
    200,
  );
  // What the first device kept without a network comes late, and counts.
  const late = await list.scan('AUK-UNDO');
  expect(late.answer.says).toMatch(/^Undone/);
  expect((await lead.get(`picking/lists/${list.no}`)).body).toMatchObject({
    picker: 'Wren Okoye',
    taken: 0,
    by: [
      { name: 'Ines Maddow', scans: 2, devices: 1 },
      { name: 'Wren Okoye', scans: 1, devices: 1 },
    ],
  });
  expect(await differences(house)).toEqual([]);
});

test('an order that is parked while it is picked is told at the next stop and where the list is dropped', async () => {
  await bringIn(lead, [
    ['K-1', 'JAR-HEX-12', 1, '1.35', 'Kept'],
    ['K-2', 'JAR-HEX-12', 2, '1.35', 'Goes'],
  ]);
  const [kept, goes] = [await idOfOrder(lead, 'K-1'), await idOfOrder(lead, 'K-2')];
  const list = await walk([kept, goes]);
  const no = (await lead.get(`orders/${kept}`)).body.row.no;
  expect((await lead.post(`orders/${kept}/park`, { reason: 'the buyer called' })).status).toBe(200);
  await list.scan(list.state.stops[0].placeCode);
  const told = await list.scan(jar);
  expect(told.answer.says).toMatch(
    new RegExp(`^${no} is Parked now and must not go: it lies in [A-Z]\\d+\\.$`),
  );
  let last = told;
  // Told once: the rest of the walk goes on as ever.
  for (
    let i = 0;
    i < 3 && last.state.stops.some((s: { wanted: number; taken: number }) => s.taken < s.wanted);
    i++
  )
    last = await list.scan(jar);
  expect(last.answer.says).toBe('List complete.');
  expect((await list.scan('STAGE-1')).answer.says).toBe(`${list.no} stands at STAGE-1. Set aside: ${no}.`);
  expect(await stageOf(goes)).toBe('Picked');
});

test('pieces that somebody else took from a listed place are not taken twice', async () => {
  const list = await walk((await ordersIn(lead, 'Clear', 1)).slice(0, 1));
  const [stop] = list.state.stops;
  const { stock } = (await lead.get(`places/${stop.placeCode}`)).body;
  const own = stock.find((s: { sku: string }) => s.sku === stop.product.sku);
  // What is listed cannot be carried away; what is not, can.
  const move = (quantity: number) =>
    lead.post('stock/moves', {
      key: v7(),
      sku: stop.product.sku,
      from: stop.placeCode,
      to: 'QUARANTINE',
      quantity,
      reason: 'damp',
    });
  const refused = await move(own.onHand);
  expect(refused.status).toBe(422);
  expect(refused.body.cure).not.toBe('');
  await toTheEnd(list);
  expect(await differences(house)).toEqual([]);
});
