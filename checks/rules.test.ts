import { RuleBookFile, ruleBookSchema } from '@auk/contract';
import {
  analyseBook,
  type Condition,
  compileBook,
  groundOf,
  type OrderFacts,
  type RuleBook,
  runBook,
  seeded,
} from '@auk/core';
import { Ajv2020 } from 'ajv/dist/2020.js';
import { Engine, type TopLevelCondition } from 'json-rules-engine';
import { expect, test } from 'vitest';
import { allOrders, randomBook, SMALL } from '../core/src/rules/randomBook.js';

/** Reference: json-rules-engine 7.3.1, a general rule engine; a naive fold written anew; and enumeration of every order of a small domain. */

type Nested = { all: Nested[] } | { any: Nested[] } | { not: Nested } | Record<string, unknown>;

/** Our conditions in the engine's form. It knows no sets within sets, so those are spelled out word by word. */
function engineForm(c: Condition): Nested {
  if ('all' in c) return { all: c.all.map(engineForm) };
  if ('any' in c) return { any: c.any.map(engineForm) };
  if ('none' in c) return { not: { any: c.none.map(engineForm) } };
  const values = c.value as string[];
  const fact = c.field;
  const one = (operator: string, value: unknown) => ({ fact, operator, value });
  switch (c.is) {
    case 'yes':
      return one('equal', true);
    case 'no':
      return one('equal', false);
    case 'is':
      return one('equal', c.value);
    case 'over':
      return one('greaterThan', c.value);
    case 'under':
      return one('lessThan', c.value);
    case 'at least':
      return one('greaterThanInclusive', c.value);
    case 'at most':
      return one('lessThanInclusive', c.value);
    case 'one of':
      return one('in', values);
    case 'not one of':
      return { all: [one('notIn', values), one('notEqual', null)] };
    case 'has any of':
      return { any: values.map(v => one('contains', v)) };
    case 'has all of':
      return { all: values.map(v => one('contains', v)) };
    case 'has none of':
      return { not: { any: values.map(v => one('contains', v)) } };
    default:
      return {
        all: [
          { any: values.map(v => one('contains', v)) },
          ...['dear', 'gift', 'another'].filter(t => !values.includes(t)).map(t => one('doesNotContain', t)),
        ],
      };
  }
}

test('conditions of 40 random books answer as json-rules-engine does, order by order', async () => {
  const random = seeded(11);
  const orders = allOrders(SMALL);
  let held = 0;
  for (let n = 1; n <= 40; n++) {
    const book = randomBook(seeded(n), 4);
    // Each rule alone, so that no row changes facts for another.
    const alone = (book.rows as Extract<RuleBook['rows'][number], { when: unknown }>[]).map(rule => ({
      rule,
      compiled: compileBook({ rows: [{ ...rule, stop: false }] }, 'clear', 'USD'),
    }));
    const engine = new Engine([], { allowUndefinedFacts: true });
    for (const { rule } of alone)
      engine.addRule({
        conditions: { all: [engineForm(rule.when)] } as TopLevelCondition,
        event: { type: rule.id },
      });
    for (let k = 0; k < 30; k++) {
      const facts = orders[Math.floor(random() * orders.length)]!;
      const theirs = (await engine.run(facts as Record<string, unknown>)).events.map(e => e.type).sort();
      const ours = alone
        .filter(({ compiled }) => runBook(compiled, ground(facts)).acted.length > 0)
        .map(({ rule }) => rule.id)
        .sort();
      expect(ours, JSON.stringify(facts)).toEqual(theirs);
      held += ours.length;
    }
  }
  expect(held).toBeGreaterThan(500);
});

const ground = (facts: OrderFacts) => ({ facts, lines: [], offers: [], promised: null });

/** A fold as one would write it first: the last row that acts wins, a row that stops ends it. */
function naive(book: RuleBook, facts: OrderFacts): Record<string, unknown> {
  const now: Record<string, unknown> = { ...facts, tags: [...(facts.tags as string[])] };
  const result: Record<string, unknown> = {};
  for (const row of book.rows) {
    if (!('when' in row) || !naiveHolds(row.when, now)) continue;
    for (const { do: name, with: given } of row.do) {
      if (name === 'tag') {
        if (!(now.tags as string[]).includes(given as string)) (now.tags as string[]).push(given as string);
        result.tags = [...(now.tags as string[])].sort();
      } else {
        const field = name === 'send by' ? 'service' : name;
        result[field] = name === 'signature' ? true : given;
        now[field] = result[field];
      }
    }
    if (row.stop) break;
  }
  return result;
}

function naiveHolds(c: Condition, f: Record<string, unknown>): boolean {
  if ('all' in c) return c.all.every(p => naiveHolds(p, f));
  if ('any' in c) return c.any.some(p => naiveHolds(p, f));
  if ('none' in c) return !c.none.some(p => naiveHolds(p, f));
  const [fact, value] = [f[c.field], c.value as never];
  const words = Array.isArray(value) ? (value as string[]) : [];
  const tags = Array.isArray(fact) ? (fact as string[]) : [];
  const n = fact === null ? Number.NaN : Number(fact);
  return {
    yes: fact === true,
    no: fact === false,
    is: n === Number(value),
    over: n > Number(value),
    under: n < Number(value),
    'at least': n >= Number(value),
    'at most': n <= Number(value),
    'one of': words.includes(fact as string),
    'not one of': fact !== null && !words.includes(fact as string),
    'has any of': words.some(w => tags.includes(w)),
    'has all of': words.every(w => tags.includes(w)),
    'has none of': !words.some(w => tags.includes(w)),
    'has only': tags.length > 0 && tags.every(t => words.includes(t)),
    'begins with': false,
    contains: false,
  }[c.is];
}

test('what comes of 60 random books is what a naive fold gives, and every decision names a rule that acted', () => {
  const random = seeded(5);
  const orders = allOrders(SMALL);
  for (let n = 1; n <= 60; n++) {
    const book = randomBook(seeded(1000 + n), 6);
    const compiled = compileBook(book, 'clear', 'USD');
    for (let k = 0; k < 40; k++) {
      const facts = orders[Math.floor(random() * orders.length)]!;
      const ruled = runBook(compiled, ground(facts));
      const tags = ruled.added.filter(a => a.action.do === 'tag').map(a => a.action.with as string);
      const ours = {
        ...Object.fromEntries(Object.entries(ruled.fields).map(([field, d]) => [field, d.value])),
        ...(tags.length > 0 && { tags: [...new Set([...(facts.tags as string[]), ...tags])].sort() }),
      };
      expect(ours, `book ${n}, ${JSON.stringify(facts)}`).toEqual(naive(book, facts));
      for (const d of Object.values(ruled.fields))
        expect(ruled.acted).toEqual(expect.arrayContaining([d.by, ...d.over]));
    }
  }
});

test('every rule that is called dead acts on no order of a small domain, and every one called alive acts on its example', () => {
  const orders = allOrders(SMALL);
  for (let n = 1; n <= 25; n++) {
    const book = randomBook(seeded(2000 + n), 7);
    const compiled = compileBook(book, 'clear', 'USD');
    const acted = new Set(orders.flatMap(facts => runBook(compiled, ground(facts)).acted));
    for (const [id, verdict] of analyseBook(book, 'USD')) {
      expect(verdict.is).not.toBe('unknown');
      if (verdict.is === 'acts') expect(runBook(compiled, groundOf(verdict.example)).acted).toContain(id);
      expect(acted.has(id), `book ${n}, ${id}: ${verdict.is}`).toBe(
        verdict.is === 'acts' || verdict.is === 'always overridden',
      );
    }
  }
});

/** Reference: Ajv 8.17.1, a validator of JSON Schema 2020-12 by others. */
test('the published schema takes what Auk takes and refuses what Auk refuses, on 300 books and broken ones', () => {
  const validate = new Ajv2020({ strict: false }).compile(ruleBookSchema());
  const file = (n: number) => ({ form: 'rule book 1', ...randomBook(seeded(n), 4) });
  const random = seeded(77);
  let refused = 0;
  for (let n = 1; n <= 300; n++) {
    const good = file(n);
    expect(validate(good), JSON.stringify(validate.errors)).toBe(true);
    expect(RuleBookFile.safeParse(good).success).toBe(true);
    const broken = breakSomewhere(structuredClone(good), random);
    const [theirs, ours] = [validate(broken), RuleBookFile.safeParse(broken).success];
    expect(theirs, JSON.stringify(broken)).toBe(ours);
    if (!ours) refused++;
  }
  expect(refused).toBeGreaterThan(150);
});

type Json = Record<string, unknown> | unknown[];

/** Spoils one value of a document: another kind of value, or a key that nobody knows. */
function breakSomewhere(document: Json, random: () => number): Json {
  const places: [Json, string | number][] = [];
  const walk = (at: Json): void => {
    for (const [key, value] of Object.entries(at)) {
      places.push([at, Array.isArray(at) ? Number(key) : key]);
      if (typeof value === 'object' && value !== null) walk(value as Json);
    }
  };
  walk(document);
  const [at, key] = places[Math.floor(random() * places.length)]!;
  const bad = [null, 7.5, 'nonsense', true, {}, []][Math.floor(random() * 6)];
  if (random() < 0.2 && !Array.isArray(at)) (at as Record<string, unknown>).unheard = 1;
  else (at as Record<string | number, unknown>)[key] = bad;
  return document;
}
