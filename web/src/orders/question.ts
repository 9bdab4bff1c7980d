import type { OrderFilter } from '@auk/contract';
import { SETTLEMENTS, STOP_CODES } from '@auk/core';

/** One changeable part of the filter sentence. */
export interface Clause {
  key: keyof OrderFilter | 'sort';
  /** Words before it; `any` stands where nothing is chosen. */
  before: string;
  any: string;
  label: string;
  /** Choices, or a field to type into when there are none. */
  choices?: [value: string, words: string][];
  list?: 'products' | 'tags';
  /** Stands in the sentence always; the others are added. */
  always?: boolean;
}

const words = (code: string) => code.replaceAll('-', ' ');

/** The sentence: what can be asked of the orders, in the order in which it reads. */
export const CLAUSES: readonly Clause[] = [
  {
    key: 'stage',
    before: 'that',
    any: 'have not departed',
    label: 'Stage',
    always: true,
    choices: [
      ['Stopped,Short,Parked', 'wait for a person'],
      ['Incoming', 'are Incoming'],
      ['Clear', 'are Clear'],
      ['Stopped', 'are Stopped'],
      ['Short', 'are Short'],
      ['Parked', 'are Parked'],
      ['Elsewhere', 'are sent elsewhere'],
      ['Listed', 'are Listed'],
      ['Picked', 'are Picked'],
      ['Packed', 'are Packed'],
      ['Labelled', 'are Labelled'],
      ['Departed', 'are Departed'],
      ['Cancelled', 'are Cancelled'],
      ['all', 'are in any stage'],
    ],
  },
  {
    key: 'leaves',
    before: 'leave',
    any: 'at any time',
    label: 'Leaves',
    always: true,
    choices: [
      ['today', 'today'],
      ['tomorrow', 'tomorrow'],
      ['late', 'too late'],
      ['never', 'on no departure yet'],
    ],
  },
  { key: 'channel', before: 'from', any: 'every channel', label: 'Channel', always: true, choices: [] },
  { key: 'words', before: 'with', any: 'any name', label: 'Number, buyer, mail or title', always: true },
  { key: 'product', before: 'holding', any: 'any product', label: 'Product', list: 'products' },
  {
    key: 'payment',
    before: 'being',
    any: 'paid or not',
    label: 'Payment',
    choices: SETTLEMENTS.map(p => [p, p]),
  },
  {
    key: 'promised',
    before: 'promised',
    any: 'for any day',
    label: 'Promised',
    choices: [
      ['past', 'for a day that is past'],
      ['today', 'for today'],
      ['week', 'within a week'],
      ['none', 'for no day'],
    ],
  },
  {
    key: 'placed',
    before: 'placed',
    any: 'at any time',
    label: 'Placed',
    choices: [
      ['today', 'today'],
      ['week', 'in the last 7 days'],
      ['month', 'in the last 30 days'],
    ],
  },
  { key: 'country', before: 'going to', any: 'every country', label: 'Country' },
  { key: 'tag', before: 'tagged', any: 'anything', label: 'Tag' },
  {
    key: 'reason',
    before: 'stopped by',
    any: 'any reason',
    label: 'Reason',
    choices: STOP_CODES.map(c => [c, words(c)]),
  },
  { key: 'starred', before: '', any: 'starred or not', label: 'Starred', choices: [['yes', 'starred']] },
  {
    key: 'together',
    before: '',
    any: 'alone or not',
    label: 'One address',
    choices: [['yes', 'to one address with others']],
  },
  {
    key: 'wrote',
    before: '',
    any: 'answered or not',
    label: 'Unanswered',
    choices: [['yes', 'whose buyer waits for an answer']],
  },
];

/** How the list may be sorted, as the sentence ends. */
export const SORT_WORDS: [value: string, words: string][] = [
  ['newest', 'newest first'],
  ['oldest', 'oldest first'],
  ['leaves', 'soonest leaving first'],
  ['promised', 'soonest promised first'],
  ['placed', 'last placed first'],
  ['total', 'dearest first'],
];

const KEYS = new Set<string>([...CLAUSES.map(c => c.key), 'sort', 'departure']);

/** The question in an address: only what the list understands, in one order, so that equal questions are equal texts. */
export function questionOf(params: URLSearchParams): string {
  const asked = [...params].filter(([k, v]) => KEYS.has(k) && v !== '');
  return new URLSearchParams(asked.sort(([a], [b]) => (a < b ? -1 : 1))).toString();
}
