import type { Action, Moment } from './actions.js';
import type { Rule, RuleBook } from './book.js';
import { subsets } from './cells.js';
import type { Comparison, Condition } from './condition.js';
import type { Fact, OrderFacts } from './fields.js';
import { FIELD_NAMES, fieldSpec } from './fields.js';

/** Seeded books and orders over a small domain, for tests that compare two ways of answering. */
export interface SmallDomain {
  countries: readonly string[];
  tags: readonly string[];
  mostUnits: number;
}
export const SMALL: SmallDomain = { countries: ['US', 'CA', 'MX'], tags: ['dear', 'gift'], mostUnits: 4 };

type Random = () => number;
const below = (random: Random, n: number): number => Math.floor(random() * n);
const one = <T>(random: Random, all: readonly T[]): T => all[below(random, all.length)]!;

/** A comparison over the small domain. */
function randomComparison(random: Random, d: SmallDomain): Comparison {
  switch (below(random, 5)) {
    case 0:
      return {
        field: 'country',
        is: one(random, ['one of', 'not one of']),
        value: some(random, d.countries.slice(0, -1)),
      };
    case 1:
      return {
        field: 'units',
        is: one(random, ['is', 'over', 'under', 'at least', 'at most']),
        value: below(random, d.mostUnits + 1),
      };
    case 2:
      return { field: 'residential', is: one(random, ['yes', 'no']) };
    case 3:
      return { field: 'service', is: one(random, ['one of', 'not one of']), value: [one(random, SERVICES)] };
    default:
      return {
        field: 'tags',
        is: one(random, ['has any of', 'has all of', 'has none of', 'has only']),
        value: some(random, d.tags),
      };
  }
}

const SERVICES = ['heron ground', 'redfen box'] as const;

function some<T>(random: Random, all: readonly T[]): T[] {
  const chosen = all.filter(() => random() < 0.5);
  return chosen.length > 0 ? chosen : [one(random, all)];
}

export function randomCondition(random: Random, d: SmallDomain, depth = 2): Condition {
  if (depth === 0 || random() < 0.4) return randomComparison(random, d);
  const parts = Array.from({ length: 2 + below(random, 2) }, () => randomCondition(random, d, depth - 1));
  return one<Condition>(random, [{ all: parts }, { any: parts }, { none: parts }]);
}

function randomAction(random: Random, d: SmallDomain): Action {
  return one<() => Action>(random, [
    () => ({ do: 'send by', with: one(random, SERVICES) }),
    () => ({ do: 'box', with: one(random, ['B1', 'B2']) }),
    () => ({ do: 'tag', with: one(random, d.tags) }),
    () => ({ do: 'signature' }),
  ])();
}

/** A book of so many rules, all of one moment. */
export function randomBook(
  random: Random,
  rules: number,
  d: SmallDomain = SMALL,
  at: Moment = 'clear',
): RuleBook {
  return {
    rows: Array.from(
      { length: rules },
      (_, i): Rule => ({
        id: `r${i + 1}`,
        name: `Rule ${i + 1}`,
        note: '',
        on: true,
        at,
        when: randomCondition(random, d),
        do: Array.from({ length: 1 + below(random, 2) }, () => randomAction(random, d)),
        stop: random() < 0.25,
      }),
    ),
  };
}

/** A rule that is on and always holds, with what a test says of it. */
export const ruleOf = (id: string, more: Partial<Rule> = {}): Rule => ({
  id,
  name: id,
  note: '',
  on: true,
  at: 'clear',
  when: { all: [] },
  do: [],
  stop: false,
  ...more,
});

/** Facts of which nothing is known but what is given. */
export const factsWith = (known: Partial<Record<keyof OrderFacts, Fact>>): OrderFacts =>
  Object.fromEntries(
    FIELD_NAMES.map(f => [f, known[f] ?? (fieldSpec(f)!.kind === 'words' ? [] : null)]),
  ) as OrderFacts;

/** Every order of the small domain, what nobody knows and another word included. */
export function allOrders(d: SmallDomain): OrderFacts[] {
  const tagSets = subsets([...d.tags, 'another']);
  const units = [...Array.from({ length: d.mostUnits + 2 }, (_, n) => n), null];
  const services = ['heron ground', 'redfen box', 'another', null];
  return [...d.countries, null].flatMap(country =>
    units.flatMap(u =>
      [true, false, null].flatMap(residential =>
        tagSets.flatMap(tags =>
          services.map(service => factsWith({ country, units: u, residential, tags, service })),
        ),
      ),
    ),
  );
}
