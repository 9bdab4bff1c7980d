import { parseAmount } from '../money/money.js';
import { type Action, actionSpec, MOMENTS } from './actions.js';
import { type Rule, type RuleBook, rulesOf } from './book.js';
import { type Comparison, type Condition, groupOf, MOST_NESTED } from './condition.js';
import { FIELDS, LINE_FIELDS, opsOf, type RuleField } from './fields.js';
import { readNumber, readWords } from './literals.js';

/** What is wrong with a rule: which one, where in it (as in `do 2`), what, and what to do about it. */
export interface BookProblem {
  rule: string;
  no: number;
  where: string;
  says: string;
  cure: string;
}

/** Most tags, texts and codes of actions. */
const LONGEST: Partial<Record<Action['do'], number>> = { tag: 30, park: 200 };
const LONGEST_TEXT = 500;

/**
 * Everything for which a book cannot be saved: fields that are not there, comparisons that do not fit them, values that cannot be read,
 * actions at a moment at which they may not stand, two rules of one id, two buttons of one code. `currency` is the house's.
 */
export function checkBook(book: RuleBook, currency: string): BookProblem[] {
  const rules = rulesOf(book);
  const twice = (key: (r: Rule) => string | undefined) =>
    rules.filter((r, i) => key(r) !== undefined && rules.findIndex(q => key(q) === key(r)) < i);
  return [
    ...rules.flatMap(rule => ruleProblems(rule, currency).map(p => ({ rule: rule.id, no: rule.no, ...p }))),
    ...twice(r => r.id).map(r => ({
      rule: r.id,
      no: r.no,
      where: 'id',
      says: 'has the id of an earlier rule',
      cure: 'Give it another id.',
    })),
    ...twice(r => r.button?.code.toUpperCase()).map(r => ({
      rule: r.id,
      no: r.no,
      where: 'button',
      says: `has the code ${r.button!.code} of an earlier button`,
      cure: 'Give its button another code.',
    })),
  ];
}

type Wrong = Omit<BookProblem, 'rule' | 'no'>;

function ruleProblems(rule: Rule, currency: string): Wrong[] {
  const wrong: Wrong[] = [];
  if (!MOMENTS.includes(rule.at))
    wrong.push({
      where: 'at',
      says: `has no moment “${rule.at}”`,
      cure: `Choose one of ${MOMENTS.join(', ')}.`,
    });
  if ((rule.at === 'button') !== (rule.button !== undefined))
    wrong.push({
      where: 'button',
      says: rule.button ? 'has a button and runs at another moment' : 'runs at a button and has none',
      cure: 'Give it a button with its words and code, or another moment.',
    });
  if (rule.do.length === 0 && !rule.stop)
    wrong.push({ where: 'do', says: 'does nothing', cure: 'Add what it is to do, or let it stop the book.' });
  return [
    ...wrong,
    ...conditionProblems(rule.when, FIELDS, currency, 'when'),
    ...rule.do.flatMap((action, i) => actionProblems(action, rule, currency, `do ${i + 1}`)),
  ];
}

function actionProblems(action: Action, rule: Rule, currency: string, where: string): Wrong[] {
  const spec = actionSpec(action.do);
  if (!spec) return [{ where, says: `knows no action “${action.do}”`, cure: 'Choose one of those offered.' }];
  const wrong: Wrong[] = [];
  if (!spec.moments.includes(rule.at))
    wrong.push({
      where,
      says: `cannot ${spec.words.replace(/:$/, '')} at the moment ${rule.at}`,
      cure: `Let it run at ${spec.moments.join(', ')}.`,
    });
  const given = action.with;
  if (spec.given === 'lines')
    return [
      ...wrong,
      ...(isCondition(given)
        ? conditionProblems(given, LINE_FIELDS, currency, where)
        : [{ where, says: 'does not say which lines', cure: 'Say which lines are meant.' }]),
    ];
  const says = givenProblem(spec.given, given, currency, LONGEST[action.do] ?? LONGEST_TEXT);
  if (says) wrong.push({ where, says: `“${spec.words}” ${says}`, cure: 'Correct what it is given.' });
  return wrong;
}

function givenProblem(kind: string, given: Action['with'], currency: string, most: number): string | null {
  if (kind === 'nothing') return given === undefined ? null : 'is given something and wants nothing';
  if (kind === 'services') return readWords(given as string[]).ok ? null : 'wants one service at least';
  if (typeof given !== 'string' || given.trim() === '') return 'is given nothing';
  if (kind === 'money') {
    const read = parseAmount(given, currency);
    return read.ok && read.value > 0 ? null : `is not given an amount in ${currency}`;
  }
  return given.length > most ? `is given more than ${most} characters` : null;
}

const isCondition = (given: Action['with']): given is Condition =>
  typeof given === 'object' && given !== null && !Array.isArray(given);

function conditionProblems(
  condition: Condition,
  fields: Readonly<Record<string, RuleField>>,
  currency: string,
  where: string,
  depth = 0,
): Wrong[] {
  if (depth > MOST_NESTED)
    return [{ where, says: `is nested more than ${MOST_NESTED} deep`, cure: 'Make two rules of it.' }];
  const group = groupOf(condition);
  if (group && group.parts.length === 0 && (group.kind !== 'all' || depth > 0))
    return [{ where, says: `says “${group.kind} of” and names nothing`, cure: 'Add to it, or take it out.' }];
  if (group)
    return group.parts.flatMap((part, i) =>
      conditionProblems(part, fields, currency, `${where} ${i + 1}`, depth + 1),
    );
  return comparisonProblems(condition as Comparison, fields, currency, where);
}

function comparisonProblems(
  c: Comparison,
  fields: Readonly<Record<string, RuleField>>,
  currency: string,
  where: string,
): Wrong[] {
  const spec = Object.hasOwn(fields, c.field) ? fields[c.field]! : null;
  if (!spec)
    return [
      {
        where,
        says: `asks for “${c.field}”, which is not known here`,
        cure: 'Choose a field that is offered.',
      },
    ];
  if (!opsOf(spec.kind).includes(c.is))
    return [
      {
        where,
        says: `cannot compare ${spec.words} by “${c.is}”`,
        cure: `Use one of: ${opsOf(spec.kind).join(', ')}.`,
      },
    ];
  if (spec.kind === 'flag') return [];
  const words = spec.kind === 'choice' || spec.kind === 'words' || spec.kind === 'text';
  const read = words ? readWords(c.value) : readNumber(spec.kind, c.value, currency);
  return read.ok
    ? []
    : [
        {
          where,
          says: `${spec.words}: “${String(c.value ?? '')}” ${read.problem}`,
          cure: 'Correct the value.',
        },
      ];
}
