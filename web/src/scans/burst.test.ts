import fc from 'fast-check';
import { expect, test } from 'vitest';
import { codeAtEnd, type Key, scanAtEnd } from './burst.js';

/** Keys of a text with the pause before each; the first comes after a long pause unless told. */
function keys(text: string, gaps: number | number[], from: Key[] = []): Key[] {
  const all = [...from];
  for (const [i, char] of [...text].entries()) {
    const last = all.at(-1);
    const gap = typeof gaps === 'number' ? (i === 0 && !last ? 5_000 : gaps) : gaps[i]!;
    all.push({ char, at: (last?.at ?? 0) + gap, before: all.map(k => k.char).join('') });
  }
  return all;
}
const end = (k: Key[], gap = 10) => scanAtEnd(k, k.at(-1)!.at + gap)?.text ?? null;

test('a scanner is told from a person by speed', () => {
  expect(end(keys('OR-1042', 8))).toBe('OR-1042');
  expect(end(keys('hello', 110), 150)).toBeNull();
  expect(end(keys('abc', 8))).toBeNull();
  expect(end(keys('PA-1', 8))).toBe('PA-1');
});

test('a tracking number whose end is by chance a product’s number with its check digit is read whole', () => {
  expect(end(keys('RE10000052', 8))).toBe('RE10000052');
  expect(end(keys('SK-96385074', 8))).toBe('SK-96385074');
});

test('a few letters rolled quickly and then Enter are typing', () => {
  expect(end(keys('the', [5000, 45, 50]), 300)).toBeNull();
  expect(end(keys('other', [5000, 140, 50, 55, 48]), 280)).toBeNull();
});

test('one key held up by a busy page does not break a scan', () => {
  expect(end(keys('AB-1006', [5000, 10, 10, 180, 10, 10, 10]))).toBe('AB-1006');
  expect(end(keys('AB-1006', [5000, 220, 10, 10, 10, 10, 10]))).toBe('AB-1006');
  expect(end(keys('AB-1006', 10), 250)).toBe('AB-1006');
});

test('a stalled machine tears a scan apart: the pieces that only together are a code of the house are one', () => {
  expect(end(keys('AB-1006', [5000, 3000, 10, 10, 10, 10, 10]))).toBe('AB-1006');
  expect(end(keys('AB-1006', [5000, 10, 10, 10, 2500, 10, 10]))).toBe('AB-1006');
  expect(end(keys('AB-1006', [5000, 10, 1800, 10, 2500, 10, 10]))).toBe('AB-1006');
  expect(end(keys('AUK-LABEL', [5000, 10, 10, 10, 10, 4000, 10, 10, 10]))).toBe('AUK-LABEL');
  expect(end(keys('AB-1006', [5000, 900, 10, 1800, 10, 2500, 10]))).toBe('AB-1006');
  expect(codeAtEnd(keys('xOR-1042', 400))).toBe('OR-1042');
  expect(codeAtEnd(keys('ROW-7-12', 400))).toBe('ROW-7-12');
  expect(end(keys('A-07-2', [5000, 10, 2500, 10, 10, 10]))).toBe('A-07-2');
  expect(end(keys('CNT-1', [5000, 900, 10, 1500, 10]))).toBe('CNT-1');
  expect(end(keys('HP470000048US', [5000, 40, 2500, ...Array(10).fill(10)]))).toBe('HP470000048US');
  expect(codeAtEnd(keys('hello there', 400))).toBeNull();
  // Typed by hand, even a code of the house is typing; and what was typed long before stays apart.
  expect(end(keys('OR-1042', 140), 300)).toBeNull();
  expect(end(keys('A-07-2', [9000, 8, 8, 8, 8, 8], keys('half', 90)))).toBe('A-07-2');
});

test('a scan into a half-typed note is cut off cleanly', () => {
  const typed = keys('half a no', 90);
  const found = scanAtEnd(keys('OR-3010', [140, 9, 9, 9, 9, 9, 9], typed), typed.at(-1)!.at + 220);
  expect(found).toEqual({ text: 'OR-3010', before: 'half a no' });
});

test('a letter typed after a while and a scan within a second of it: the scan alone counts', () => {
  const typed = keys('Pen', [5000, 90, 1500]);
  const scan = keys('PA-1', [400, 5, 5, 5], typed);
  expect(scanAtEnd(scan, scan.at(-1)!.at + 5)).toEqual({ text: 'PA-1', before: 'Pen' });
  expect(end(keys('OR-1042', [300, 5, 5, 5, 5, 5, 5], keys('n', 5000)))).toBe('OR-1042');
  // What may have been one scan with a key held up stays one.
  expect(end(keys('RE10000052', [5000, 300, 5, 5, 5, 5, 5, 5, 5, 5]))).toBe('RE10000052');
});

test('whatever was typed before, however slowly: a scan of quick keys is never lost', () => {
  const typed = fc.array(fc.tuple(fc.constantFrom(...'Penwhit'), fc.integer({ min: 61, max: 3_000 })), {
    maxLength: 8,
  });
  const code = fc.constantFrom(
    'PA-1',
    'OR-1042',
    'AB-1006',
    'A-07-2',
    'AUK-YES',
    '4006381333931',
    'RE10000052',
  );
  fc.assert(
    fc.property(typed, code, fc.integer({ min: 61, max: 3_000 }), (before, text, pause) => {
      const hand = before.reduce<Key[]>((k, [char, gap]) => keys(char, [gap], k), []);
      const read = end(keys(text, [pause, ...Array(text.length - 1).fill(8)], hand));
      expect(read?.endsWith(text)).toBe(true);
      if (/^(PA|OR|AB|AUK)-/.test(text)) expect(read).toBe(text);
    }),
  );
});
