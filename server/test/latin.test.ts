import { afterAll, beforeAll, expect, test } from 'vitest';
import { bringIn, idOfOrder, listAndPick, packAndClose, wishOf } from './drive.js';
import { type Caller, differences, type House, openHouse } from './house.js';

let house: House;
let lead: Caller;
beforeAll(async () => {
  house = await openHouse('small');
  lead = await house.signIn('AB-1001');
});
afterAll(() => house.close());

/** A carrier of the house takes Latin letters only, or any. */
const latin = (carrier: string, only: boolean) =>
  house.db.run('UPDATE carrier SET latin = ? WHERE code = ?', [only, carrier]);
const view = async (id: string) => (await lead.get(`orders/${id}`)).body;
const GIVEN = {
  name: 'Maria Pappa',
  company: '',
  line1: '12 Odos Ermou',
  line2: '',
  city: 'Boise',
  region: 'ID',
};

test('an address in other letters waits where orders are planned with a carrier that takes Latin ones only, with a proposal as it sounds', async () => {
  await latin('heron', true);
  await bringIn(lead, [['LA-1', 'FRK-UNC', 1, '9.00', 'Μαρία Παππά']]);
  const id = await idOfOrder(lead, 'LA-1');
  expect((await view(id)).stops).toMatchObject([
    { code: 'not-latin', cure: 'Give the address in Latin letters.' },
  ]);
  const asked = (await lead.get(`orders/${id}/latin`)).body;
  expect(asked).toMatchObject({
    needed: true,
    given: null,
    proposal: { name: 'Maria Pappa', city: 'Boise' },
  });
  expect((await lead.post(`orders/${id}/latin`, { ...GIVEN, name: 'Μαρία' })).status).toBe(422);
  expect((await lead.post(`orders/${id}/latin`, { ...GIVEN, name: '' })).status).toBe(400);
  const packer = await house.signIn('AB-1002');
  expect((await packer.post(`orders/${id}/latin`, GIVEN)).status).toBe(403);
  expect((await lead.post(`orders/${id}/latin`, GIVEN)).body.given).toMatchObject({ name: 'Maria Pappa' });
  expect((await view(id)).stops).toEqual([]);
  // For another address it does not count.
  const { version, shipTo } = await view(id);
  await lead.post(`orders/${id}/edit`, { version, shipTo: { ...shipTo, line1: 'Οδός Ερμού 3' } });
  expect((await view(id)).stops).toMatchObject([{ code: 'not-latin' }]);
  await lead.post(`orders/${id}/latin`, GIVEN);
  expect((await view(id)).stops).toEqual([]);
  expect(await differences(house)).toEqual([]);
});

test('such a carrier is told the Latin lines and the others the buyer’s own; without them it is not offered, and says why', async () => {
  const id = await idOfOrder(lead, 'LA-1');
  await listAndPick(lead, [id]);
  const { parcelNo } = await packAndClose(lead, (await view(id)).row.no);
  const { offers } = (await lead.get(`parcels/${parcelNo}/offers`)).body;
  const of = (carrier: string) => offers.find((o: { carrier: string }) => o.carrier === carrier);
  await lead.post(`parcels/${parcelNo}/label`, wishOf(of('heron')));
  const told = async () =>
    (await house.db.one<{ request: string }>(
      "SELECT CAST(b.request AS CHAR) AS request FROM label b JOIN parcel c ON c.id = b.parcelId WHERE c.no = ? AND b.state = 'bought'",
      [parcelNo.slice(3)],
    ))!.request;
  expect(await told()).toContain('Maria Pappa');
  await lead.post(`parcels/${parcelNo}/void`);
  await lead.post(`parcels/${parcelNo}/label`, wishOf(of('redfen')));
  expect(await told()).toContain('Μαρία Παππά');
  await latin('heron', false);
  await latin('coldharbour', true);
  await bringIn(lead, [['LA-2', 'FRK-UNC', 1, '9.00', 'Иван Петров']]);
  const other = await idOfOrder(lead, 'LA-2');
  expect((await view(other)).stops).toEqual([]);
  const compared = (await lead.post('rating/compare', { about: { kind: 'order', id: other } })).body;
  expect(compared.rows.map((r: { carrier: string }) => r.carrier)).not.toContain('coldharbour');
  expect(compared.dropped).toContainEqual(
    expect.objectContaining({
      carrierName: 'Coldharbour Express',
      why: expect.stringContaining('Latin letters'),
    }),
  );
  await lead.post(`orders/${other}/latin`, { ...GIVEN, name: 'Ivan Petrov' });
  const again = (await lead.post('rating/compare', { about: { kind: 'order', id: other } })).body;
  expect(again.rows.map((r: { carrier: string }) => r.carrier)).toContain('coldharbour');
});
