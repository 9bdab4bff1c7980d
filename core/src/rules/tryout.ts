import { type Action, actionSpec } from './actions.js';
import type { NumberedRule } from './book.js';
import { folded } from './compile.js';
import { comparisonsOf } from './condition.js';
import { FIELD_NAMES, fieldSpec } from './fields.js';
import {
  compilePartial,
  type Maybe,
  type NamedWords,
  OTHER_WORD,
  type PartialFact,
  type PartialTest,
  type Question,
} from './partial.js';
import type { RuledTemplate } from './runBook.js';

/** Answers to questions, by their keys. */
export type Answers = ReadonlyMap<string, PartialFact['fact'] | boolean>;

export const keyOf = ({ field, word, time }: Question): string => `${field}\n${time}\n${word ?? ''}`;

/** A rule prepared to be run before all facts are known. */
export interface TriedRule {
  rule: NumberedRule;
  when: PartialTest;
}

/** What rules of one moment are tried with. */
export interface TryGround {
  rules: readonly TriedRule[];
  named: NamedWords;
  templates: ReadonlyMap<string, RuledTemplate>;
}

/** What is wanted of a trial: that a rule acts, or that something of what it decides stays. */
export interface Goal {
  target: number;
  stays: boolean;
}

/** How a trial ended: the goal is met, cannot be met any more (with the rules in its way), or one question must be answered first. */
export type Trial =
  | { is: 'met' }
  | { is: 'missed'; by: readonly string[] }
  | { is: 'open'; question: Question };

export function tryGround(
  rules: readonly NumberedRule[],
  currency: string,
  templates: ReadonlyMap<string, RuledTemplate>,
): TryGround {
  const named = new Map<string, string[]>();
  for (const c of rules.flatMap(r => comparisonsOf(r.when)))
    if (fieldSpec(c.field)?.kind === 'words' && Array.isArray(c.value))
      named.set(c.field, [...new Set([...(named.get(c.field) ?? []), ...c.value.map(folded)])]);
  return {
    rules: rules.map(rule => ({ rule, when: compilePartial(rule.when, currency, named) })),
    named,
    templates,
  };
}

/** A run of a book of which not all facts are known. */
interface Run {
  ground: TryGround;
  answers: Answers;
  facts: Map<string, PartialFact>;
  /** The first question that a row asked: nothing after it is sure. */
  asked: Question | null;
  /** A row may have stopped it. */
  perhapsStopped: boolean;
}

/** Of a fact that a row may have changed, or not. */
const LOST = 'lost';

/**
 * Runs a book as far as answers are known. A goal that is met or missed is so for every order with these answers, whatever else it is
 * like: what a row may or may not have changed is not known afterwards.
 */
export function tryOut(ground: TryGround, goal: Goal, answers: Answers): Trial {
  const run: Run = { ground, answers, facts: begin(ground, answers), asked: null, perhapsStopped: false };
  const reads = new Set(comparisonsOf(ground.rules[goal.target]!.rule.when).map(c => c.field));
  const changedBy: string[] = [];
  // That a rule does not act here says nothing of who decides again what it decides elsewhere.
  const missed = (by: readonly string[]): Trial => ({ is: 'missed', by: goal.stays ? [] : by });
  for (const { rule, when } of ground.rules.slice(0, goal.target)) {
    const met = when(run.facts);
    if (met === false) continue;
    if (met === true && rule.stop && !run.perhapsStopped) return missed([rule.id]);
    if (rowPassed(run, rule, met).some(d => reads.has(d.field))) changedBy.push(rule.id);
  }
  const { rule, when } = ground.rules[goal.target]!;
  const met = when(run.facts);
  if (met === false) return missed(changedBy);
  if (met !== true) return { is: 'open', question: met.time === LOST ? run.asked! : met };
  if (run.perhapsStopped) return { is: 'open', question: run.asked! };
  return goal.stays ? staying(run, rule, goal.target) : { is: 'met' };
}

/** Whether something that a rule decides is there at the end, after all rows below it. */
function staying(run: Run, rule: NumberedRule, target: number): Trial {
  const mine = new Map<string, 'his' | 'perhaps'>();
  for (const { field, sure } of rowPassed(run, rule, true)) mine.set(field, sure ? 'his' : 'perhaps');
  const by: string[] = [];
  for (const { rule: later, when } of run.ground.rules.slice(target + 1)) {
    const met = when(run.facts);
    if (met === false) continue;
    const stopped = run.perhapsStopped;
    for (const { field, sure } of rowPassed(run, later, met)) {
      if (!mine.has(field)) continue;
      if (sure && met === true && !stopped) mine.delete(field);
      else mine.set(field, 'perhaps');
      by.push(later.id);
    }
    if (met === true && later.stop && !stopped) break;
  }
  const left = [...mine.values()];
  if (left.includes('his')) return { is: 'met' };
  return left.length === 0 ? { is: 'missed', by } : { is: 'open', question: run.asked! };
}

/** Changes facts as a row does that acts, or that perhaps acts; gives the fields that it changes or decides, and whether surely. */
function rowPassed(run: Run, rule: NumberedRule, met: Maybe): Changed[] {
  if (typeof met !== 'boolean') {
    run.asked ??= met;
    if (rule.stop) run.perhapsStopped = true;
  }
  const changed = rule.do.flatMap(action => changes(run, rule, action));
  for (const { field, to, word } of changed)
    if (to !== undefined) change(run, field, met === true && !run.perhapsStopped ? to : { time: LOST }, word);
  return changed;
}

/** A field that an action changes or decides, to what if facts follow from it, and whether it surely does. */
interface Changed {
  field: string;
  sure: boolean;
  to?: PartialFact;
  /** One word comes to those of the field. */
  word?: string;
}

function changes(run: Run, rule: NumberedRule, action: Action): Changed[] {
  const given = action.with as string;
  switch (action.do) {
    case 'tag':
      return [{ field: 'tags', sure: true, to: { time: '' }, word: folded(given) }];
    case 'own parcel':
      return [{ field: 'parcels', sure: false, to: answered(run, 'parcels', `after ${rule.id}`) }];
    case 'box':
      return boxChanges(given);
    case 'send by':
      return serviceChanges(run, given);
    case 'cheapest':
      return cheapestChanges(run, rule, action.with as readonly string[]);
    case 'template': {
      const t = run.ground.templates.get(given);
      if (!t) return [];
      return [
        ...serviceChanges(run, t.service),
        ...(t.box === null ? [] : boxChanges(t.box)),
        ...(t.signature ? [{ field: 'signature', sure: true }] : []),
        ...(t.declare === null ? [] : [{ field: 'declare', sure: true }]),
      ];
    }
    default:
      return actionSpec(action.do).sets.map(field => ({ field, sure: true }));
  }
}

const boxChanges = (box: string): Changed[] => [
  { field: 'box', sure: true, to: { time: '', fact: folded(box) } },
];

/** What follows from a service depends on its prices, which are facts of their own. */
function serviceChanges(run: Run, service: string): Changed[] {
  const [code] = service.split(' ') as [string];
  return [
    { field: 'service', sure: true, to: { time: '', fact: folded(service) } },
    { field: 'carrier', sure: true, to: { time: '', fact: folded(code) } },
    ...['price', 'margin', 'inTime'].map(field => ({ field, sure: true, to: answered(run, field, service) })),
  ];
}

/** Which service is the cheapest is a question of its own; that none has a price, too. */
function cheapestChanges(run: Run, rule: NumberedRule, services: readonly string[]): Changed[] {
  const { fact } = answered(run, PICK, [rule.id, ...services].join('\n'));
  if (typeof fact === 'string') return serviceChanges(run, fact);
  if (fact === null) return [];
  run.asked ??= { field: PICK, word: null, time: [rule.id, ...services].join('\n') };
  return ['service', 'carrier', 'price', 'margin', 'inTime'].map(field => ({
    field,
    sure: false,
    to: { time: LOST },
  }));
}

/** The question which of some services is the cheapest in time. */
export const PICK = 'pick';

function answered(run: Run, field: string, time: string): PartialFact {
  const answer = run.answers.get(keyOf({ field, word: null, time }));
  return answer === undefined ? { time } : { time, fact: answer };
}

function change(run: Run, field: string, to: PartialFact, word?: string): void {
  if (word === undefined) {
    run.facts.set(field, to);
    return;
  }
  const before = run.facts.get(field)!;
  const words = new Map(before.words);
  const named = run.ground.named.get(field)?.includes(word) ? word : OTHER_WORD;
  if (to.time !== LOST) words.set(named, true);
  // Whether a word is there that may have come is not known.
  else if (words.get(named) !== true) words.delete(named);
  run.facts.set(field, { time: to.time === LOST ? LOST : before.time, words });
}

/** What is known at the beginning. */
function begin(ground: TryGround, answers: Answers): Map<string, PartialFact> {
  const facts = new Map<string, PartialFact>();
  for (const field of FIELD_NAMES) {
    if (fieldSpec(field)!.kind !== 'words') {
      const fact = answers.get(keyOf({ field, word: null, time: '' }));
      if (fact !== undefined) facts.set(field, { time: '', fact });
      continue;
    }
    const words = new Map<string, boolean>();
    for (const word of [...(ground.named.get(field) ?? []), OTHER_WORD]) {
      const has = answers.get(keyOf({ field, word, time: '' }));
      if (typeof has === 'boolean') words.set(word, has);
    }
    facts.set(field, { time: '', words });
  }
  return facts;
}
