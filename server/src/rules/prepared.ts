import {
  type CallsIt,
  type CompiledBook,
  compileBook,
  type Moment,
  type NumberedRule,
  type Ruled,
  type RuledTemplate,
  rulesOf,
} from '@auk/core';
import type { RunningBook } from './books.service.js';
import type { OrderGround } from './grounds.service.js';

/** A book prepared for one moment, with what is kept beside each outcome. */
export interface Prepared {
  running: RunningBook;
  moment: Moment;
  /** The code of the button that is pressed; empty at all other moments. */
  button: string;
  compiled: CompiledBook;
  rules: ReadonlyMap<string, NumberedRule>;
  /** How services are called, where history tells of them. */
  calls: CallsIt;
}

/** What a book is prepared with: the house's currency, templates by their names, how services are called, a button's code. */
export interface With {
  currency: string;
  templates: ReadonlyMap<string, RuledTemplate>;
  calls?: CallsIt;
  button?: string;
}

/** One order with what the book says of it now. */
export interface Ran {
  ground: OrderGround;
  ruled: Ruled;
}

export function prepared(
  running: RunningBook,
  moment: Moment,
  { currency, templates, calls = (_, code) => code, button = '' }: With,
): Prepared {
  return {
    running,
    moment,
    button,
    compiled: compileBook(running.book, moment, currency, templates, button || null),
    rules: new Map(rulesOf(running.book).map(r => [r.id, r])),
    calls,
  };
}

/** Whose act a rule's is, as history names it: "book 15, rule 4". */
export const actorOf = (p: Prepared, ruleId: string): string =>
  `book ${p.running.no}, rule ${p.rules.get(ruleId)!.no}`;
