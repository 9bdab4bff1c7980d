import { expect, test } from 'vitest';
import { callName } from './callName.js';

test('no name comes twice in four thousand shipments, and neighbours share no word', () => {
  const names = Array.from({ length: 4_096 }, (_, i) => callName(i + 1));
  expect(names[0]).toBe('Quiet Harbor');
  expect(new Set(names).size).toBe(4_096);
  expect(callName(4_097)).toBe(names[0]);
  names.slice(1).forEach((name, i) => {
    const words = new Set([...name.split(' '), ...names[i]!.split(' ')]);
    expect(words.size).toBe(4);
  });
});
