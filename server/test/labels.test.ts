import type { Mischief } from '@auk/contract';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { Labels } from '../src/labels/labels.service.js';
import { Voiding } from '../src/labels/voiding.service.js';
import { ordersIn, packAndClose, scanOf, wishOf } from './drive.js';
import { type Caller, differences, type House, openHouse } from './house.js';

let house: House;
let lead: Caller;
const parcels: string[] = [];
beforeAll(async () => {
  house = await openHouse('large');
  lead = await house.signIn('AB-1001');
  for (const id of (await ordersIn(lead, 'Picked', 40)).slice(0))
    parcels.push((await packAndClose(lead, (await lead.get(`orders/${id}`)).body.row.no)).parcelNo);
});
afterAll(() => house.close());

function next(): string {
  const no = parcels.shift();
  if (!no) throw new Error('The demo has too few picked orders for these tests.');
  return no;
}
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
/** So many seconds pass for every purchase that waits, and what is stuck is found out. */
async function recover(seconds = 60): Promise<void> {
  await house.db.run('UPDATE label SET askedAt = askedAt - INTERVAL ? SECOND', [seconds]);
  await house.app.get(Labels).recover();
}

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
  await house.db.run("UPDATE label SET state = 'asked', answeredAt = NULL WHERE id = ?", [wish.key]);
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
  expect(silent).toEqual([{ carrierName: 'Redfen Parcel', why: expect.stringContaining('makes no sense') }]);
  expect(offers.length).toBeGreaterThan(0);
});

const stateOf = async (no: string) =>
  (await house.db.one<{ state: string; why: string; asks: number }>(
    'SELECT b.state, b.why, b.asks FROM label b JOIN parcel c ON c.id = b.parcelId WHERE c.no = ? ORDER BY b.intendedAt DESC LIMIT 1',
    [no.slice(3)],
  ))!;

test.each(['refuse', 'nonsense', 'fail before'] as const)(
  'a question after a lost answer that comes to nothing (%s) leaves the purchase open, and nothing is bought twice',
  async how => {
    const no = next();
    trick('fail after');
    trick(how, 'find');
    const offer = await offerOf(no);
    expect((await lead.post(`parcels/${no}/label`, wishOf(offer))).body.state).toBe('unknown');
    await recover();
    expect((await stateOf(no)).state).toBe('unknown');
    if (how === 'refuse') expect((await stateOf(no)).why).toContain('The question after it was refused');
    expect((await lead.post(`parcels/${no}/label`, wishOf(offer))).body.state).toBe('unknown');
    expect(charges(no)).toHaveLength(1);
    await recover();
    expect((await stateOf(no)).state).toBe('bought');
    expect(charges(no)).toHaveLength(1);
  },
);

test('a carrier that knows nothing yet may still be at work: it is asked again only after its longest time', async () => {
  const no = next();
  trick('fail before');
  await lead.post(`parcels/${no}/label`, wishOf(await offerOf(no)));
  await recover(10);
  expect(await stateOf(no)).toMatchObject({ state: 'unknown', asks: 1 });
  expect((await stateOf(no)).why).toContain('may still be at work');
  await recover(30);
  expect(await stateOf(no)).toMatchObject({ state: 'bought', asks: 2 });
  expect(charges(no)).toHaveLength(1);
});

test('a refused second asking ends nothing while the books hold the first', async () => {
  const no = next();
  trick('fail after');
  const offer = await offerOf(no);
  const wish = wishOf(offer);
  await lead.post(`parcels/${no}/label`, wish);
  // The carrier’s books were behind when it was asked after the purchase: it is asked to sell again, and refuses.
  await house.db.run("UPDATE label SET state = 'intended' WHERE id = ?", [wish.key]);
  trick('refuse');
  await recover();
  expect(await stateOf(no)).toMatchObject({ state: 'bought', asks: 2 });
  expect(charges(no)).toHaveLength(1);
});

test('several workers recover at once: each purchase is found out by one of them', async () => {
  const nos = [next(), next(), next()];
  for (const no of nos) {
    trick('fail before');
    await lead.post(`parcels/${no}/label`, wishOf(await offerOf(no)));
  }
  const other = await house.secondServer();
  await house.db.run('UPDATE label SET askedAt = askedAt - INTERVAL 60 SECOND');
  await Promise.all([
    house.app.get(Labels).recover(),
    other.app.get(Labels).recover(),
    house.app.get(Labels).recover(),
  ]);
  await other.close();
  for (const no of nos) {
    expect(await stateOf(no)).toMatchObject({ state: 'bought', asks: 2 });
    expect(charges(no)).toHaveLength(1);
  }
});

/** A label that is asked for and not answered yet: the carrier takes its time. */
async function askedLate() {
  const no = next();
  trick('late', 'buy', 1_500);
  const wish = wishOf(await offerOf(no));
  const pressed = lead.post(`parcels/${no}/label`, wish);
  await expect
    .poll(() => house.db.one('SELECT id FROM label WHERE id = ? AND state = ?', [wish.key, 'asked']))
    .toBeTruthy();
  return { no, wish, pressed };
}

test('an answer that comes after its purchase was given to another worker writes nothing; the books tell', async () => {
  const { no, wish, pressed } = await askedLate();
  await house.db.run('UPDATE lease SET owner = UUID(), until = NOW(3) + INTERVAL 1 HOUR WHERE name = ?', [
    `label ${wish.key}`,
  ]);
  expect((await pressed).body.state).toBe('asked');
  await recover();
  expect((await stateOf(no)).state).toBe('asked');
  await house.db.run('UPDATE lease SET until = NOW(3) WHERE name = ?', [`label ${wish.key}`]);
  await recover();
  expect((await stateOf(no)).state).toBe('bought');
  expect(charges(no)).toHaveLength(1);
});

const orderOf = async (no: string) =>
  (await house.db.one<{ id: string; departureNo: number | null }>(
    'SELECT c.orderId AS id, d.no AS departureNo FROM parcel c LEFT JOIN departure d ON d.id = c.departureId WHERE c.no = ?',
    [no.slice(3)],
  ))!;
const park = async (no: string) =>
  lead.post(`orders/${(await orderOf(no)).id}/park`, { reason: 'the buyer rang', word: '' });
const needs = async () =>
  (await lead.get('departures/board')).body.needs as { code: string; subject: string; detail: string }[];

test('a packed order that is parked gets no label, and the Board names its parcel', async () => {
  const no = next();
  const offer = await offerOf(no);
  await park(no);
  const refused = await lead.post(`parcels/${no}/label`, wishOf(offer));
  expect(refused.status).toBe(422);
  expect(refused.body.detail).toContain('Parked: the buyer rang');
  expect(refused.body.cure).toContain('freed');
  expect((await lead.get(`parcels/${no}/offers`)).status).toBe(422);
  expect(charges(no)).toHaveLength(0);
  expect((await needs()).find(n => n.subject === no)).toMatchObject({
    code: 'held',
    detail: expect.stringContaining('the buyer rang'),
  });
});

test.each([
  ['refunded', (id: string) => house.db.run("UPDATE orders SET payment = 'refunded' WHERE id = ?", [id])],
  [
    'Cancelled',
    (id: string) =>
      house.db.run("UPDATE orders SET cancelledAt = NOW(3), stage = 'Cancelled' WHERE id = ?", [id]),
  ],
  [
    'Stopped',
    (id: string) =>
      house.db.run(
        "INSERT INTO stopReason (id, orderId, code, subject, says, cure, raisedAt) VALUES (UUID(), ?, 'bad-postcode', 'postcode', 'Its postcode is wrong.', 'Correct it.', NOW(3))",
        [id],
      ),
  ],
] as const)('a packed order that is %s gets no label', async (word, make) => {
  const no = next();
  const offer = await offerOf(no);
  const { id } = await orderOf(no);
  await make(id);
  const refused = await lead.post(`parcels/${no}/label`, wishOf(offer));
  expect(refused.status).toBe(422);
  expect(refused.body.detail).toContain(word);
  expect(charges(no)).toHaveLength(0);
  // As it was, so that the data is whole.
  await house.db.run(
    "UPDATE orders SET payment = 'paid', cancelledAt = NULL, stage = 'Packed' WHERE id = ?",
    [id],
  );
  await house.db.run("DELETE FROM stopReason WHERE orderId = ? AND code = 'bad-postcode'", [id]);
});

test('parked between asking and answer: bought, held at the dock, and not let out when it was on the truck already', async () => {
  const { no, pressed } = await askedLate();
  expect((await park(no)).status).toBeLessThan(300);
  expect((await pressed).body.state).toBe('bought');
  const { id, departureNo } = await orderOf(no);
  const at = `departures/DE-${departureNo}`;
  const scanned = await lead.post(`${at}/scans`, scanOf(no));
  expect(scanned.body.answer).toMatchObject({ kind: 'refused', tone: 'wrong' });
  expect(scanned.body.answer.says).toContain('Parked: the buyer rang');
  expect((await needs()).some(n => n.subject === no && n.code === 'held')).toBe(true);
  await lead.post(`orders/${id}/unpark`, { word: '' });
  expect((await lead.post(`${at}/scans`, scanOf(no))).body.answer.tone).toBe('right');
  await park(no);
  const closing = await lead.post(`${at}/close`);
  expect(closing.status).toBe(422);
  expect(closing.body.detail).toContain(`${no} must not go`);
  expect((await lead.post(`${at}/close`, { leaveBehind: true })).body.state).toBe('closed');
  expect((await lead.get(`orders/${id}`)).body.row.stage).toBe('Parked');
  const left = await house.db.one(
    'SELECT id FROM parcel WHERE no = ? AND departedAt IS NULL AND handedOverAt IS NULL',
    [no.slice(3)],
  );
  expect(left).not.toBeNull();
});

test('a label that was never asked for is not bought any more when its order was parked meanwhile', async () => {
  const no = next();
  const wish = wishOf(await offerOf(no));
  trick('fail before');
  await lead.post(`parcels/${no}/label`, wish);
  await park(no);
  await recover();
  expect(await stateOf(no)).toMatchObject({ state: 'refused', asks: 1 });
  expect((await stateOf(no)).why).toContain('Parked');
  expect(charges(no)).toHaveLength(0);
});

test('after all of it, the data is whole', async () => {
  expect(await differences(house)).toEqual([]);
});

const voids = (no: string) => {
  const keys = new Set(charges(no).map(c => c.key));
  return house.standins.desks
    .get('redfen')!
    .voids.all()
    .filter(v => keys.has(v.key));
};
const buyFor = async (no: string) => (await lead.post(`parcels/${no}/label`, wishOf(await offerOf(no)))).body;
const labelOf = async (no: string) =>
  (
    await house.db.rows<{ state: string; refundMinor: number | null }>(
      'SELECT b.state, b.refundMinor FROM label b JOIN parcel c ON c.id = b.parcelId WHERE c.no = ? ORDER BY b.intendedAt',
      [no.slice(3)],
    )
  ).map(r => [r.state, r.refundMinor]);
/** So many seconds pass for every voiding that waits. */
async function recoverVoids(): Promise<void> {
  await house.db.run("UPDATE label SET askedAt = askedAt - INTERVAL 60 SECOND WHERE state = 'void asked'");
  await house.app.get(Voiding).recover();
}

test('a label is voided once, pressed twice; its money comes back; another is bought, and the parcel may be opened', async () => {
  const no = next();
  const first = await buyFor(no);
  const both = await Promise.all([lead.post(`parcels/${no}/void`, {}), lead.post(`parcels/${no}/void`, {})]);
  expect(both.map(b => b.status)).toEqual([200, expect.toBeOneOf([200, 409])]);
  await recoverVoids();
  expect(voids(no)).toEqual([{ key: charges(no)[0]!.key, refundMinor: first.minor }]);
  expect(await labelOf(no)).toEqual([['voided', first.minor]]);
  expect((await lead.get(`parcels/${no}/label.pdf`)).status).toBe(422);
  const { orderId } = (await house.db.one<{ orderId: string }>('SELECT orderId FROM parcel WHERE no = ?', [
    no.slice(3),
  ]))!;
  const order = (await lead.get(`orders/${orderId}`)).body;
  expect(order.row.stage).toBe('Packed');
  expect(order.history.at(-1).says).toMatch(
    /^Label RF\d+ voided; \$\d+\.\d\d come back from Redfen Parcel\.$/,
  );
  const again = await lead.post(`parcels/${no}/void`, {});
  expect([again.status, again.body.detail]).toEqual([409, `${no} has no bought label.`]);
  expect((await lead.post(`packing/parcels/${no}/open`, {})).status).toBe(200);
  const { sessionId } = (await lead.post('packing/open', { code: no, device: 'test-device' })).body;
  for (const text of ['BX-4', '3 lb', 'AUK-YES', 'AUK-CLOSE'])
    await lead.post(`packing/sessions/${sessionId}/scans`, scanOf(text));
  const second = await buyFor(no);
  expect(second.state).toBe('bought');
  expect(second.tracking).not.toBe(first.tracking);
  expect([charges(no).length, voids(no).length]).toEqual([2, 1]);
  expect(await differences(house)).toEqual([]);
});

test.each(['fail after', 'nonsense', 'fail before', 'late'] as const)(
  'a voiding without an answer (%s) holds the parcel until it is found out, and gives the money back once',
  async how => {
    const no = next();
    await buyFor(no);
    trick(how, 'void', 4_500);
    expect((await lead.post(`parcels/${no}/void`, {})).status).toBe(200);
    expect(await labelOf(no)).toEqual([['void asked', null]]);
    // Nothing is bought and nothing opened meanwhile.
    await buyFor(no);
    expect(charges(no)).toHaveLength(1);
    expect((await lead.post(`packing/parcels/${no}/open`, {})).status).toBe(422);
    await Promise.all([recoverVoids(), recoverVoids()]);
    expect(await labelOf(no)).toEqual([['voided', charges(no)[0]!.minor]]);
    expect(voids(no)).toHaveLength(1);
  },
);

test('a voiding that was done and not answered is not undone by a refusal: the books decide, and only they', async () => {
  const no = next();
  await buyFor(no);
  trick('fail after', 'void');
  await lead.post(`parcels/${no}/void`, {});
  trick('fail before', 'find');
  trick('refuse', 'void');
  await recoverVoids();
  expect(await labelOf(no)).toEqual([['void asked', null]]);
  await recoverVoids();
  expect(await labelOf(no)).toEqual([['voided', charges(no)[0]!.minor]]);
  // The refusal is still to come; it meets the next one, which is asked for the first time.
  const other = next();
  await buyFor(other);
  await lead.post(`parcels/${other}/void`, {});
  expect(await labelOf(other)).toEqual([['bought', null]]);
});

test('a voiding that never arrived is asked for again when the carrier can no longer be at work on it', async () => {
  const no = next();
  await buyFor(no);
  trick('fail before', 'void');
  await lead.post(`parcels/${no}/void`, {});
  await house.db.run("UPDATE label SET askedAt = askedAt - INTERVAL 10 SECOND WHERE state = 'void asked'");
  await house.app.get(Voiding).recover();
  expect([await labelOf(no), voids(no)]).toEqual([[['void asked', null]], []]);
  await recoverVoids();
  expect([(await labelOf(no))[0]![0], voids(no).length]).toEqual(['voided', 1]);
});

test('a carrier that keeps the money leaves the label as it was; what was handed over is not voided', async () => {
  const no = next();
  const bought = await buyFor(no);
  trick('refuse', 'void');
  await lead.post(`parcels/${no}/void`, {});
  expect(await labelOf(no)).toEqual([['bought', null]]);
  expect((await lead.get(`parcels/${no}/label.pdf`)).status).toBe(200);
  await house.db.run('UPDATE parcel SET handedOverAt = NOW(3) WHERE no = ?', [no.slice(3)]);
  const late = await lead.post(`parcels/${no}/void`, {});
  expect([late.status, late.body.detail]).toEqual([422, `${no} has been handed over.`]);
  await house.db.run('UPDATE parcel SET handedOverAt = NULL WHERE no = ?', [no.slice(3)]);
  expect((await (await house.signIn('AB-1003')).post(`parcels/${no}/void`, {})).status).toBe(403);
  expect((await buyFor(no)).tracking).toBe(bought.tracking);
  expect(voids(no)).toEqual([]);
});
