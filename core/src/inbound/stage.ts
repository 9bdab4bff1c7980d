/** The words of an inbound shipment's stage, from draft to the last count. */
export const INBOUND_STAGES = [
  'Draft',
  'Boxed',
  'Booked',
  'Travelling',
  'At dock',
  'Counting in',
  'Closed',
  'Cancelled',
] as const;
export type InboundStage = (typeof INBOUND_STAGES)[number];

/**
 * The stage of a shipment with parts for several centers: the least advanced of those that are not cancelled; Cancelled when all are.
 * Example: of *Booked* and *Travelling* it is *Booked*.
 */
export function leastAdvanced(parts: readonly InboundStage[]): InboundStage {
  const live = parts.filter(p => p !== 'Cancelled');
  if (live.length === 0) return parts.length > 0 ? 'Cancelled' : 'Draft';
  return live.reduce((least, p) => (INBOUND_STAGES.indexOf(p) < INBOUND_STAGES.indexOf(least) ? p : least));
}
