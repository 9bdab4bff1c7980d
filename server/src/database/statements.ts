import type { Logger } from 'typeorm';

type Listener = (sql: string, params: unknown[]) => void;

/** Tells tests of every statement that is sent, whoever makes it. Nobody listens otherwise. */
export class Statements implements Logger {
  private static readonly listeners = new Set<Listener>();

  /** Listens from now on; the answer ends it. */
  static listen(listener: Listener): () => void {
    Statements.listeners.add(listener);
    return () => Statements.listeners.delete(listener);
  }

  logQuery(sql: string, params: unknown[] = []): void {
    for (const listener of Statements.listeners) listener(sql, params);
  }

  logQueryError(): void {}
  logQuerySlow(): void {}
  logSchemaBuild(): void {}
  logMigration(): void {}
  log(): void {}
}
