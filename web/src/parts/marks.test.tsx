import { type Change, STAGES } from '@auk/core';
import { expect, test } from 'vitest';
import { Changes } from './Changes.js';
import { Pips } from './pips.js';
import { shown } from './shown.js';
import { StageMark } from './stage.js';

test('every stage has a shape beside its word: colour alone tells nothing', () => {
  const seen = new Set<string>();
  for (const stage of STAGES) {
    const { words } = shown(<StageMark stage={stage} />);
    expect(words).toMatch(new RegExp(`^\\S+ ${stage}$`));
    seen.add(words);
  }
  expect(seen.size).toBe(STAGES.length);
});

test('pips are one a unit, in blocks of ten over 24, a bar over 100, and always read as a count', () => {
  const pips = (wanted: number, done: number) => shown(<Pips wanted={wanted} done={done} />).markup;
  const count = (markup: string, of: RegExp) => (markup.match(of) ?? []).length;
  expect(pips(5, 2)).toContain('aria-label="2 of 5"');
  expect(count(pips(24, 3), /<span/g)).toBe(24);
  expect(count(pips(25, 3), /<div/g)).toBe(1 + 3);
  expect(count(pips(25, 3), /<span/g)).toBe(25);
  expect(pips(400, 100)).toContain('width:25%');
  expect(count(pips(400, 100), /<span/g)).toBe(0);
  expect(pips(0, 0)).toContain('aria-label="0 of 0"');
});

test('changes tell what was and what is, money in its currency, and nothing of what was nothing', () => {
  const changes: Change[] = [
    { line: null, field: 'shipTo.postcode', before: '83702', after: '83704' },
    { line: 'JAR#1', field: 'priceMinor', before: 1_250, after: 1_300 },
    { line: null, field: 'note', before: '', after: 'Ring twice.' },
    { line: null, field: 'promised', before: '2026-11-28', after: null },
  ];
  const { words, markup } = shown(<Changes changes={changes} currency="EUR" />);
  expect(words).toContain('postcode 83702 → 83704');
  expect(words).toContain('price of JAR EUR 12.50 → EUR 13.00');
  expect(words).toMatch(/note → Ring twice\./);
  expect(words).toMatch(/2026-11-28 → nothing$/);
  expect(markup.match(/<del>/g)).toHaveLength(3);
  expect(shown(<Changes changes={[]} currency="EUR" />).markup).toBe('');
});
