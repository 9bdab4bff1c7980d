/** What becomes of a parcel after it left, in the order of a parcel that goes well; `exception` and the last two are of those that do not. */
export const TRACK_KINDS = [
  'announced',
  'collected',
  'on the way',
  'out for delivery',
  'waits for the buyer',
  'delivered',
  'exception',
  'coming back',
  'back',
] as const;
export type TrackKind = (typeof TRACK_KINDS)[number];

/** One thing that a carrier told. `at` is ISO UTC. */
export interface TrackEvent {
  at: string;
  kind: TrackKind;
  says: string;
}

/** A word that a parcel does not leave any more: nothing is asked after it. */
export const isOver = (kind: TrackKind | null): boolean => kind === 'delivered' || kind === 'back';

/**
 * Where a parcel stands by what its carrier told, in whatever order it was told: the latest event counts. Of several at one moment the one
 * that is furthest along does, and what is over stays over, because carriers send scans of a truck after the door.
 */
export function trackedState(events: readonly TrackEvent[]): TrackEvent | null {
  const order = [...events].sort(
    (a, b) => a.at.localeCompare(b.at) || TRACK_KINDS.indexOf(a.kind) - TRACK_KINDS.indexOf(b.kind),
  );
  return order.findLast(e => isOver(e.kind)) ?? order.at(-1) ?? null;
}

/** What is wrong with a parcel on its way, the most serious first. */
export const TROUBLES = ['coming back', 'exception', 'stuck', 'late'] as const;
export type Trouble = (typeof TROUBLES)[number];

/** A parcel on its way. Days are ISO of the warehouse; `quietDays` counts business days since the last event, or since it left. */
export interface OnItsWay {
  state: TrackEvent | null;
  arrives: string;
  promised: string | null;
  quietDays: number;
  today: string;
}

/** A parcel of which nothing was heard for so many business days is stuck. */
export const STUCK_DAYS = 3;

/** What is wrong with a parcel that left, in words for the office; null when nothing is. What was delivered is not in trouble any more. */
export function troubleOf(p: OnItsWay): { trouble: Trouble; says: string } | null {
  const kind = p.state?.kind ?? null;
  if (kind === 'coming back' || kind === 'back')
    return {
      trouble: 'coming back',
      says: kind === 'back' ? 'It came back.' : `It is coming back: ${p.state!.says}`,
    };
  if (kind === 'delivered') return null;
  if (kind === 'exception') return { trouble: 'exception', says: p.state!.says };
  if (kind === 'waits for the buyer') return null;
  if (p.quietDays >= STUCK_DAYS)
    return { trouble: 'stuck', says: `Nothing was heard of it for ${p.quietDays} business days.` };
  const due = p.promised && p.promised > p.arrives ? p.promised : p.arrives;
  return p.today > due ? { trouble: 'late', says: `It should have arrived by ${due}.` } : null;
}
