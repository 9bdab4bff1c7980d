import { connect } from 'node:net';
import { Reflector } from '@nestjs/core';
import { v7 } from 'uuid';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { ACCESS } from '../src/http/access.js';
import { orderCsv, ordersIn, scanOf } from './drive.js';
import { type Answer, type Caller, differences, endpoints, type House, openHouse } from './house.js';

let house: House;
let lead: Caller;
let picker: Caller;
beforeAll(async () => {
  house = await openHouse();
  [lead, picker] = [await house.signIn('AB-1001'), await house.signIn('AB-1003')];
});
afterAll(() => house.close());

/** A refusal is a sentence with a cure, and never the server's fault. */
function refused(answer: Answer, status: number): void {
  expect(answer.status, JSON.stringify(answer.body)).toBe(status);
  expect(answer.body.detail.length).toBeGreaterThan(10);
  expect(answer.body.cure.length).toBeGreaterThan(3);
}

const importTo = (bytes: Buffer | string) => lead.takeIn('orders', 'channel=web&name=x.csv', bytes);

test('every endpoint states who may call it, and strangers are refused', async () => {
  const reflector = new Reflector();
  const all = endpoints(house);
  expect(all.length).toBeGreaterThan(100);
  expect(
    all.filter(e => !reflector.getAllAndOverride(ACCESS, [e.handler, e.controller])).map(e => e.id),
  ).toEqual([]);
  const response = await fetch(`${house.url}/api/v1/orders`);
  expect(response.status).toBe(401);
  expect((await picker.post('picking/lists', { orderIds: [v7()] })).status).toBe(403);
  const foreign = await fetch(`${house.url}/api/v1/people/sign-in`, {
    method: 'POST',
    headers: { origin: 'http://evil.example', 'content-type': 'application/json' },
    body: '{}',
  });
  expect(foreign.status).toBe(403);
});

test('five wrong PINs make a pause', async () => {
  const wrong = () =>
    fetch(`${house.url}/api/v1/people/sign-in`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ badge: 'AB-1006', pin: '0000' }),
    }).then(r => r.status);
  const answers = [];
  for (let i = 0; i < 6; i++) answers.push(await wrong());
  expect(answers).toEqual([401, 401, 401, 401, 401, 429]);
});

test('the same file again changes nothing; a changed head is taken over', async () => {
  const rows = (street: string) => orderCsv([`S-1,Ruth,${street},Boise,ID,83702,SED-PHA,Seeds,1,2.50`]);
  expect((await importTo(rows('1 Road'))).body.counts).toMatchObject({ new: 1 });
  const count = async () =>
    (await house.db.one<{ n: number }>(
      'SELECT (SELECT COUNT(*) FROM orders) + (SELECT COUNT(*) FROM allocationEntry) + (SELECT COUNT(*) FROM orderEvent) AS n',
    ))!.n;
  const before = await count();
  expect((await importTo(rows('1 Road'))).body.counts).toMatchObject({ new: 0, same: 1 });
  expect(await count()).toBe(before);
  expect((await importTo(rows('2 Road'))).body.counts).toMatchObject({ changed: 1 });
  expect((await lead.get('orders?words=S-1')).body.rows).toHaveLength(1);
});

test('an order stopped by its postcode is freed when the channel sends it corrected', async () => {
  const rows = (postcode: string) => orderCsv([`Z-1,Ruth,1 Road,Boise,ID,${postcode},SED-PHA,Seeds,1,2.50`]);
  expect((await importTo(rows('8370'))).body.stages).toEqual({ Stopped: 1 });
  expect((await lead.get('orders?words=Z-1')).body.rows[0].reason).toContain('8370 is not a postcode');
  await importTo(rows('83702'));
  expect((await lead.get('orders?words=Z-1')).body.rows[0].stage).toBe('Clear');
});

test('two people drop one file at the same moment: every order is there once', async () => {
  const csv = orderCsv(
    Array.from({ length: 60 }, (_, i) => `D-${i},Ruth,1 Road,Boise,ID,83702,SED-PHA,Seeds,1,2.50`),
  );
  const both = await Promise.all([importTo(csv), importTo(csv)]);
  expect(both.map(b => b.body.counts.new).toSorted((a, b) => a - b)).toEqual([0, 60]);
  expect(await differences(house)).toEqual([]);
});

test('files that are no files of orders', async () => {
  refused(await importTo(''), 422);
  refused(await importTo('a,b\n1,2\n'), 422);
  refused(await importTo(Buffer.from([0x50, 0x4b, 0, 1, 2, 3, 0])), 422);
  refused(await importTo(`Order number,"unclosed\n1,2`), 422);
  refused(await importTo(Buffer.alloc(50 * 1024 * 1024, 'a')), 413);
  refused(await lead.file('imports/orders?channel=nowhere&name=x', orderCsv([])), 404);
  const latin = Buffer.from(
    orderCsv(['E-1,Zoë Brandt,1 Road,Boise,ID,83702,SED-PHA,Seeds,1,2.50']),
    'latin1',
  );
  expect((await importTo(latin)).body.rows[0].about).toContain('Zoë Brandt');
  const bom = `\ufeff${orderCsv(['E-2;x']).replaceAll(',', ';')}`;
  expect((await importTo(bom)).body.bad.length).toBeGreaterThan(0);
});

test('scans that are noise are answered in words', async () => {
  const [id] = await ordersIn(lead, 'Picked', 1);
  const { sessionId } = (
    await lead.post('packing/open', { code: (await lead.get(`orders/${id}`)).body.row.no, device: 'd' })
  ).body;
  const path = `packing/sessions/${sessionId}/scans`;
  for (const text of [
    '',
    'x'.repeat(10_000),
    'a\u0000b\u0007',
    '-5',
    '99999',
    "'; DROP TABLE orders; --",
    '😀😀😀',
  ]) {
    const answer = await lead.post(path, scanOf(text));
    expect(answer.status).toBe(200);
    expect(answer.body.answer.tone).toBe('wrong');
  }
  refused(await lead.post(path, { ...scanOf('x'), text: 'x'.repeat(20_001) }), 400);
  refused(await lead.post(path, { ...scanOf('x'), id: 'no id' }), 400);
  refused(await lead.post(`packing/sessions/${v7()}/scans`, scanOf('x')), 404);
  expect((await lead.get(`find?text=${'x'.repeat(10_000)}`)).body.says).toContain('10000 characters');
  refused(await lead.post('people/sign-in', { badge: { $ne: 1 }, pin: '2468' }), 400);
});

test('what is no HTTP, and an address or headers without end, are refused in words too; what is no id says so', async () => {
  /** Sends bytes as they are, and gives what comes back until the server hangs up. */
  const raw = (bytes: string) =>
    new Promise<{ head: string; body: string }>((resolve, reject) => {
      const socket = connect(Number(new URL(house.url).port), '127.0.0.1', () => socket.write(bytes));
      let got = '';
      socket.on('data', part => {
        got += part;
      });
      socket.on('end', () => {
        const [head, body] = got.split('\r\n\r\n') as [string, string];
        resolve({ head, body });
      });
      socket.on('error', reject);
    });
  for (const [bytes, status] of [
    ['hello\r\n\r\n', 400],
    ['GET /api/v1/orders HTTP/1.1\r\nHost: x\r\nbad header\r\n\r\n', 400],
    [`GET /api/v1/find?text=${'x'.repeat(20_000)} HTTP/1.1\r\nHost: x\r\n\r\n`, 413],
    [`GET /api/v1/orders HTTP/1.1\r\nHost: x\r\nX-Long: ${'x'.repeat(20_000)}\r\n\r\n`, 413],
  ] as const) {
    const { head, body } = await raw(bytes);
    expect(head).toContain(`HTTP/1.1 ${status} `);
    expect(head).toContain('application/problem+json');
    refused({ status, body: JSON.parse(body) } as Answer, status);
  }
  const nothing = await lead.get('orders/new');
  refused(nothing, 400);
  expect(nothing.body.detail).toBe('The request: it is not the id of anything in Auk.');
});

test('a stage cannot be skipped by a request made by hand', async () => {
  const [clear] = await ordersIn(lead, 'Clear', 1);
  const order = (await lead.get(`orders/${clear}`)).body;
  refused(await lead.post('packing/open', { code: order.row.no, device: 'd' }), 422);
  const [listed] = await ordersIn(lead, 'Listed', 1);
  refused(await lead.post('picking/lists', { orderIds: [listed] }), 409);
  const [picked] = await ordersIn(lead, 'Picked', 1);
  const { no: parcelNo } = (
    await lead.post('packing/open', { code: (await lead.get(`orders/${picked}`)).body.row.no, device: 'd' })
  ).body.parcels[0];
  refused(await lead.post(`orders/${picked}/cancel`, { reason: 'why not' }), 422);
  refused(await lead.get(`parcels/${parcelNo}/offers`), 422);
  refused(
    await lead.post(`parcels/${parcelNo}/label`, {
      carrier: 'heron',
      service: 'letter',
      quoteId: 'q',
      minor: 1,
      currency: 'USD',
      key: v7(),
      name: 'n',
      arrives: '2026-11-30',
    }),
    422,
  );
  refused(await lead.get(`parcels/${parcelNo}/label.pdf`), 422);
  refused(await lead.post('departures/DE-999999/scans', scanOf('PA-1')), 404);
  refused(await lead.get('orders/not-an-id'), 400);
});

test('two people on one order: the second is told who is packing', async () => {
  const ids = await ordersIn(lead, 'Picked', 9);
  const code = (await lead.get(`orders/${ids.at(-1)}`)).body.row.no;
  const packer = await house.signIn('AB-1002');
  const { sessionId, state } = (await packer.post('packing/open', { code, device: 'bench-1' })).body;
  await packer.post(`packing/sessions/${sessionId}/scans`, scanOf(state.lines[0].product.codes[0].code));
  const second = await lead.post('packing/open', { code, device: 'bench-2' });
  refused(second, 409);
  expect(second.body.detail).toContain('Tomas Brandt');
});

test('after all of it, the data is whole', async () => {
  expect(await differences(house)).toEqual([]);
});
