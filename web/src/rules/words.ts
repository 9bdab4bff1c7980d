import type { RuleWords } from '@auk/contract';
import {
  ACTIONS,
  type ActionName,
  type CallsIt,
  FIELDS,
  type FieldKind,
  LINE_FIELDS,
  type Moment,
  type RuleField,
} from '@auk/core';
import type { Options } from '../parts/Choice.js';

/** When a rule runs, as one says it. */
export const MOMENT_WORDS: Record<Moment, string> = {
  arrival: 'when it comes in',
  clear: 'when it may be picked',
  picked: 'when it is picked',
  packed: 'when it is packed',
  labelled: 'when it has its label',
  departed: 'when it has left',
  button: 'at a button',
};

export const momentOptions: Options<Moment> = (Object.keys(MOMENT_WORDS) as Moment[]).map(m => [
  m,
  MOMENT_WORDS[m],
]);

/** Where buttons are found, as one says it. */
export const BUTTON_PLACES = {
  list: 'order list',
  order: 'order page',
  floor: 'Floor',
  bench: 'Bench',
} as const;

const optionsOf = (fields: Readonly<Record<string, RuleField>>): Options =>
  Object.entries(fields).map(([field, spec]) => [field, spec.words]);
export const fieldOptions = { order: optionsOf(FIELDS), line: optionsOf(LINE_FIELDS) };

/** What may be done at a moment. */
export const actionOptions = (at: Moment, built: ReadonlySet<ActionName>): Options<ActionName> =>
  (Object.keys(ACTIONS) as ActionName[])
    .filter(a => built.has(a) && (ACTIONS[a].moments as readonly Moment[]).includes(at))
    .map(a => [a, ACTIONS[a].words.replace(/( of| to each line where| to lines where|:)$/, '')]);

/** How things are called where a rule names them by code. */
export const callsBy = (words: RuleWords | undefined): CallsIt => {
  const services = new Map(words?.services.map(s => [s.code, s.name]));
  const boxes = new Map(words?.boxes.map(b => [b.code, b.name]));
  return (kind, code) =>
    kind === 'service' ? (services.get(code) ?? code) : kind === 'box' ? (boxes.get(code) ?? code) : code;
};

/** What a value of a kind looks like. */
export const EXAMPLES: Partial<Record<FieldKind, string>> = {
  count: '3',
  weight: '40 lb',
  length: '25 in',
  money: '60.00',
  time: '2 h',
};

/** The words to choose from for a field; nothing where they are typed. */
export function wordsFor(field: string, words: RuleWords | undefined): readonly string[] {
  if (!words) return [];
  const known: Partial<Record<string, readonly string[]>> = {
    channel: words.channels,
    payment: ['paid', 'part refunded', 'on delivery'],
    products: words.products.map(p => p.sku),
    product: words.products.map(p => p.sku),
    categories: words.categories,
    category: words.categories,
    properties: words.properties,
    lineProperties: words.properties,
    tags: words.tags,
    box: words.boxes.map(b => b.code),
    carrier: [...new Set(words.services.map(s => s.code.split(' ')[0]!))],
    service: words.services.map(s => s.code),
  };
  return known[field] ?? [];
}
