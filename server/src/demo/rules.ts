import { type Rule, type RuleBook, readSentence } from '@auk/core';
import { RULES } from '@auk/demo';

/** The demo's rule book, read from its sentences. Rules of a group that follow each other stand in it together. */
export function demoBook(): RuleBook {
  const rows: { id: string; name: string; on: boolean; rules: Rule[] }[] = [];
  const book: (Rule | (typeof rows)[number])[] = [];
  for (const { id, name, note, sentence, group, button } of RULES) {
    const read = readSentence(sentence);
    if (!read.ok) throw new Error(`${name}: ${read.problem.wanted} is wanted at ${read.problem.at}.`);
    const rule: Rule = { id, name, note, on: true, ...(button && { button }), ...read.value };
    const known = rows.find(g => g.name === group);
    if (known) known.rules.push(rule);
    else if (group) {
      const made = { id: `g-${id}`, name: group, on: true, rules: [rule] };
      rows.push(made);
      book.push(made);
    } else book.push(rule);
  }
  return { rows: book };
}
