import { type Rule, type RuleBook, readSentence } from '@auk/core';
import { freeId, newRule, withNewRule } from './draft.js';

/** A ready sentence to begin from, and what it is good for. */
export interface Start {
  name: string;
  note: string;
  sentence: string;
}

/** A handful of ready sentences that name nothing a house may not have; each is changed to its own goods and tried before it counts. */
export const STARTS: readonly Start[] = [
  {
    name: 'Hazardous goods by ground',
    note: 'What may not fly is marked as it comes in. Add “send by” with your ground service, below every rule that takes the cheapest.',
    sentence:
      'at arrival, when properties have "hazardous" do tag it "hazard", note for the staff "By ground only."',
  },
  {
    name: 'Dear glass is signed for and packed twice',
    note: 'A broken case costs more than a signature and a second wall. Add “pack in” with your double-walled box.',
    sentence:
      'at clear, when properties have "fragile" and value is over 80.00 do ask for a signature, tell the packer "Double-walled box, paper around each piece."',
  },
  {
    name: 'A heavy line has a parcel of its own',
    note: 'Over 40 lb two people lift, and what lies beside it is crushed.',
    sentence:
      'at arrival, always do give a parcel of its own to each line where (weight of the line is over 40 lb)',
  },
  {
    name: 'Light parcels are bought without a person',
    note: 'Cheap and always alike. It buys nothing until three caps are set below the book.',
    sentence: 'at packed, when weight is under 3 oz and stays in the country do buy its label unattended',
  },
  {
    name: 'A loss on shipping takes the cheapest in time',
    note: 'Where the buyer paid less than the label costs, nothing dearer than needed.',
    sentence: 'at clear, when margin on shipping is under 0.00 do send by the cheapest in time of all',
  },
  {
    name: 'A gift, at a button',
    note: 'Pressed or scanned for one order or many.',
    sentence: 'at button, always do tag it "gift", tell the packer "A gift: no prices in the box."',
  },
];

/** The rule of a ready sentence, under an id that is free. */
export function ruleFrom({ name, note, sentence }: Start, id: string): Rule {
  const read = readSentence(sentence);
  if (!read.ok) throw new Error(read.problem.wanted);
  const button = { words: 'Gift', places: ['list', 'order', 'bench'] as const, code: 'RB-GIFT' };
  return { ...newRule(id), name, note, ...read.value, ...(read.value.at === 'button' && { button }) };
}

/** A book with a ready sentence at its end. */
export const withStart = (book: RuleBook, start: Start): RuleBook =>
  withNewRule(book, ruleFrom(start, freeId(book, 'r')));
