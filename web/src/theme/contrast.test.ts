import { expect, test } from 'vitest';
import { contrast } from './contrast.js';
import { PAIRS, TOKENS, type TokenSet } from './tokens.js';

test('contrast is that of WCAG 2.2: 21 for black on white, 4.48 for #777777 on white, 1 for equal colours', () => {
  expect(contrast('#000000', '#ffffff')).toBeCloseTo(21, 5);
  expect(contrast('#ffffff', '#777777')).toBeCloseTo(4.478, 3);
  expect(contrast('#ff0000', '#ffffff')).toBeCloseTo(3.998, 3);
  expect(contrast('#a83f16', '#a83f16')).toBe(1);
});

test.each(Object.keys(TOKENS) as TokenSet[])('every pair of colours that meet has its contrast: %s', set => {
  const colours = TOKENS[set];
  const high = set.endsWith('Contrast');
  const least = { text: high ? 7 : 4.5, edge: high ? 4.5 : 3 };
  const low = PAIRS.map(([fore, back, what]) => ({
    pair: `${fore} on ${back}`,
    has: contrast(colours[fore], colours[back]),
    wants: least[what],
  })).filter(p => p.has < p.wants);
  expect(low).toEqual([]);
});
