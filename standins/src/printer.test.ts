import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { Standins } from './server.js';

let standins: Standins;
let at: string;
beforeAll(async () => {
  standins = new Standins(mkdtempSync(join(tmpdir(), 'auk-printer-')));
  at = `http://127.0.0.1:${await standins.listen()}/printers/labels-1`;
});
afterAll(() => standins.close());

const print = (key: string, body = '%PDF-1') =>
  fetch(at, { method: 'POST', headers: { 'content-type': 'application/pdf', 'idempotency-key': key }, body });

test('a printer keeps what it prints, once for a key, and prints nothing without paper', async () => {
  expect((await print('a-0')).status).toBe(200);
  expect((await print('a-0')).status).toBe(200);
  await fetch(`${at}/paper?has=no`, { method: 'POST' });
  const out = await print('b-0');
  expect([out.status, await out.text()]).toEqual([503, 'It is out of paper.']);
  await fetch(`${at}/paper?has=yes`, { method: 'POST' });
  expect((await print('b-0')).status).toBe(200);
  const sheets = await (await fetch(`${at}/sheets`)).json();
  expect(sheets).toEqual(['00001-a-0.pdf', '00002-b-0.pdf']);
  expect(await (await fetch(`${at}/sheets/00001-a-0.pdf`)).text()).toBe('%PDF-1');
  expect(await (await fetch(at)).text()).toContain('It has paper.');
  expect((await fetch(`${at}/sheets/..%2F..%2Fheron.jsonl`)).status).toBe(404);
  expect((await fetch(at.replace('labels-1', 'no-such'))).status).toBe(404);
  expect((await print('')).status).toBe(400);
});
