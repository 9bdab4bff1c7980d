import type { MigrationInterface, QueryRunner } from 'typeorm';
import { steps } from './steps.js';

/** A bench may buy the first service with the press that closes the parcel. */
export const ONE_PRESS = [
  'ALTER TABLE bench ADD COLUMN IF NOT EXISTS takesFirst BOOL NOT NULL DEFAULT FALSE AFTER wantsPhoto',
];

export class OnePress1766400000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await steps(runner, '0016-one-press', ONE_PRESS);
  }

  async down(): Promise<void> {
    throw new Error('Migrations only go forward.');
  }
}
