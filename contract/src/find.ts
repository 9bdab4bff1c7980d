import { z } from 'zod';

export const FindQuery = z.object({ text: z.string().min(1).max(20_000) });

/** A thing in the house that a code or words led to, and the page that shows it. */
export interface Found {
  kind: 'order' | 'product' | 'place' | 'list' | 'parcel' | 'departure' | 'tote' | 'purchase' | 'build';
  code: string;
  name: string;
  path: string;
}

export interface FoundAll {
  exact: Found | null;
  others: Found[];
  says: string;
}
