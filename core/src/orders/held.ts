import type { Payment } from './check.js';

/** What may hold an order back after its goods are packed. `stops` are its open stop reasons. */
export interface HeldFacts {
  number: string;
  cancelled: boolean;
  parked: boolean;
  parkedReason: string;
  payment: Payment;
  /** The shipment to a center that it is and that is not booked there yet, such as `IN-77 at Reno`. */
  unbooked?: string | null;
  stops: readonly { says: string; cure: string }[];
}

/** Why nothing of an order may get a label or leave, and what to do about it. */
export interface Held {
  says: string;
  cure: string;
}

/**
 * Why an order is held back now, or null when it may go. Precedence as the stage shows it: Cancelled, Stopped, Parked; an order that
 * was refunded is held even before the check has stopped it.
 */
export function whyHeld(f: HeldFacts): Held | null {
  if (f.cancelled)
    return {
      says: `${f.number} is Cancelled.`,
      cure: 'Put the parcel aside for the lead.',
    };
  const stop = f.stops[0];
  if (stop) return { says: `${f.number} is Stopped: ${stop.says}`, cure: stop.cure };
  if (f.payment === 'refunded')
    return {
      says: `${f.number} was refunded.`,
      cure: 'Put the parcel aside; the office decides whether it goes.',
    };
  if (f.unbooked) return { says: `${f.unbooked} is not booked yet.`, cure: 'Book it under Inbound first.' };
  if (f.parked)
    return {
      says: `${f.number} is Parked: ${f.parkedReason}`,
      cure: 'Put the parcel aside; it goes on when the order is freed on its page.',
    };
  return null;
}
