import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { inTab, onDevice } from './kept.js';

/** A browser's store with room for so many texts. */
function store(room: number) {
  const rows: Record<string, string> = {};
  const methods = {
    getItem: (name: string) => rows[name] ?? null,
    setItem: (name: string, text: string) => {
      if (!(name in rows) && Object.keys(rows).length >= room)
        throw new DOMException('full', 'QuotaExceededError');
      rows[name] = text;
    },
    removeItem: (name: string) => delete rows[name],
    clear: () => {
      for (const name of Object.keys(rows)) delete rows[name];
    },
  };
  return new Proxy(rows, {
    get: (_, name: string) => methods[name as keyof typeof methods] ?? rows[name],
  });
}

beforeEach(() => {
  vi.stubGlobal('sessionStorage', store(9));
  vi.stubGlobal('localStorage', store(9));
  // Other tests of this worker may have kept something before.
  forget();
});
afterEach(() => {
  forget();
  vi.unstubAllGlobals();
});
function forget(): void {
  onDevice.clear();
  inTab.clear();
}

test('what is kept is found, named, dropped and cleared, on the device and in the tab apart', () => {
  onDevice.set('a', '1');
  onDevice.set('b', '2');
  inTab.set('a', '3');
  expect([onDevice.get('a'), inTab.get('a'), inTab.get('b')]).toEqual(['1', '3', null]);
  expect(onDevice.names()).toEqual(['a', 'b']);
  onDevice.drop('a');
  expect([onDevice.get('a'), inTab.get('a')]).toEqual([null, '3']);
  inTab.clear();
  expect([inTab.names(), onDevice.names()]).toEqual([[], ['b']]);
});

test('what a full browser does not take is known to this page, and the newest counts', () => {
  vi.stubGlobal('localStorage', store(1));
  // Whether it outlives the page is told.
  expect([onDevice.set('a', '1'), onDevice.set('b', '2')]).toEqual([true, false]);
  expect([onDevice.get('a'), onDevice.get('b'), localStorage.getItem('b')]).toEqual(['1', '2', null]);
  expect(onDevice.names()).toEqual(['a', 'b']);
  onDevice.drop('a');
  onDevice.set('b', '3');
  expect([onDevice.get('b'), localStorage.getItem('b')]).toEqual(['3', '3']);
  // Written by another tab since: the browser's word is the newer one.
  localStorage.setItem('b', '4');
  expect(onDevice.get('b')).toBe('4');
});

test('a browser that may not even be looked at keeps all of it for the page', () => {
  vi.stubGlobal('localStorage', undefined);
  onDevice.set('a', '1');
  expect([onDevice.get('a'), onDevice.get('b')]).toEqual(['1', null]);
  expect(onDevice.names()).toEqual(['a']);
  onDevice.drop('a');
  expect(onDevice.get('a')).toBeNull();
});
