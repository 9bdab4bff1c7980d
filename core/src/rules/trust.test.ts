import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { seeded } from '../random/seeded.js';
import type { Rule, RuleBook } from './book.js';
import { maySpend } from './caps.js';
import { bookDifferences, outcomeDifference } from './compareBooks.js';
import { whatCounts } from './layers.js';
import { factsWith, randomBook, ruleOf } from './randomBook.js';
import { compileBook, runBook } from './runBook.js';

const rule = (id: string, more: Partial<Rule> = {}): Rule => ruleOf(id, { do: [{ do: 'first' }], ...more });
const bookOf = (...rows: RuleBook['rows']): RuleBook => ({ rows });

describe('versions of a book', () => {
  const how = (before: RuleBook, after: RuleBook) =>
    bookDifferences(before, after).map(d => `${d.id} ${d.how}`);

  test('a book differs in nothing from itself, and in all its rules from none', () => {
    const book = randomBook(seeded(3), 8);
    expect(bookDifferences(book, book)).toEqual([]);
    expect(how({ rows: [] }, book)).toHaveLength(8);
    expect(bookDifferences(book, { rows: [] }).every(d => d.how === 'gone' && d.after === null)).toBe(true);
  });

  test('what was moved is named, not what slid', () => {
    const [a, b, c, d] = ['a', 'b', 'c', 'd'].map(id => rule(id)) as [Rule, Rule, Rule, Rule];
    expect(how(bookOf(a, b, c, d), bookOf(d, a, b, c))).toEqual(['d moved']);
    expect(how(bookOf(a, b, c, d), bookOf(b, c, d, a))).toEqual(['a moved']);
    expect(how(bookOf(a, b, c, d), bookOf(b, d))).toEqual(['a gone', 'c gone']);
    expect(how(bookOf(b, d), bookOf(a, b, c, d))).toEqual(['a new', 'c new']);
  });

  test('into a group that is off is off; another note, name or button is a change', () => {
    const [a, b] = [rule('a'), rule('b')];
    const off = { id: 'g', name: 'Off', on: false, rules: [a] };
    expect(how(bookOf(a, b), bookOf(off, b))).toEqual(['a off']);
    expect(how(bookOf(off, b), bookOf(a, b))).toEqual(['a on']);
    expect(how(bookOf(a), bookOf({ ...a, note: 'why' }))).toEqual(['a changed']);
    const [change] = bookDifferences(bookOf(a), bookOf({ ...a, stop: true }));
    expect(change).toMatchObject({
      before: 'at clear, always do let it go first',
      after: 'at clear, always do let it go first, then stop',
    });
  });

  test('after any shuffle, putting the named rules aside leaves the others in their order', () => {
    fc.assert(
      fc.property(fc.shuffledSubarray(['a', 'b', 'c', 'd', 'e', 'f', 'g'], { minLength: 7 }), order => {
        const before = bookOf(...'abcdefg'.split('').map(id => rule(id)));
        const moved = new Set(bookDifferences(before, bookOf(...order.map(id => rule(id)))).map(d => d.id));
        const rest = order.filter(id => !moved.has(id));
        expect(rest).toEqual([...rest].sort());
      }),
    );
  });
});

describe('two outcomes of one order', () => {
  const outcome = (...rows: Rule[]) =>
    runBook(compileBook({ rows }, 'clear', 'USD'), {
      facts: factsWith({}),
      lines: [],
      offers: [],
      promised: null,
    });

  test('fields that differ are named with both rules, what is added or done in words', () => {
    const before = outcome(
      rule('a', {
        do: [
          { do: 'box', with: 'B1' },
          { do: 'tag', with: 'old' },
        ],
      }),
    );
    const after = outcome(
      rule('b', {
        do: [
          { do: 'box', with: 'B2' },
          { do: 'mail', with: 'Thanks' },
        ],
      }),
    );
    expect(outcomeDifference(before, after)).toEqual({
      fields: [
        {
          field: 'box',
          before: { value: 'B1', by: 'a', over: [] },
          after: { value: 'B2', by: 'b', over: [] },
        },
      ],
      more: ['write the mail "Thanks"'],
      less: ['tag it "old"'],
    });
  });

  test('the same from another rule is no difference', () => {
    expect(outcomeDifference(outcome(rule('a')), outcome(rule('b')))).toEqual({
      fields: [],
      more: [],
      less: [],
    });
  });
});

describe('whose word counts', () => {
  test('a hand over a rule over a product over the house, and all that it went over is named', () => {
    const says = [
      { layer: 'hand', value: 'B3', by: 'Ines' },
      { layer: 'house', value: 'B1', by: 'the cheapest' },
      { layer: 'rule', value: 'B2', by: 'book 3, rule 1' },
    ] as const;
    expect(whatCounts(says)).toEqual({ ...says[0], over: [says[2], says[1]] });
    expect(whatCounts(says.slice(1))).toMatchObject({ value: 'B2' });
    expect(whatCounts([])).toBeNull();
  });

  test('of one layer the last counts', () => {
    const say = (value: number) => ({ layer: 'rule' as const, value, by: String(value) });
    expect(whatCounts([say(1), say(2)])).toMatchObject({ value: 2, over: [{ value: 1 }] });
  });
});

describe('caps', () => {
  const caps = { labelMinor: 1000, dayMinor: 2500, ruleMinor: 2000 };
  const spend = (
    minor: number,
    more: object = {},
    spent = { dayMinor: 2000, ruleMinor: 0 },
    paused = false,
  ) => maySpend(minor, { ...caps, ...more }, spent, 'USD', paused);

  test('all must be set, and hold with the label in it', () => {
    expect(spend(500)).toEqual({ ok: true, value: null });
    const code = (r: ReturnType<typeof spend>) => (r.ok ? null : r.problem.code);
    expect(code(spend(501))).toBe('over the day cap');
    expect(code(spend(1001))).toBe('over the label cap');
    expect(code(spend(300, {}, { dayMinor: 0, ruleMinor: 1701 }))).toBe('over the rule cap');
    for (const cap of ['labelMinor', 'dayMinor', 'ruleMinor'])
      expect(code(spend(1, { [cap]: null }))).toBe('no cap');
    expect(code(spend(1, {}, undefined, true))).toBe('paused');
  });

  test('a refusal says the sums', () => {
    const r = spend(501);
    expect(r.ok ? '' : r.problem.says).toBe(
      'The label costs $5.01; $20.00 of $25.00 for all rules is spent or held today.',
    );
  });

  test('however labels come, their sum never goes over', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 1200 }), { maxLength: 30 }), prices => {
        const spent = { dayMinor: 0, ruleMinor: 0 };
        for (const minor of prices)
          if (maySpend(minor, caps, spent, 'USD', false).ok) {
            spent.dayMinor += minor;
            spent.ruleMinor += minor;
          }
        expect(spent.dayMinor).toBeLessThanOrEqual(caps.dayMinor);
        expect(spent.ruleMinor).toBeLessThanOrEqual(caps.ruleMinor);
      }),
    );
  });
});
