import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterAll, afterEach, beforeAll, expect, test } from 'vitest';
import { askOutside, isInside, LeadsInside } from '../src/http/outside.js';
import { Rounds } from '../src/leases/rounds.service.js';
import { type Caller, type House, openHouse } from './house.js';

let house: House;
let lead: Caller;
const asked: string[] = [];
const listener = createServer((request, response) => {
  asked.push(request.url!);
  if (request.url === '/away') response.writeHead(302, { location: '/elsewhere' }).end();
  else response.end('here');
});
beforeAll(async () => {
  house = await openHouse('small');
  lead = await house.signIn('AB-1001');
  await new Promise<void>(resolve => listener.listen(0, '127.0.0.1', resolve));
});
afterEach(() => {
  process.env.AUK_LOOPBACK = 'yes';
});
afterAll(async () => {
  listener.close();
  await house.close();
});

const port = () => (listener.address() as AddressInfo).port;
/** Ways to write this machine, by name, by number, and by its neighbours on the wire. */
const INSIDE = [
  'http://127.0.0.1:9',
  'http://localhost:9',
  'http://[::1]:9',
  'http://0.0.0.0:9',
  'http://2130706433:9',
  'http://0x7f.1:9',
  'http://[::ffff:127.0.0.1]:9',
  'http://169.254.1.1',
  'http://[fe80::1]',
];

test('this machine is known by any of its addresses, and others are not taken for it', () => {
  expect(
    ['127.0.0.1', '127.9.9.9', '0.0.0.0', '169.254.0.1', '::1', '::', 'fe80::1'].filter(a => !isInside(a)),
  ).toEqual([]);
  expect(isInside('::ffff:127.0.0.1')).toBe(true);
  expect(['8.8.8.8', '10.0.0.5', '192.168.1.9', '2001:db8::1', '128.0.0.1'].filter(isInside)).toEqual([]);
});

test('a carrier, a channel or a center whose address leads to this machine is not connected', async () => {
  process.env.AUK_LOOPBACK = 'no';
  const { link } = (await lead.get('channels')).body.find((c: { code: string }) => c.code === 'web');
  for (const address of INSIDE) {
    const answers = [
      await lead.post('carriers/connect', {
        code: 'inner',
        name: 'Inner',
        kind: 'plain',
        address,
        key: 'k',
        inUse: true,
      }),
      await lead.post('channels/web/connect', {
        kind: link.kind,
        address,
        key: 'k',
        everyMinutes: 5,
        active: true,
      }),
      await lead.post('elsewhere/centers', { name: 'Inner', address, key: 'k' }),
    ];
    for (const { status, body } of answers)
      expect([address, status, body.detail]).toEqual([
        address,
        422,
        expect.stringContaining('leads to this machine itself'),
      ]);
  }
  expect((await lead.get('carriers')).body.some((c: { code: string }) => c.code === 'inner')).toBe(false);
});

test('what is connected already is not asked when its address leads here, by number or by name', async () => {
  for (const host of ['127.0.0.1', 'localhost']) {
    const url = `http://${host}:${port()}/x`;
    process.env.AUK_LOOPBACK = 'yes';
    expect(await (await askOutside(url, {})).text()).toBe('here');
    process.env.AUK_LOOPBACK = 'no';
    await expect(askOutside(url, {})).rejects.toThrow(LeadsInside);
  }
  expect(asked).toEqual(['/x', '/x']);
  await lead.post('channels/web/pull');
  await house.app.get(Rounds).once('pull');
  const { link } = (await lead.get('channels')).body.find((c: { code: string }) => c.code === 'web');
  expect(link.error).toContain('leads to this machine itself');
});

test('a redirection is followed nowhere', async () => {
  asked.length = 0;
  await expect(askOutside(`http://127.0.0.1:${port()}/away`, {})).rejects.toThrow();
  expect(asked).toEqual(['/away']);
});
