import { expect, test } from 'vitest';
import { looks } from '../theme/look.js';
import { countWords, fieldWords, valueWords } from './words.js';

test('counts in words: exact, beyond what is counted, and not known yet', () => {
  expect(countWords({ n: 1234, over: false })).toBe('1,234');
  expect(countWords({ n: 10_000, over: true })).toBe('over 10,000');
  expect(countWords(undefined)).toBe('…');
});

test('changed fields by their names, those of lines with their SKU', () => {
  const change = (line: string | null, field: string) => ({ line, field, before: null, after: null });
  expect(fieldWords(change(null, 'shipTo.postcode'))).toBe('postcode');
  expect(fieldWords(change('JAR#1', 'quantity'))).toBe('quantity of JAR');
  expect(fieldWords(change('FM-2|JAR#1', 'priceMinor'))).toBe('price of JAR');
  expect(fieldWords(change('JAR#2', ''))).toBe('JAR');
  expect(fieldWords(change(null, 'fragile'))).toBe('fragile');
});

test('values as people read them', () => {
  expect(valueWords('priceMinor', 1250, 'USD')).toBe('$12.50');
  expect(valueWords('priceMinor', 1250, 'JPY')).toBe('JPY 1,250');
  expect(valueWords('taxPpm', 72_500, 'USD')).toBe('7.25 %');
  expect(valueWords('weightMg', 992_233, 'USD')).toBe('2 lb 3 oz');
  expect(valueWords('fragile', 1, 'USD')).toBe('yes');
  expect(valueWords('length', 2_794, 'USD')).toBe('11 in');
  expect(valueWords('note', null, 'USD')).toBe('nothing');
  expect(valueWords('note', 'hello', 'USD')).toBe('hello');
});

test('measures that changed are told in the units of the person', () => {
  looks.change({ units: 'metric' });
  expect(valueWords('packedWeightMg', 1_250_000, 'USD')).toBe('1.25 kg');
  expect(valueWords('length', 2_794, 'USD')).toBe('27.9 cm');
  looks.change({ units: 'imperial' });
  expect(valueWords('packedWeightMg', 1_250_000, 'USD')).toBe('2 lb 12.1 oz');
});
