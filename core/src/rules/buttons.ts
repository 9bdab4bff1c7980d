import type { Stage } from '../orders/stage.js';
import { actionSpec, type Moment } from './actions.js';
import type { Rule } from './book.js';

/** From which stage on an action comes too late, by the last moment at which it may stand. */
const CLOSED: readonly [until: Moment, from: Stage][] = [
  ['departed', 'Cancelled'],
  ['packed', 'Labelled'],
  ['picked', 'Packed'],
  ['clear', 'Listed'],
];
/** Stages in which something comes too late, and how an order is in them. */
const IN_ORDER: readonly [stage: Stage, is: string][] = [
  ['Listed', 'on a pick list'],
  ['Picked', 'picked'],
  ['Packed', 'packed'],
  ['Labelled', 'labelled'],
  ['Departed', 'gone'],
  ['Cancelled', 'cancelled'],
];

/**
 * Why a button comes too late for an order where it stands: the first of its actions that has no sense any more, in words; null when all
 * of them have. Example: a button that tells the packer something, at a packed order.
 */
export function tooLate(rule: Pick<Rule, 'do'>, stage: Stage): string | null {
  const at = IN_ORDER.findIndex(([s]) => s === stage);
  for (const { do: action } of rule.do) {
    const { moments, words } = actionSpec(action);
    const [, from] = CLOSED.find(([until]) => moments.includes(until)) ?? CLOSED.at(-1)!;
    if (at >= IN_ORDER.findIndex(([s]) => s === from))
      return `It is too late to ${words.replace(/( of| to each line where| to lines where|:)$/, '')}: the order is ${IN_ORDER[at]![1]}.`;
  }
  return null;
}
