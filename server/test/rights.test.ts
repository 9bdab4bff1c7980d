import { RIGHT_NAMES, RIGHTS, type Right, Role } from '@auk/contract';
import { Reflector } from '@nestjs/core';
import { v7 } from 'uuid';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { OpenApi } from '../src/docs/docs.module.js';
import { ACCESS, type Access } from '../src/http/access.js';
import { ENDPOINTS } from './endpoints.js';
import { type Caller, endpoints, type House, openHouse } from './house.js';

let house: House;
let admin: Caller;
beforeAll(async () => {
  house = await openHouse('small');
  admin = await house.signIn('AB-1005');
});
afterAll(() => house.close());

const BADGES: Record<Role, string> = {
  lead: 'AB-1001',
  packer: 'AB-1002',
  picker: 'AB-1003',
  office: 'AB-1004',
  admin: 'AB-1005',
};
/** Endpoints that everybody may call, or whoever is signed in, are not asked for by a right. */
const RIGHTLESS = new Set(['anyone', 'signed in']);
const guarded = Object.entries(ENDPOINTS)
  .filter(([who]) => !RIGHTLESS.has(who))
  .flatMap(([right, list]) => list.map(endpoint => ({ right: right as Right, endpoint })));

/** Calls an endpoint with nothing that it could do; what it refuses for want of a right, it refuses before it looks. */
async function call(cookie: string, endpoint: string): Promise<number> {
  const [method, path] = endpoint.split(' ') as [string, string];
  const answer = await fetch(`${house.url}/api/v1${path.replace(/\{\w+\}/g, 'x')}`, {
    method,
    headers: { cookie, 'content-type': 'application/json' },
    ...(method === 'POST' && { body: '{}' }),
  });
  await answer.body?.cancel();
  return answer.status;
}

/** Calls of many endpoints, some at a time. */
async function calls(cookie: string, list: readonly string[]): Promise<Map<string, number>> {
  const got = new Map<string, number>();
  const queue = [...list];
  const work = async () => {
    for (let next = queue.pop(); next; next = queue.pop()) got.set(next, await call(cookie, next));
  };
  await Promise.all(Array.from({ length: 6 }, work));
  return got;
}

test('the table of endpoints tells every endpoint once, with the right that it asks for', () => {
  const reflector = new Reflector();
  const asks = new Map(
    endpoints(house).map(e => [e.id, reflector.getAllAndOverride<Access>(ACCESS, [e.handler, e.controller])]),
  );
  const there = house.app
    .get(OpenApi)
    .operations()
    .map(o => {
      const access = asks.get(o.id)!;
      const who = typeof access === 'string' ? access : access.right;
      return `${who}: ${o.method.toUpperCase()} ${o.path.replace('/api/v1', '')}`;
    });
  const told = Object.entries(ENDPOINTS).flatMap(([who, list]) => list.map(e => `${who}: ${e}`));
  expect([...told].sort()).toEqual([...there].sort());
  expect(new Set(told).size).toBe(told.length);
});

test('every right is asked for by an endpoint, or by what an endpoint does', () => {
  // Whether an export has buyers, and how a piece came to a screen, is known only when it is looked at.
  const within: Right[] = ['orders.export', 'pick.by-hand', 'pack.by-hand', 'pack.all'];
  const unused = RIGHT_NAMES.filter(r => !ENDPOINTS[r]);
  expect(unused).toEqual(within);
});

test('strangers are refused everywhere but at the doors', async () => {
  const all = [...guarded.map(g => g.endpoint), ...ENDPOINTS['signed in']!];
  const got = await calls('', all);
  expect([...got].filter(([, status]) => status !== 401)).toEqual([]);
});

test('each role is let in where the table of rights lets it, and nowhere else', async () => {
  for (const role of Role.options) {
    const { cookie } = await house.signIn(BADGES[role]);
    const got = await calls(
      cookie,
      guarded.map(g => g.endpoint),
    );
    const wrong = guarded.filter(({ right, endpoint }) => {
      const may = role === 'admin' || (RIGHTS[right].roles as readonly Role[]).includes(role);
      return may === (got.get(endpoint) === 403);
    });
    expect(
      wrong.map(w => `${role} at ${w.endpoint}: ${got.get(w.endpoint)}`),
      role,
    ).toEqual([]);
  }
});

test('one right alone opens its own endpoints and no other: every right at every endpoint', async () => {
  const picker = await house.signIn(BADGES.picker);
  const change = (right: Right, on: boolean) => admin.post('people/rights', { right, role: 'picker', on });
  for (const right of RIGHT_NAMES) await change(right, false);
  const wrong: string[] = [];
  let asked = 0;
  for (const right of RIGHT_NAMES) {
    await change(right, true);
    const got = await calls(
      picker.cookie,
      guarded.map(g => g.endpoint),
    );
    await change(right, false);
    asked += got.size;
    for (const g of guarded)
      if ((g.right === right) === (got.get(g.endpoint) === 403))
        wrong.push(`${right} at ${g.endpoint}: ${got.get(g.endpoint)}`);
  }
  expect(wrong).toEqual([]);
  expect(asked).toBe(RIGHT_NAMES.length * guarded.length);
});

test('after sign-out nothing is done by the old sign-in, however often it is sent; by a new one an act answers as the first time', async () => {
  const before = await house.signIn(BADGES.lead);
  const { places } = (await before.get('products/JAR-HEX-12')).body;
  const move = {
    key: v7(),
    sku: 'JAR-HEX-12',
    from: places[0].code,
    to: 'D-01-1',
    quantity: 1,
    reason: 'stale',
  };
  expect((await before.post('stock/moves', move)).status).toBe(200);
  const moved = () => house.db.rows("SELECT 1 FROM stockMove WHERE reason = 'stale'");
  expect((await before.post('people/sign-out')).status).toBe(200);
  for (const key of [move.key, v7(), v7()])
    expect((await before.post('stock/moves', { ...move, key })).status).toBe(401);
  expect((await before.get('people/me')).status).toBe(401);
  expect(await moved()).toHaveLength(1);
  const again = await house.signIn(BADGES.lead);
  expect((await again.post('stock/moves', move)).status).toBe(200);
  expect(await moved()).toHaveLength(1);
  // Signing out once more, with nobody signed in, is no fault.
  expect((await before.post('people/sign-out')).status).toBe(200);
});

test('no answer lets a script stand in a page: scripts come from Auk itself, and nothing else is run', async () => {
  for (const path of ['/api/docs', '/api/v1/people/me', '/api/v1/no/such/thing']) {
    const answer = await fetch(house.url + path);
    const policy = answer.headers.get('content-security-policy') ?? '';
    const of = (what: string) =>
      policy
        .split(';')
        .find(p => p.trim().startsWith(`${what} `))
        ?.trim();
    expect([path, of('script-src')]).toEqual([path, "script-src 'self' 'wasm-unsafe-eval'"]);
    expect(of('script-src-attr')).toBe("script-src-attr 'none'");
    expect(of('object-src')).toBe("object-src 'none'");
    expect(of('base-uri')).toBe("base-uri 'self'");
    expect(answer.headers.get('x-content-type-options')).toBe('nosniff');
  }
});

test('files that are not what they say are refused, and what is kept is given out as what it is', async () => {
  const lead = await house.signIn(BADGES.lead);
  const send = async (path: string, type: string, body: string | Uint8Array) => {
    const answer = await fetch(`${house.url}/api/v1/${path}`, {
      method: 'POST',
      headers: { cookie: lead.cookie, 'content-type': type },
      body: body as BodyInit,
    });
    return [answer.status, (await answer.text()).length > 0];
  };
  const svg = '<svg xmlns="http://www.w3.org/2000/svg"><script>alert(1)</script></svg>';
  const pictures = [svg, '<html><script>1</script></html>', '%PDF-1.7', 'GIF89a'];
  for (const body of pictures) {
    expect([400, 422]).toContain((await send('products/JAR-HEX-12/picture', 'image/png', body))[0]);
    expect([400, 422]).toContain((await send('mails/brands/web/logo', 'image/png', body))[0]);
  }
  const png = new Uint8Array([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a, 0, 0, 0, 13]);
  expect((await send('products/JAR-HEX-12/picture', 'text/html', png))[0]).toBe(200);
  const { picture } = (await lead.get('products/JAR-HEX-12')).body;
  const kept = await fetch(`${house.url}/api/v1/pictures/${picture.slice('up:'.length)}`, {
    headers: { cookie: lead.cookie },
  });
  expect([kept.headers.get('content-type'), kept.headers.get('x-content-type-options')]).toEqual([
    'image/png',
    'nosniff',
  ]);
  const look = (body: string | Uint8Array) => send('imports/orders?channel=web&name=x.csv', 'text/csv', body);
  expect((await look(png))[0]).toBe(422);
  expect((await look(new Uint8Array([0x50, 0x4b, 3, 4, 0, 0])))[0]).toBe(422);
});
