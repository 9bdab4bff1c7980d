import { ScanIn } from '@auk/contract';
import { afterEach, beforeEach, expect, test, vi } from 'vitest';

beforeEach(() => vi.resetModules());
afterEach(() => vi.unstubAllGlobals());

/** A browser's store, or one that refuses to keep or even to be looked at. */
function store(kind: 'good' | 'full' | 'forbidden', has: Record<string, string> = {}) {
  const rows = new Map(Object.entries(has));
  const forbid = () => {
    throw new DOMException('no', 'SecurityError');
  };
  vi.stubGlobal('localStorage', {
    getItem: kind === 'forbidden' ? forbid : (key: string) => rows.get(key) ?? null,
    setItem: kind === 'good' ? (key: string, value: string) => void rows.set(key, value) : forbid,
  });
  return rows;
}
const fresh = () => import('./device.js');

test('a device has one id and counts its scans, also in a page that is opened later', async () => {
  const rows = store('good');
  const first = await fresh();
  const one = first.makeScan('JAR');
  const two = first.makeScan('LID', 'typed');
  expect([one.count, two.count]).toEqual([1, 2]);
  expect(one.device).toBe(two.device);
  expect(one.id).not.toBe(two.id);
  expect(two.by).toBe('typed');
  vi.resetModules();
  const later = (await fresh()).makeScan('JAR');
  expect([later.device, later.count]).toEqual([one.device, 3]);
  expect(rows.size).toBe(2);
});

test('two pages of one device go on from each other’s count', async () => {
  store('good');
  const one = await fresh();
  one.makeScan('JAR');
  vi.resetModules();
  const other = await fresh();
  expect([other.makeScan('JAR').count, one.makeScan('JAR').count, other.makeScan('JAR').count]).toEqual([
    2, 3, 4,
  ]);
});

test.each(['full', 'forbidden'] as const)('where the browser’s store is %s, no scan is lost', async kind => {
  store(kind);
  const { makeScan } = await fresh();
  const [one, two] = [makeScan('JAR'), makeScan('LID')];
  expect([one.count, two.count]).toEqual([1, 2]);
  expect(one.device).toBe(two.device);
});

test('a count that somebody spoiled begins anew, and a text without end is cut to what the server takes', async () => {
  store('good', { 'auk.device.count': 'many' });
  const { makeScan } = await fresh();
  const made = makeScan('x'.repeat(30_000));
  expect(made.count).toBe(1);
  expect(ScanIn.parse(made)).toEqual(made);
});
