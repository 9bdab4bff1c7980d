import { afterAll, beforeAll, expect, test } from 'vitest';
import { OpenApi } from '../src/docs/docs.module.js';
import { Opening } from '../src/setup/opening.service.js';
import { type Caller, callerAt, differences, type House, openHouse } from './house.js';

let house: House;
let admin: Caller;
beforeAll(async () => {
  house = await openHouse(null);
});
afterAll(() => house.close());

const HOUSE = {
  name: 'North Quay Goods',
  zone: 'Europe/Berlin',
  currency: 'EUR',
  line1: 'Quay 4',
  city: 'Bremen',
  region: '',
  postcode: '28195',
  country: 'DE',
  phone: '',
};
const send = async (path: string, body: unknown) => {
  const answer = await fetch(`${house.url}/api/v1/${path}`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(body),
  });
  return {
    status: answer.status,
    body: await answer.json(),
    cookie: answer.headers.get('set-cookie')?.split(';')[0] ?? '',
  };
};
const open = (code: string, more: object = {}) =>
  send('house/open', { code, admin: { name: 'Ada Quay', pin: '1357' }, house: { ...HOUSE, ...more } });
const stateNow = async () => (await fetch(`${house.url}/api/v1/house`)).json();

test('a house that nobody has opened says so, and lets nobody in', async () => {
  expect(await stateNow()).toMatchObject({ open: false, origin: null });
  expect((await send('people/sign-in', { badge: 'AB-1001', pin: '2468' })).status).toBe(401);
  // There is no code before the start command has printed one.
  expect((await open('ABCDEFGH')).body.detail).toBe('That is not the code of this house.');
});

test('only the newest code opens it; guesses are throttled; a zone, a currency or a country that is none is refused', async () => {
  const first = await house.app.get(Opening).newCode();
  const newest = await house.app.get(Opening).newCode();
  expect(first).not.toBe(newest);
  expect((await open(first)).status).toBe(422);
  for (const wrong of [{ zone: 'Mars/Olympus' }, { currency: 'EURO' }, { country: 'Germany' }, { name: 'x' }])
    expect((await open(newest, wrong)).status).toBe(400);
  const guesses = [];
  for (let i = 0; i < 6; i++) guesses.push((await open(`GUESS-${i}`)).status);
  expect(guesses.at(-1)).toBe(429);
  expect((await open(newest)).status).toBe(429);
  expect(await stateNow()).toMatchObject({ open: false });
  await house.db.run('DELETE FROM signInTry');
});

test('two who open it at once: one of them does, and is signed in as its admin', async () => {
  const code = await house.app.get(Opening).newCode();
  const both = await Promise.all([open(code.toLowerCase()), open(code)]);
  expect(both.map(b => b.status).sort()).toEqual([200, 409]);
  const done = both.find(b => b.status === 200)!;
  expect(done.cookie).toMatch(/^auk=/);
  expect(await stateNow()).toMatchObject({
    open: true,
    origin: 'own',
    name: 'North Quay Goods',
    zone: 'Europe/Berlin',
    currency: 'EUR',
  });
  admin = await callerAt(house.url, done.body.badge, '1357');
  expect((await admin.get('people/me')).body).toMatchObject({ name: 'Ada Quay', role: 'admin' });
  expect((await open(code)).status).toBe(409);
  expect((await admin.get('people')).body).toHaveLength(1);
});

test('in an empty house every question is answered: lists of none, no fault, and the books are whole', async () => {
  const questions = house.app
    .get(OpenApi)
    .operations()
    .filter(o => o.method === 'get' && !o.path.includes('{') && o.answer !== 'events')
    .map(o => ({
      path: o.path.replace('/api/v1/', ''),
      wants: o.parameters.filter(p => p.required).map(p => p.name),
    }));
  expect(questions.length).toBeGreaterThan(50);
  const answers = [];
  for (const { path, wants } of questions) {
    const asked = wants.map(name => `${name}=${name === 'sku' ? 'NONE' : 'x'}`).join('&');
    const { status } = await admin.get(asked ? `${path}?${asked}` : path);
    answers.push([path, status] as const);
  }
  expect(answers.filter(([, status]) => status >= 500)).toEqual([]);
  // What needs nothing to be said is answered.
  const plain = new Set(questions.filter(q => q.wants.length === 0).map(q => q.path));
  expect(answers.filter(([path, status]) => plain.has(path) && status !== 200)).toEqual([]);
  expect(await differences(house)).toEqual([]);
});

test('the first order of a house is typed in its own money, and waits for a product that is there', async () => {
  const { id } = (await admin.post('orders')).body;
  const order = (await admin.get(`orders/${id}`)).body;
  expect(order.row).toMatchObject({ currency: 'EUR' });
  expect((await admin.post(`orders/${id}/finish`, { version: order.version })).status).toBe(422);
  // It has its own channels, and none that sells.
  const channels = (await admin.get('channels')).body as { code: string; link: unknown }[];
  expect(channels.map(c => c.code).sort()).toEqual(['build', 'hand', 'inbound']);
  expect(channels.every(c => c.link === null)).toBe(true);
  expect(await differences(house)).toEqual([]);
});
