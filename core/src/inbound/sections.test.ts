import { expect, test } from 'vitest';
import { type CodeCheck } from './codes.js';
import { type DraftFacts, type DraftLine, type DraftSection, draftSections } from './sections.js';

const same: CodeCheck = { state: 'same', ours: '1', theirs: '1', says: '' };
const other: CodeCheck = { state: 'other', ours: '1', theirs: '2', says: 'two different things' };
const line = (sku: string, more: Partial<DraftLine> = {}): DraftLine => ({
  sku,
  units: 10,
  free: 10,
  code: same,
  confirmed: false,
  lacking: [],
  prepared: 0,
  toPrepare: 10,
  refused: null,
  ...more,
});
const facts = (lines: DraftLine[], boxes: DraftFacts['boxes'] = null): DraftFacts => ({
  from: 'our own house',
  network: 'Fernway Centers',
  storage: 'near',
  lines,
  boxes,
});
const on = (section: DraftSection, f: DraftFacts) => draftSections(f).find(s => s.section === section)!;

test('a draft without goods wants goods; one that is whole wants nothing', () => {
  expect(
    draftSections(facts([]))
      .filter(s => !s.done)
      .map(s => s.section),
  ).toEqual(['what', 'codes', 'prepared', 'boxes']);
  const whole = draftSections(facts([line('A'), line('B')], { count: 2, packed: 2 }));
  expect(whole.every(s => s.done)).toBe(true);
  expect(whole.map(s => s.says)).toEqual([
    'our own house',
    'Fernway Centers, near storage',
    '2 products, 20 units, all of it is here',
    '2 of 2 agree',
    'All that must be known is known',
    '2 boxes packed',
  ]);
});

test('what cannot go is named: refused there, more than is here, another code, something unknown', () => {
  expect(on('what', facts([line('A', { refused: 'no' }), line('B', { free: 3 })])).says).toContain(
    'not taken there: A',
  );
  expect(on('what', facts([line('B', { free: 3 })])).says).toContain('more than can go now: B');
  expect(on('codes', facts([line('A'), line('B', { code: null })])).says).toContain('1 code yet');
  expect(on('codes', facts([line('A'), line('B', { code: other })])).says).toBe(
    '1 of 2 agree; B has another code there',
  );
  expect(on('codes', facts([line('B', { code: other, confirmed: true })])).done).toBe(true);
  const unknown: CodeCheck = { ...other, state: 'unknown', theirs: null };
  expect(on('codes', facts([line('C', { code: unknown })])).says).toBe(
    '0 of 1 agree; they know no code for C',
  );
  expect(on('prepared', facts([line('A', { prepared: 4 }), line('B', { toPrepare: 0 })])).says).toBe(
    '4 of 10 units prepared',
  );
  const lacking = [{ fact: 'size', says: 'its size is not known' }];
  const many = ['A', 'B', 'C', 'D', 'E'].map(sku => line(sku, { lacking }));
  expect(on('prepared', facts(many)).says).toBe('Something is not known of A, B, C and 2 more');
});

test('boxes are planned, then packed', () => {
  expect(on('boxes', facts([line('A')])).done).toBe(false);
  expect(on('boxes', facts([line('A')], { count: 3, packed: 1 }))).toMatchObject({
    done: false,
    says: '3 boxes planned, 1 packed',
  });
});
