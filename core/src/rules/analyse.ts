import { actionSpec, MOMENTS, type Moment } from './actions.js';
import { type NumberedRule, type RuleBook, rulesOf } from './book.js';
import { type Cells, cellsOf } from './cells.js';
import { checkBook } from './checkBook.js';
import { folded } from './compile.js';
import { type Comparison, type Condition, comparisonsOf, groupOf } from './condition.js';
import { type Example, exampleOf, happens } from './example.js';
import type { Fact } from './fields.js';
import { OTHER_WORD, type Question } from './partial.js';
import { ANY_SERVICE, type RuledTemplate } from './runBook.js';
import { type Answers, type Goal, keyOf, PICK, type TryGround, tryGround, tryOut } from './tryout.js';

/** What can be proved of a rule that runs. `by` are the rules that keep it from acting, or that decide again all that it decides. */
export type RuleVerdict =
  | { is: 'acts'; example: Example }
  | { is: 'contradicts itself' }
  | { is: 'never acts'; by: readonly string[] }
  | { is: 'always overridden'; by: readonly string[] }
  | { is: 'unknown' };

/** How many times a book is tried for one rule before its verdict stays unknown. */
export const TRIALS = 2_000;

/**
 * Looks for rules that can never act, that always lose, or that contradict themselves, for all orders that there may be. OrderFacts are split
 * into cells within which no comparison answers otherwise; the book is run before they are known, and a fact is tried only when a row
 * asks for it. Dead is proved for every order; alive is proved by an example that the book itself was run with; what neither is proved
 * of within the trials is unknown. A rule with which the book could not be saved has no verdict and does not count. With `home`, what goes abroad follows from the country. Buttons are pressed alone: each code has a book of its own.
 */
export function analyseBook(
  book: RuleBook,
  currency: string,
  templates: ReadonlyMap<string, RuledTemplate> = new Map(),
  { trials = TRIALS, home = '' }: { trials?: number; home?: string } = {},
): Map<string, RuleVerdict> {
  const verdicts = new Map<string, RuleVerdict>();
  const wrong = new Set(checkBook(book, currency).map(p => p.rule));
  for (const rules of runsTogether(book, wrong)) {
    const search = new Search(
      rules.map(r => ({ ...r, when: byCountry(r.when, home) })),
      currency,
      templates,
      trials,
    );
    rules.forEach((rule, i) => {
      verdicts.set(rule.id, search.verdict(i));
    });
  }
  return verdicts;
}

/** What goes abroad follows from its country, where it is known which one is home. */
function byCountry(c: Condition, home: string): Condition {
  const group = groupOf(c);
  if (group) {
    const parts = group.parts.map(p => byCountry(p, home));
    return group.kind === 'all' ? { all: parts } : group.kind === 'any' ? { any: parts } : { none: parts };
  }
  const { field, is } = c as Comparison;
  if (field !== 'abroad' || home === '') return c;
  return { field: 'country', is: is === 'yes' ? 'not one of' : 'one of', value: [home] };
}

/** Rules that run one after another, without the wrong ones: those of a moment, and those of a button. */
function runsTogether(book: RuleBook, wrong: ReadonlySet<string>): NumberedRule[][] {
  const rules = rulesOf(book).filter(r => r.runs && !wrong.has(r.id));
  const of = (at: Moment) => rules.filter(r => r.at === at);
  const codes = [...new Set(of('button').map(r => folded(r.button?.code ?? '')))];
  return [
    ...MOMENTS.filter(m => m !== 'button').map(of),
    ...codes.map(code => of('button').filter(r => folded(r.button?.code ?? '') === code)),
  ];
}

type Found = { is: 'met'; example: Example } | { is: 'missed'; by: ReadonlySet<string> } | { is: 'unknown' };

class Search {
  private readonly ground: TryGround;
  private readonly cells: ReadonlyMap<string, Cells>;
  private readonly services: readonly string[];
  private left = 0;

  constructor(
    private readonly rules: readonly NumberedRule[],
    private readonly currency: string,
    private readonly templates: ReadonlyMap<string, RuledTemplate>,
    private readonly trials: number,
  ) {
    this.ground = tryGround(rules, currency, templates);
    const byField = new Map<string, Comparison[]>();
    for (const c of rules.flatMap(r => comparisonsOf(r.when)))
      byField.set(c.field, [...(byField.get(c.field) ?? []), c]);
    this.cells = new Map([...byField].map(([field, all]) => [field, cellsOf(field, all, currency)]));
    this.services = [
      ...new Set(
        rules.flatMap(r =>
          r.do.flatMap(a =>
            a.do === 'send by' ? [a.with as string] : a.do === 'cheapest' ? (a.with as string[]) : [],
          ),
        ),
      ),
    ].filter(s => s !== ANY_SERVICE);
  }

  verdict(i: number): RuleVerdict {
    const rule = this.rules[i]!;
    if (this.alone(rule).is === 'missed') return { is: 'contradicts itself' };
    const acts = this.search(this.ground, { target: i, stays: false });
    if (acts.is === 'missed') return { is: 'never acts', by: this.inOrder(acts.by) };
    if (acts.is === 'unknown' || !onlyDecides(rule))
      return acts.is === 'met' ? { is: 'acts', example: acts.example } : acts;
    const stays = this.search(this.ground, { target: i, stays: true });
    if (stays.is === 'missed') return { is: 'always overridden', by: this.inOrder(stays.by) };
    return stays.is === 'met' ? { is: 'acts', example: stays.example } : stays;
  }

  private alone(rule: NumberedRule): Found {
    return this.search(tryGround([rule], this.currency, this.templates), { target: 0, stays: false });
  }

  private inOrder(ids: ReadonlySet<string>): string[] {
    return this.rules.filter(r => ids.has(r.id)).map(r => r.id);
  }

  private search(ground: TryGround, goal: Goal): Found {
    this.left = this.trials;
    return this.descend(ground, goal, new Map());
  }

  private descend(ground: TryGround, goal: Goal, answers: Answers): Found {
    if (--this.left < 0) return { is: 'unknown' };
    const trial = tryOut(ground, goal, answers);
    if (trial.is === 'missed') return { is: 'missed', by: new Set(trial.by) };
    if (trial.is === 'met') {
      const example = exampleOf(answers);
      return happens(ground, goal, example, this.currency) ? { is: 'met', example } : { is: 'unknown' };
    }
    const { samples, complete } = this.samplesFor(trial.question);
    const by = new Set<string>();
    let sure = complete;
    for (const sample of samples) {
      const found = this.descend(ground, goal, new Map(answers).set(keyOf(trial.question), sample));
      if (found.is === 'met') return found;
      if (found.is === 'unknown') sure = false;
      else for (const id of found.by) by.add(id);
    }
    return sure ? { is: 'missed', by } : { is: 'unknown' };
  }

  private samplesFor({ field, word, time }: Question): {
    samples: readonly (Fact | boolean)[];
    complete: boolean;
  } {
    if (word !== null) return { samples: [true, false], complete: true };
    if (field !== PICK) return this.cells.get(field)!;
    const listed = time.split('\n').slice(1);
    const services = listed.includes(ANY_SERVICE) ? [...this.services, OTHER_WORD] : listed;
    return { samples: [...services, null], complete: true };
  }
}

/** A rule that only decides fields is of no use where all of them are decided again below. */
const onlyDecides = (rule: NumberedRule): boolean =>
  !rule.stop && rule.do.every(a => actionSpec(a.do).kind === 'decides');
