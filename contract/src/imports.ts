import type { BadRow, Change, Mapping } from '@auk/core';
import { z } from 'zod';

/** What files can bring. */
export const IMPORT_KINDS = [
  'orders',
  'products',
  'listings',
  'recipes',
  'stock',
  'places',
  'purchases',
] as const;
export type ImportKind = (typeof IMPORT_KINDS)[number];

export const ImportQuery = z.object({
  /** The channel of orders and listings; anything else is from the house itself. */
  channel: z.string().min(1).max(20).default('house'),
  name: z.string().min(1).max(200),
  commit: z.enum(['yes', 'no']).default('no'),
  /** A corrected mapping: a JSON object of field to column, from 0. */
  mapping: z.string().max(8_000).optional(),
});
export type ImportQuery = z.infer<typeof ImportQuery>;

/** What becomes of one thing of a file. */
export type RowState = 'new' | 'changed' | 'same' | 'cannot change';

/** One thing of a file and what would happen to it, field by field. */
export interface ImportRow {
  row: number;
  name: string;
  about: string;
  state: RowState;
  says: string;
  changes: Change[];
}

/** What a file would do, or did. */
export interface ImportReport {
  kind: ImportKind;
  committed: boolean;
  channel: string;
  headings: string[];
  fields: { field: string; words: string; required: boolean }[];
  mapping: Mapping;
  remembered: boolean;
  missing: string[];
  rows: ImportRow[];
  counts: {
    new: number;
    changed: number;
    same: number;
    cannotChange: number;
    badRows: number;
    leftOut: number;
    lines: number;
  };
  bad: BadRow[];
  stages: Record<string, number>;
}

export const ExportQuery = z.object({ format: z.enum(['csv', 'xlsx']) }).catchall(z.string().max(200));
