import type { ImportKind, RowState } from '@auk/contract';
import type { BadRow, Change, FieldSpec, FileRead, Mapping } from '@auk/core';
import { HttpException } from '@nestjs/common';
import type { Tx } from '../database/db.js';
import type { IntakeChannel } from '../intake/intake.module.js';
import type { Table } from '../reference/table.js';

/** What became, or would become, of one thing of a file. */
export interface Outcome {
  row: number;
  name: string;
  about: string;
  state: RowState;
  says: string;
  changes: Change[];
  stage?: string;
}

/** A file read into things of one kind, and a way to look at or take in some of them. */
export interface ReadFile {
  /** How many things it holds, and how many rows they came from. */
  things: number;
  lines: number;
  bad: BadRow[];
  leftOut: number[];
  /** Looks at (or, with `commit`, takes in) the things from one to another, in the caller's transaction. */
  handle(tx: Tx, from: number, to: number, commit: boolean): Promise<Outcome[]>;
}

/** One kind of file. `source` is what mappings are remembered for. */
export interface Importer {
  kind: ImportKind;
  fields: readonly FieldSpec[];
  /** Whether the file is a channel's. */
  ofChannel: boolean;
  read(table: Table, mapping: Mapping, channel: IntakeChannel): ReadFile;
}

/** Counts the state of an outcome by what changes. */
export const stateOf = (isNew: boolean, changes: readonly Change[]): RowState =>
  isNew ? 'new' : changes.length > 0 ? 'changed' : 'same';

/** Looks at, or takes in, one thing of a file. */
export type One<T> = (item: T, row: number, tx: Tx, commit: boolean) => Promise<Outcome>;

/** A read file whose things are handled one by one. A thing that the house refuses says so in its outcome, and changes nothing. */
export function oneByOne<T>(
  read: FileRead<T>,
  lines: number,
  handle: (tx: Tx, commit: boolean) => Promise<One<T>>,
): ReadFile {
  return {
    things: read.items.length,
    lines,
    bad: read.bad,
    leftOut: read.leftOut,
    async handle(tx, from, to, commit) {
      const one = await handle(tx, commit);
      const outcomes: Outcome[] = [];
      for (const { row, item } of read.items.slice(from, to)) outcomes.push(await one(item, row, tx, commit));
      return outcomes;
    },
  };
}

/** A change of a whole thing: it came, or what it was and is. */
export const whole = (before: string | null, after: string | null): Change => ({
  line: null,
  field: '',
  before,
  after,
});
/** A change of one field. */
export const field = (name: string, before: Change['before'], after: Change['after']): Change => ({
  line: null,
  field: name,
  before,
  after,
});
/** A thing that the house refuses, with the sentence why. */
export const refused = (row: number, name: string, says: string): Outcome => ({
  row,
  name,
  about: '',
  state: 'cannot change',
  says,
  changes: [],
});
/** Rows under the heading. */
export const dataRows = (table: Table): number => table.length - 1;

/** The sentence of a refusal; a fault of the server goes on. */
export function sentenceOf(error: unknown): string {
  if (!(error instanceof HttpException) || error.getStatus() >= 500) throw error;
  const { detail, cure } = error.getResponse() as { detail: string; cure: string };
  return `${detail} ${cure}`;
}

/** A bad cell in one sentence. */
export const badWords = (b: BadRow): string =>
  `${b.column}: ${b.value === '' ? '' : `"${b.value}" `}${b.why}`;
