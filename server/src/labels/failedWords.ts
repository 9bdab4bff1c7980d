import type { LabelEvent } from '@auk/core';

const FAILED: Partial<Record<LabelEvent['type'], string>> = {
  'answered refused': 'Label refused. ',
  'answered nothing': 'Label without an answer. ',
  doubted: 'Whether the label was bought cannot be proved. ',
  'called off': 'The label was not bought: ',
};
const AFTER: Partial<Record<LabelEvent['type'], string>> = { 'answered nothing': ' Auk asks again.' };

/** What the history of an order says of a purchase that did not succeed. */
export const failedWords = (type: LabelEvent['type'], why: string): string =>
  `${FAILED[type] ?? ''}${why}${AFTER[type] ?? ''}`;
