import { describe, expect, test } from 'vitest';
import { seeded } from '../random/seeded.js';
import { analyseBook } from './analyse.js';
import type { Rule, RuleBook } from './book.js';
import { groundOf } from './example.js';
import type { OrderFacts } from './fields.js';
import { allOrders, randomBook, ruleOf, SMALL } from './randomBook.js';
import { compileBook, type Ruled, type RunGround, runBook } from './runBook.js';

const CURRENCY = 'USD';
const ORDERS = allOrders(SMALL);

const bookOf = (...rows: Rule[]): RuleBook => ({ rows });
const ground = (facts: OrderFacts): RunGround => ({ facts, lines: [], offers: [], promised: null });

/** What becomes of a rule over all orders, by running the book on every one. */
function byEnumeration(book: RuleBook): (id: string) => { acts: boolean; stays: boolean } {
  const compiled = compileBook(book, 'clear', CURRENCY);
  const all: Ruled[] = ORDERS.map(facts => runBook(compiled, ground(facts)));
  return id => ({
    acts: all.some(r => r.acted.includes(id)),
    stays: all.some(r => Object.values(r.fields).some(f => f.by === id)),
  });
}

describe('analysis of a book', () => {
  test('of 40 random books, each verdict is what running the book on every order of the domain shows, and none is unknown', () => {
    const counts = { acts: 0, dead: 0, overridden: 0 };
    for (let seed = 1; seed <= 40; seed++) {
      const book = randomBook(seeded(seed), 5);
      const truth = byEnumeration(book);
      for (const [id, verdict] of analyseBook(book, CURRENCY)) {
        const { acts, stays } = truth(id);
        const said = `book ${seed}, ${id}: ${verdict.is}`;
        expect(verdict.is, said).not.toBe('unknown');
        if (verdict.is === 'acts') {
          counts.acts++;
          expect(acts, said).toBe(true);
          const again = runBook(compileBook(book, 'clear', CURRENCY), groundOf(verdict.example));
          expect(again.acted, said).toContain(id);
        } else if (verdict.is === 'always overridden') {
          counts.overridden++;
          expect({ acts, stays }, said).toEqual({ acts: true, stays: false });
          expect(verdict.by.length, said).toBeGreaterThan(0);
        } else {
          counts.dead++;
          expect(acts, said).toBe(false);
        }
      }
    }
    expect(Math.min(...Object.values(counts))).toBeGreaterThan(0);
  });

  test('a rule whose condition cannot hold contradicts itself', () => {
    const book = bookOf(
      ruleOf('a', {
        when: {
          all: [
            { field: 'weight', is: 'over', value: '40 lb' },
            { field: 'weight', is: 'under', value: '500 oz' },
          ],
        },
        do: [{ do: 'tag', with: 'heavy' }],
      }),
    );
    expect(analyseBook(book, CURRENCY).get('a')).toEqual({ is: 'contradicts itself' });
  });

  test('numbers are whole: over 3 and under 4 units is nothing, over 3 and at most 4 is four', () => {
    const between = (most: 'under' | 'at most') =>
      ruleOf(most, {
        when: {
          all: [
            { field: 'units', is: 'over', value: 3 },
            { field: 'units', is: most, value: 4 },
          ],
        },
        do: [{ do: 'tag', with: 'four' }],
      });
    const verdicts = analyseBook(bookOf(between('under'), between('at most')), CURRENCY);
    expect(verdicts.get('under')).toEqual({ is: 'contradicts itself' });
    expect(verdicts.get('at most')).toMatchObject({ is: 'acts', example: { facts: { units: 4 } } });
  });

  test('what an earlier row stops never acts, and that row is named', () => {
    const book = bookOf(
      ruleOf('all abroad', {
        when: { field: 'abroad', is: 'yes' },
        do: [{ do: 'tag', with: 'far' }],
        stop: true,
      }),
      ruleOf('dear and abroad', {
        when: {
          all: [
            { field: 'abroad', is: 'yes' },
            { field: 'value', is: 'over', value: '100.00' },
          ],
        },
        do: [{ do: 'signature' }],
      }),
    );
    expect(analyseBook(book, CURRENCY).get('dear and abroad')).toEqual({
      is: 'never acts',
      by: ['all abroad'],
    });
  });

  test('two rows that stop half each leave nothing to a third', () => {
    const book = bookOf(
      ruleOf('light', { when: { field: 'weight', is: 'under', value: '1 kg' }, stop: true }),
      ruleOf('heavy', { when: { field: 'weight', is: 'at least', value: '1 kg' }, stop: true }),
      ruleOf('weighed', { when: { field: 'weight', is: 'over', value: '10 g' }, do: [{ do: 'first' }] }),
    );
    expect(analyseBook(book, CURRENCY).get('weighed')).toEqual({ is: 'never acts', by: ['light', 'heavy'] });
  });

  test('a row is seen to use what earlier rows set: the tag that it asks for comes from one of them', () => {
    const book = bookOf(
      ruleOf('tags', { when: { field: 'units', is: 'over', value: 10 }, do: [{ do: 'tag', with: 'bulk' }] }),
      ruleOf('never', {
        when: {
          all: [
            { field: 'units', is: 'over', value: 20 },
            { field: 'tags', is: 'has none of', value: ['Bulk'] },
          ],
        },
        do: [{ do: 'first' }],
      }),
    );
    expect(analyseBook(book, CURRENCY).get('never')).toEqual({ is: 'never acts', by: ['tags'] });
  });

  test('a decision that rows below always make again is overridden, by their names; one that only some of them make is not', () => {
    const box = (id: string, when: Rule['when'], code: string) =>
      ruleOf(id, { when, do: [{ do: 'box', with: code }] });
    const book = bookOf(
      box('any', { all: [] }, 'B1'),
      box('home', { field: 'residential', is: 'yes' }, 'B2'),
      box('company', { field: 'residential', is: 'no' }, 'B3'),
      box('last', { field: 'residential', is: 'yes' }, 'B4'),
    );
    const verdicts = analyseBook(book, CURRENCY);
    // Where nobody knows whether it is a home, the first one's box stays.
    expect(verdicts.get('any')?.is).toBe('acts');
    expect(verdicts.get('home')).toEqual({ is: 'always overridden', by: ['last'] });
  });

  test('margins follow from prices: a loss is found with a service that costs more than was paid', () => {
    const book = bookOf(
      ruleOf('ground', { do: [{ do: 'send by', with: 'heron ground' }] }),
      ruleOf('loss', {
        when: { field: 'margin', is: 'under', value: '0.00' },
        do: [{ do: 'cheapest', with: ['*'] }],
      }),
    );
    const verdict = analyseBook(book, CURRENCY).get('loss');
    expect(verdict?.is).toBe('acts');
    if (verdict?.is !== 'acts') return;
    const { facts, offers } = verdict.example;
    expect(offers.find(o => o.service === 'heron ground')!.minor).toBeGreaterThan(
      facts.shippingPaid as number,
    );
  });

  test('200 rules with nested conditions are looked through, however many stay unknown', () => {
    const book = randomBook(seeded(7), 200);
    expect(analyseBook(book, CURRENCY, new Map(), { trials: 200 }).size).toBe(200);
  });

  test('a rule that is not finished has no verdict and no say in those of the others', () => {
    const book = bookOf(
      ruleOf('no words', { when: { field: 'tags', is: 'has any of' }, do: [{ do: 'first' }], stop: true }),
      ruleOf('no number', { when: { field: 'total', is: 'over' }, do: [{ do: 'first' }] }),
      ruleOf('no service', { do: [{ do: 'send by' }] }),
      ruleOf('whole', { do: [{ do: 'first' }] }),
    );
    expect([...analyseBook(book, CURRENCY)].map(([id, v]) => [id, v.is])).toEqual([['whole', 'acts']]);
  });

  test('where it is known which country is home, abroad and the country cannot contradict each other', () => {
    const home = (country: string, is: 'yes' | 'no') =>
      ruleOf(`${country} ${is}`, {
        when: {
          all: [
            { field: 'country', is: 'one of', value: [country] },
            { field: 'abroad', is },
          ],
        },
        do: [{ do: 'first' }],
      });
    const book = bookOf(home('US', 'yes'), home('US', 'no'), home('CA', 'yes'), home('CA', 'no'));
    const is = [...analyseBook(book, CURRENCY, new Map(), { home: 'US' }).values()].map(v => v.is);
    expect(is).toEqual(['contradicts itself', 'acts', 'acts', 'contradicts itself']);
  });
});
