import type { MigrationInterface, QueryRunner } from 'typeorm';
import { steps } from './steps.js';

/** A network's plan can be asked for again, and may have changed. Units are prepared by scan, and their labels come out of a bench's printer. Pallets are shipping units with numbers of their own. */
export const INBOUND_PLANS = [
  'ALTER TABLE inboundShipment ADD COLUMN IF NOT EXISTS planCode VARCHAR(40) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NULL, ADD COLUMN IF NOT EXISTS planNow JSON NULL',
  "ALTER TABLE inboundShipment ADD COLUMN IF NOT EXISTS handing ENUM('fetched','brought') NOT NULL DEFAULT 'fetched', ADD COLUMN IF NOT EXISTS door ENUM('dock','home','hard to reach') NOT NULL DEFAULT 'dock'",
  "ALTER TABLE scanSession MODIFY kind ENUM('pick','pack','receive','handover','draft','count','build','sort','stage','prepare') NOT NULL, ADD COLUMN IF NOT EXISTS inboundShipmentId UUID NULL REFERENCES inboundShipment (id), ADD INDEX IF NOT EXISTS inboundShipmentId (inboundShipmentId)",
  "ALTER TABLE printJob MODIFY kind ENUM('label','slip','invoice','customs','unit') NOT NULL, ADD COLUMN IF NOT EXISTS tags JSON NULL",
  'ALTER TABLE inboundBox MODIFY parcelId UUID NULL, ADD COLUMN IF NOT EXISTS pallet INT NULL, ADD UNIQUE INDEX IF NOT EXISTS partPallet (partId, pallet)',
  'ALTER TABLE place MODIFY code VARCHAR(100) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL',
  'ALTER TABLE productCode ADD COLUMN IF NOT EXISTS length INT NULL, ADD COLUMN IF NOT EXISTS width INT NULL, ADD COLUMN IF NOT EXISTS height INT NULL, ADD COLUMN IF NOT EXISTS weightMg BIGINT NULL',
];

export class InboundPlans1766300000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await steps(runner, '0015-inbound-plans', INBOUND_PLANS);
  }

  async down(): Promise<void> {
    throw new Error('Migrations only go forward.');
  }
}
