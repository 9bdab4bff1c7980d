import { expect, test } from 'vitest';
import { readBookFile } from './bookFile.js';

const RULE = {
  id: 'a',
  name: 'A',
  note: '',
  on: true,
  at: 'clear',
  when: { all: [] },
  do: [{ do: 'first' }],
  stop: false,
};
const file = (rows: unknown[]) => JSON.stringify({ form: 'rule book 1', rows });

test('a book that was saved as a file comes back as it was', () => {
  const group = { id: 'g', name: 'G', on: false, rules: [{ ...RULE, id: 'b' }] };
  expect(readBookFile(file([RULE, group]))).toEqual({ ok: true, value: { rows: [RULE, group] } });
});

test.each([
  ['no JSON', '{', 'The file is no JSON'],
  ['another form', JSON.stringify({ form: 'rule book 9', rows: [] }), 'form: '],
  ['a list', '[]', 'The file: '],
  ['a rule without a name', file([RULE, { ...RULE, name: ' ' }]), 'rows 2'],
])('%s says where it is wrong', (_, text, where) => {
  const read = readBookFile(text);
  expect(read.ok).toBe(false);
  if (!read.ok) expect(read.problem[0]).toContain(where);
});
