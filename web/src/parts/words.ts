import type { OrderCount } from '@auk/contract';
import {
  type Change,
  FIELD_WORDS,
  formatLength,
  formatMoney,
  formatRate,
  PRODUCT_FACTS,
  type Value,
} from '@auk/core';
import { looks } from '../theme/look.js';
import { weight } from './format.js';

/** A count as people read it. Example: 10,000 and more is "over 10,000". */
export const countWords = (c: OrderCount | undefined): string =>
  c === undefined ? '…' : c.over ? `over ${c.n.toLocaleString('en-US')}` : c.n.toLocaleString('en-US');

const PRODUCT_WORDS: Record<string, string> = {
  name: 'name',
  stage: 'stage',
  kind: 'kind',
  hint: 'hint for pickers',
  packedWeightMg: 'packed weight',
  code: 'code',
  product: 'product',
  gtin: 'barcode',
  length: 'length',
  width: 'width',
  height: 'height',
  ...Object.fromEntries(PRODUCT_FACTS.map(f => [f.key, f.words])),
};
const FLAGS = new Set(PRODUCT_FACTS.filter(f => f.kind === 'flag').map(f => f.key));

/** The name of a changed field. */
export function fieldWords(c: Change): string {
  const line = c.line ? c.line.slice(c.line.indexOf('|') + 1).replace(/#\d+$/, '') : '';
  if (c.field === '') return line || 'all of it';
  const words = FIELD_WORDS[c.field] ?? PRODUCT_WORDS[c.field] ?? c.field;
  return line ? `${words} of ${line}` : words;
}

/** A value of a field as people read it. */
export function valueWords(field: string, value: Value, currency: string): string {
  if (value === null || value === '') return 'nothing';
  if (field.endsWith('Minor')) return formatMoney(Number(value), currency);
  if (field.endsWith('Ppm')) return formatRate(Number(value));
  if (field.endsWith('Mg')) return weight(Number(value));
  if (FLAGS.has(field)) return value ? 'yes' : 'no';
  if (field === 'length' || field === 'width' || field === 'height')
    return formatLength(Number(value), looks.now().units);
  return String(value);
}
