import { fail, ok, type Result } from '../result.js';

/**
 * States of buying a label: intended -> asked -> bought | refused | unknown -> (recover) -> bought | refused | doubtful; bought -> void
 * asked -> voided | bought. What is doubtful nobody can prove: it waits for a person.
 */
export type LabelState =
  | 'intended'
  | 'asked'
  | 'bought'
  | 'refused'
  | 'unknown'
  | 'doubtful'
  | 'void asked'
  | 'voided';

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
  /** Found out again and again, and nothing about it can be proved: asking once more might buy twice, or the books contradict themselves. */
  | { type: 'doubted'; why: string }
  /** A person has made sure that the carrier has nothing, and wants it asked again. */
  | { type: 'asked anew' }
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
    doubted: 'doubtful',
  },
  unknown: {
    'answered bought': 'bought',
    'answered refused': 'refused',
    'answered nothing': 'unknown',
    'not found': 'intended',
    doubted: 'doubtful',
  },
  doubtful: {
    'answered bought': 'bought',
    'answered nothing': 'doubtful',
    'asked anew': 'intended',
    'called off': 'refused',
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

/** A purchase as it was asked for, and as a carrier tells it. Money in minor units. */
export interface AskedAndTold {
  asked: { service: string; currency: string };
  told: { service: string; currency: string; tracking: string };
  /** Who has the tracking number already, in words; null when nobody. */
  otherHas: string | null;
}

/**
 * What in an answer contradicts what was asked, as a sentence; null when it may be believed. Another price is no contradiction: the money
 * is spent, and what was too much is claimed back.
 */
export function contradiction({ asked, told, otherHas }: AskedAndTold): string | null {
  if (told.currency !== asked.currency)
    return `It answered a price in ${told.currency}, and ${asked.currency} was asked for.`;
  if (told.service !== asked.service) return `It sold ${told.service}, and ${asked.service} was asked for.`;
  if (otherHas) return `It answered the number ${told.tracking}, which ${otherHas} has already.`;
  return null;
}

/** When the books of a carrier that refused a purchase are looked through again, milliseconds after each other. */
export const STRAY_CHECKS_MS = [45_000, 3_600_000, 86_400_000] as const;
