import type { DataSource } from 'typeorm';

const LOCK = 'auk migrations';
const PATIENCE_S = 600;

/** Brings a database up to date. Of servers that start at once one does it, and the others wait. */
export async function migrate(source: DataSource): Promise<void> {
  const runner = source.createQueryRunner();
  try {
    await runner.query('SELECT GET_LOCK(?, ?)', [LOCK, PATIENCE_S]);
    // Statements that change tables commit by themselves, so no transaction holds a migration together; its steps do.
    await source.runMigrations({ transaction: 'none' });
  } finally {
    await runner.query('SELECT RELEASE_LOCK(?)', [LOCK]);
    await runner.release();
  }
}
