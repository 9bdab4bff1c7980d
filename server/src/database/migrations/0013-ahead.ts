import type { MigrationInterface, QueryRunner } from 'typeorm';
import { steps } from './steps.js';

/** Labels may be bought for a parcel that nobody has begun to pack; what is packed otherwise says that its label does not fit. */
export const AHEAD = [
  'ALTER TABLE parcel ADD COLUMN IF NOT EXISTS aheadAt DATETIME(3) NULL, ADD COLUMN IF NOT EXISTS misfit VARCHAR(200) NULL',
  'ALTER TABLE unattended MODIFY COLUMN parcelId UUID NULL, ADD COLUMN IF NOT EXISTS orderId UUID NULL REFERENCES orders (id), ADD INDEX IF NOT EXISTS orderId (orderId)',
];

export class Ahead1766000000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await steps(runner, '0013-ahead', AHEAD);
  }

  async down(): Promise<void> {
    throw new Error('Migrations only go forward.');
  }
}
