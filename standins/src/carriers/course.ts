import type { TrackedEvent } from '@auk/contract';
import type { Charge } from './desk.js';

/** One parcel in so many goes wrong in each way. */
const EVERY = 10;
const HOUR_MS = 3_600_000;

/**
 * What happens to a parcel that was handed over, whenever it is looked at: most arrive on their day, some are held up, some are never
 * heard of again, some come back. Which is which follows from the number.
 */
export function courseOf(charge: Charge, handedAt: string): TrackedEvent[] {
  const luck = Number(/(\d)\D*$/.exec(charge.tracking.replace(/[A-Z]+$/, ''))?.[1] ?? 0) % EVERY;
  const start = Date.parse(handedAt);
  const door = Date.parse(`${charge.arrives ?? handedAt.slice(0, 10)}T13:00:00Z`);
  const where = charge.to ? `depot near ${charge.to}` : 'depot';
  const event = (at: number, kind: TrackedEvent['kind'], says: string, place: string): TrackedEvent => ({
    id: `${charge.tracking}-${kind}`,
    at: new Date(at).toISOString(),
    kind,
    says,
    place,
  });
  const begin = [
    event(start, 'collected', 'Collected', 'Zanesville'),
    event(start + 6 * HOUR_MS, 'on the way', 'Sorted', 'Columbus'),
  ];
  if (luck === 8) return begin;
  const last = Math.max(door, start + 12 * HOUR_MS);
  if (luck === 9)
    return [
      ...begin,
      event(last, 'exception', 'Nobody of that name at this address', where),
      event(last + 24 * HOUR_MS, 'coming back', 'Sent back to the sender', where),
      event(last + 72 * HOUR_MS, 'back', 'Back at the sender', 'Zanesville'),
    ];
  const late = luck === 7 ? 24 * HOUR_MS : 0;
  return [
    ...begin,
    ...(late ? [event(last, 'exception', 'Held up by the weather', where)] : []),
    event(last + late, 'out for delivery', 'On the van', where),
    event(last + late + 5 * HOUR_MS, 'delivered', 'Delivered', charge.to ?? ''),
  ];
}
