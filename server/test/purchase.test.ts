import type { Mischief } from '@auk/contract';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { PurchaseService } from '../src/parcels/purchase.service.js';
import { ordersIn, packAndClose, wishOf } from './drive.js';
import { type Caller, differences, type House, openHouse } from './house.js';

let house: House;
let lead: Caller;
const parcels: string[] = [];
beforeAll(async () => {
  house = await openHouse();
  lead = await house.signIn('AB-1001');
  for (const id of await ordersIn(lead, 'Picked', 8))
    parcels.push((await packAndClose(lead, (await lead.get(`orders/${id}`)).body.row.no)).parcelNo);
});
afterAll(() => house.close());

const next = () => parcels.shift()!;
const offerOf = async (no: string) =>
  (await lead.get(`parcels/${no}/offers`)).body.offers.find(
    (o: { carrier: string }) => o.carrier === 'redfen',
  );
const trick = (how: Mischief['how'], on: Mischief['on'] = 'buy', ms = 0) =>
  house.standins.misbehave('redfen', { on, how, times: 1, ms });
const charges = (no: string) =>
  house.standins.desks
    .get('redfen')!
    .books.all()
    .filter(c => c.reference === no);
const recover = () => house.app.get(PurchaseService).recover(new Date(Date.now() + 60_000));

test('pressing twice, with one key or two, buys once', async () => {
  const no = next();
  const offer = await offerOf(no);
  const wish = wishOf(offer);
  const answers = await Promise.all([
    lead.post(`parcels/${no}/label`, wish),
    lead.post(`parcels/${no}/label`, wish),
    lead.post(`parcels/${no}/label`, wishOf(offer)),
  ]);
  expect(answers.every(a => a.status < 500)).toBe(true);
  expect(charges(no)).toHaveLength(1);
  const again = await lead.post(`parcels/${no}/label`, wishOf(offer));
  expect(again.body).toMatchObject({
    state: 'bought',
    tracking: charges(no)[0]!.tracking,
    minor: offer.minor,
  });
  expect(charges(no)).toHaveLength(1);
});

test.each(['fail after', 'nonsense', 'fail before'] as const)(
  'an answer lost (%s) is found out, and bought once',
  async how => {
    const no = next();
    trick(how);
    const wish = wishOf(await offerOf(no));
    expect((await lead.post(`parcels/${no}/label`, wish)).body.state).toBe('unknown');
    expect((await lead.post(`parcels/${no}/label`, wish)).body.state).toBe('unknown');
    expect((await lead.get('departures/strip')).body.unanswered).toBe(1);
    await recover();
    expect(charges(no)).toHaveLength(1);
    expect((await lead.post(`parcels/${no}/label`, wish)).body).toMatchObject({
      state: 'bought',
      tracking: charges(no)[0]!.tracking,
    });
  },
);

test('a carrier that answers later than we wait is not asked to sell again', async () => {
  const no = next();
  trick('late', 'buy', 5_000);
  const wish = wishOf(await offerOf(no));
  expect((await lead.post(`parcels/${no}/label`, wish)).body.state).toBe('unknown');
  await recover();
  expect(charges(no)).toHaveLength(1);
  expect((await lead.post(`parcels/${no}/label`, wish)).body.state).toBe('bought');
});

test('a crash between intention and answer is mended at the next start', async () => {
  const no = next();
  const wish = wishOf(await offerOf(no));
  trick('fail after');
  await lead.post(`parcels/${no}/label`, wish);
  // As a crash leaves it: committed as asked, never answered.
  await house.db.run("UPDATE purchase SET state = 'asked', answeredAt = NULL WHERE id = ?", [wish.key]);
  await recover();
  expect((await lead.post(`parcels/${no}/label`, wish)).body.state).toBe('bought');
  expect(charges(no)).toHaveLength(1);
});

test('a dearer price stops the purchase, and another may be made', async () => {
  const no = next();
  trick('dearer');
  const offer = await offerOf(no);
  const refused = (await lead.post(`parcels/${no}/label`, wishOf(offer))).body;
  expect(refused.state).toBe('refused');
  expect(refused.why).toContain('the price is');
  expect(charges(no)).toHaveLength(0);
  expect((await lead.post(`parcels/${no}/label`, wishOf(offer))).body).toMatchObject({
    state: 'bought',
    minor: offer.minor,
  });
  expect(charges(no)).toHaveLength(1);
});

test('a silent carrier is named and the other still offers', async () => {
  const no = next();
  trick('nonsense', 'quote');
  const { offers, silent } = (await lead.get(`parcels/${no}/offers`)).body;
  expect(silent).toEqual([{ carrierName: 'Redfen Parcel', why: expect.stringContaining('not readable') }]);
  expect(offers.length).toBeGreaterThan(0);
});

test('after all of it, the data is whole', async () => {
  expect(await differences(house)).toEqual([]);
});
