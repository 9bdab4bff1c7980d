import { v7 } from 'uuid';
import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { keep, keptCount } from './keptCount.js';

const DAY_MS = 24 * 60 * 60 * 1000;

beforeEach(() => {
  const kept = new Map<string, string>();
  vi.stubGlobal('localStorage', {
    getItem: (name: string) => kept.get(name) ?? null,
    setItem: (name: string, value: string) => kept.set(name, value),
    removeItem: (name: string) => kept.delete(name),
  });
});

afterEach(() => vi.unstubAllGlobals());

test('a count of this device goes on where it stood, with what was typed', () => {
  const begun = keptCount('A-01-1');
  keep('A-01-1', { ...begun, typed: { 'JAR ': { value: '4', scanned: 1 } } });
  expect(keptCount('A-01-1')).toEqual({ id: begun.id, typed: { 'JAR ': { value: '4', scanned: 1 } } });
  expect(keptCount('A-01-2').id).not.toBe(begun.id);
});

test('one that was begun days ago is begun anew, and what cannot be read too', () => {
  const old = v7({ msecs: Date.now() - 8 * DAY_MS });
  keep('A-01-1', { id: old, typed: { 'JAR ': { value: '4', scanned: 1 } } });
  const anew = keptCount('A-01-1');
  expect(anew.id).not.toBe(old);
  expect(anew.typed).toEqual({});
  localStorage.setItem('auk.counting.A-01-1', '{"id":');
  expect(keptCount('A-01-1').typed).toEqual({});
});
