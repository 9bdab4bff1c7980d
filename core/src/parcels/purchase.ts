import { fail, ok, type Result } from '../result.js';

/** States of buying a label: intended -> asked -> bought | refused | unknown -> (recover) -> bought | refused; bought -> void asked -> voided. */
export type PurchaseState = 'intended' | 'asked' | 'bought' | 'refused' | 'unknown' | 'void asked' | 'voided';

/** What can happen to a purchase. `answered nothing` is a time-out, a broken connection or an answer that makes no sense. */
export type PurchaseEvent =
  | { type: 'ask' }
  | { type: 'answered bought'; tracking: string; minor: number }
  | { type: 'answered refused'; why: string }
  | { type: 'answered nothing'; why: string }
  /** The carrier, asked by our key, has no such purchase. */
  | { type: 'not found' }
  | { type: 'ask void' }
  | { type: 'answered voided' };

const NEXT: Record<PurchaseState, Partial<Record<PurchaseEvent['type'], PurchaseState>>> = {
  intended: { ask: 'asked' },
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
  'void asked': { 'answered voided': 'voided', 'answered nothing': 'void asked' },
  voided: {},
};

/** The state after an event, or a sentence when the event cannot happen there. Asking again is possible only after the carrier said it knows nothing of the key. */
export function purchaseNext(state: PurchaseState, event: PurchaseEvent): Result<PurchaseState, string> {
  const next = NEXT[state][event.type];
  return next ? ok(next) : fail(`A purchase that is ${state} cannot become "${event.type}".`);
}

/** True while money may be under way: no second purchase may be begun for the parcel. */
export const purchaseHolds = (state: PurchaseState): boolean => state !== 'refused' && state !== 'voided';
