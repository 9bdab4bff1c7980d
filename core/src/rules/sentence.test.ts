import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { seeded } from '../random/seeded.js';
import { ACTION_NAMES, type Action, actionSpec, MOMENTS } from './actions.js';
import { type Rule, rulesOf } from './book.js';
import { checkBook } from './checkBook.js';
import { type Comparison, type Condition, plain } from './condition.js';
import { FIELDS, LINE_FIELDS, opsOf, type RuleField } from './fields.js';
import { randomBook, ruleOf } from './randomBook.js';
import { readSentence } from './readSentence.js';
import { conditionWords, sentenceOf } from './sentence.js';

const said = (rule: Rule) => ({ at: rule.at, when: plain(rule.when), do: rule.do, stop: rule.stop });

const word = fc.string({ minLength: 1, maxLength: 12 }).filter(w => w.trim() !== '');
const words = fc.uniqueArray(word, { minLength: 1, maxLength: 3 });

/** Any comparison of a field, with a value that fits it. */
function comparison(name: string, spec: RuleField): fc.Arbitrary<Comparison> {
  const is = fc.constantFrom(...opsOf(spec.kind));
  const typed: Partial<Record<RuleField['kind'], string[]>> = {
    weight: ['40 lb', '2 lb 3 oz', '1.2 kg', '350 g', '1,5 kg', '3lb'],
    length: ['25 in', '60 cm', '1.5 m', '6"'],
    money: ['60.00', '-3.50', '7', '$9.00'],
    time: ['2 h', '90 min', '3 d', '-1.5 h'],
  };
  if (spec.kind === 'flag') return is.map(op => ({ field: name, is: op }));
  const value =
    spec.kind === 'count'
      ? fc.integer({ min: -9, max: 1_000_000 })
      : typed[spec.kind]
        ? fc.constantFrom(...typed[spec.kind]!)
        : words;
  return fc.tuple(is, value).map(([op, v]) => ({ field: name, is: op, value: v }));
}

const comparisons = (fields: Record<string, RuleField>) =>
  fc.oneof(...Object.entries(fields).map(([name, spec]) => comparison(name, spec)));

const { condition } = fc.letrec<{ condition: Condition }>(tie => ({
  condition: fc.oneof(
    { depthSize: 'small', withCrossShrink: true },
    comparisons(FIELDS),
    fc.array(tie('condition'), { minLength: 1, maxLength: 3 }).map(all => ({ all })),
    fc.array(tie('condition'), { minLength: 1, maxLength: 3 }).map(any => ({ any })),
    fc.array(tie('condition'), { minLength: 1, maxLength: 3 }).map(none => ({ none })),
  ),
}));

const action: fc.Arbitrary<Action> = fc.constantFrom(...ACTION_NAMES).chain((name): fc.Arbitrary<Action> => {
  switch (actionSpec(name).given) {
    case 'nothing':
      return fc.constant({ do: name });
    case 'services':
      return words.map(w => ({ do: name, with: w }));
    case 'lines':
      return comparisons(LINE_FIELDS).map(c => ({ do: name, with: c }));
    case 'money':
      return fc.constantFrom('60.00', '7').map(w => ({ do: name, with: w }));
    default:
      return word.map(w => ({ do: name, with: w }));
  }
});

describe('sentences', () => {
  test('whatever a rule says, its sentence says again when it is read', () => {
    const rule = fc.record({
      at: fc.constantFrom(...MOMENTS),
      when: fc.oneof(fc.constant<Condition>({ all: [] }), condition),
      do: fc.array(action, { minLength: 1, maxLength: 3 }),
      stop: fc.boolean(),
    });
    fc.assert(
      fc.property(rule, r => {
        const sentence = sentenceOf(r);
        expect(readSentence(sentence), sentence).toEqual({ ok: true, value: { ...r, when: plain(r.when) } });
      }),
      { numRuns: 400 },
    );
  });

  test('random books read back, and print the same again', () => {
    for (let seed = 1; seed <= 40; seed++)
      for (const rule of rulesOf(randomBook(seeded(seed), 5))) {
        const sentence = sentenceOf(rule);
        const read = readSentence(sentence);
        expect(read, sentence).toEqual({ ok: true, value: said(rule) });
        if (read.ok) expect(sentenceOf(read.value)).toBe(sentence);
      }
  });

  test('they read as people would say them', () => {
    expect(
      sentenceOf({
        at: 'clear',
        when: {
          all: [
            { field: 'country', is: 'not one of', value: ['CA', 'MX'] },
            {
              any: [
                { field: 'weight', is: 'over', value: '40 lb' },
                { field: 'residential', is: 'no' },
              ],
            },
            { none: [{ field: 'tags', is: 'has any of', value: ['gift'] }] },
          ],
        },
        do: [
          { do: 'send by', with: 'heron ground' },
          { do: 'tag', with: 'say "hello"' },
        ],
        stop: true,
      }),
    ).toBe(
      'at clear, when country is none of "CA", "MX" and (weight is over 40 lb or goes to a company) and none of (tags have "gift") do send by "heron ground", tag it "say "hello"", then stop'.replaceAll(
        '"hello"',
        '\\"hello\\"',
      ),
    );
    expect(sentenceOf({ at: 'arrival', when: { all: [] }, do: [], stop: true })).toBe(
      'at arrival, always then stop',
    );
    expect(conditionWords({ field: 'products', is: 'has only', value: ['SEED'] })).toBe(
      'products are only "SEED"',
    );
  });

  test('for the eye, codes are called by their names', () => {
    const rule = { at: 'clear', when: { all: [] }, do: [{ do: 'box', with: 'B8' }], stop: false } as const;
    expect(sentenceOf(rule, (kind, code) => `${kind} ${code}`)).toBe('at clear, always do pack in "box B8"');
  });

  test.each([
    ['', 0, '“at”'],
    ['at noon, always do ask for a signature', 3, 'a moment'],
    ['at clear, when colour is "red" do let it go first', 15, 'a field'],
    ['at clear, when units bigger 3 do let it go first', 21, 'how it is compared'],
    ['at clear, when units is over many do let it go first', 29, 'a whole number'],
    ['at clear, when goes abroad and units is 3 or goes to a home do let it go first', 42, 'brackets'],
    ['at clear, when country is CA do let it go first', 26, 'a word in quotes'],
    ['at clear, always do fly', 20, 'something to do'],
    ['at clear, always do let it go first now', 36, 'the end'],
    ['at clear, when (units is 3 do let it go first', 27, '“)”'],
  ])('%j is refused at %i: %s is wanted there', (text, at, wanted) => {
    const read = readSentence(text);
    expect(read).toMatchObject({ ok: false, problem: { at } });
    if (!read.ok) expect(read.problem.wanted).toContain(wanted);
  });

  test('no text hangs or throws, however it is nested or long', () => {
    fc.assert(fc.property(fc.string({ maxLength: 200 }), text => typeof readSentence(text).ok === 'boolean'));
    const deep = `at clear, when ${'('.repeat(500)}goes abroad${')'.repeat(500)} do let it go first`;
    expect(readSentence(deep)).toMatchObject({ ok: false });
    expect(readSentence(`at clear, when country is ${'"x", '.repeat(20_000)}`).ok).toBe(false);
  });
});

describe('checking a book', () => {
  const base = ruleOf('r1', { name: 'One', do: [{ do: 'first' }] });
  const wrong = (more: Partial<Rule>) =>
    checkBook({ rows: [{ ...base, ...more }] }, 'USD').map(p => `${p.where}: ${p.says}`);

  test('what is said well has no problem, also every sentence of a random book', () => {
    expect(wrong({})).toEqual([]);
    for (let seed = 1; seed <= 20; seed++) expect(checkBook(randomBook(seeded(seed), 6), 'USD')).toEqual([]);
  });

  test.each<[string, Partial<Rule>, string]>([
    [
      'an action at a moment too late',
      { at: 'departed' },
      'do 1: cannot let it go first at the moment departed',
    ],
    ['nothing to do', { do: [] }, 'do: does nothing'],
    ['a button without one', { at: 'button' }, 'button: runs at a button and has none'],
    [
      'a field that is not there',
      { when: { field: 'colour', is: 'is', value: 1 } },
      'when: asks for “colour”',
    ],
    [
      'a comparison that does not fit',
      { when: { field: 'country', is: 'over', value: 3 } },
      'when: cannot compare country by “over”',
    ],
    [
      'a weight without its unit, deep inside',
      { when: { all: [{ none: [{ field: 'weight', is: 'over', value: '40' }] }] } },
      'when 1 1: weight: “40” is not a weight',
    ],
    ['no words', { when: { field: 'tags', is: 'has any of', value: [] } }, 'when: tags: “” wants one word'],
    ['an empty group', { when: { any: [] } }, 'when: says “any of” and names nothing'],
    [
      'money with too many digits',
      { do: [{ do: 'declare', with: '1.005' }] },
      'do 1: “declare” is not given an amount',
    ],
    ['nothing given', { do: [{ do: 'box', with: ' ' }] }, 'do 1: “pack in” is given nothing'],
    [
      'something given for nothing',
      { do: [{ do: 'first', with: 'x' }] },
      'do 1: “let it go first” is given something',
    ],
    ['a tag too long', { do: [{ do: 'tag', with: 'x'.repeat(31) }] }, 'do 1: “tag it” is given more than 30'],
    ['lines not said', { do: [{ do: 'own order' }] }, 'do 1: does not say which lines'],
    [
      'a field of orders asked of lines',
      { do: [{ do: 'own order', with: { field: 'country', is: 'one of', value: ['US'] } }] },
      'do 1: asks for “country”, which is not known here',
    ],
    ['the prototype of objects', { when: { field: 'toString', is: 'yes' } }, 'when: asks for “toString”'],
  ])('%s is named', (_, more, says) => {
    expect(wrong(more).join('\n')).toContain(says);
  });

  test('nesting ends somewhere; ids and codes of buttons stand once', () => {
    let deep: Condition = { field: 'abroad', is: 'yes' };
    for (let i = 0; i < 12; i++) deep = { all: [deep, { field: 'units', is: 'over', value: i }] };
    expect(wrong({ when: deep }).join()).toContain('nested more than 8 deep');
    const button = (code: string) => ({
      at: 'button' as const,
      button: { words: 'Gift', places: ['bench' as const], code },
    });
    const rows = [
      { ...base, ...button('GIFT') },
      { ...base, ...button('gift') },
    ];
    expect(checkBook({ rows }, 'USD').map(p => [p.no, p.where])).toEqual([
      [2, 'id'],
      [2, 'button'],
    ]);
  });
});
