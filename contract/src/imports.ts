import { type BadRow, type Change, type Mapping } from '@auk/core';
import { z } from 'zod';
import { fromCore, Id } from './common.js';

/** What files can bring. */
export const IMPORT_KINDS = [
  'orders',
  'products',
  'listings',
  'recipes',
  'stock',
  'places',
  'layout',
  'purchases',
  'sent',
] as const;

export type ImportKind = (typeof IMPORT_KINDS)[number];

export const ImportQuery = z.object({
  /** The channel of orders and listings; anything else is from the house itself. */
  channel: z.string().min(1).max(20).default('house'),
  name: z.string().min(1).max(200),
  /** A corrected mapping: a JSON object of field to column, from 0. */
  mapping: z.string().max(8_000).optional(),
});

export type ImportQuery = z.infer<typeof ImportQuery>;

/** A file to be taken in, under an id that whoever drops it makes: sent twice, it is one run. */
export const ImportRunQuery = ImportQuery.extend({ id: Id });
export type ImportRunQuery = z.infer<typeof ImportRunQuery>;

/** What becomes of one thing of a file. */
export const RowState = z.enum(['new', 'changed', 'same', 'cannot change']);
export type RowState = z.infer<typeof RowState>;

/** One thing of a file and what would happen to it, field by field. */
export const ImportRow = z.object({
  row: z.number(),
  name: z.string(),
  about: z.string(),
  state: RowState,
  says: z.string(),
  changes: z.array(fromCore<Change>()),
});
export type ImportRow = z.infer<typeof ImportRow>;

/** What a file would do, or did. */
export const ImportReport = z.object({
  kind: z.enum(IMPORT_KINDS),
  committed: z.boolean(),
  channel: z.string(),
  headings: z.array(z.string()),
  fields: z.array(z.object({ field: z.string(), words: z.string(), required: z.boolean() })),
  mapping: fromCore<Mapping>(),
  remembered: z.boolean(),
  missing: z.array(z.string()),
  rows: z.array(ImportRow),
  counts: z.object({
    new: z.number(),
    changed: z.number(),
    same: z.number(),
    cannotChange: z.number(),
    badRows: z.number(),
    leftOut: z.number(),
    lines: z.number(),
  }),
  bad: z.array(fromCore<BadRow>()),
  stages: z.record(z.string(), z.number()),
});
export type ImportReport = z.infer<typeof ImportReport>;

/** A file that is being taken in, portion by portion, or was. */
export const ImportRun = z.object({
  id: z.string(),
  name: z.string(),
  kind: z.enum(IMPORT_KINDS),
  /** The channel's name, or nothing for files of the house itself. */
  channel: z.string(),
  person: z.string().nullable(),
  at: z.string(),
  state: z.enum(['under way', 'done', 'given up']),
  /** Things taken so far, and things in the file. */
  taken: z.number(),
  things: z.number(),
  /** Why it does not go on, where it was tried in vain. */
  says: z.string().nullable(),
  /** The job to try again when it was given up. */
  job: z.string().nullable(),
  report: ImportReport.nullable(),
});
export type ImportRun = z.infer<typeof ImportRun>;

export const ExportQuery = z.object({ format: z.enum(['csv', 'xlsx']) }).catchall(z.string().max(200));
