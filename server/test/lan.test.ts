import { X509Certificate } from 'node:crypto';
import { mkdtempSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { createServer, get } from 'node:https';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { givenCertificate, houseCertificate, type Tls } from '../src/lan/certificate.js';

let folder: string;
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'auk-lan-'));
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const NOW = new Date();
const inDays = (days: number) => new Date(NOW.getTime() + days * 86_400_000);
/** What a browser that trusts `ca` makes of a server that shows a certificate, under a name. */
async function greet(tls: Tls, ca: string, servername: string): Promise<string> {
  const server = createServer({ key: tls.key, cert: tls.cert }, (_, response) => response.end('hello'));
  await new Promise<void>(resolve => server.listen(0, '127.0.0.1', resolve));
  const { port } = server.address() as AddressInfo;
  const said = await new Promise<string>(resolve => {
    get(
      { host: '127.0.0.1', port, ca, servername, path: '/', headers: { host: servername }, agent: false },
      got => got.on('data', (d: Buffer) => resolve(d.toString())),
    ).on('error', (e: NodeJS.ErrnoException) => resolve(e.code ?? e.message));
  });
  await new Promise(resolve => server.close(resolve));
  return said;
}

test('who trusts the authority of the house trusts its server under every address, and under no other', async () => {
  const tls = await houseCertificate(folder, ['192.168.7.20', 'packing-room'], NOW);
  expect(await greet(tls, tls.authority, 'packing-room')).toBe('hello');
  expect(await greet(tls, tls.authority, 'elsewhere')).toBe('ERR_TLS_CERT_ALTNAME_INVALID');
  const stranger = await houseCertificate(join(folder, 'other'), ['packing-room'], NOW);
  expect(await greet(tls, stranger.authority, 'packing-room')).not.toBe('hello');
  const shown = new X509Certificate(tls.cert);
  expect(shown.subjectAltName).toContain('IP Address:192.168.7.20');
  expect(shown.ca).toBe(false);
  expect(new X509Certificate(tls.authority).ca).toBe(true);
  expect(shown.verify(new X509Certificate(tls.authority).publicKey)).toBe(true);
});

test('both are kept; other addresses or a near end renew the server’s alone, and keys are nobody else’s to read', async () => {
  const own = join(folder, 'kept');
  const first = await houseCertificate(own, ['192.168.7.20'], NOW);
  expect(await houseCertificate(own, ['192.168.7.20'], inDays(200))).toEqual(first);
  const moved = await houseCertificate(own, ['192.168.7.21'], inDays(1));
  expect(moved.authority).toBe(first.authority);
  expect(moved.cert).not.toBe(first.cert);
  const later = await houseCertificate(own, ['192.168.7.21'], inDays(380));
  expect(later.authority).toBe(first.authority);
  expect(Date.parse(new X509Certificate(later.cert).validTo)).toBeGreaterThan(inDays(700).getTime());
  // No browser takes one that lives longer than 398 days.
  const { validFrom, validTo } = new X509Certificate(moved.cert);
  expect((Date.parse(validTo) - Date.parse(validFrom)) / 86_400_000).toBeLessThanOrEqual(398);
  for (const file of ['authority.key', 'server.key']) expect(statSync(join(own, file)).mode & 0o077).toBe(0);
});

test('a given certificate is taken with its key; what does not belong together or is not there is refused with why', async () => {
  const made = await houseCertificate(join(folder, 'given'), ['packing-room'], NOW);
  const other = await houseCertificate(join(folder, 'wrong'), ['packing-room'], NOW);
  const [cert, key, wrong] = ['c.pem', 'k.pem', 'w.pem'].map(f => join(folder, f)) as [
    string,
    string,
    string,
  ];
  writeFileSync(cert, made.cert);
  writeFileSync(key, made.key);
  writeFileSync(wrong, other.key);
  expect(givenCertificate(cert, key)).toEqual({ cert: made.cert, key: made.key, authority: null });
  expect(() => givenCertificate(cert, wrong)).toThrow('is not that of the certificate');
  expect(() => givenCertificate(join(folder, 'nothing.pem'), key)).toThrow('is not there');
});
