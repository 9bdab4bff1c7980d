import { expect, test } from 'vitest';
import { themeOf, tokensOf, variablesOf } from './theme.js';
import { SIZES, TEXT_SIZES } from './tokens.js';

const PLAIN = { contrast: false, text: 100, units: 'imperial', still: false } as const;

test('each posture has its colours, and others in high contrast', () => {
  const grounds = (['desk', 'dark'] as const).flatMap(p =>
    [PLAIN, { ...PLAIN, contrast: true }].map(look => tokensOf(p, look).ground),
  );
  expect(new Set(grounds).size).toBe(4);
});

test('every token and every size is a custom property of the page', () => {
  const variables = variablesOf('desk', PLAIN);
  const tokens = tokensOf('desk', PLAIN);
  expect(variables['--on-bar-packed']).toBe(tokens.onBarPacked);
  expect(variables['--text-body']).toBe(SIZES.body);
  expect(variables['--corner']).toBe('6px');
  expect(Object.keys(variables)).toHaveLength(Object.keys(tokens).length + Object.keys(SIZES).length + 2);
});

test('MUI wears them: its act is ours, its dark is ours, and nothing moves for who wants it so', () => {
  const theme = themeOf('dark', { ...PLAIN, still: true });
  expect(theme.palette.mode).toBe('dark');
  expect(theme.palette.primary.main).toBe(tokensOf('dark', PLAIN).act);
  expect(theme.transitions.create('opacity')).toBe('none');
  expect(themeOf('desk', PLAIN).transitions.create('opacity')).not.toBe('none');
});

test('text is in rem, so that one size moves all of it', () => {
  const { corner: _, ...texts } = SIZES;
  expect(Object.values(texts).every(size => size.endsWith('rem'))).toBe(true);
  expect(TEXT_SIZES).toEqual([100, 125, 150]);
});
