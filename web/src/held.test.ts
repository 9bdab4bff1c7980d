import { beforeEach, expect, test, vi } from 'vitest';
import { Refused, Unreached } from './api.js';

/** A browser's database of texts; none where it has no room for one. */
const rows = new Map<string, unknown>();
let there = true;
vi.mock('idb', () => ({
  openDB: async () => {
    if (!there) throw new DOMException('no', 'QuotaExceededError');
    return {
      put: async (_: string, value: unknown, key: string) => void rows.set(key, structuredClone(value)),
      get: async (_: string, key: string) => rows.get(key),
      delete: async (_: string, key: string) => void rows.delete(key),
      clear: async () => rows.clear(),
    };
  },
}));

beforeEach(() => {
  vi.resetModules();
  rows.clear();
  there = true;
});
const fresh = () => import('./held.js');
const away = () => Promise.reject(new Unreached('Auk cannot be reached.'));
const refused = (status: number) => () =>
  Promise.reject(new Refused({ type: 'x', title: 'x', status, detail: 'No.', cure: 'Do.', retry: 'never' }));
/** The modules are read anew for each test, and so is what an error is told by. */
vi.mock('./api.js', async original => {
  const shared = globalThis as { api?: unknown };
  shared.api ??= await original();
  return shared.api as object;
});

test('without a network the answer of before counts; without one of before the network is told', async () => {
  const { heldOr } = await fresh();
  expect(await heldOr('list', async () => ({ n: 1 }))).toEqual({ n: 1 });
  expect(await heldOr('list', away)).toEqual({ n: 1 });
  await expect(heldOr('another', away)).rejects.toThrow('cannot be reached');
});

test('a refusal counts, and who is signed out or asks for what is gone finds nothing of it later', async () => {
  const { heldOr } = await fresh();
  for (const status of [401, 404]) {
    await heldOr('list', async () => ({ n: 1 }));
    await expect(heldOr('list', refused(status))).rejects.toThrow('No.');
    await expect(heldOr('list', away)).rejects.toThrow('cannot be reached');
  }
  await heldOr('list', async () => ({ n: 2 }));
  await expect(heldOr('list', refused(409))).rejects.toThrow('No.');
  expect(await heldOr('list', away)).toEqual({ n: 2 });
});

test('a session is read as it stood by the server’s last word, not as it was opened', async () => {
  const { heldSession, holdState } = await fresh();
  const opened = async () => ({ session: 's1', state: { taken: 0 }, name: 'PL-1' });
  const open = (ask: typeof opened) => heldSession('PL-1', ask, o => o.session);
  expect(await open(opened)).toEqual({ session: 's1', state: { taken: 0 }, name: 'PL-1' });
  expect((await open(away)).state).toEqual({ taken: 0 });
  await holdState('s1', { taken: 3 });
  expect(await open(away)).toEqual({ session: 's1', state: { taken: 3 }, name: 'PL-1' });
  // Opened again at the server, that one's word counts.
  expect((await open(async () => ({ session: 's1', state: { taken: 4 }, name: 'PL-1' }))).state).toEqual({
    taken: 4,
  });
  expect((await open(away)).state).toEqual({ taken: 4 });
  await expect(open(refused(403))).rejects.toThrow('No.');
});

test('who signs out leaves nothing', async () => {
  const { forgetHeld, heldOr, holdState } = await fresh();
  await heldOr('list', async () => ({ n: 1 }));
  await holdState('s1', { taken: 1 });
  await forgetHeld();
  expect(rows.size).toBe(0);
});

test('a browser without room holds nothing and stops nothing', async () => {
  there = false;
  const { forgetHeld, heldOr, heldSession } = await fresh();
  expect(await heldOr('list', async () => ({ n: 1 }))).toEqual({ n: 1 });
  const session = { session: 's', state: { taken: 1 } };
  expect(
    await heldSession(
      's',
      async () => session,
      s => s.session,
    ),
  ).toBe(session);
  await expect(heldOr('list', away)).rejects.toThrow('cannot be reached');
  await forgetHeld();
});
