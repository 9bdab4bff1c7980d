import type { QueryRunner } from 'typeorm';

/** Errors that say a statement was carried out already: what it makes is there, or what it drops is gone. */
const ALREADY = new Set([1050, 1060, 1061, 1068, 1091, 1826]);
const WRITES = /^\s*(INSERT|UPDATE|DELETE)/i;

/**
 * Carries out a migration statement by statement, and goes on where a killed one stood. A statement that changes tables is one whole
 * for the database; whether it was carried out before the kill is seen when it is repeated. One that writes rows is noted as done in
 * the same transaction, so that it is never carried out twice.
 */
export async function steps(runner: QueryRunner, name: string, statements: readonly string[]): Promise<void> {
  await runner.query(
    'CREATE TABLE IF NOT EXISTS migrationStep (name VARCHAR(60) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL, step INT NOT NULL, done BOOL NOT NULL, PRIMARY KEY (name, step))',
  );
  const known: { step: number; done: number }[] = await runner.query(
    'SELECT step, done FROM migrationStep WHERE name = ?',
    [name],
  );
  const note = (step: number, done: boolean) =>
    runner.query('REPLACE INTO migrationStep (name, step, done) VALUES (?, ?, ?)', [name, step, done]);
  for (const [step, statement] of statements.entries()) {
    const before = known.find(k => k.step === step);
    if (before?.done) continue;
    if (WRITES.test(statement)) {
      await runner.query('START TRANSACTION');
      await runner.query(statement);
      await note(step, true);
      await runner.query('COMMIT');
      continue;
    }
    await note(step, false);
    try {
      await runner.query(statement);
    } catch (error) {
      if (!before || !ALREADY.has((error as { errno?: number }).errno ?? 0)) throw error;
    }
    await note(step, true);
  }
}
