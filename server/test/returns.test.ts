import { v7 } from 'uuid';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { Labels } from '../src/labels/labels.service.js';
import { Rounds } from '../src/leases/rounds.service.js';
import { type LabelledParcel, letLeave, packAndLabel, scanOf, wishOf } from './drive.js';
import { type Caller, differences, type House, openHouse } from './house.js';
import { pagesOf } from './pdf.js';

let house: House;
let lead: Caller;
let packer: Caller;
let parcel: LabelledParcel;
beforeAll(async () => {
  house = await openHouse();
  [lead, packer] = [await house.signIn('AB-1001'), await house.signIn('AB-1002')];
  parcel = await packAndLabel(lead);
});
afterAll(() => house.close());

interface Piece {
  id: string;
  sku: string;
  sent: number;
  quantity: number;
  judged: string;
}
const first = async () => (await lead.get('returns')).body[0];
const take = (code: string, key = v7()) => packer.post('returns', { key, code });
const inPlace = async (place: string, sku: string): Promise<number> =>
  (await lead.get(`places/${place}`)).body.stock
    .filter((s: { sku: string }) => s.sku === sku)
    .reduce((n: number, s: { onHand: number }) => n + s.onHand, 0);

test('what has not left, and what nobody knows, is not taken back', async () => {
  expect((await take(parcel.parcelNo)).status).toBe(422);
  expect((await take('PA-99999')).status).toBe(404);
  expect((await take('nothing')).status).toBe(404);
  const picker = await house.signIn('AB-1003');
  expect((await picker.post('returns', { key: v7(), code: parcel.parcelNo })).status).toBe(403);
});

test('a parcel comes back by its tracking number, once, into quarantine, against the lines it left for', async () => {
  await letLeave(lead, [parcel]);
  const key = v7();
  const both = await Promise.all([take(parcel.tracking, key), take(parcel.tracking, key)]);
  expect(both.map(b => b.status)).toEqual([200, 200]);
  expect(both[0]!.body).toEqual(both[1]!.body);
  const again = await take(parcel.parcelNo);
  expect(again.status).toBe(409);
  const back = await first();
  expect(back).toMatchObject({ parcel: parcel.parcelNo, order: parcel.number });
  const pieces: Piece[] = back.pieces;
  expect(pieces.length).toBeGreaterThan(0);
  for (const p of pieces) {
    expect(p).toMatchObject({ quantity: p.sent, judged: 'open' });
    expect(await inPlace(back.place, p.sku)).toBeGreaterThanOrEqual(p.sent);
  }
  expect((await lead.get(`parcels/${parcel.parcelNo}/way`)).body.state).toBe('back');
  expect(await differences(house)).toEqual([]);
});

test('what is missing of it is counted and stays gone; more than was sent is refused', async () => {
  const { pieces, place } = await first();
  const piece: Piece = pieces[0];
  const before = await inPlace(place, piece.sku);
  const count = (quantity: number) => packer.post(`returns/pieces/${piece.id}/count`, { quantity });
  expect((await count(piece.sent + 1)).status).toBe(422);
  expect((await count(piece.sent - 1)).status).toBe(200);
  expect(await inPlace(place, piece.sku)).toBe(before - 1);
  expect((await count(piece.sent)).status).toBe(200);
  expect(await inPlace(place, piece.sku)).toBe(before);
  expect((await packer.post(`returns/pieces/${v7()}/count`, { quantity: 1 })).status).toBe(404);
});

test('pieces are sold again from a shelf or written off, each once, and the buyer is told when all are judged', async () => {
  const { pieces, place } = await first();
  const shelf = (await house.db.one<{ code: string }>(
    "SELECT code FROM place WHERE kind = 'bin' ORDER BY code LIMIT 1",
  ))!.code;
  const judge = (id: string, how: object) => lead.post(`returns/pieces/${id}/judge`, { key: v7(), ...how });
  const piece: Piece = pieces[0];
  expect((await judge(piece.id, { as: 'resell', place: 'NOWHERE' })).status).toBe(404);
  expect((await judge(piece.id, { as: 'resell', place })).status).toBe(422);
  expect((await judge(piece.id, { as: 'write off', reason: '' })).status).toBe(400);
  expect(
    (await packer.post(`returns/pieces/${piece.id}/judge`, { key: v7(), as: 'write off', reason: 'broken' }))
      .status,
  ).toBe(403);
  const onShelf = await inPlace(shelf, piece.sku);
  const how = { key: v7(), as: 'resell', place: shelf };
  const both = await Promise.all([1, 2].map(() => lead.post(`returns/pieces/${piece.id}/judge`, how)));
  expect(both.map(b => b.status)).toEqual([200, 200]);
  expect(await inPlace(shelf, piece.sku)).toBe(onShelf + piece.quantity);
  expect((await judge(piece.id, { as: 'write off', reason: 'broken after all' })).status).toBe(409);
  for (const p of pieces.slice(1) as Piece[])
    expect((await judge(p.id, { as: 'write off', reason: 'broken' })).status).toBe(200);
  const told = await house.db.rows(
    "SELECT 1 FROM mail WHERE moment = 'back' AND orderId = ? AND cause LIKE 'judged%'",
    [parcel.orderId],
  );
  expect(told).toHaveLength(1);
  expect(await differences(house)).toEqual([]);
});

test('the order’s channel is told once what came back and what became of it, whatever happened to the answer', async () => {
  const heard = () => house.standins.returned.all().filter(r => r.tracking === parcel.tracking);
  expect(heard()).toEqual([]);
  const { history: before } = (await lead.get(`orders/${parcel.orderId}`)).body;
  expect(JSON.stringify(before)).not.toContain('was told what came back');
  await house.app.get(Rounds).once('jobs');
  // As a server leaves it that was killed before it wrote down the answer.
  await house.db.run("UPDATE job SET state = 'waiting', runAt = NOW(3) WHERE kind = 'tell return'");
  await house.app.get(Rounds).once('jobs');
  const { pieces } = (await lead.get('returns')).body.find(
    (r: { parcel: string }) => r.parcel === parcel.parcelNo,
  );
  expect(heard()).toHaveLength(1);
  expect(heard()[0]).toMatchObject({ channelNumber: parcel.number });
  const became = heard()[0]!.pieces.map(p => [p.sku, p.quantity, p.resold]);
  expect(became).toEqual(
    expect.arrayContaining(pieces.map((p: Piece) => [p.sku, p.quantity, p.judged === 'resell'])),
  );
  const { history } = (await lead.get(`orders/${parcel.orderId}`)).body;
  expect(JSON.stringify(history)).toContain('The channel was told what came back.');
  // After the last try a person is asked, and what they start again is told.
  await house.db.run("UPDATE job SET state = 'given up', error = 'It said no.' WHERE kind = 'tell return'");
  const { needs } = (await lead.get('departures/board')).body;
  const need = needs.find((n: { code: string }) => n.code === 'untold');
  expect(need).toMatchObject({ subject: parcel.parcelNo, detail: 'It said no.' });
  expect(need.says).toMatch(/ was not told that PA-\d+ came back\.$/);
  expect((await lead.post(`jobs/${need.job}/retry`)).status).toBe(200);
  await house.app.get(Rounds).once('jobs');
  expect(heard()).toHaveLength(1);
  const { needs: after } = (await lead.get('departures/board')).body;
  expect(after.filter((n: { code: string }) => n.code === 'untold')).toEqual([]);
});

test('a label for the way back is bought once beside the one that lives, goes to the house, and is printed here or by the buyer', async () => {
  const sent = await packAndLabel(lead, undefined, offers => offers.find(o => o.carrier === 'heron')!);
  const { offers } = (await lead.get(`parcels/${sent.parcelNo}/return-offers`)).body;
  expect(offers.length).toBeGreaterThan(0);
  expect((await packer.get(`parcels/${sent.parcelNo}/return-offers`)).status).toBe(403);
  const offer = offers.find((o: { carrier: string }) => o.carrier === 'heron');
  expect((await lead.get(`parcels/${sent.parcelNo}/return.pdf`)).status).toBe(422);
  const wish = wishOf(offer);
  const both = await Promise.all([1, 2].map(() => lead.post(`parcels/${sent.parcelNo}/return-label`, wish)));
  expect(both.map(b => b.status).sort()).toEqual([200, 200]);
  const again = await lead.post(`parcels/${sent.parcelNo}/return-label`, wishOf(offer));
  expect(again.body.id).toBe(wish.key);
  // The key of one way is none for the other.
  const out = await house.db.one<{ id: string }>('SELECT id FROM label WHERE tracking = ?', [sent.tracking]);
  const crossed = await lead.post(`parcels/${sent.parcelNo}/return-label`, wishOf(offer, out!.id));
  expect([crossed.status, crossed.body.detail]).toEqual([
    422,
    'This purchase key was used for another label.',
  ]);
  const { label, returnLabel, before } = (await lead.get(`parcels/${sent.parcelNo}`)).body;
  expect([label.state, returnLabel.state, before]).toEqual(['bought', 'bought', []]);
  expect(returnLabel.tracking).not.toBe(sent.tracking);
  const books = house.standins.desks.get('heron')!.books.all();
  expect(books.filter(b => b.reference === sent.parcelNo)).toHaveLength(2);
  const pdf = await fetch(`${house.url}/api/v1/parcels/${sent.parcelNo}/return.pdf`, {
    headers: { cookie: lead.cookie },
  });
  const [page] = pagesOf(Buffer.from(await pdf.arrayBuffer()));
  expect(page).toContain(returnLabel.tracking);
  expect(page!.indexOf('Zanesville')).toBeGreaterThan(0);
  // The number of the way back is nothing that leaves with a truck.
  const scanned = await lead.post(`departures/${sent.departure}/scans`, scanOf(returnLabel.tracking));
  expect(scanned.body.answer.says).toContain('No parcel has the code');
  const { link } = (await lead.get(`orders/${sent.orderId}/thread`)).body;
  const token = link.split('/b/')[1];
  const open = (path: string) => fetch(`${house.url}/api/v1/buyers/${token}${path}`);
  expect((await (await open('')).json()).parcels[0].returns).toBe(true);
  expect((await open('/return/1')).headers.get('content-type')).toBe('application/pdf');
  expect((await open('/return/2')).status).toBe(404);
  expect((await open('/return/x')).status).toBe(400);
  // By that number the parcel comes back.
  await letLeave(lead, [sent]);
  expect((await take(returnLabel.tracking)).status).toBe(200);
  expect((await first()).parcel).toBe(sent.parcelNo);
  expect(await differences(house)).toEqual([]);
});

test('a return label is given back once, whatever is asked at the same time, and another can be bought; after it was used it stays', async () => {
  const sent = await packAndLabel(lead, undefined, offers => offers.find(o => o.carrier === 'heron')!);
  const at = `parcels/${sent.parcelNo}`;
  const nothing = await lead.post(`${at}/return-void`);
  expect([nothing.status, nothing.body.detail]).toEqual([
    409,
    `${sent.parcelNo} has no bought return label.`,
  ]);
  const buy = async () => {
    const { offers } = (await lead.get(`${at}/return-offers`)).body;
    return lead.post(
      `${at}/return-label`,
      wishOf(offers.find((o: { carrier: string }) => o.carrier === 'heron')),
    );
  };
  const bought = (await buy()).body;
  const picker = await house.signIn('AB-1003');
  expect((await picker.post(`${at}/return-void`)).status).toBe(403);
  const both = await Promise.all([1, 2].map(() => packer.post(`${at}/return-void`)));
  expect(both.filter(b => b.status === 200).length).toBeGreaterThan(0);
  const view = (await lead.get(at)).body;
  expect([view.label.state, view.returnLabel.state, view.state]).toEqual(['bought', 'voided', 'labelled']);
  const heron = house.standins.desks.get('heron')!;
  const sold = heron.books.all().filter(b => b.reference === sent.parcelNo);
  expect(sold.map(b => heron.find(b.key)?.refundMinor)).toEqual([undefined, bought.minor]);
  expect((await lead.get(`${at}/return.pdf`)).status).toBe(422);
  const history = JSON.stringify((await lead.get(`orders/${sent.orderId}`)).body.history);
  expect(history).toContain(`Return label ${bought.tracking} voided; `);
  // The label that lives is as it was: the parcel leaves with it.
  const anew = (await buy()).body;
  expect(anew.state).toBe('bought');
  await letLeave(lead, [sent]);
  expect((await take(anew.tracking)).status).toBe(200);
  expect((await lead.post(`${at}/return-void`)).status).toBe(422);
  expect(await differences(house)).toEqual([]);
});

test('a return label whose carrier never answers is found out in the books, and bought once', async () => {
  const sent = await packAndLabel(lead, undefined, offers => offers.find(o => o.carrier === 'heron')!);
  const { offers } = (await lead.get(`parcels/${sent.parcelNo}/return-offers`)).body;
  const wish = wishOf(offers.find((o: { carrier: string }) => o.carrier === 'heron'));
  house.standins.misbehave('heron', { on: 'buy', how: 'fail after', times: 1, ms: 0 });
  const lost = await lead.post(`parcels/${sent.parcelNo}/return-label`, wish);
  expect(lost.body.state).toBe('unknown');
  await house.db.run("UPDATE label SET askedAt = askedAt - INTERVAL 60 SECOND WHERE state = 'unknown'");
  await house.app.get(Labels).recover();
  const parcel = (await lead.get(`parcels/${sent.parcelNo}`)).body;
  expect([parcel.label.state, parcel.returnLabel.state]).toEqual(['bought', 'bought']);
  const books = house.standins.desks.get('heron')!.books.all();
  expect(books.filter(b => b.reference === sent.parcelNo)).toHaveLength(2);
});
