import { v7 } from 'uuid';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { Rounds } from '../src/leases/rounds.service.js';
import { pickAll, scanOf } from './drive.js';
import { type Caller, differences, type House, openHouse } from './house.js';
import { pagesOf } from './pdf.js';

let house: House;
let lead: Caller;
let packer: Caller;
beforeAll(async () => {
  house = await openHouse('small');
  lead = await house.signIn('AB-1001');
  packer = await house.signIn('AB-1002');
});
afterAll(() => house.close());

const DEVICE = 'test-device';
// biome-ignore lint/suspicious/noExplicitAny: a view of the API
const view = async (no: string): Promise<any> => (await lead.get(`inbound/${no}`)).body;
const lineOf = async (no: string, sku: string) =>
  (await view(no)).lines.find((l: { sku: string }) => l.sku === sku);

/** A reserved shipment by the network's carrier to one dock. */
async function reserved(lines: [sku: string, units: number][]): Promise<string> {
  const { no } = (await lead.post('inbound', { key: v7(), network: 'Fernway Centers' })).body;
  for (const [sku, units] of lines) await lead.post(`inbound/${no}/lines`, { sku, units });
  await lead.post(`inbound/${no}/codes`);
  const way = { placement: 'one dock', form: 'parcels', carrier: 'Fernway Pick-up', rates: 'theirs' };
  expect((await lead.post(`inbound/${no}/way`, way)).status).toBe(200);
  expect((await lead.post(`inbound/${no}/reserve`, { key: v7() })).status).toBe(200);
  return no;
}

async function pick(no: string): Promise<void> {
  const list = await lead.post('picking/lists', { orderIds: [(await view(no)).parts[0].order.id] });
  expect(list.status, JSON.stringify(list.body)).toBe(200);
  await pickAll(lead, list.body.no);
}

const open = (code: string, device = DEVICE) => packer.post('preparing/open', { code, device });
const scan = (session: string, text: string, id?: string) =>
  packer.post(`preparing/sessions/${session}/scans`, { ...scanOf(text, id), device: DEVICE });

test('a piece prints its label at the bench, the label counts it once, and what is done stands on the shipment', async () => {
  expect((await packer.post('benches/BE-1/take', { device: DEVICE })).status).toBe(200);
  const no = await reserved([
    ['HTL-J10', 4],
    ['SMK-4-ST', 2],
  ]);
  expect((await packer.get('preparing')).body).toContainEqual(
    expect.objectContaining({ no, units: 6, prepared: 0 }),
  );
  await pick(no);
  const { sessionId, state, printer } = (await open(no.toLowerCase())).body;
  expect(printer).not.toBeNull();
  const tool = state.lines.find((l: { product: { sku: string } }) => l.product.sku === 'HTL-J10');
  expect(tool.needs).toContain('label');
  const sheets = () => house.standins.printers.get('labels-1')!.sheets();
  const before = sheets().length;
  const piece = tool.product.codes[0].code;
  expect((await scan(sessionId, piece)).body.answer.says).toBe(`1 label for ${tool.product.name}.`);
  expect((await scan(sessionId, '2')).body.state.at.labels).toBe(3);
  await house.app.get(Rounds).once('jobs');
  const came = sheets().slice(before);
  expect(came).toHaveLength(2);
  const paper = house.standins.printers.get('labels-1')!.sheet(came[1]!)!;
  expect(await pagesOf(paper)).toHaveLength(2);

  // The label carries what the network scans; a scan sent twice counts once.
  const id = v7();
  for (const repeated of [false, true]) {
    const judged = (await scan(sessionId, tool.label, id)).body;
    expect(judged).toMatchObject({ repeated, answer: { says: `1 of 4 ${tool.product.name}.` } });
  }
  expect((await lineOf(no, 'HTL-J10')).prepared).toBe(1);
  await scan(sessionId, 'AUK-UNDO');
  expect((await lineOf(no, 'HTL-J10')).prepared).toBe(0);
  await scan(sessionId, tool.label);
  expect((await packer.get('preparing')).body).toContainEqual(expect.objectContaining({ no, prepared: 1 }));

  // It goes on where it stood, on another device too, which has no printer.
  const again = (await open(no, 'other-device')).body;
  expect(again).toMatchObject({ sessionId, printer: null });
  expect(again.state.at).toEqual({ line: expect.any(Number), labels: 2 });
  expect(await differences(house)).toEqual([]);
});

test('what is counted by hand meanwhile is not counted twice: the session begins anew from what is there', async () => {
  const no = await reserved([['HTL-S10', 3]]);
  await pick(no);
  const { sessionId, state } = (await open(no)).body;
  const [line] = state.lines;
  const key = v7();
  for (const _ of [1, 2])
    expect((await packer.post(`inbound/${no}/prepared`, { key, sku: 'HTL-S10', done: 3 })).status).toBe(200);
  await scan(sessionId, line.product.codes[0].code);
  const late = await scan(sessionId, line.label);
  expect(late.status).toBe(409);
  expect(late.body.detail).toBe('Somebody else has counted what is prepared of it.');
  expect((await lineOf(no, 'HTL-S10')).prepared).toBe(3);
  const anew = (await open(no)).body;
  expect(anew.sessionId).not.toBe(sessionId);
  expect(anew.state.lines[0]).toMatchObject({ wanted: 3, done: 3 });
  expect((await scan(sessionId, line.label)).status).toBe(409);
  expect(await differences(house)).toEqual([]);
});

test('two devices at one shipment: every label counts once, whoever scans it, and never more than is wanted', async () => {
  const no = await reserved([['HTL-S10', 4]]);
  await pick(no);
  const [one, two] = await Promise.all([open(no), open(no, 'other-device')]);
  expect(two.body.sessionId).toBe(one.body.sessionId);
  const { sessionId, state } = one.body;
  const [line] = state.lines;
  await scan(sessionId, line.product.codes[0].code);
  await scan(sessionId, 'AUK-ALL');
  const answers = await Promise.all(Array.from({ length: 6 }, () => scan(sessionId, line.label)));
  expect(answers.filter(a => a.body.answer.tone !== 'wrong')).toHaveLength(4);
  expect((await lineOf(no, 'HTL-S10')).prepared).toBe(4);
  expect((await packer.get('preparing')).body.map((s: { no: string }) => s.no)).not.toContain(no);
  expect(await differences(house)).toEqual([]);
});

test('what is packed is not prepared any more, and a label that has no printer is fetched as a paper', async () => {
  const no = await reserved([['HTL-S10', 2]]);
  await pick(no);
  const { sessionId, state } = (await open(no, 'other-device')).body;
  const [line] = state.lines;
  const label = await fetch(`${house.url}/api/v1/inbound/${no}/unit-labels/thermal?sku=HTL-S10&count=2`, {
    headers: { cookie: packer.cookie },
  });
  expect(pagesOf(Buffer.from(await label.arrayBuffer()))).toHaveLength(2);
  const bring = (stage: string) =>
    house.db.run('UPDATE inboundShipment SET stage = ? WHERE no = ?', [stage, Number(no.slice(3))]);
  await bring('Boxed');
  const late = await scan(sessionId, line.product.codes[0].code);
  expect(late.body.detail).toContain('is Boxed: what is packed is not prepared any more');
  expect((await open(no)).status).toBe(422);
  expect((await lineOf(no, 'HTL-S10')).prepared).toBe(0);
  await bring('Draft');
});

test('a spoiled piece leaves the stock with its reason, another is promised and picked, and the books agree', async () => {
  const no = await reserved([['FRK-UNC', 3]]);
  // Nothing is picked yet: it lies on its shelf and is written off there.
  const early = (await open(no)).body;
  await scan(early.sessionId, early.state.lines[0].product.codes[0].code);
  const refused = await scan(early.sessionId, 'AUK-SPOILED');
  expect(refused.status).toBe(422);
  expect(refused.body.detail).toBe('No piece of it is picked and not packed yet.');
  await pick(no);
  const held = async () => {
    const row = await house.db.one<{ n: number }>(
      "SELECT CAST(SUM(b.onHand) AS INT) AS n FROM stockBalance b JOIN product p ON p.id = b.productId JOIN place l ON l.id = b.placeId WHERE p.sku = 'FRK-UNC' AND l.kind NOT IN ('gone', 'outside')",
    );
    return row!.n;
  };
  const before = await held();
  const spoiled = (await scan(early.sessionId, 'AUK-SPOILED')).body;
  expect(spoiled.answer.tone).toBe('attention');
  expect((await lineOf(no, 'FRK-UNC')).spoiled).toBe(1);
  expect(await held()).toBe(before - 1);
  const [move] = await house.db.rows<{ reason: string }>(
    "SELECT m.reason FROM stockMove m WHERE m.reason LIKE 'spoiled while%'",
  );
  expect(move!.reason).toBe(`spoiled while it was prepared for ${no}`);
  expect(await differences(house)).toEqual([]);
  // The order lacks one, which is promised and can be listed.
  await pick(no);
  expect((await view(no)).parts[0].order.stage).toBe('Picked');
  // Counted by hand it is the same.
  const hand = { key: v7(), sku: 'FRK-UNC', done: 0, spoiled: 1 };
  for (const _ of [1, 2]) expect((await packer.post(`inbound/${no}/prepared`, hand)).status).toBe(200);
  expect((await lineOf(no, 'FRK-UNC')).spoiled).toBe(2);
  expect(await held()).toBe(before - 2);
  expect(await differences(house)).toEqual([]);
});

test('what cannot be prepared is refused with its reason', async () => {
  const { no } = (await lead.post('inbound', { key: v7(), network: 'Fernway Centers' })).body;
  expect((await open(no)).body.detail).toContain('is not reserved yet');
  expect((await open('IN-99999')).status).toBe(404);
  expect((await open('PA-1')).status).toBe(400);
  const picker = await house.signIn('AB-1003');
  expect((await picker.post('preparing/open', { code: no, device: DEVICE })).status).toBe(403);
  expect((await scan(v7(), 'X')).status).toBe(404);
  const label = await lead.get(`inbound/${no}/unit-labels/thermal?count=0`);
  expect(label.status).toBe(400);
});
