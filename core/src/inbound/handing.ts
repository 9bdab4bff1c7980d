/** How goods get to their carrier: it fetches them, or they are brought to it. */
export const HANDINGS = ['fetched', 'brought'] as const;
export type Handing = (typeof HANDINGS)[number];

/** What a carrier's driver finds where goods are fetched. */
export const DOORS = ['dock', 'home', 'hard to reach'] as const;
export type Door = (typeof DOORS)[number];

/** What a carrier takes for fetching goods once, and besides where it fetches from a home or from a place that is hard to reach (minor units). `bringTo`: where they may be brought instead; null where they may not. */
export interface HandingCharges {
  fetchMinor: number;
  homeMinor: number;
  hardMinor: number;
  bringTo: string | null;
}

/**
 * What handing goods over to a carrier costs once, in minor units: nothing where they are brought, else the fetching and what the door adds.
 * Null where they cannot be brought. Example: 45.00 for fetching and 65.00 from a home are 110.00.
 */
export function handingMinor(c: HandingCharges, handing: Handing, door: Door): number | null {
  if (handing === 'brought') return c.bringTo === null ? null : 0;
  return c.fetchMinor + (door === 'home' ? c.homeMinor : door === 'hard to reach' ? c.hardMinor : 0);
}
