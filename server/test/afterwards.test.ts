import type { CarrierTracked, TrackedEvent } from '@auk/contract';
import { v7 } from 'uuid';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { Rounds } from '../src/leases/rounds.service.js';
import { buyerToken } from '../src/mails/buyerLink.js';
import { bringIn, type LabelledParcel, letLeave, packAndLabel } from './drive.js';
import { type Caller, differences, type House, openHouse } from './house.js';

let house: House;
let lead: Caller;
let office: Caller;
let packer: Caller;
beforeAll(async () => {
  house = await openHouse('large');
  [lead, office, packer] = [
    await house.signIn('AB-1001'),
    await house.signIn('AB-1004'),
    await house.signIn('AB-1002'),
  ];
});
afterAll(() => house.close());

const rounds = (...names: string[]) => house.app.get(Rounds).once(...names);
/** Mails and tracking that are due are done, however often it takes. */
const settle = async () => {
  await rounds('tracking');
  await rounds('stages passed', 'jobs');
  await rounds('jobs');
};
const heron = (offers: { carrier: string }[]) => offers.find(o => o.carrier === 'heron') as never;
const mails = (): string[] =>
  house.standins.mail.names().map(n => house.standins.mail.mail(n)!.toString('utf8'));
/** Mails to an address, whose text lines may be broken as mail breaks them. */
const mailsTo = (mail: string) =>
  mails()
    .filter(m => new RegExp(`^To: .*${mail}`, 'm').test(m))
    .map(m => m.replace(/=\r?\n/g, ''));
const mailOf = async (id: string): Promise<string> => (await lead.get(`orders/${id}`)).body.mail;

const askSoon = (p: LabelledParcel) =>
  house.db.run(
    'UPDATE trackedParcel SET askAt = NOW(3) - INTERVAL 1 SECOND WHERE labelId IN (SELECT id FROM label WHERE tracking = ?)',
    [p.tracking],
  );

let events = 0;
/** Something happens to a parcel at the carrier; Auk hears of it when it asks next, which is at once. */
async function happens(parcel: LabelledParcel, kind: TrackedEvent['kind'], says = kind, at = new Date()) {
  house.standins.desks.get('heron')!.kept.happened.write({
    key: `${parcel.tracking} ${++events}`,
    tracking: parcel.tracking,
    id: `e${events}`,
    at: at.toISOString(),
    kind,
    says,
    place: 'Toledo',
  });
  await askSoon(parcel);
  await settle();
}
const way = async (p: LabelledParcel) => (await lead.get(`parcels/${p.parcelNo}/way`)).body;

/** A parcel that left with Heron Post, with luck that brings it to its door. */
async function gone(): Promise<LabelledParcel> {
  const parcel = await packAndLabel(lead, undefined, heron);
  await letLeave(lead, [parcel]);
  await settle();
  // Its carrier knows by now that it has it; it is asked again at once.
  await askSoon(parcel);
  await settle();
  return parcel;
}

let parcel: LabelledParcel;

test('a parcel that left is followed: what its carrier tells stands on it, the buyer is told once, and it is not asked after when it is over', async () => {
  parcel = await gone();
  expect((await way(parcel)).state).toBe('collected');
  const to = await mailOf(parcel.orderId);
  const left = mailsTo(to);
  expect(left).toHaveLength(1);
  expect(left[0]).toContain(`Your order ${parcel.number} is on its way`);
  expect(left[0]).toContain(parcel.tracking);
  await happens(parcel, 'delivered', 'Left at the door' as never, new Date(Date.now() + 1));
  expect(await way(parcel)).toMatchObject({ state: 'delivered', says: 'Left at the door', trouble: null });
  expect(mailsTo(to)).toHaveLength(2);
  const tracked = await house.db.one<{ askAt: Date | null }>(
    'SELECT t.askAt FROM trackedParcel t JOIN label b ON b.id = t.labelId WHERE b.tracking = ?',
    [parcel.tracking],
  );
  expect(tracked!.askAt).toBeNull();
  // The same told again, and a scan of the truck that comes after the door, change nothing.
  await happens(parcel, 'on the way', 'Sorted' as never, new Date(Date.now() + 2));
  expect((await way(parcel)).state).toBe('delivered');
  expect(mailsTo(to)).toHaveLength(2);
  expect(
    (await lead.get(`orders/${parcel.orderId}`)).body.history.map((h: { says: string }) => h.says),
  ).toContain(`${parcel.parcelNo}: delivered. Left at the door`);
});

test('a parcel that left long ago is listed when somebody comes for it', async () => {
  await house.db.run('UPDATE parcel SET departedAt = NOW() - INTERVAL 13 HOUR WHERE no = ?', [
    Number(parcel.parcelNo.slice(3)),
  ]);
  const listed = async (look: string) =>
    (await lead.get(`parcels${look}`)).body.map((p: { no: string }) => p.no);
  expect(await listed('')).not.toContain(parcel.parcelNo);
  expect((await listed(`?look=${parcel.parcelNo}`))[0]).toBe(parcel.parcelNo);
  // It is told once, also where it is listed anyway; and none is made up.
  const [first] = await listed('');
  if (first) expect((await listed(`?look=${first}`)).filter((no: string) => no === first)).toHaveLength(1);
  expect(await listed('?look=PA-999999999')).toEqual(await listed(''));
  expect((await lead.get('parcels?look=anything')).status).toBe(400);
});

test('the carrier is told what left, once, and its manifest stands on the departure', async () => {
  const days = house.standins.desks.get('heron')!.kept.days.all();
  expect(days.filter(d => d.trackings.includes(parcel.tracking))).toHaveLength(1);
  const view = (await lead.get(`departures/${parcel.departure}`)).body;
  expect(view.manifest).toBe(days.at(-1)!.manifest);
});

test('trouble on the way is on the page of parcels, and told by mail to those who want to hear of it', async () => {
  expect(
    (await lead.post('mails/alerts', { kind: 'trouble', channel: '', mail: 'desk@skepside.example' })).status,
  ).toBe(200);
  const held = await gone();
  await happens(held, 'exception', 'No such house number' as never);
  const row = (await lead.get('parcels')).body.find((p: { no: string }) => p.no === held.parcelNo);
  expect(row).toMatchObject({
    track: 'exception',
    trouble: { trouble: 'exception', says: 'No such house number' },
  });
  expect(mailsTo('desk@skepside.example')).toHaveLength(1);
  expect(mailsTo('desk@skepside.example')[0]).toContain('No such house number');
});

test('a carrier that is silent, talks nonsense or knows nothing is asked again later, and what was known stays', async () => {
  const p = await gone();
  const { state } = await way(p);
  for (const how of ['fail before', 'nonsense', 'refuse'] as const) {
    house.standins.misbehave('heron', { on: 'track', how, times: 1, ms: 0 });
    await askSoon(p);
    await rounds('tracking');
    expect(await way(p)).toMatchObject({ state });
    const asked = await house.db.one<{ soon: number; why: string | null }>(
      'SELECT t.askAt > NOW(3) AS soon, t.why FROM trackedParcel t JOIN label b ON b.id = t.labelId WHERE b.tracking = ?',
      [p.tracking],
    );
    expect(asked).toMatchObject({ soon: 1 });
    expect(asked!.why).not.toBeNull();
  }
  expect((await lead.get('parcels/PA-999999/way')).status).toBe(404);
});

test('a buyer sees the order behind a link that cannot be guessed, and writes; the house answers by mail and on the page', async () => {
  const { link } = (await office.get(`orders/${parcel.orderId}/thread`)).body;
  const token = link.split('/b/')[1];
  const open = (path: string, init?: RequestInit) => fetch(`${house.url}/api/v1/buyers/${path}`, init);
  const page = await (await open(token)).json();
  expect(page).toMatchObject({ number: parcel.number, stage: 'arrived' });
  expect(page.parcels[0]).toMatchObject({ tracking: parcel.tracking, state: 'delivered' });
  expect(JSON.stringify(page)).not.toContain(await mailOf(parcel.orderId));
  const [no, mark] = token.split(/-(.*)/s);
  const other = mark.endsWith('x') ? 'y' : 'x';
  for (const wrong of [
    `${no}-${mark.slice(0, -1)}${other}`,
    `${Number(no) + 1}-${mark}`,
    'x',
    `${no}-`,
    encodeURIComponent('../people'),
  ])
    expect((await open(wrong)).status).toBe(404);
  const write = (text: unknown, key = v7()) =>
    open(`${token}/messages`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ key, text }),
    });
  const key = v7();
  const both = await Promise.all([write('A jar is broken.', key), write('A jar is broken.', key)]);
  expect(both.map(r => r.status)).toEqual([200, 200]);
  const board = (await lead.get('departures/board')).body.needs;
  expect(board.filter((n: { code: string }) => n.code === 'message')).toMatchObject([
    { subject: parcel.number, detail: 'A jar is broken.' },
  ]);
  const answered = await office.post(`orders/${parcel.orderId}/messages`, {
    key: v7(),
    text: 'A new one is on its way.',
  });
  expect(answered.body.rows.filter((r: { kind: string }) => r.kind !== 'mail')).toMatchObject([
    { kind: 'buyer', text: 'A jar is broken.', state: null },
    { kind: 'house', text: 'A new one is on its way.', state: 'waiting' },
  ]);
  await rounds('jobs');
  expect(mailsTo(await mailOf(parcel.orderId)).at(-1)).toContain('A new one is on its way.');
  const after = await (await open(token)).json();
  expect(after.messages.map((m: { text: string }) => m.text)).toEqual([
    'A jar is broken.',
    'A new one is on its way.',
  ]);
  expect((await packer.post(`orders/${parcel.orderId}/messages`, { key: v7(), text: 'x' })).status).toBe(403);
});

test('a page takes short messages, not too many, and none from another site; it ends 90 days after delivery', async () => {
  const token = (await office.get(`orders/${parcel.orderId}/thread`)).body.link.split('/b/')[1];
  const write = (text: string, headers: Record<string, string> = {}) =>
    fetch(`${house.url}/api/v1/buyers/${token}/messages`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', ...headers },
      body: JSON.stringify({ key: v7(), text }),
    });
  expect((await write('')).status).toBe(400);
  expect((await write('x'.repeat(2001))).status).toBe(400);
  expect((await write('x'.repeat(20_000))).status).toBe(413);
  expect((await write('hello', { origin: 'https://elsewhere.example' })).status).toBe(403);
  const statuses: number[] = [];
  for (let i = 0; i < 6; i++) statuses.push((await write(`message ${i}`)).status);
  expect(statuses).toEqual([200, 200, 200, 200, 429, 429]);
  await house.db.run(
    'UPDATE trackedParcel t JOIN label b ON b.id = t.labelId SET t.since = NOW(3) - INTERVAL 89 DAY WHERE b.tracking = ?',
    [parcel.tracking],
  );
  expect((await fetch(`${house.url}/api/v1/buyers/${token}`)).status).toBe(200);
  await house.db.run(
    'UPDATE trackedParcel t JOIN label b ON b.id = t.labelId SET t.since = NOW(3) - INTERVAL 90 DAY WHERE b.tracking = ?',
    [parcel.tracking],
  );
  expect((await fetch(`${house.url}/api/v1/buyers/${token}`)).status).toBe(404);
  expect((await write('too late')).status).toBe(404);
});

test('a mail that no mailbox takes comes back, is shown, and goes out again to the address that was corrected', async () => {
  const held = await packAndLabel(lead, undefined, heron);
  const setMail = async (mail: string) => {
    const { version } = (await office.get(`orders/${held.orderId}`)).body;
    return (await office.post(`orders/${held.orderId}/edit`, { version, mail, undo: true })).status;
  };
  await house.db.run("UPDATE orders SET mail = 'nobody@mail.example' WHERE id = ?", [held.orderId]);
  await letLeave(lead, [held]);
  await settle();
  const { bounced } = (await lead.get('mails')).body;
  expect(bounced).toMatchObject([{ to: 'nobody@mail.example', order: held.number }]);
  expect(bounced[0].why).toContain('no such mailbox');
  const needs = (await lead.get('departures/board')).body.needs;
  expect(needs.filter((n: { code: string }) => n.code === 'mail')).toMatchObject([{ subject: held.number }]);
  expect(await setMail('corrected@mail.example')).toBe(200);
  expect((await lead.post(`mails/${bounced[0].id}/again`)).status).toBe(200);
  expect((await lead.post(`mails/${bounced[0].id}/again`)).status).toBe(404);
  await settle();
  expect(mailsTo('corrected@mail.example')).toHaveLength(1);
  expect((await lead.get('mails')).body.bounced).toEqual([]);
});

test('a mail server that is away or busy for a while gets each mail once when it is back', async () => {
  const p = await packAndLabel(lead, undefined, heron);
  const to = await mailOf(p.orderId);
  const before = mailsTo(to).length;
  house.standins.mail.closed = true;
  await letLeave(lead, [p]);
  await settle();
  expect(mailsTo(to)).toHaveLength(before);
  expect((await lead.get('mails')).body.waiting).toBeGreaterThan(0);
  house.standins.mail.closed = false;
  await house.db.run("UPDATE job SET runAt = NOW(3) - INTERVAL 1 SECOND WHERE state = 'waiting'");
  await settle();
  expect(mailsTo(to)).toHaveLength(before + 1);
  expect((await lead.get('mails')).body.waiting).toBe(0);
});

test('what is told and to whom is a setting; a word in braces that nobody knows is refused', async () => {
  const template = (more: object) => ({
    moment: 'packed',
    channel: '',
    inUse: true,
    subject: '{order} is packed',
    text: 'Hello {buyer}',
    ...more,
  });
  expect((await lead.post('mails/templates', template({ text: 'Hello {friend}' }))).status).toBe(400);
  expect((await lead.post('mails/templates', template({ channel: 'none' }))).status).toBe(404);
  expect((await packer.post('mails/templates', template({}))).status).toBe(403);
  expect((await lead.post('mails/templates', template({}))).status).toBe(200);
  const p = await packAndLabel(lead, undefined, heron);
  await settle();
  const [mail] = mailsTo(await mailOf(p.orderId)).slice(-1);
  expect(mail).toContain(`${p.number} is packed`);
  const { templates } = (await lead.get('mails')).body;
  const { id } = templates.find((t: { moment: string }) => t.moment === 'packed');
  expect((await lead.post(`mails/templates/${id}/remove`)).status).toBe(200);
  expect((await lead.post(`mails/templates/${id}/remove`)).status).toBe(404);
});

test('who wants to hear of new orders of a channel hears of each once, and of no other channel', async () => {
  for (const channel of ['web', 'plaza'])
    await lead.post('mails/alerts', { kind: 'order', channel, mail: `${channel}-desk@skepside.example` });
  await bringIn(lead, [
    ['AL-1', 'FRK-UNC', 1, '9.00'],
    ['AL-2', 'FRK-UNC', 2, '9.00'],
  ]);
  await settle();
  await settle();
  const told = mailsTo('web-desk@skepside.example');
  expect(told).toHaveLength(2);
  expect(told.join('\n')).toMatch(/Subject: New order AL-[12][\s\S]*Subject: New order AL-[12]/);
  expect(mailsTo('plaza-desk@skepside.example')).toHaveLength(0);
  for (const { id, kind } of (await lead.get('mails')).body.alerts)
    if (kind === 'order') await lead.post(`mails/alerts/${id}/remove`);
});

test('how mails leave is set with what they need, and a brand has its colour and logo', async () => {
  const { way } = (await lead.get('mails')).body;
  expect((await lead.post('mails/way', { ...way, from: '' })).status).toBe(422);
  expect((await lead.post('mails/way', { ...way, server: 'http://mail.example' })).status).toBe(400);
  const keys = { user: 'bees', password: 'honey' };
  expect((await lead.post('mails/way', { ...way, ...keys })).status).toBe(200);
  expect((await lead.get('mails')).body.way).toMatchObject({ user: 'bees', hasPassword: true });
  expect(JSON.stringify((await lead.get('mails')).body)).not.toContain('honey');
  expect((await lead.post('mails/way', { ...way, user: '', password: '' })).status).toBe(200);
  expect((await lead.post('mails/brands/web', { colour: 'green', sentFrom: '' })).status).toBe(400);
  expect((await lead.post('mails/brands/web', { colour: '#123456', sentFrom: '' })).status).toBe(200);
  expect((await lead.file('mails/brands/web/logo', 'no picture')).status).toBe(400);
  const png = Buffer.from(
    'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
    'base64',
  );
  expect((await lead.file('mails/brands/web/logo', png)).status).toBe(200);
  const brand = (await lead.get('mails')).body.brands.find((b: { channel: string }) => b.channel === 'web');
  expect(brand).toMatchObject({ colour: '#123456', hasLogo: true });
  const web = (await house.db.one<{ no: number }>(
    "SELECT o.no FROM orders o JOIN channel h ON h.id = o.channelId WHERE h.code = 'web' LIMIT 1",
  ))!;
  const logo = await fetch(`${house.url}/api/v1/buyers/${buyerToken(web.no)}/logo`);
  expect(logo.headers.get('content-type')).toBe('image/png');
  const [alert] = (await lead.get('mails')).body.alerts;
  expect((await lead.post(`mails/alerts/${alert.id}/remove`)).status).toBe(200);
  expect((await lead.get('mails')).body.alerts).toEqual([]);
});

test('unread messages are marked as seen without an answer', async () => {
  const p = await gone();
  const token = (await office.get(`orders/${p.orderId}/thread`)).body.link.split('/b/')[1];
  await fetch(`${house.url}/api/v1/buyers/${token}/messages`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ key: v7(), text: 'Thank you!' }),
  });
  expect((await office.get(`orders/${p.orderId}/thread`)).body.unread).toBe(1);
  const waits = async () => ({
    strip: (await office.get('departures/strip')).body.wrote,
    listed: (await office.get('orders?stage=all&wrote=yes')).body.rows.map((r: { id: string }) => r.id),
  });
  const { strip, listed } = await waits();
  expect(listed).toContain(p.orderId);
  expect(strip).toBe(listed.length);
  expect((await office.post(`orders/${p.orderId}/messages/seen`)).body.unread).toBe(0);
  expect(await waits()).toEqual({
    strip: strip - 1,
    listed: listed.filter((id: string) => id !== p.orderId),
  });
});

test('every kind of carrier is asked in its own words, and nothing derived is wrong after all this', async () => {
  for (const [code, desk] of house.standins.desks) {
    const day = { key: `day ${code}`, at: new Date().toISOString(), trackings: ['XX12345'] };
    const { CarrierRegistry } = await import('../src/carriers/carriers.module.js');
    const carrier = (await house.app.get(CarrierRegistry).get(code))!;
    const told = await carrier.endDay(day);
    expect(told).toMatchObject({ kind: 'answered', value: { unknown: ['XX12345'] } });
    expect(await carrier.endDay(day)).toEqual(told);
    const wish = {
      key: v7(),
      account: '',
      postcode: '43701',
      country: 'US',
      readyBy: day.at,
      parcels: 2,
      weightMg: 5,
    };
    const booked = await carrier.collect(wish);
    expect(await carrier.collect(wish)).toEqual(booked);
    expect(desk.kept.collections.all().filter(c => c.key === wish.key)).toHaveLength(1);
    expect(await carrier.track(['XX12345'])).toEqual({ kind: 'answered', value: [] as CarrierTracked[] });
  }
  expect(await differences(house)).toEqual([]);
});
