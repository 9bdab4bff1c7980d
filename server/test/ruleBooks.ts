import { type RuleBook, readSentence } from '@auk/core';
import { Rounds } from '../src/leases/rounds.service.js';
import type { Caller, House } from './house.js';

/** A book from sentences, each with its name before a bar. At a button its words and code come before the name: `RB-GIFT Gift | Name | ...`. */
export function bookOf(...rules: string[]): RuleBook {
  return {
    rows: rules.map((text, i) => {
      const parts = text.split(' | ');
      const sentence = parts.pop()!;
      const name = parts.pop()!;
      const read = readSentence(sentence);
      if (!read.ok) throw new Error(`${sentence.slice(read.problem.at)}: ${read.problem.wanted}`);
      const [code, ...words] = (parts.pop() ?? '').split(' ');
      const button = code && {
        code,
        words: words.join(' '),
        places: ['list', 'order', 'floor', 'bench'] as const,
      };
      return { id: `r-${i + 1}`, name, note: '', on: true, ...(button && { button }), ...read.value };
    }),
  };
}

/** Saves a book over the one that runs; gives its number. */
export async function saveBook(lead: Caller, book: RuleBook, note = ''): Promise<number> {
  const base = (await lead.get('rules/versions')).body[0]?.no ?? 0;
  const answer = await lead.post('rules', { base, note, book });
  if (answer.status !== 200) throw new Error(JSON.stringify(answer.body));
  return answer.body.no;
}

/** Lets rules of stages and of prices run, and what they caused. */
export async function settle(house: House): Promise<void> {
  for (let i = 0; i < 2; i++) {
    await house.app.get(Rounds).once('stages passed');
    await house.app.get(Rounds).once('jobs');
  }
}
