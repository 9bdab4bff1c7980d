import type { MigrationInterface, QueryRunner } from 'typeorm';
import { steps } from './steps.js';

/** Orders to one address are looked for among those that are no drafts, however many others went there. */
export const ONE_ADDRESS = [
  'ALTER TABLE orders DROP INDEX IF EXISTS byTogether, ADD INDEX IF NOT EXISTS byAddress (together, draftedAt, stage)',
];

export class OneAddress1766500000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await steps(runner, '0017-one-address', ONE_ADDRESS);
  }

  async down(): Promise<void> {
    throw new Error('Migrations only go forward.');
  }
}
