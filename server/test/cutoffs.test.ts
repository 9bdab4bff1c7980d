import { afterAll, beforeAll, expect, test } from 'vitest';
import { ordersIn, packAndClose, wishOf } from './drive.js';
import { type Caller, differences, type House, openHouse } from './house.js';

let house: House;
let lead: Caller;
beforeAll(async () => {
  house = await openHouse('large');
  lead = await house.signIn('AB-1001');
});
afterAll(() => house.close());

interface Follow {
  id: string;
  labelled: boolean;
  promised: string | null;
  arrives: string | null;
  wouldArrive: string | null;
  late: boolean;
}

/** An open departure that orders are planned for, the one of the label where there is one. */
async function busiest(): Promise<{ no: string; id: string; cutOff: string }> {
  const row = await house.db.one<{ id: string; no: number; cutOff: Date }>(
    `SELECT d.id, d.no, d.cutOff FROM departure d JOIN orders o ON o.departureId = d.id AND o.isOpen
     WHERE d.state = 'open' AND NOT d.freight AND d.cutOff > UTC_TIMESTAMP(3) GROUP BY d.id, d.no, d.cutOff ORDER BY COUNT(*) DESC LIMIT 1`,
  );
  return { no: `DE-${row!.no}`, id: row!.id, cutOff: row!.cutOff.toISOString() };
}
const later = (iso: string, minutes: number) => new Date(Date.parse(iso) + minutes * 60_000).toISOString();

test('a cut-off is moved: what follows is told first and changes nothing, then its orders leave at the new time', async () => {
  const { no, id, cutOff } = await busiest();
  const to = later(cutOff, 25);
  const follows = (await lead.get(`departures/${no}/follows?cutOff=${encodeURIComponent(to)}`)).body;
  expect(follows.leaves).toBe(to);
  const leaving = () =>
    house.db.rows<{ leavesAt: Date }>('SELECT leavesAt FROM orders WHERE departureId = ? AND isOpen', [id]);
  expect(follows.orders).toHaveLength((await leaving()).length);
  expect((await leaving()).every(o => o.leavesAt.toISOString() === cutOff)).toBe(true);
  expect((await lead.post(`departures/${no}/cut-off`, { cutOff: to })).body.cutOff).toBe(to);
  expect((await leaving()).every(o => o.leavesAt.toISOString() === to)).toBe(true);
});

test('a time that is past, a day away, nonsense, and who may not: refused, and nothing moves', async () => {
  const { no, cutOff } = await busiest();
  const refused = async (to: string) => (await lead.post(`departures/${no}/cut-off`, { cutOff: to })).status;
  expect(await refused(later(new Date().toISOString(), -5))).toBe(422);
  expect(await refused(later(cutOff, 60 * 30))).toBe(422);
  expect(await refused('soon')).toBe(400);
  expect((await lead.post('departures/DE-999999/cut-off', { cutOff: later(cutOff, 5) })).status).toBe(404);
  expect((await lead.get('departures/DE-999999/follows')).status).toBe(404);
  const packer = await house.signIn('AB-1002');
  expect((await packer.post(`departures/${no}/cut-off`, { cutOff: later(cutOff, 5) })).status).toBe(403);
  expect((await busiest()).cutOff).toBe(cutOff);
});

test('a collection that is called off: what is told before is what follows, and labels arrive on the day that was told', async () => {
  const [id] = await ordersIn(lead, 'Picked', 1);
  const { parcelNo } = await packAndClose(lead, (await lead.get(`orders/${id}`)).body.row.no);
  const offer = (await lead.get(`parcels/${parcelNo}/offers`)).body.offers[0];
  await lead.post(`parcels/${parcelNo}/label`, wishOf(offer));
  const parcel = (await house.db.one<{ no: number }>(
    'SELECT d.no FROM parcel c JOIN departure d ON d.id = c.departureId WHERE c.no = ?',
    [parcelNo.slice(3)],
  ))!;
  const told = (await lead.get(`departures/DE-${parcel.no}/follows`)).body;
  const own: Follow = told.orders.find((o: Follow) => o.id === id);
  expect(own.labelled).toBe(true);
  expect(own.wouldArrive! >= own.arrives!).toBe(true);
  for (const o of told.orders as Follow[])
    if (o.promised && o.wouldArrive) expect(o.late).toBe(o.wouldArrive > o.promised);
  await lead.post(`departures/DE-${parcel.no}/cancel`, { reason: 'the truck broke down' });
  expect((await lead.get(`parcels/${parcelNo}`)).body.label.arrives).toBe(own.wouldArrive);
  const moved = await house.db.rows<{ leavesAt: Date }>('SELECT leavesAt FROM orders WHERE id IN (?)', [
    told.orders.map((o: Follow) => o.id),
  ]);
  for (const o of moved) expect(o.leavesAt.toISOString()).toBe(told.leaves);
  expect((await lead.post(`departures/DE-${parcel.no}/cut-off`, { cutOff: told.leaves })).status).toBe(422);
});

test('after all of it, the data is whole', async () => {
  expect(await differences(house)).toEqual([]);
});
