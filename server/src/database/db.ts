import { randomFillSync } from 'node:crypto';
import { setTimeout as wait } from 'node:timers/promises';
import type { LiveTopic } from '@auk/contract';
import { Injectable } from '@nestjs/common';
import {
  DataSource,
  type EntityManager,
  type EntityTarget,
  type ObjectLiteral,
  type QueryRunner,
  type Repository,
} from 'typeorm';
import { v7 } from 'uuid';
import { type Locked, LockWatch, type OutOfOrder } from './locks.js';
import { Outbox } from './outbox.entity.js';

/** Key that stands for "none" where a key column may not be null. */
export const NONE = '00000000-0000-0000-0000-000000000000';

/** Random bytes are drawn for many keys at once; one draw costs more than making the key. */
const drawn = new Uint8Array(16 * 1_024);
let used = drawn.length;
let last = 0;
let seq = 0;

/** A new key (UUIDv7); keys of one server sort in the order in which they were made. */
export function newId(): string {
  if (used === drawn.length) {
    randomFillSync(drawn);
    used = 0;
  }
  const random = drawn.subarray(used, used + 16);
  used += 16;
  const now = Date.now();
  if (now > last) {
    last = now;
    // Half of the numbers of a millisecond lie above where it begins.
    seq = new DataView(random.buffer, random.byteOffset).getUint32(6) >>> 1;
  } else seq = (seq + 1) >>> 0;
  return v7({ random, msecs: last, seq });
}

type Value = string | number | boolean | Date | Buffer | null;
/** A row to insert: column names to values. */
export type Row = Record<string, Value>;
/** A row of an entity to insert, by its columns; JSON is given as text. */
export type NewRow<E> = { [K in keyof E]?: Value };

/** Reads a JSON column, which the driver hands over as text. */
export function fromJson<T>(value: unknown): T {
  return (typeof value === 'string' ? JSON.parse(value) : value) as T;
}

/** Who does something, and when: written beside every change. */
export interface Doer {
  personId: string | null;
  at: Date;
}

/** Rows in one INSERT; keeps statements under the server's packet limit. */
const ROWS_A_STATEMENT = 1000;

/** A list of none is no SQL between its brackets; nothing is in one of NULL alone. (`NOT IN (?)` is asked of lists that are never empty.) */
const listed = (params: readonly unknown[]): unknown[] =>
  params.map(p => (Array.isArray(p) && p.length === 0 ? [null] : p));

/** Plain reads and writes on one connection. Statements are parameterised, always. */
export class Sql {
  constructor(protected readonly manager: EntityManager) {}

  rows<T>(sql: string, params: unknown[] = []): Promise<T[]> {
    return this.manager.query(sql, listed(params));
  }

  async one<T>(sql: string, params: unknown[] = []): Promise<T | null> {
    return (await this.rows<T>(sql, params))[0] ?? null;
  }

  /** The rows of an entity, read and written by its columns. Within a transaction they belong to it. */
  of<E extends ObjectLiteral>(entity: EntityTarget<E>): Repository<E> {
    return this.manager.getRepository(entity);
  }

  /** Runs a write and tells how many rows it touched. */
  async run(sql: string, params: unknown[] = []): Promise<number> {
    const result = await this.manager.query(sql, listed(params));
    return (result as { affectedRows: number }).affectedRows;
  }

  /** Inserts rows of equal shape with as few statements as possible. */
  insert<E extends ObjectLiteral>(entity: EntityTarget<E>, rows: readonly NewRow<E>[]): Promise<void> {
    return this.insertWith(entity, rows, '');
  }

  /** The same; of rows that are there already the named columns become those of the new ones, and without any they stay as they are. */
  upsert<E extends ObjectLiteral>(
    entity: EntityTarget<E>,
    rows: readonly NewRow<E>[],
    columns: readonly (keyof E & string)[],
  ): Promise<void> {
    const { tableName, primaryColumns } = this.metadata(entity);
    const key = `${tableName}.${primaryColumns[0]!.databaseName}`;
    const set = columns.length > 0 ? columns.map(c => `${c} = VALUES(${c})`) : [`${key} = ${key}`];
    return this.insertWith(entity, rows, `ON DUPLICATE KEY UPDATE ${set.join(', ')}`);
  }

  /** The same; of rows that are there already the named columns grow by those of the new ones. */
  addTo<E extends ObjectLiteral>(
    entity: EntityTarget<E>,
    rows: readonly NewRow<E>[],
    columns: readonly string[],
  ): Promise<void> {
    const set = columns.map(c => `${c} = ${c} + VALUES(${c})`).join(', ');
    return this.insertWith(entity, rows, `ON DUPLICATE KEY UPDATE ${set}`);
  }

  private metadata(entity: EntityTarget<ObjectLiteral>) {
    return this.manager.dataSource.getMetadata(entity);
  }

  private async insertWith(
    entity: EntityTarget<ObjectLiteral>,
    rows: readonly NewRow<object>[],
    tail: string,
  ): Promise<void> {
    if (rows.length === 0) return;
    const table = this.metadata(entity).tableName;
    const all = rows as readonly Row[];
    // What no row says is left to the table.
    const columns = Object.keys(all[0]!).filter(c => all.some(r => r[c] !== null && r[c] !== undefined));
    const parts = Array.from({ length: Math.ceil(all.length / ROWS_A_STATEMENT) }, (_, i) =>
      all.slice(i * ROWS_A_STATEMENT, (i + 1) * ROWS_A_STATEMENT),
    );
    await Promise.all(
      parts.map(part => {
        const values = part.map(r => columns.map(c => r[c] ?? null));
        return this.run(`INSERT INTO ${table} (${columns.join(',')}) VALUES ? ${tail}`, [values]);
      }),
    );
  }
}

/** One transaction with its doer. */
export class Tx extends Sql {
  /** Tests set this to be told of locks that are taken out of the stated order. */
  static onOutOfOrder: ((found: OutOfOrder) => void) | null = null;

  constructor(
    manager: EntityManager,
    public personId: string | null,
    readonly at: Date,
    /** Whether the act is tried again, because another was in the way. */
    readonly again = false,
  ) {
    super(manager);
    oneAtATime(manager.queryRunner!, Tx.onOutOfOrder && new LockWatch(Tx.onOutOfOrder));
  }

  private readonly held = new Map<Locked, Set<string>>();

  /** Notes that rows are locked by this transaction, or made by it. */
  hold(table: Locked, ids: readonly string[]): void {
    const held = this.held.get(table) ?? new Set();
    for (const id of ids) held.add(id);
    this.held.set(table, held);
  }

  /** Notes rows that were read with their locks, and gives them on. */
  holding<T extends { id: string }>(table: Locked, rows: T[]): T[] {
    this.hold(
      table,
      rows.map(r => r.id),
    );
    return rows;
  }

  /** Whether a row is locked by this transaction. */
  has(table: Locked, id: string): boolean {
    return this.held.get(table)?.has(id) ?? false;
  }

  /** Whether any row of a table is locked by this transaction. */
  hasAny(table: Locked): boolean {
    return (this.held.get(table)?.size ?? 0) > 0;
  }

  /** Runs a part of the transaction that may fail alone: what it wrote is taken back, the rest stays. After a deadlock there is no rest: the whole is tried again. */
  async attempt<T>(work: () => Promise<T>): Promise<T> {
    await this.run('SAVEPOINT part');
    try {
      return await work();
    } catch (error) {
      if (!DEADLOCK.has(errnoOf(error) ?? 0)) await this.run('ROLLBACK TO SAVEPOINT part');
      throw error;
    }
  }

  /** Rounds that have something to do when this is committed, and are not to wait for their time. */
  readonly hurried = new Set<string>();

  /** Has a round begin as soon as this is committed. */
  hurry(round: string): void {
    this.hurried.add(round);
  }

  /** Tells every open screen that something changed, with the change itself. */
  tell(topic: LiveTopic, ref: string): Promise<void> {
    return this.insert(Outbox, [{ at: this.at, topic, ref }]);
  }
}

const OVER = new Error('The transaction is over; this statement came after its end.');

/**
 * Statements of a transaction run one after another, and none after its end, whether the database ended it or its work failed: outside
 * of it, what was on its way would be written though nothing that came before it was. `watch` looks at each of them, whoever makes it.
 */
function oneAtATime(runner: QueryRunner, watch: LockWatch | null): void {
  const query = runner.query.bind(runner) as (...args: unknown[]) => Promise<unknown>;
  let line: Promise<unknown> = Promise.resolve();
  let ended: unknown = null;
  const next = async (args: unknown[]): Promise<unknown> => {
    if (ended && args[0] !== 'ROLLBACK') throw ended;
    if (args[0] === 'ROLLBACK' || args[0] === 'COMMIT') ended = OVER;
    try {
      return await query(...args);
    } catch (error) {
      if (DEADLOCK.has(errnoOf(error) ?? 0)) ended = error;
      throw error;
    }
  };
  runner.query = ((...args: unknown[]) => {
    watch?.note(args[0] as string);
    const answer = line.then(() => next(args));
    line = answer.catch(() => {});
    return answer;
  }) as typeof runner.query;
}

const DEADLOCK = new Set([1213, 1205, 1020]);
const TRIES = 7;
const BACK_OFF_MS = 4;

/** The database: reads outside, changes inside transactions that are tried again when another was in the way. */
@Injectable()
export class Db extends Sql {
  constructor(readonly source: DataSource) {
    super(source.manager);
  }

  private begin: (rounds: ReadonlySet<string>) => void = () => {};

  /** Who begins the rounds that transactions hurry. */
  onHurried(begin: (rounds: ReadonlySet<string>) => void): void {
    this.begin = begin;
  }

  /** Forgets messages of the live stream that are older than so many hours, some thousands at a time. */
  forgetTold(hours: number): Promise<number> {
    return this.run('DELETE FROM outbox WHERE at < NOW(3) - INTERVAL ? HOUR LIMIT 5000', [hours]);
  }

  /** Runs `work` in one transaction, whole again after a deadlock or lock wait. `work` must have no other effects. */
  async tx<T>(doer: Doer, work: (tx: Tx) => Promise<T>): Promise<T> {
    for (let attempt = 1; ; attempt++) {
      try {
        let hurried: ReadonlySet<string> = new Set();
        const answer = await this.source.transaction(m => {
          const tx = new Tx(m, doer.personId, doer.at, attempt > 1);
          hurried = tx.hurried;
          return work(tx);
        });
        if (hurried.size > 0) this.begin(hurried);
        return answer;
      } catch (error) {
        if (attempt >= TRIES || !DEADLOCK.has(errnoOf(error) ?? 0)) throw error;
        // Whoever was in the way goes first; a random share of the wait keeps two from meeting again.
        await wait(Math.random() * BACK_OFF_MS * 2 ** attempt);
      }
    }
  }
}

/** True when a statement failed because a row of its key is there already. */
export const isDuplicate = (error: unknown): boolean => errnoOf(error) === 1062;

/** Two at once: what was decided on has changed since it was read. The transaction is tried again. */
export class Stale extends Error {
  readonly errno = 1020;
}

const SHUTDOWN = 1053;
const KILLED = 1927;

/** True when the database was not there to answer: its server stands still, or the connection to it was cut. */
export function isAway(error: unknown): boolean {
  const errno = errnoOf(error);
  return (error as { fatal?: boolean } | null)?.fatal === true || errno === SHUTDOWN || errno === KILLED;
}

/** The server's error number of a failed statement, or undefined for any other error. */
export function errnoOf(error: unknown): number | undefined {
  return (error as { errno?: number } | null)?.errno;
}
