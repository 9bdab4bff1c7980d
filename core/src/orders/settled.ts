import type { Payment } from './check.js';

/** How an order stands with its money, as people read it. `part paid`: something is due still. */
export const SETTLEMENTS = [
  'unpaid',
  'part paid',
  'paid',
  'part refunded',
  'refunded',
  'on delivery',
] as const;
export type Settled = (typeof SETTLEMENTS)[number];

/**
 * The word for an order's payment. It follows the money (minor units): an order that was paid and then made dearer is part paid. What
 * only the channel can know, that it was refunded or is paid on delivery, is kept as told.
 * Example: told paid, 10,000 paid of 12,000, is `part paid`.
 */
export function settledWord(told: Payment, paidMinor: number, totalMinor: number): Settled {
  if (told === 'refunded' || told === 'part refunded' || told === 'on delivery') return told;
  if (paidMinor >= totalMinor && (told === 'paid' || paidMinor > 0)) return 'paid';
  return paidMinor > 0 ? 'part paid' : 'unpaid';
}

/**
 * What an order's money (minor units) still wants: negative is due from its buyer, positive is to be given back. Where money was given
 * back, wholly or in part, that was agreed, and nothing is due any more.
 * Example: refunded, nothing held of 6,195, is 0; unpaid it is -6,195.
 */
export function openBalance(told: Settled, paidMinor: number, totalMinor: number): number {
  const balance = paidMinor - totalMinor;
  return told === 'refunded' || told === 'part refunded' ? Math.max(0, balance) : balance;
}

/**
 * What is paid (minor units) once a person says how an order of `totalMinor` is paid: in full, nothing, or what stood there where the
 * word does not tell. Example: told refunded, 6,195 paid of 6,195, is 0.
 */
export function paidWhen(told: Payment, paidMinor: number, totalMinor: number): number {
  if (told === 'paid') return Math.max(paidMinor, totalMinor);
  return told === 'unpaid' || told === 'refunded' ? 0 : paidMinor;
}
