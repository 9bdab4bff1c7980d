import { type Action, actionSpec } from './actions.js';
import type { Rule } from './book.js';
import { type Comparison, type Condition, groupOf, plain } from './condition.js';
import { fieldSpec, type Op, type RuleField } from './fields.js';
import { ANY_SERVICE } from './runBook.js';

/** What a sentence says of a rule: all but its name, note and button. */
export type Said = Pick<Rule, 'at' | 'when' | 'do' | 'stop'>;

/** How codes are called by people, where a sentence is for the eye. As they are, where it is to be read again. */
export type CallsIt = (kind: 'service' | 'template' | 'box' | 'other', code: string) => string;

/** How comparisons read; lists of more than one word read otherwise than one alone. */
export const OP_WORDS: Record<Exclude<Op, 'yes' | 'no'>, readonly [one: string, more: string]> = {
  is: ['is', 'is'],
  over: ['is over', 'is over'],
  under: ['is under', 'is under'],
  'at least': ['is at least', 'is at least'],
  'at most': ['is at most', 'is at most'],
  'one of': ['is', 'is one of'],
  'not one of': ['is not', 'is none of'],
  'begins with': ['begins with', 'begins with'],
  contains: ['contains', 'contains'],
  'has any of': ['have', 'have any of'],
  'has all of': ['have all of', 'have all of'],
  'has none of': ['have no', 'have none of'],
  'has only': ['are only', 'are only'],
};

/** Numbers with their units stand as they are; what looks otherwise is quoted. */
export const BARE =
  /^-?\d+(\.\d+)?( (lb|oz|kg|g|in|cm|mm|m|ft|min|h|d)(?![a-z])( \d+(\.\d+)? oz(?![a-z]))?)?/;

/**
 * A rule as a sentence, which `readSentence` reads back to the same rule. Example: `at clear, when country is "CA" and weight is over
 * 40 lb do tag it "heavy", then stop`.
 */
export function sentenceOf(rule: Said, calls: CallsIt = (_, code) => code): string {
  const when = plain(rule.when);
  const condition = 'all' in when && when.all.length === 0 ? 'always' : `when ${conditionWords(when)}`;
  const acts = rule.do.map(a => actionWords(a, calls));
  const does = acts.length > 0 ? [`do ${acts.join(', ')}`] : [];
  const stop = rule.stop ? [does.length > 0 ? ', then stop' : 'then stop'] : [];
  return [`at ${rule.at}, ${condition}`, ...does, ...stop].join(' ').replace(' , then', ', then');
}

/** A condition in words. Example: `(goes abroad or value is over 100.00)`, where it stands within another. */
export function conditionWords(condition: Condition, within = false): string {
  const group = groupOf(condition);
  if (!group) return comparisonWords(condition as Comparison);
  const parts = group.parts.map(p => conditionWords(p, true));
  if (group.kind === 'none')
    return `none of (${parts.length === 1 ? unwrapped(parts[0]!) : parts.join(' or ')})`;
  const joined = parts.join(group.kind === 'all' ? ' and ' : ' or ');
  return within ? `(${joined})` : joined;
}

/** A group alone in brackets needs none of its own. */
const unwrapped = (words: string): string => (words.startsWith('(') ? words.slice(1, -1) : words);

const quotedWord = (word: string): string => `"${word.replace(/[\\"]/g, c => `\\${c}`)}"`;

function comparisonWords(c: Comparison): string {
  const spec: RuleField | undefined = fieldSpec(c.field);
  const words = spec?.words ?? c.field;
  if (c.is === 'yes') return words;
  if (c.is === 'no') return spec?.no ?? `not ${words}`;
  const values = typeof c.value === 'object' ? c.value : [c.value ?? ''];
  const op = OP_WORDS[c.is][values.length > 1 ? 1 : 0];
  return `${words} ${op} ${values.map(v => valueWords(v, typeof c.value === 'object')).join(', ')}`;
}

const valueWords = (value: string | number, isWord: boolean): string => {
  if (typeof value === 'number') return String(value);
  return !isWord && BARE.exec(value)?.[0] === value ? value : quotedWord(value);
};

/** An action in words. Example: `pack in "B8"`. */
export function actionWords({ do: name, with: given }: Action, calls: CallsIt = (_, code) => code): string {
  const { words, given: kind } = actionSpec(name);
  const called = (code: string) =>
    quotedWord(
      calls(
        kind === 'service' || kind === 'services'
          ? 'service'
          : name === 'template' || name === 'box'
            ? name
            : 'other',
        code,
      ),
    );
  switch (kind) {
    case 'nothing':
      return words;
    case 'services': {
      const services = given as readonly string[];
      const all = services.length === 1 && services[0] === ANY_SERVICE;
      return all ? `${words} all` : `${words} ${services.map(called).join(', ')}`;
    }
    case 'lines':
      return `${words} (${conditionWords(plain(given as Condition))})`;
    case 'money':
      return `${words} ${given as string}`;
    case 'text':
      return `${words} ${quotedWord(given as string)}`;
    default:
      return `${words} ${called(given as string)}`;
  }
}
