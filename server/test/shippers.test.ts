import type { CarrierBuy, CarrierParcel, Mischief } from '@auk/contract';
import { CARRIERS, CONTRACT } from '@auk/demo';
import { stringify } from 'csv-stringify/sync';
import { v7 } from 'uuid';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { CarrierRegistry } from '../src/carriers/carriers.module.js';
import { Labels } from '../src/labels/labels.service.js';
import { Strays } from '../src/labels/strays.service.js';
import { DeparturePlanner } from '../src/timetable/timetable.module.js';
import { ordersIn, packAndClose, wishOf } from './drive.js';
import { type Caller, differences, type House, openHouse } from './house.js';

let house: House;
let lead: Caller;
const parcels: string[] = [];
beforeAll(async () => {
  house = await openHouse('large');
  lead = await house.signIn('AB-1001');
  for (const id of await ordersIn(lead, 'Picked', 24))
    parcels.push((await packAndClose(lead, (await lead.get(`orders/${id}`)).body.row.no)).parcelNo);
});
afterAll(() => house.close());

function next(): string {
  const no = parcels.shift();
  if (!no) throw new Error('The demo has too few picked orders for these tests.');
  return no;
}
const offers = async (no: string) => (await lead.get(`parcels/${no}/offers`)).body.offers;
const offerOf = async (no: string, carrier: string, account = '') =>
  (await offers(no)).find(
    (o: { carrier: string; account: { number: string } }) =>
      o.carrier === carrier && o.account.number === account,
  );
const trick = (code: string, how: Mischief['how'], on: Mischief['on'] = 'buy', times = 1) =>
  house.standins.misbehave(code, { on, how, times, ms: 0 });
const desk = (code: string) => house.standins.desks.get(code)!;
const charges = (code: string, no: string) =>
  desk(code)
    .books.all()
    .filter(c => c.reference === no);
const kept = (code: string, no: string) => charges(code, no).filter(c => !desk(code).voids.find(c.key));
const stateOf = async (no: string) =>
  (
    await house.db.rows<{ state: string; tracking: string | null }>(
      'SELECT b.state, b.tracking FROM label b JOIN parcel c ON c.id = b.parcelId WHERE c.no = ? ORDER BY b.intendedAt DESC, b.id DESC',
      [no.slice(3)],
    )
  )[0]!;
const claimsOf = async (no: string) =>
  (await lead.get('claims')).body.filter((c: { parcel: string }) => c.parcel === no);
/** So many seconds pass for everything that waits for a carrier. */
async function later(seconds: number): Promise<void> {
  await house.db.run(
    'UPDATE label SET askedAt = askedAt - INTERVAL ? SECOND, checkAt = checkAt - INTERVAL ? SECOND',
    [seconds, seconds],
  );
  await house.app.get(Labels).recover();
  await house.app.get(Strays).look();
}
const PARCEL: CarrierParcel = {
  from: { postcode: '43701', country: 'US' },
  to: { postcode: '83702', country: 'US', residential: true, lines: ['Ruth Whitlow', 'Boise, ID 83702'] },
  size: { length: 3048, width: 2540, height: 2032 },
  weightMg: 2_000_000,
  shipDay: '2026-11-30',
  account: '',
  options: {},
};

test.each(CARRIERS.map(c => [c.code, c.habit] as const))(
  '%s (%s): asked, bought once under a key, found, and taken back once',
  async (code, habit) => {
    const carrier = (await house.app.get(CarrierRegistry).get(code))!;
    const parcel = habit === 'freight' ? { ...PARCEL, weightMg: 200_000_000 } : PARCEL;
    const quoted = await carrier.quote(parcel);
    if (quoted.kind !== 'answered') throw new Error(quoted.why);
    const quote = quoted.value[0]!;
    expect(quote.charges.reduce((n, c) => n + c.minor, 0)).toBe(quote.minor);
    const { quoteId, minor, currency, service } = quote;
    const order: CarrierBuy = {
      key: v7(),
      quoteId,
      minor,
      currency,
      service,
      parcel,
      reference: `TEST ${code}`,
    };
    expect(await carrier.find(order.key)).toEqual({ kind: 'answered', value: null });
    const bought = await carrier.buy(order);
    const again = await carrier.buy(order);
    if (bought.kind !== 'answered' || again.kind !== 'answered') throw new Error('not bought');
    expect(bought.value).toMatchObject({ minor, currency, service });
    expect(again.value.tracking).toBe(bought.value.tracking);
    expect(charges(code, order.reference)).toHaveLength(1);
    expect(await carrier.find(order.key)).toMatchObject({ value: { tracking: bought.value.tracking } });
    const dearer = await carrier.buy({ ...order, key: v7(), minor: minor - 1 });
    expect(dearer).toMatchObject({ kind: 'refused', why: expect.stringContaining('the price is') });
    expect(await carrier.takeBack(order.key)).toMatchObject({ value: { refundMinor: minor } });
    expect(await carrier.takeBack(order.key)).toMatchObject({ value: { refundMinor: minor } });
    expect(await carrier.find(order.key)).toMatchObject({ value: { refundMinor: minor } });
    expect(await carrier.takeBack(v7())).toMatchObject({ kind: 'refused' });
    trick(code, 'nonsense', 'quote');
    expect(await carrier.quote(parcel)).toMatchObject({ kind: 'silent' });
    trick(code, 'nonsense');
    expect(await carrier.buy({ ...order, key: v7() })).toMatchObject({ kind: 'silent' });
  },
);

test('options and every letter of an address reach a carrier that speaks XML', async () => {
  const carrier = (await house.app.get(CarrierRegistry).get('redfen'))!;
  const to = { ...PARCEL.to, lines: ['Müller & Søn <"Łódź">', '蜂蜜'] };
  const plain = await carrier.quote({ ...PARCEL, to });
  const asked = await carrier.quote({ ...PARCEL, to, options: { signature: true, valueMinor: 25_000 } });
  if (plain.kind !== 'answered' || asked.kind !== 'answered') throw new Error('no prices');
  expect(asked.value[0]!.charges.map(c => c.name)).toContain('signature');
  expect(asked.value[0]!.charges.find(c => c.name === 'declared value')!.minor).toBe(280);
  expect(asked.value[0]!.minor).toBeGreaterThan(plain.value[0]!.minor);
});

test('a carrier without keys that lost the question is not asked to sell again without a person', async () => {
  const no = next();
  trick('coldharbour', 'fail before');
  const wish = wishOf(await offerOf(no, 'coldharbour'));
  expect((await lead.post(`parcels/${no}/label`, wish)).body.state).toBe('unknown');
  await later(60);
  expect((await stateOf(no)).state).toBe('doubtful');
  await later(3600);
  expect(charges('coldharbour', no)).toEqual([]);
  // Nothing else is bought for it meanwhile, and the Board says so.
  const other = await lead.post(`parcels/${no}/label`, wishOf(await offerOf(no, 'heron')));
  expect(other.body.state).toBe('doubtful');
  expect(charges('heron', no)).toEqual([]);
  const needs = (await lead.get('departures/board')).body.needs;
  expect(needs.find((n: { subject: string }) => n.subject === no)).toMatchObject({ code: 'doubt' });
  const looked = await lead.post(`parcels/${no}/decide`, { what: 'look' });
  expect(looked.body.state).toBe('doubtful');
  const packer = await house.signIn('AB-1002');
  expect((await packer.post(`parcels/${no}/decide`, { what: 'ask anew' })).status).toBe(403);
  const both = await Promise.all([
    lead.post(`parcels/${no}/decide`, { what: 'ask anew' }),
    lead.post(`parcels/${no}/decide`, { what: 'ask anew' }),
  ]);
  expect(both.map(b => b.status).sort()).toEqual([200, 409]);
  expect((await stateOf(no)).state).toBe('bought');
  expect(charges('coldharbour', no)).toHaveLength(1);
});

test('a carrier without keys that sold and lost the answer is found by reference', async () => {
  const no = next();
  trick('coldharbour', 'fail after');
  expect((await lead.post(`parcels/${no}/label`, wishOf(await offerOf(no, 'coldharbour')))).body.state).toBe(
    'unknown',
  );
  await later(10);
  expect(await stateOf(no)).toEqual({ state: 'bought', tracking: charges('coldharbour', no)[0]!.tracking });
  expect(charges('coldharbour', no)).toHaveLength(1);
});

test('given up in doubt and sold after all: it is found, claimed and given back, and never becomes a second label', async () => {
  const no = next();
  trick('coldharbour', 'fail after');
  await lead.post(`parcels/${no}/label`, wishOf(await offerOf(no, 'coldharbour')));
  trick('coldharbour', 'not found', 'find');
  // "Not found" of a page that is none says nothing; what a carrier denies in words does.
  await later(60);
  const denied = desk('coldharbour').sold.bind(desk('coldharbour'));
  desk('coldharbour').sold = () => [];
  await later(60);
  expect((await stateOf(no)).state).toBe('doubtful');
  expect((await lead.post(`parcels/${no}/decide`, { what: 'give up' })).body.state).toBe('refused');
  desk('coldharbour').sold = denied;
  const second = await lead.post(`parcels/${no}/label`, wishOf(await offerOf(no, 'heron')));
  expect(second.body.state).toBe('bought');
  await later(60);
  expect(kept('coldharbour', no)).toEqual([]);
  expect(kept('heron', no)).toHaveLength(1);
  expect(await claimsOf(no)).toEqual([
    expect.objectContaining({ kind: 'stray', state: 'settled', minor: charges('coldharbour', no)[0]!.minor }),
  ]);
});

test('refused after charging: the stray purchase is found and given back while another label is live', async () => {
  const no = next();
  trick('redfen', 'refuse after');
  expect((await lead.post(`parcels/${no}/label`, wishOf(await offerOf(no, 'redfen')))).body).toMatchObject({
    state: 'refused',
  });
  const second = await lead.post(`parcels/${no}/label`, wishOf(await offerOf(no, 'redfen')));
  expect(second.body.state).toBe('bought');
  expect(kept('redfen', no)).toHaveLength(2);
  // A carrier that keeps the money: the claim stays open until a person closes it.
  trick('redfen', 'refuse', 'void');
  await later(60);
  const [claim] = await claimsOf(no);
  expect(claim).toMatchObject({ kind: 'stray', state: 'open' });
  const needs = (await lead.get('departures/board')).body.needs;
  expect(needs.some((n: { code: string; subject: string }) => n.code === 'claim' && n.subject === no)).toBe(
    true,
  );
  expect((await lead.post(`claims/${claim.id}/close`, { state: 'settled' })).status).toBe(200);
  expect((await lead.post(`claims/${claim.id}/close`, { state: 'given up' })).status).toBe(409);
  expect((await stateOf(no)).tracking).toBe(second.body.tracking);
});

test.each(['wrong tracking', 'other currency'] as const)(
  'an answer with the %s is not believed; the books tell what was bought',
  async how => {
    const no = next();
    trick('redfen', how);
    const asked = await lead.post(`parcels/${no}/label`, wishOf(await offerOf(no, 'redfen')));
    expect(asked.body.state).toBe('unknown');
    await later(10);
    expect(await stateOf(no)).toEqual({ state: 'bought', tracking: charges('redfen', no)[0]!.tracking });
    expect(charges('redfen', no)).toHaveLength(1);
  },
);

test('charged more than was shown: the label is kept, and the difference is claimed', async () => {
  const no = next();
  trick('redfen', 'charge more');
  const offer = await offerOf(no, 'redfen');
  const bought = await lead.post(`parcels/${no}/label`, wishOf(offer));
  expect(bought.body).toMatchObject({ state: 'bought', minor: offer.minor + 100 });
  expect(await claimsOf(no)).toEqual([expect.objectContaining({ kind: 'price', state: 'open', minor: 100 })]);
});

test('a carrier’s own picture is what is printed; one that is none is drawn by Auk', async () => {
  const [own, none] = [next(), next()];
  await lead.post(`parcels/${own}/label`, wishOf(await offerOf(own, 'redfen')));
  trick('redfen', 'no picture');
  await lead.post(`parcels/${none}/label`, wishOf(await offerOf(none, 'redfen')));
  const pictures = await house.db.rows<{ no: number; size: number | null }>(
    'SELECT c.no, LENGTH(b.picture) AS size FROM label b JOIN parcel c ON c.id = b.parcelId WHERE c.no IN (?)',
    [[own.slice(3), none.slice(3)]],
  );
  const sizeOf = (no: string) => pictures.find(p => p.no === Number(no.slice(3)))!.size;
  expect(sizeOf(own)).toBeGreaterThan(1000);
  expect(sizeOf(none)).toBeNull();
  for (const no of [own, none]) expect((await lead.get(`parcels/${no}/label.pdf`)).status).toBe(200);
});

const account = async (): Promise<string> =>
  (await lead.get('carriers')).body
    .find((c: { code: string }) => c.code === 'redfen')
    .accounts.find((a: { number: string }) => a.number === CONTRACT.number).id;

test('an own rate sheet stands beside the house account; what is bought costs what it says', async () => {
  const no = next();
  const [asked, own] = [await offerOf(no, 'redfen'), await offerOf(no, 'redfen', CONTRACT.number)];
  expect(own.minor).toBeLessThan(asked.minor);
  const bought = await lead.post(`parcels/${no}/label`, wishOf(own));
  expect(bought.body).toMatchObject({ state: 'bought', minor: own.minor });
});

test('a sheet that changed between choosing and buying stops the purchase', async () => {
  const no = next();
  const offer = await offerOf(no, 'redfen', CONTRACT.number);
  const dearer = CONTRACT.rows.map(r =>
    r[0] === 'weight' ? r.map((c, i) => (i < 3 ? c : (Number(c) + 1).toFixed(2))) : r,
  );
  const taken = await lead.file(`carriers/accounts/${await account()}/sheets`, stringify(dearer));
  expect(taken.body).toMatchObject({ taken: true, services: 2, bad: [] });
  const refused = await lead.post(`parcels/${no}/label`, wishOf(offer));
  expect(refused.status).toBe(422);
  expect(refused.body.detail).toMatch(/costs \$\d+\.\d\d by its rate sheet now, not \$/);
  expect(charges('redfen', no)).toEqual([]);
  await lead.file(`carriers/accounts/${await account()}/sheets`, stringify(CONTRACT.rows));
  const wish = wishOf(offer);
  expect((await lead.post(`parcels/${no}/label`, wish)).body.state).toBe('bought');
  // The answer was lost, and the sheet is another by now: what was bought under the key is told all the same.
  await lead.file(`carriers/accounts/${await account()}/sheets`, stringify(dearer));
  expect((await lead.post(`parcels/${no}/label`, wish)).body).toMatchObject({
    state: 'bought',
    id: wish.key,
  });
  expect(charges('redfen', no)).toHaveLength(1);
  await lead.file(`carriers/accounts/${await account()}/sheets`, stringify(CONTRACT.rows));
});

test('a bad sheet names its rows and is not taken; one in a currency without a rate is refused with its cure', async () => {
  const sheets = `carriers/accounts/${await account()}/sheets`;
  const broken = CONTRACT.rows.map(r => (r[2] === '3 lb' ? r.with(4, 'free') : r));
  const bad = await lead.file(sheets, stringify(broken));
  expect(bad.body).toMatchObject({ taken: false });
  expect(bad.body.bad[0].why).toMatch(/"free" in zone 2 is no price/);
  const foreign = CONTRACT.rows.map(r => (r[0] === 'sheet' ? r.with(2, 'KWD') : r));
  const refused = await lead.file(sheets, stringify(foreign));
  expect(refused.status).toBe(422);
  expect(refused.body).toMatchObject({ detail: 'The sheet is in KWD, and no rate to USD is known.' });
  expect((await lead.file(sheets, Buffer.from([0, 1, 2, 3]))).status).toBe(422);
  expect((await lead.file(`carriers/accounts/${v7()}/sheets`, stringify(CONTRACT.rows))).status).toBe(404);
});

test('a service that is switched off is offered no more; a carrier out of use still gives labels back', async () => {
  const no = next();
  const bought = await lead.post(`parcels/${no}/label`, wishOf(await offerOf(no, 'heron')));
  expect(bought.body.state).toBe('bought');
  const other = next();
  const services = async () => (await offers(other)).map((o: { service: string }) => o.service);
  expect(await services()).toContain('two-day');
  await lead.post('carriers/redfen/services/two-day', { inUse: false });
  expect(await services()).not.toContain('two-day');
  expect((await lead.post('carriers/redfen/services/two-day', { inUse: true })).status).toBe(200);
  expect((await lead.post('carriers/redfen/services/two-day', { inUse: true })).status).toBe(200);
  const heron = (await lead.get('carriers')).body.find((c: { code: string }) => c.code === 'heron');
  const { code, name, kind, address, planUpToMg } = heron;
  await lead.post('carriers/connect', { code, name, kind, address, planUpToMg, inUse: false });
  expect((await offers(other)).some((o: { carrier: string }) => o.carrier === 'heron')).toBe(false);
  expect((await lead.post(`parcels/${no}/void`)).status).toBe(200);
  expect(kept('heron', no)).toEqual([]);
  await lead.post('carriers/connect', { code, name, kind, address, planUpToMg, inUse: true });
  expect((await lead.post('carriers/connect', { code, name, kind: 'pigeon', address })).status).toBe(422);
  expect((await lead.post('carriers/redfen/services/pigeon', { inUse: true })).status).toBe(404);
});

test('a purchase that was open when its carrier began to speak another way is found out all the same', async () => {
  const no = next();
  trick('redfen', 'fail after');
  await lead.post(`parcels/${no}/label`, wishOf(await offerOf(no, 'redfen')));
  // As it was stored before accounts, options and currencies were told.
  await house.db.run(
    "UPDATE label b JOIN parcel c ON c.id = b.parcelId SET b.request = JSON_REMOVE(b.request, '$.currency', '$.parcel.account', '$.parcel.options', '$.parcel.to.lines') WHERE c.no = ?",
    [no.slice(3)],
  );
  await later(60);
  expect((await stateOf(no)).state).toBe('bought');
  const again = next();
  trick('heron', 'fail before');
  await lead.post(`parcels/${again}/label`, wishOf(await offerOf(again, 'heron')));
  await house.db.run(
    "UPDATE label b JOIN parcel c ON c.id = b.parcelId SET b.request = JSON_REMOVE(b.request, '$.currency', '$.parcel.account', '$.parcel.options', '$.parcel.to.lines') WHERE c.no = ?",
    [again.slice(3)],
  );
  await later(60);
  expect((await stateOf(again)).state).toBe('bought');
  expect(charges('heron', again)).toHaveLength(1);
});

test('a collection is added, moved and taken out; departures to come and their orders follow', async () => {
  const daily = { weekdays: [1, 2, 3, 4, 5, 6, 7] };
  const named = (name: string) =>
    house.db.rows<{ cutOff: Date; orders: number }>(
      'SELECT d.cutOff, (SELECT COUNT(*) FROM orders o WHERE o.departureId = d.id AND o.leavesAt <> d.cutOff) AS orders FROM departure d WHERE d.name = ? AND d.cutOff > UTC_TIMESTAMP(3)',
      [name],
    );
  const collections = async (code: string) =>
    (await lead.get('carriers')).body.find((c: { code: string }) => c.code === code).collections;
  expect(
    (await lead.post('departures/collections/heron', { name: 'late one', cutOff: '23:58', ...daily })).status,
  ).toBe(200);
  expect((await named('late one')).length).toBeGreaterThan(6);
  const late = (await collections('heron')).find((c: { name: string }) => c.name === 'late one');
  const evening = (await collections('redfen')).find((c: { cutOff: string }) => c.cutOff === '19:30');
  const move = { name: 'later evening', cutOff: '23:57', ...daily };
  expect((await lead.post(`departures/collections/redfen/${evening.id}`, move)).status).toBe(200);
  const moved = await named('later evening');
  expect(moved.length).toBeGreaterThan(6);
  expect(moved.every(d => d.orders === 0)).toBe(true);
  const minutes = new Set(moved.map(d => d.cutOff.toISOString().slice(14, 16)));
  expect(minutes).toEqual(new Set(['57']));
  expect((await lead.post(`departures/collections/heron/${late.id}/remove`)).status).toBe(200);
  expect(await named('late one')).toEqual([]);
  expect((await lead.post(`departures/collections/heron/${late.id}/remove`)).status).toBe(404);
  expect((await lead.post(`departures/collections/heron/${v7()}`, move)).status).toBe(404);
  expect((await lead.post('departures/collections/pigeon', move)).status).toBe(404);
  expect((await lead.post('departures/collections/heron', { ...move, cutOff: '25:00' })).status).toBe(400);
  const packer = await house.signIn('AB-1002');
  expect((await packer.post('departures/collections/heron', move)).status).toBe(403);
});

test('on a day off nothing new is planned to leave, and what nothing was planned for does not leave at all', async () => {
  const [late] = await house.db.rows<{ day: string; n: number }>(
    "SELECT d.day, COUNT(*) AS n FROM departure d WHERE d.state = 'open' AND NOT EXISTS (SELECT 1 FROM orders o WHERE o.departureId = d.id) AND d.cutOff > UTC_TIMESTAMP(3) + INTERVAL 3 DAY GROUP BY d.day ORDER BY d.day LIMIT 1",
  );
  const planner = house.app.get(DeparturePlanner);
  const on = async () => {
    const open = (await planner.open(house.db, new Date())).map(d => d.id);
    return (await house.db.rows('SELECT id FROM departure WHERE id IN (?) AND day = ?', [open, late!.day]))
      .length;
  };
  const count = async () =>
    (await house.db.one<{ n: number }>(
      'SELECT COUNT(*) AS n FROM departure WHERE day = ? AND timetableId IS NOT NULL',
      [late!.day],
    ))!.n;
  const materialise = () => house.db.tx({ personId: null, at: new Date() }, tx => planner.materialise(tx));
  const [before, all] = [await on(), await count()];
  expect(before).toBeGreaterThan(0);
  const days = (await lead.get('carriers/closed')).body;
  await lead.post('carriers/closed', { days: [...days, { day: late!.day, name: 'Inventory' }] });
  expect(await on()).toBe(0);
  await materialise();
  expect(await count()).toBe(0);
  await lead.post('carriers/closed', { days });
  await materialise();
  expect([await on(), await count()]).toEqual([before, all]);
});

test('rates of currencies are entered and corrected; public holidays are proposed as days off', async () => {
  const rate = { currency: 'KWD', day: '2026-02-01', perHouse: 3.25 };
  await lead.post('house/exchange', rate);
  await lead.post('house/exchange', { ...rate, perHouse: 3.26 });
  const entered = (await lead.get('house/exchange')).body;
  expect(entered.filter((r: { currency: string }) => r.currency === 'KWD')).toEqual([
    { ...rate, perHouse: 3.26 },
  ]);
  expect((await lead.post('house/exchange', { ...rate, perHouse: 0 })).status).toBe(400);
  const proposed = (await lead.get('carriers/closed/proposed')).body;
  expect(proposed.length).toBeGreaterThan(5);
  const before = (await lead.get('carriers/closed')).body;
  await lead.post('carriers/closed', { days: [...before, ...proposed] });
  expect((await lead.get('carriers/closed/proposed')).body).toEqual([]);
  await lead.post('carriers/closed', { days: before });
  expect((await lead.get('carriers/closed')).body).toEqual(before);
});

test('after all of it, the data is whole', async () => {
  expect(await differences(house)).toEqual([]);
});
