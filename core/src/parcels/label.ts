import { fail, ok, type Result } from '../result.js';

/** States of buying a label: intended -> asked -> bought | refused | unknown -> (recover) -> bought | refused; bought -> void asked -> voided | bought. */
export type LabelState = 'intended' | 'asked' | 'bought' | 'refused' | 'unknown' | 'void asked' | 'voided';

/**
 * What can happen to a purchase. `answered nothing` is a time-out, a broken connection or an answer that makes no sense, and also a
 * refusal of the question what became of it: none of these says anything about the purchase.
 */
export type LabelEvent =
  | { type: 'ask' }
  | { type: 'answered bought'; tracking: string; minor: number }
  | { type: 'answered refused'; why: string }
  | { type: 'answered nothing'; why: string }
  /** The carrier, asked by our key when it can no longer be at work on it, has no such purchase. */
  | { type: 'not found' }
  /** Intended and never asked for, or asked for and unknown to the carrier, and not wanted any more. */
  | { type: 'called off'; why: string }
  | { type: 'ask void' }
  | { type: 'answered voided' }
  /** The carrier keeps the money: the label stays what it was. */
  | { type: 'void refused'; why: string };

const NEXT: Record<LabelState, Partial<Record<LabelEvent['type'], LabelState>>> = {
  intended: { ask: 'asked', 'called off': 'refused' },
  asked: {
    'answered bought': 'bought',
    'answered refused': 'refused',
    'answered nothing': 'unknown',
    'not found': 'intended',
  },
  unknown: {
    'answered bought': 'bought',
    'answered refused': 'refused',
    'answered nothing': 'unknown',
    'not found': 'intended',
  },
  bought: { 'ask void': 'void asked' },
  refused: {},
  'void asked': { 'answered voided': 'voided', 'void refused': 'bought', 'answered nothing': 'void asked' },
  voided: {},
};

/** The state after an event, or a sentence when the event cannot happen there. Asking again is possible only after the carrier said it knows nothing of the key. */
export function labelNext(state: LabelState, event: LabelEvent): Result<LabelState, string> {
  const next = NEXT[state][event.type];
  return next ? ok(next) : fail(`A purchase that is ${state} cannot become "${event.type}".`);
}

/** True while money may be under way: no second purchase may be begun for the parcel. */
export const labelHolds = (state: LabelState): boolean => state !== 'refused' && state !== 'voided';

/** An answer of the carrier, to the purchase itself or to the question what became of it; `null` found nothing. */
export type CarrierAnswer<T> =
  | { kind: 'answered'; value: T }
  | { kind: 'refused'; why: string }
  | { kind: 'silent'; why: string };

/** What an answer to the question "do you have a purchase of this key?" says about the purchase. */
export type Finding<T> =
  | { type: 'bought'; bought: T }
  | { type: 'not found' }
  | { type: 'answered nothing'; why: string };

/**
 * Reads the answer to the question what became of a purchase. A refusal of the question is no refusal of the purchase; "nothing
 * found" is believed only when the carrier can no longer be at work on it: `sinceMs` milliseconds after it was last asked to sell,
 * when it takes `longestMs` at most.
 */
export function readFinding<T>(
  answer: CarrierAnswer<T | null>,
  sinceMs: number,
  longestMs: number,
): Finding<T> {
  if (answer.kind === 'refused')
    return { type: 'answered nothing', why: `The question after it was refused. ${answer.why}` };
  if (answer.kind === 'silent') return { type: 'answered nothing', why: answer.why };
  if (answer.value !== null) return { type: 'bought', bought: answer.value };
  return sinceMs >= longestMs
    ? { type: 'not found' }
    : { type: 'answered nothing', why: 'The carrier does not know it yet and may still be at work on it.' };
}
