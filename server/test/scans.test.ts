import { v7 } from 'uuid';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { KEEP_ACT_DAYS } from '../src/acts/age.js';
import { bringIn, idOfOrder, listAndPick, packAndClose, productOf, scanOf, wishOf } from './drive.js';
import { type Caller, differences, type House, openHouse } from './house.js';

let house: House;
let lead: Caller;
let packer: Caller;
beforeAll(async () => {
  house = await openHouse();
  lead = await house.signIn('AB-1001');
  packer = await house.signIn('AB-1005');
});
afterAll(async () => {
  expect(await differences(house)).toEqual([]);
  await house.close();
});

const eventsOf = (kind: string) =>
  house.db.rows<{ id: string; device: string; deviceCount: number }>(
    'SELECT e.id, e.device, e.deviceCount FROM scanEvent e JOIN scanSession x ON x.id = e.sessionId WHERE x.kind = ? ORDER BY e.seq',
    [kind],
  );

/** A parcel with a bought label, and the departure it is planned for. */
async function labelled(number: string) {
  await bringIn(lead, [[number, 'BOOK-1ST', 1, '5.00', `Buyer ${number}`]]);
  const id = await idOfOrder(lead, number);
  await listAndPick(lead, [id]);
  const { row } = (await lead.get(`orders/${id}`)).body;
  const view = await packAndClose(packer, row.no);
  const { parcelNo } = view;
  const { offers } = (await packer.get(`parcels/${parcelNo}/offers`)).body;
  expect((await packer.post(`parcels/${parcelNo}/label`, wishOf(offers[0]))).status).toBe(200);
  const { departureNo } = (await lead.get(`orders/${id}`)).body.parcels[0];
  return { parcelNo, at: `departures/${departureNo}` };
}

test('a scan at the handover is kept with its device and count, and answers a repeat as the first time', async () => {
  const { parcelNo, at } = await labelled('SC-1');
  const scan = scanOf(parcelNo);
  const first = await lead.post(`${at}/scans`, scan);
  expect(first.body).toMatchObject({ repeated: false, answer: { kind: 'counted', tone: 'right' } });
  expect(first.body.state.parcels.find((p: { no: string }) => p.no === parcelNo).scanned).toBe(true);
  const again = await lead.post(`${at}/scans`, scan);
  expect(again.body).toMatchObject({ repeated: true, answer: first.body.answer });
  // Another scan of the same parcel is another scan, and is answered for itself.
  expect((await lead.post(`${at}/scans`, scanOf(parcelNo))).body.answer.kind).toBe('moved');
  expect(await eventsOf('handover')).toHaveLength(2);
  expect((await eventsOf('handover'))[0]).toMatchObject({ device: scan.device, deviceCount: scan.count });
});

test('two first scans of one departure at once open one session, and each is judged once', async () => {
  const [a, b] = [await labelled('SC-2'), await labelled('SC-3')];
  expect(a.at).toBe(b.at);
  await house.db.run(
    "DELETE FROM scanEvent WHERE sessionId IN (SELECT id FROM scanSession WHERE kind = 'handover')",
  );
  await house.db.run("DELETE FROM scanSession WHERE kind = 'handover'");
  const answers = await Promise.all([
    lead.post(`${a.at}/scans`, scanOf(a.parcelNo)),
    packer.post(`${b.at}/scans`, scanOf(b.parcelNo)),
  ]);
  expect(answers.map(r => r.body.answer?.kind)).toEqual(['counted', 'counted']);
  expect(await house.db.rows("SELECT id FROM scanSession WHERE kind = 'handover'")).toHaveLength(1);
  expect(await eventsOf('handover')).toHaveLength(2);
});

test('a scan that comes after more than a year is refused at every door, and counted at none', async () => {
  const made = Date.now() - (KEEP_ACT_DAYS + 1) * 86_400_000;
  const old = v7({ msecs: made });
  const { id } = (await lead.post('orders')).body;
  const late = await lead.post(`orders/${id}/scans`, scanOf('CASE-JAR-HEX-12', old));
  expect(late.status).toBe(409);
  expect(late.body.detail).toMatch(/more than a year after/);
  expect((await lead.get(`orders/${id}`)).body.lines).toEqual([]);
});

test('a scan goes into one session only', async () => {
  const [one, two] = [(await lead.post('orders')).body.id, (await lead.post('orders')).body.id];
  const scan = scanOf('CASE-JAR-HEX-12');
  expect((await lead.post(`orders/${one}/scans`, scan)).status).toBe(200);
  expect((await lead.post(`orders/${two}/scans`, scan)).status).toBe(400);
  expect((await lead.get(`orders/${two}`)).body.lines).toEqual([]);
  expect((await lead.post(`orders/${v7()}/scans`, scanOf('x'))).status).toBe(404);
});

test('a count is a session: scans count by the server’s products, begun twice it is one, saved it is closed', async () => {
  const { sku, name, codes } = await productOf(lead, 'JAR-HEX-12');
  const [lies] = await house.db.rows<{ code: string; onHand: number; listed: number }>(
    "SELECT c.code, b.onHand, b.listed FROM stockBalance b JOIN place c ON c.id = b.placeId AND c.kind IN ('bin', 'reserve') JOIN product p ON p.id = b.productId WHERE p.sku = ? AND b.onHand > 0 AND b.listed = 0 ORDER BY c.code LIMIT 1",
    [sku],
  );
  const begin = { id: v7(), place: lies!.code, device: 'test-device' };
  const opened = (await lead.post('stock/counts/sessions', begin)).body;
  expect(opened.state.lines).toContainEqual({ sku, name, lot: null, counted: null });
  const path = `stock/counts/sessions/${begin.id}/scans`;
  const piece = scanOf(codes[0].code);
  await lead.post(path, piece);
  await lead.post(path, piece);
  const judged = await lead.post(path, scanOf(String(lies!.onHand)));
  expect(judged.body.answer.says).toBe(`${lies!.onHand + 1} × ${name}.`);
  expect((await lead.post('stock/counts/sessions', begin)).body.state).toEqual(judged.body.state);
  expect((await lead.post(path, scanOf('NO-SUCH'))).body.answer.says).toMatch(/Nothing has the code/);
  const saved = await lead.post('stock/counts', {
    key: begin.id,
    place: lies!.code,
    seen: opened.state.seen,
    lines: [{ sku, lot: null, counted: lies!.onHand + 1 }],
  });
  expect(saved.body.changes).toEqual([{ sku, lot: null, before: lies!.onHand, after: lies!.onHand + 1 }]);
  const late = await lead.post('stock/counts/sessions', begin);
  expect([late.status, late.body.detail]).toEqual([409, 'This count is saved already.']);
  // A scan that comes after the count was saved is told so, and changes nothing.
  expect((await lead.post(path, scanOf(codes[0].code))).status).toBe(409);
});

test('an open session of older reducers goes on; of newer ones it waits for a newer server', async () => {
  const { id } = (await lead.post('orders')).body;
  await lead.post(`orders/${id}/scans`, scanOf('CASE-JAR-HEX-12'));
  const session = async () =>
    (await house.db.one<{ reducers: number }>('SELECT reducers FROM scanSession WHERE orderId = ?', [id]))!;
  const { reducers } = await session();
  await house.db.run('UPDATE scanSession SET reducers = 1 WHERE orderId = ?', [id]);
  expect((await lead.post(`orders/${id}/scans`, scanOf('CASE-JAR-HEX-12'))).status).toBe(200);
  expect(await session()).toEqual({ reducers });
  await house.db.run('UPDATE scanSession SET reducers = 99 WHERE orderId = ?', [id]);
  const early = await lead.post(`orders/${id}/scans`, scanOf('CASE-JAR-HEX-12'));
  expect([early.status, early.body.detail]).toEqual([409, expect.stringMatching(/newer Auk/)]);
  expect((await lead.get(`orders/${id}`)).body.lines).toMatchObject([{ quantity: 24 }]);
});

test('a scan sent under another sign-in is booked in the name of who made it, and says who sent it', async () => {
  const people = await house.db.rows<{ id: string; badge: string }>('SELECT id, badge FROM person');
  const idOf = (badge: string) => people.find(p => p.badge === badge)!.id;
  const { id } = (await lead.post('orders')).body;
  const scan = { ...scanOf('CASE-JAR-HEX-12'), maker: idOf('AB-1004') };
  expect((await lead.post(`orders/${id}/scans`, scan)).status).toBe(200);
  const [event] = await house.db.rows<{ personId: string; sentById: string | null }>(
    'SELECT personId, sentById FROM scanEvent WHERE id = ?',
    [scan.id],
  );
  expect(event).toEqual({ personId: idOf('AB-1004'), sentById: idOf('AB-1001') });
  const history = (await lead.get(`orders/${id}`)).body.history;
  expect(history.map((h: { person: string | null }) => h.person)).toContain('Odile Marsh');
  // Sent by who made it, nobody else is named; and nobody makes a scan who is not there.
  const own = { ...scanOf('CASE-JAR-HEX-12'), maker: idOf('AB-1001') };
  await lead.post(`orders/${id}/scans`, own);
  expect(await house.db.one('SELECT personId, sentById FROM scanEvent WHERE id = ?', [own.id])).toEqual({
    personId: idOf('AB-1001'),
    sentById: null,
  });
  expect((await lead.post(`orders/${id}/scans`, { ...scanOf('x'), maker: v7() })).status).toBe(400);
});

test('a scan is judged only by the kind of session that it is of', async () => {
  const { id } = (await lead.post('orders')).body;
  await lead.post(`orders/${id}/scans`, scanOf('CASE-JAR-HEX-12'));
  const [session] = await house.db.rows<{ id: string }>('SELECT id FROM scanSession WHERE orderId = ?', [id]);
  for (const path of ['picking', 'packing', 'receiving'])
    expect((await lead.post(`${path}/sessions/${session!.id}/scans`, scanOf('x'))).status).toBe(404);
  const count = v7();
  await lead.post('stock/counts/sessions', { id: count, place: 'DOCK-1', device: 'test-device' });
  expect((await packer.post(`packing/sessions/${count}/scans`, scanOf('x'))).status).toBe(404);
});
