import { expect, test } from 'vitest';
import { questionOf } from './question.js';

test('equal questions are equal texts; what the list does not understand is left out', () => {
  const of = (text: string) => questionOf(new URLSearchParams(text));
  expect(of('words=jar&stage=Clear')).toBe(of('stage=Clear&words=jar&utm=1&channel='));
  expect(of('sort=total')).toBe('sort=total');
  expect(of('')).toBe('');
});
