import type { BadRow, OrderField, OrderMapping } from '@auk/core';
import { z } from 'zod';

export const ImportQuery = z.object({
  channel: z.string().min(1).max(20),
  name: z.string().min(1).max(200),
  commit: z.enum(['yes', 'no']).default('no'),
});

/** What a file would do, or did. */
export interface ImportReport {
  committed: boolean;
  channel: string;
  headings: string[];
  mapping: OrderMapping;
  missing: OrderField[];
  orders: {
    channelNumber: string;
    buyer: string;
    lines: number;
    units: number;
    totalMinor: number;
    currency: string;
    state: 'new' | 'changed' | 'same';
  }[];
  counts: {
    new: number;
    changed: number;
    same: number;
    lines: number;
    badRows: number;
    cannotChange: number;
  };
  bad: BadRow[];
  stages: Record<string, number>;
}
