import { type Action, type ActionName, actionSpec, type Moment } from './actions.js';
import { asksPrice, type Condition } from './condition.js';

/** A button of the book: what stands on it, where it is found, and the code that presses it. */
export interface Button {
  words: string;
  places: readonly ('list' | 'order' | 'floor' | 'bench')[];
  code: string;
}

/** One sentence: at a moment, when a condition holds, do something; with `stop`, the rest of the book is passed over then. */
export interface Rule {
  id: string;
  name: string;
  /** Why it is there. */
  note: string;
  on: boolean;
  at: Moment;
  /** Where it runs at the press of a button. */
  button?: Button;
  when: Condition;
  do: readonly Action[];
  stop: boolean;
}

/** Rules that belong together, and are put on and off together. */
export interface RuleGroup {
  id: string;
  name: string;
  on: boolean;
  rules: readonly Rule[];
}

/** The rule book: rules and groups of them, from top to bottom. */
export interface RuleBook {
  rows: readonly (Rule | RuleGroup)[];
}

export const EMPTY_BOOK: RuleBook = { rows: [] };

export const isGroup = (row: Rule | RuleGroup): row is RuleGroup => 'rules' in row;

/** A rule with its number in the book, from 1, and whether it runs: its group may be off. */
export interface NumberedRule extends Rule {
  no: number;
  runs: boolean;
  group: string | null;
}

/** All rules of a book from top to bottom. A rule that is off keeps its number. */
export function rulesOf(book: RuleBook): NumberedRule[] {
  const rules = book.rows.flatMap((row): Omit<NumberedRule, 'no'>[] =>
    isGroup(row)
      ? row.rules.map(r => ({ ...r, runs: r.on && row.on, group: row.name }))
      : [{ ...row, runs: row.on, group: null }],
  );
  return rules.map((r, i) => ({ ...r, no: i + 1 }));
}

/** Whether a rule can run only where prices are known. */
export const wantsPrices = (rule: Pick<Rule, 'when' | 'do'>): boolean =>
  asksPrice(rule.when) || rule.do.some(a => actionSpec(a.do).priced === true);

/** What of other features a book names: templates, boxes, services and so on, each with the rule that names it. */
export interface Named {
  rule: NumberedRule;
  action: ActionName;
  names: string;
}

/** Everything that actions of a book name elsewhere, to be looked up by who knows it. */
export const namedIn = (book: RuleBook): Named[] =>
  rulesOf(book).flatMap(rule =>
    rule.do.flatMap(({ do: action, with: given }): Named[] => {
      const kind = actionSpec(action).given;
      if (kind === 'services' && Array.isArray(given)) return given.map(names => ({ rule, action, names }));
      return (kind === 'service' || kind === 'code') && typeof given === 'string'
        ? [{ rule, action, names: given }]
        : [];
    }),
  );
