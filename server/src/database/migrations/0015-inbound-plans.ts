import type { MigrationInterface, QueryRunner } from 'typeorm';
import { steps } from './steps.js';

/** A network's plan can be asked for again, and may have changed. */
export const INBOUND_PLANS = [
  'ALTER TABLE inboundShipment ADD COLUMN IF NOT EXISTS planCode VARCHAR(40) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NULL, ADD COLUMN IF NOT EXISTS planNow JSON NULL',
];

export class InboundPlans1766300000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await steps(runner, '0015-inbound-plans', INBOUND_PLANS);
  }

  async down(): Promise<void> {
    throw new Error('Migrations only go forward.');
  }
}
