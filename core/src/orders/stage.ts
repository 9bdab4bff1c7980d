/**
 * The words of an order's stage, from entry to departure; the first five are flags or their absence, the rest progress. `Elsewhere`:
 * a supplier or a fulfillment center sends it to the buyer.
 */
export const STAGES = [
  'Incoming',
  'Stopped',
  'Parked',
  'Short',
  'Clear',
  'Elsewhere',
  'Listed',
  'Picked',
  'Packed',
  'Labelled',
  'Departed',
  'Cancelled',
] as const;
export type Stage = (typeof STAGES)[number];

/** Where units of a shipment's part stand. `soft`: promised from free stock; `listed`: a place on a released list; `picked`: in a tote, or on the carrier of a heap; `sorted`: out of a heap in the cell of its order; `dropped`: given up (cancelled or not found). */
export const HOLDS = ['soft', 'listed', 'picked', 'sorted', 'packed', 'departed'] as const;
export type Hold = (typeof HOLDS)[number];

/** The facts a stage follows from. `wanted` counts all units of all parts; `held` those in each hold. */
export interface StageFacts {
  checked: boolean;
  cancelled: boolean;
  parked: boolean;
  /** Whether somebody else sends it: not, not yet, or they have. */
  elsewhere: 'no' | 'waits' | 'left';
  stopReasons: number;
  wanted: number;
  held: Record<Hold, number>;
  /** Packed units that lie in a closed parcel / in a parcel with a bought label. */
  closed: number;
  labelled: number;
}

/**
 * The one word shown for an order. Precedence: Cancelled, Departed, Stopped, Parked, Elsewhere, Short, then the least advanced open unit.
 * Departed comes before the flags because what has left cannot be held any more.
 */
export function orderStage(f: StageFacts): Stage {
  if (f.cancelled) return 'Cancelled';
  if (f.elsewhere === 'left' || (f.wanted > 0 && f.held.departed >= f.wanted)) return 'Departed';
  if (f.stopReasons > 0) return 'Stopped';
  if (f.parked) return 'Parked';
  if (!f.checked) return 'Incoming';
  if (f.elsewhere === 'waits') return 'Elsewhere';
  const held = HOLDS.reduce((n, h) => n + f.held[h], 0);
  if (held < f.wanted) return 'Short';
  return progress(f);
}

function progress(f: StageFacts): Stage {
  if (f.held.soft > 0) return 'Clear';
  if (f.held.listed > 0) return 'Listed';
  if (f.held.picked + f.held.sorted > 0 || f.closed + f.held.departed < f.wanted) return 'Picked';
  if (f.labelled + f.held.departed < f.wanted) return 'Packed';
  return 'Labelled';
}
