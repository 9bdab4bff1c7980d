import { readFileSync } from 'node:fs';
import { expect, test } from 'vitest';
import { AT_ONCE, curesInCode, ELSEWHERE, OUTSIDE } from './cures.js';

test('every cure that a refusal names is found somewhere: at once, on a screen, or outside Auk', () => {
  const code = [...curesInCode().keys()];
  const listed = [...AT_ONCE, ...Object.keys(ELSEWHERE), ...OUTSIDE];
  expect(code.length).toBeGreaterThan(100);
  expect(code.filter(cure => !listed.includes(cure))).toEqual([]);
  expect(listed.filter(cure => !code.includes(cure))).toEqual([]);
  expect(listed.filter((cure, i) => listed.indexOf(cure) !== i)).toEqual([]);
});

test('the screens that cures lead to have what the cures name', () => {
  const missing = Object.entries(ELSEWHERE).filter(
    ([, [file, words]]) =>
      !readFileSync(`web/src/${file.includes('.') ? file : `${file}.tsx`}`, 'utf8').includes(words),
  );
  expect(missing).toEqual([]);
});
