import { afterAll, beforeAll, expect, test } from 'vitest';
import { Rounds } from '../src/leases/rounds.service.js';
import { type LabelledParcel, ordersIn, packAndClose, packAndLabel, scanOf } from './drive.js';
import { type Caller, differences, type House, openHouse } from './house.js';

let house: House;
let lead: Caller;
let parcels: LabelledParcel[];
beforeAll(async () => {
  house = await openHouse('large');
  lead = await house.signIn('AB-1001');
  const heron = (offers: { carrier: string }[]) => offers.find(o => o.carrier === 'heron') as never;
  parcels = [];
  for (let i = 0; i < 3; i++) parcels.push(await packAndLabel(lead, undefined, heron));
});
afterAll(() => house.close());

const scan = async (no: string, text: string): Promise<{ kind: string; says: string; next: string }> =>
  (await lead.post(`departures/${no}/scans`, scanOf(text))).body.answer;
const view = async (no: string) => (await lead.get(`departures/${no}`)).body;
const rounds = () => house.app.get(Rounds).once('jobs');

test('every wrong parcel is refused with its reason, and stands among what was scanned and not expected until it is right', async () => {
  const [mine, voided] = parcels as [LabelledParcel, LabelledParcel];
  const no = mine.departure;
  const redfen = await packAndLabel(lead, undefined, offers => offers.find(o => o.carrier === 'redfen')!);
  const [unlabelledOrder] = await ordersIn(lead, 'Picked', 1);
  const { parcelNo: unlabelled } = await packAndClose(
    lead,
    (await lead.get(`orders/${unlabelledOrder}`)).body.row.no,
  );
  await lead.post(`parcels/${voided.parcelNo}/void`);
  const gone = (await lead.get('orders?stage=Departed&size=1')).body.rows[0];
  const goneParcel = (await lead.get(`orders/${gone.id}`)).body.parcels[0].no;
  expect((await scan(no, redfen.tracking)).says).toContain('Wrong truck');
  expect((await scan(no, unlabelled)).says).toBe(`${unlabelled} has no label yet.`);
  expect((await scan(no, voided.parcelNo)).says).toBe(`The label of ${voided.parcelNo} was given back.`);
  expect((await scan(no, voided.tracking)).says).toBe(`That label of ${voided.parcelNo} was given back.`);
  expect((await scan(no, goneParcel)).says).toContain('has departed already');
  expect((await scan(no, 'NO-SUCH')).says).toContain('No parcel has the code');
  const { strange } = await view(no);
  expect(strange.map((s: { what: string }) => s.what)).toEqual([
    redfen.parcelNo,
    unlabelled,
    voided.parcelNo,
    goneParcel,
    'NO-SUCH',
  ]);
  expect((await scan(no, mine.tracking)).kind).toBe('counted');
  expect((await scan(no, mine.parcelNo)).kind).toBe('moved');
});

test('a parcel whose order is parked meanwhile must not go, and says so after it was scanned too', async () => {
  const [mine, , third] = parcels as [LabelledParcel, LabelledParcel, LabelledParcel];
  await lead.post(`orders/${third.orderId}/park`, { reason: 'the buyer called' });
  expect((await scan(third.departure, third.parcelNo)).says).toContain('must not go');
  await lead.post(`orders/${mine.orderId}/park`, { reason: 'the buyer called' });
  const row = (await view(mine.departure)).parcels.find((p: { no: string }) => p.no === mine.parcelNo);
  expect(row).toMatchObject({ scanned: true, held: expect.any(String) });
  for (const p of [mine, third]) await lead.post(`orders/${p.orderId}/unpark`, {});
});

test('a parcel of another departure of the same carrier is taken, and says where it was planned for', async () => {
  const [, , third] = parcels as [LabelledParcel, LabelledParcel, LabelledParcel];
  const other = await house.db.one<{ no: number }>(
    "SELECT no FROM departure WHERE carrier = 'heron' AND state = 'open' AND no <> ? ORDER BY cutOff LIMIT 1",
    [third.departure.slice(3)],
  );
  const answer = await scan(`DE-${other!.no}`, third.parcelNo);
  expect(answer.says).toBe(`Right, ${third.parcelNo} is on it; it was planned for another departure.`);
  expect((await scan(third.departure, third.parcelNo)).kind).toBe('counted');
});

test('a collection is booked once, whatever was lost on the way, and refusals are said', async () => {
  const no = parcels[0]!.departure;
  const books = house.standins.desks.get('heron')!.kept.collections;
  house.standins.misbehave('heron', { on: 'collect', how: 'fail after', times: 1, ms: 0 });
  const lost = await lead.post(`departures/${no}/book`);
  expect(lost.status).toBe(409);
  expect(books.all()).toHaveLength(1);
  house.standins.misbehave('heron', { on: 'collect', how: 'refuse', times: 1, ms: 0 });
  expect((await lead.post(`departures/${no}/book`)).body.detail).toContain('the desk is closed today');
  const both = await Promise.all([1, 2].map(() => lead.post(`departures/${no}/book`)));
  expect(both.map(b => b.body.bookedAs)).toEqual([books.all()[0]!.reference, books.all()[0]!.reference]);
  expect(books.all()).toHaveLength(1);
  expect((await lead.post('departures/DE-999999/book')).status).toBe(404);
});

test('closing with what was not scanned is refused; left behind it waits for the next; the carrier hears of what left, once', async () => {
  const [mine] = parcels as [LabelledParcel];
  const no = mine.departure;
  const refused = await lead.post(`departures/${no}/close`, { leaveBehind: false });
  const waiting = (await view(no)).parcels.filter((p: { scanned: boolean }) => !p.scanned);
  if (waiting.length > 0) expect(refused.status).toBe(422);
  house.standins.misbehave('heron', { on: 'day end', how: 'fail after', times: 1, ms: 0 });
  if (waiting.length > 0)
    expect((await lead.post(`departures/${no}/close`, { leaveBehind: true })).status).toBe(200);
  await rounds();
  const days = house.standins.desks.get('heron')!.kept.days;
  expect(days.all()).toHaveLength(1);
  expect((await view(no)).manifest).toBeNull();
  await house.db.run("UPDATE job SET runAt = NOW(3) - INTERVAL 1 SECOND WHERE state = 'waiting'");
  await rounds();
  expect(days.all()).toHaveLength(1);
  const closed = await view(no);
  expect(closed).toMatchObject({ state: 'closed', manifest: days.all()[0]!.manifest });
  expect(days.all()[0]!.trackings).toContain(mine.tracking);
  expect((await lead.post(`departures/${no}/book`)).status).toBe(422);
  expect(await differences(house)).toEqual([]);
});
