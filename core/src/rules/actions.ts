import type { Condition } from './condition.js';

/** When rules run: one event each in the life of an order, or a press of a button of the book. */
export const MOMENTS = ['arrival', 'clear', 'picked', 'packed', 'labelled', 'departed', 'button'] as const;
export type Moment = (typeof MOMENTS)[number];

/** What is decided field by field. Of two rows that decide the same field, the later one wins. */
export const DECIDED = ['service', 'box', 'signature', 'declare', 'papers', 'slip', 'first', 'park'] as const;
export type DecidedField = (typeof DECIDED)[number];

export const DECIDED_WORDS: Record<DecidedField, string> = {
  service: 'service',
  box: 'box',
  signature: 'signature',
  declare: 'declared value',
  papers: 'papers',
  slip: 'slip',
  first: 'goes first',
  park: 'parked',
};

/** What an action is given: a service ("carrier service" or "carrier service account"), some of them, a code, a text, money, or which lines. */
export type Given = 'service' | 'services' | 'code' | 'text' | 'money' | 'lines' | 'nothing';

/**
 * An action: its words in sentences, what it is given, the moments at which it may stand, and what it does: decides fields, adds
 * something to an order (tags, notes), or is a deed that is done once for each order and rule.
 */
export interface ActionSpec {
  words: string;
  given: Given;
  moments: readonly Moment[];
  sets: readonly DecidedField[];
  kind: 'decides' | 'adds' | 'deed';
  /** Wants to know prices. */
  priced?: true;
}

const UNTIL_PACKED: readonly Moment[] = ['arrival', 'clear', 'picked', 'button'];
const UNTIL_LABELLED: readonly Moment[] = ['arrival', 'clear', 'picked', 'packed', 'button'];
const BUYING: readonly Moment[] = ['clear', 'picked', 'packed'];
const BEFORE_PICKING: readonly Moment[] = ['arrival', 'clear', 'button'];

/** All actions. Which service and box are used is decided before a label is bought; lines are divided before they are picked. */
export const ACTIONS = {
  'send by': {
    words: 'send by',
    given: 'service',
    moments: UNTIL_LABELLED,
    sets: ['service'],
    kind: 'decides',
  },
  cheapest: {
    words: 'send by the cheapest in time of',
    given: 'services',
    moments: UNTIL_LABELLED,
    sets: ['service'],
    kind: 'decides',
    priced: true,
  },
  template: {
    words: 'use the template',
    given: 'code',
    moments: UNTIL_LABELLED,
    sets: ['service', 'box', 'signature', 'declare'],
    kind: 'decides',
  },
  box: { words: 'pack in', given: 'code', moments: UNTIL_PACKED, sets: ['box'], kind: 'decides' },
  signature: {
    words: 'ask for a signature',
    given: 'nothing',
    moments: UNTIL_LABELLED,
    sets: ['signature'],
    kind: 'decides',
  },
  'no signature': {
    words: 'ask for no signature',
    given: 'nothing',
    moments: UNTIL_LABELLED,
    sets: ['signature'],
    kind: 'decides',
  },
  'declare contents': {
    words: 'declare what is in it',
    given: 'nothing',
    moments: UNTIL_LABELLED,
    sets: ['declare'],
    kind: 'decides',
  },
  declare: { words: 'declare', given: 'money', moments: UNTIL_LABELLED, sets: ['declare'], kind: 'decides' },
  papers: {
    words: 'print the papers',
    given: 'code',
    moments: UNTIL_LABELLED,
    sets: ['papers'],
    kind: 'decides',
  },
  slip: { words: 'print the slip', given: 'code', moments: UNTIL_LABELLED, sets: ['slip'], kind: 'decides' },
  first: {
    words: 'let it go first',
    given: 'nothing',
    moments: BEFORE_PICKING,
    sets: ['first'],
    kind: 'decides',
  },
  park: { words: 'park it:', given: 'text', moments: UNTIL_LABELLED, sets: ['park'], kind: 'decides' },
  tag: { words: 'tag it', given: 'text', moments: MOMENTS, sets: [], kind: 'adds' },
  'note packer': { words: 'tell the packer', given: 'text', moments: UNTIL_PACKED, sets: [], kind: 'adds' },
  'note slip': { words: 'write on the slip', given: 'text', moments: UNTIL_PACKED, sets: [], kind: 'adds' },
  'note staff': { words: 'note for the staff', given: 'text', moments: MOMENTS, sets: [], kind: 'adds' },
  'own parcel': {
    words: 'give a parcel of its own to each line where',
    given: 'lines',
    moments: UNTIL_PACKED,
    sets: [],
    kind: 'deed',
  },
  'own order': {
    words: 'give an order of its own to lines where',
    given: 'lines',
    moments: BEFORE_PICKING,
    sets: [],
    kind: 'deed',
  },
  supplier: {
    words: 'let the supplier send lines where',
    given: 'lines',
    moments: BEFORE_PICKING,
    sets: [],
    kind: 'deed',
  },
  center: {
    words: 'let a fulfillment center send lines where',
    given: 'lines',
    moments: BEFORE_PICKING,
    sets: [],
    kind: 'deed',
  },
  mail: { words: 'write the mail', given: 'code', moments: MOMENTS, sets: [], kind: 'deed' },
  buy: {
    words: 'buy its label unattended',
    given: 'nothing',
    // Before it is packed, the label is for the one parcel that is planned.
    moments: BUYING,
    sets: [],
    kind: 'deed',
    priced: true,
  },
} as const satisfies Record<string, ActionSpec>;
export type ActionName = keyof typeof ACTIONS;
export const ACTION_NAMES = Object.keys(ACTIONS) as ActionName[];

/** One action of a rule. `with` is what it is given: a word, words, or the condition that lines meet. */
export interface Action {
  do: ActionName;
  with?: string | readonly string[] | Condition;
}

/** What an action is by its name. */
export const actionSpec = (name: ActionName): ActionSpec => ACTIONS[name];
