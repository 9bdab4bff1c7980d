import type { MigrationInterface, QueryRunner } from 'typeorm';
import { steps } from './steps.js';

const HOLD = "hold ENUM('soft','listed','picked','packed','departed','sorted') NOT NULL";

/**
 * Lists know how they are picked and what carries them. Goods that are picked as one heap are sorted at a put wall, whose cells are
 * places of the ledger. Totes and trolleys stand somewhere while they wait for the bench. What goes wrong at the shelves is kept: what was taken for what, and
 * which codes could not be scanned.
 */
export const CARRIERS = [
  `ALTER TABLE place MODIFY kind ENUM('bin','tote','trolley','staging','bench','parcel','quarantine','missing','gone','center','outside','reserve','dock','made','cell') NOT NULL`,
  'ALTER TABLE place ADD COLUMN IF NOT EXISTS standsAtId UUID NULL AFTER busyWith, ADD COLUMN IF NOT EXISTS stoodSince DATETIME(3) NULL AFTER standsAtId',
  'ALTER TABLE place ADD INDEX standsAtId (standsAtId), ADD CONSTRAINT placeStandsAt FOREIGN KEY (standsAtId) REFERENCES place (id)',
  `ALTER TABLE allocation MODIFY ${HOLD}`,
  `ALTER TABLE allocationEntry MODIFY ${HOLD}`,
  "ALTER TABLE pickList ADD COLUMN IF NOT EXISTS method ENUM('single','cluster','batch') NOT NULL DEFAULT 'cluster' AFTER state, ADD COLUMN IF NOT EXISTS trolleyId UUID NULL AFTER method",
  'ALTER TABLE pickList ADD INDEX trolleyId (trolleyId), ADD CONSTRAINT pickListTrolley FOREIGN KEY (trolleyId) REFERENCES place (id)',
  'ALTER TABLE pickStop ADD COLUMN IF NOT EXISTS cellId UUID NULL AFTER toteId',
  'ALTER TABLE pickStop ADD INDEX cellId (cellId), ADD CONSTRAINT pickStopCell FOREIGN KEY (cellId) REFERENCES place (id)',
  "ALTER TABLE scanSession MODIFY kind ENUM('pick','pack','receive','handover','draft','count','build','sort','stage') NOT NULL",
  `CREATE TABLE IF NOT EXISTS floorTrouble (id UUID NOT NULL PRIMARY KEY, at DATETIME(3) NOT NULL, kind ENUM('mix-up','by hand') NOT NULL, wantedId UUID NULL REFERENCES product (id), scannedId UUID NULL REFERENCES product (id),
     placeId UUID NULL REFERENCES place (id), said VARCHAR(60) NOT NULL DEFAULT '', personId UUID NULL, INDEX byAt (at), INDEX byWanted (wantedId), INDEX byScanned (scannedId), INDEX byPlace (placeId))`,
];

export class Carriers1764600000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await steps(runner, '0007-carriers', CARRIERS);
  }

  async down(): Promise<void> {
    throw new Error('Migrations only go forward.');
  }
}
