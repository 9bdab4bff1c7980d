import { connect } from 'node:net';
import { RIGHT_NAMES, RIGHTS } from '@auk/contract';
import { v7 } from 'uuid';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { waitAfter } from '../src/people/throttle.js';
import { seal } from '../src/reference/sealing.js';
import { type Caller, type House, openHouse } from './house.js';

let house: House;
let lead: Caller;
let admin: Caller;
beforeAll(async () => {
  house = await openHouse('small');
  [lead, admin] = [await house.signIn('AB-1001'), await house.signIn('AB-1005')];
});
afterAll(() => house.close());

const signIn = (badge: string, pin: string, headers: Record<string, string> = {}) =>
  fetch(`${house.url}/api/v1/people/sign-in`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', ...headers },
    body: JSON.stringify({ badge, pin }),
  });
/** So many seconds pass for a badge that waits. */
const pass = (badge: string, seconds: number) =>
  house.db.run('UPDATE signInTry SET until = until - INTERVAL ? SECOND WHERE badge = ?', [seconds, badge]);

test('guessing in parallel is throttled as well as one by one', async () => {
  const answers = await Promise.all(
    Array.from({ length: 30 }, (_, i) => signIn('AB-1006', String(1000 + i)).then(r => r.status)),
  );
  expect(answers.filter(s => s === 401)).toHaveLength(5);
  expect(answers.filter(s => s === 429)).toHaveLength(25);
  const right = await signIn('AB-1006', '2468');
  expect(right.status).toBe(429);
  expect((await right.json()).cure).toContain('Wait');
});

test('waits grow with every further try, and a right PIN ends them', async () => {
  expect([1, 4, 5, 6, 7, 20].map(waitAfter)).toEqual([0, 0, 120, 240, 480, 3_600]);
  await pass('AB-1006', 121);
  expect((await signIn('AB-1006', '0000')).status).toBe(401);
  await pass('AB-1006', 121);
  expect((await signIn('AB-1006', '2468')).status).toBe(429);
  await pass('AB-1006', 120);
  expect((await signIn('AB-1006', '2468')).status).toBe(200);
  expect((await signIn('AB-1006', '0000')).status).toBe(401);
  expect((await signIn('AB-1006', '2468')).status).toBe(200);
});

test('an unknown badge is refused in the same words, is throttled too, and is not told from a known one by its work', async () => {
  const known = await (await signIn('AB-1002', '0000')).json();
  const unknown = await (await signIn('AB-9999', '0000')).json();
  expect(unknown).toEqual(known);
  for (let i = 0; i < 4; i++) expect((await signIn('AB-9999', '0000')).status).toBe(401);
  expect((await signIn('AB-9999', '0000')).status).toBe(429);
  const took = async (badge: string) => {
    await house.db.run('DELETE FROM signInTry');
    const began = performance.now();
    await signIn(badge, '0000');
    return performance.now() - began;
  };
  const median = async (badge: string) => {
    const all = [];
    for (let i = 0; i < 9; i++) all.push(await took(badge));
    return all.sort((a, b) => a - b)[4]!;
  };
  const [a, b] = [await median('AB-1002'), await median('AB-7777')];
  expect(Math.max(a, b) / Math.min(a, b)).toBeLessThan(3);
});

test('the body of a stranger is refused before it is read', async () => {
  const { port, hostname } = new URL(house.url);
  const socket = connect(Number(port), hostname);
  socket.on('error', () => undefined);
  const answer = new Promise<string>(resolve => {
    let text = '';
    socket.on('data', d => {
      text += d;
      if (text.includes('\r\n\r\n')) resolve(text);
    });
  });
  // The head of a large upload, and not a byte of it.
  socket.write(
    `POST /api/v1/imports/orders?channel=web&name=x.csv HTTP/1.1\r\nHost: ${hostname}:${port}\r\nContent-Type: text/csv\r\nContent-Length: 15000000\r\n\r\n`,
  );
  const head = await answer;
  socket.destroy();
  expect(head).toContain('401');
  expect(head.toLowerCase()).toContain('connection: close');
});

test('before sign-in only small bodies are read', async () => {
  const big = await fetch(`${house.url}/api/v1/people/sign-in`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ badge: 'x'.repeat(10_000), pin: '0000' }),
  });
  expect(big.status).toBe(413);
});

test('behind TLS and a proxy the cookie is Secure and the origin is the one that the browser sees', async () => {
  const through = { 'x-forwarded-proto': 'https', 'x-forwarded-host': 'auk.skepside.example' };
  const right = await signIn('AB-1001', '2468', { ...through, origin: 'https://auk.skepside.example' });
  expect(right.status).toBe(200);
  expect(right.headers.get('set-cookie')).toContain('Secure');
  expect(
    (await signIn('AB-1001', '2468', { ...through, origin: 'http://auk.skepside.example' })).status,
  ).toBe(403);
  const plain = await signIn('AB-1001', '2468', { origin: house.url });
  expect(plain.status).toBe(200);
  expect(plain.headers.get('set-cookie')).not.toContain('Secure');
});

test('exports with buyers need the right to them; those without buyers do not', async () => {
  const picker = await house.signIn('AB-1003');
  for (const what of ['orders', 'parcels']) {
    const refused = await picker.get(`exports/${what}?format=csv`);
    expect([refused.status, refused.body.cure]).toEqual([403, expect.stringContaining('Setup > People')]);
  }
  expect((await picker.get('exports/products?format=csv')).status).toBe(200);
  const office = await house.signIn('AB-1004');
  expect((await office.get('exports/orders?format=csv')).status).toBe(200);
});

test('a key that was sealed with another secret does not break the page on which keys are entered', async () => {
  const secret = process.env.AUK_SECRET;
  process.env.AUK_SECRET = 'another secret, long enough';
  const sealed = seal('old-key');
  process.env.AUK_SECRET = secret;
  await house.db.run(
    "UPDATE channelLink l JOIN channel c ON c.id = l.channelId SET l.keySealed = ? WHERE c.code = 'web'",
    [sealed],
  );
  const channels = await lead.get('channels');
  expect(channels.status).toBe(200);
  const { link } = channels.body.find((c: { code: string }) => c.code === 'web');
  expect(link.keyEnds).toBeNull();
  const body = { kind: link.kind, address: link.address, everyMinutes: 5, active: true };
  expect((await lead.post('channels/web/connect', { ...body, key: 'web-demo-key' })).status).toBe(200);
});

test('the admin adds people, changes and retires them, gives PINs and badges', async () => {
  const wish = { key: v7(), name: 'Jory Pike', role: 'picker', pin: '9753' };
  const made = await admin.post('people', wish);
  expect(made.body.badge).toMatch(/^AB-\d{4}$/);
  expect((await admin.post('people', wish)).body).toEqual(made.body);
  expect((await lead.post('people', { ...wish, key: v7() })).status).toBe(403);
  expect((await signIn(made.body.badge, '9753')).status).toBe(200);
  const row = (await admin.get('people')).body.find((p: { badge: string }) => p.badge === made.body.badge);
  const pdf = await admin.get(`people/${row.id}/badge.pdf`);
  expect(pdf.body.slice(0, 5)).toBe('%PDF-');
  for (let i = 0; i < 6; i++) await signIn(row.badge, '0000');
  expect((await signIn(row.badge, '9753')).status).toBe(429);
  expect((await admin.post(`people/${row.id}/pin`, { pin: '8642' })).status).toBe(200);
  const again = await signIn(row.badge, '8642');
  expect(again.status).toBe(200);
  const cookie = again.headers.get('set-cookie')!.split(';')[0]!;
  const me = () => fetch(`${house.url}/api/v1/people/me`, { headers: { cookie } }).then(r => r.status);
  expect(await me()).toBe(200);
  await admin.post(`people/${row.id}`, { name: 'Jory Pike', role: 'picker', active: false });
  expect(await me()).toBe(401);
  expect((await signIn(row.badge, '8642')).status).toBe(401);
  const self = (await admin.get('people')).body.find((p: { badge: string }) => p.badge === 'AB-1005');
  const last = await admin.post(`people/${self.id}`, { name: self.name, role: 'lead', active: true });
  expect([last.status, last.body.detail]).toEqual([422, 'Abel Quist is the only admin.']);
});

test('rights are one table: what the admin changes counts at once, on the server and in what the front is told', async () => {
  const picker = await house.signIn('AB-1003');
  const has = async () =>
    ((await picker.get('people/me')).body.rights as string[]).includes('stock.write-off');
  const off = () =>
    picker.post('stock/write-offs', { key: v7(), sku: 'NOPE', from: 'A-01-1', quantity: 1, reason: 'test' });
  expect([await has(), (await off()).status]).toEqual([false, 403]);
  const change = (right: string, role: string, on: boolean) =>
    admin.post('people/rights', { right, role, on });
  await Promise.all([
    change('stock.write-off', 'picker', true),
    change('lists.release', 'office', true),
    change('pick', 'packer', false),
  ]);
  expect([await has(), (await off()).status]).toEqual([true, 404]);
  const { body } = await admin.get('people/rights');
  expect(body['lists.release']).toContain('office');
  expect(body.pick).not.toContain('packer');
  expect((await change('pick', 'admin', false)).status).toBe(422);
  expect(((await admin.get('people/me')).body.rights as string[]).sort()).toEqual([...RIGHT_NAMES].sort());
  await change('stock.write-off', 'picker', false);
  await change('pick', 'packer', true);
  expect(Object.values(RIGHTS).every(r => r.words.length > 3)).toBe(true);
});

test('every problem has a stable type and says whether trying again helps', async () => {
  const stranger = await (await fetch(`${house.url}/api/v1/orders`)).json();
  expect(stranger).toMatchObject({ type: '/problems/not-signed-in', retry: 'later', status: 401 });
  expect((await lead.get('orders/not-an-id')).body).toMatchObject({
    type: '/problems/malformed',
    retry: 'never',
  });
  expect((await lead.get(`orders/${v7()}`)).body).toMatchObject({
    type: '/problems/not-here',
    retry: 'never',
  });
});
