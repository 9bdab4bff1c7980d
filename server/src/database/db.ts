import { setTimeout as wait } from 'node:timers/promises';
import type { LiveTopic } from '@auk/contract';
import { Injectable } from '@nestjs/common';
import {
  DataSource,
  type EntityManager,
  type EntityTarget,
  type ObjectLiteral,
  type Repository,
} from 'typeorm';
import { v7 } from 'uuid';
import { LockWatch, type OutOfOrder } from './locks.js';

/** Key that stands for "none" where a key column may not be null. */
export const NONE = '00000000-0000-0000-0000-000000000000';

/** A new time-ordered key. */
export const newId = (): string => v7();

/** A row to insert: column names to values. */
export type Row = Record<string, string | number | boolean | Date | null>;

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

/** Plain reads and writes on one connection. Statements are parameterised, always. */
export class Sql {
  /** Tests set this to be told of every statement. */
  static onStatement: ((sql: string, params: unknown[]) => void) | null = null;

  constructor(protected readonly manager: EntityManager) {}

  rows<T>(sql: string, params: unknown[] = []): Promise<T[]> {
    Sql.onStatement?.(sql, params);
    return this.manager.query(sql, params);
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
    Sql.onStatement?.(sql, params);
    const result = await this.manager.query(sql, params);
    return (result as { affectedRows: number }).affectedRows;
  }

  /** Inserts rows of equal shape with as few statements as possible; `tail` may add ON DUPLICATE KEY. */
  async insert(table: string, rows: readonly Row[], tail = ''): Promise<void> {
    if (rows.length === 0) return;
    const columns = Object.keys(rows[0]!);
    const one = `(${columns.map(() => '?').join(',')})`;
    for (let i = 0; i < rows.length; i += ROWS_A_STATEMENT) {
      const part = rows.slice(i, i + ROWS_A_STATEMENT);
      const params = part.flatMap(r => columns.map(c => r[c] ?? null));
      await this.run(
        `INSERT INTO ${table} (${columns.join(',')}) VALUES ${part.map(() => one).join(',')} ${tail}`,
        params,
      );
    }
  }
}

/** One transaction with its doer. */
export class Tx extends Sql {
  /** Tests set this to be told of locks that are taken out of the stated order. */
  static onOutOfOrder: ((found: OutOfOrder) => void) | null = null;

  private readonly watch = Tx.onOutOfOrder && new LockWatch(Tx.onOutOfOrder);

  constructor(
    manager: EntityManager,
    readonly personId: string | null,
    readonly at: Date,
  ) {
    super(manager);
  }

  override rows<T>(sql: string, params: unknown[] = []): Promise<T[]> {
    this.watch?.note(sql);
    return super.rows<T>(sql, params);
  }

  override run(sql: string, params: unknown[] = []): Promise<number> {
    this.watch?.note(sql);
    return super.run(sql, params);
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

  /** Tells every open screen that something changed, with the change itself. */
  tell(topic: LiveTopic, ref: string): Promise<void> {
    return this.insert('outbox', [{ at: this.at, topic, ref }]);
  }
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

  /** Forgets messages of the live stream that are older than so many hours, some thousands at a time. */
  forgetTold(hours: number): Promise<number> {
    return this.run('DELETE FROM outbox WHERE at < NOW(3) - INTERVAL ? HOUR LIMIT 5000', [hours]);
  }

  /** Runs `work` in one transaction, whole again after a deadlock or lock wait. `work` must have no other effects. */
  async tx<T>(doer: Doer, work: (tx: Tx) => Promise<T>): Promise<T> {
    for (let attempt = 1; ; attempt++) {
      try {
        return await this.source.transaction('READ COMMITTED', m => work(new Tx(m, doer.personId, doer.at)));
      } catch (error) {
        if (attempt >= TRIES || !DEADLOCK.has(errnoOf(error) ?? 0)) throw error;
        // Whoever was in the way goes first; a random share of the wait keeps two from meeting again.
        await wait(Math.random() * BACK_OFF_MS * 2 ** attempt);
      }
    }
  }
}

/** The server's error number of a failed statement, or undefined for any other error. */
export function errnoOf(error: unknown): number | undefined {
  return (error as { errno?: number } | null)?.errno;
}
