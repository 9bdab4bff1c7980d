import type { MigrationInterface, QueryRunner } from 'typeorm';
import { steps } from './steps.js';

/**
 * Carriers are kept in Setup with their accounts, rate sheets, services and days off. A label says its account and what its price was made
 * of; a purchase that nobody can prove waits for a person; what a carrier owes back is kept.
 */
export const LABELS = [
  `CREATE TABLE IF NOT EXISTS carrier (code VARCHAR(30) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL PRIMARY KEY, name VARCHAR(60) NOT NULL, kind VARCHAR(20) NOT NULL, address VARCHAR(200) NOT NULL,
     keySealed VARCHAR(600) NULL, inUse BOOL NOT NULL DEFAULT TRUE, position INT NOT NULL DEFAULT 0, planUpToMg BIGINT NULL)`,
  `INSERT IGNORE INTO carrier (code, name, kind, address, inUse, position, planUpToMg)
     SELECT carrier, MAX(carrierName), 'plain', '', TRUE, CASE carrier WHEN 'heron' THEN 1 ELSE 2 END, CASE carrier WHEN 'heron' THEN 2300000 WHEN 'redfen' THEN 68000000 END
     FROM timetable WHERE NOT freight GROUP BY carrier`,
  `CREATE TABLE IF NOT EXISTS carrierAccount (id UUID NOT NULL PRIMARY KEY, carrier VARCHAR(30) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL REFERENCES carrier (code), name VARCHAR(60) NOT NULL,
     number VARCHAR(40) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL DEFAULT '', rates ENUM('asked','sheet') NOT NULL, inUse BOOL NOT NULL DEFAULT TRUE, UNIQUE (carrier, number))`,
  `INSERT IGNORE INTO carrierAccount (id, carrier, name, number, rates) SELECT UUID(), code, 'House account', '', 'asked' FROM carrier`,
  `CREATE TABLE IF NOT EXISTS rateSheet (id UUID NOT NULL PRIMARY KEY, accountId UUID NOT NULL REFERENCES carrierAccount (id), name VARCHAR(80) NOT NULL, currency CHAR(3) NOT NULL, fromDay DATE NOT NULL,
     sheet JSON NOT NULL, text MEDIUMBLOB NOT NULL, at DATETIME(3) NOT NULL, personId UUID NULL, INDEX (accountId, fromDay))`,
  `CREATE TABLE IF NOT EXISTS carrierService (carrier VARCHAR(30) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL REFERENCES carrier (code), service VARCHAR(40) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL,
     name VARCHAR(80) NOT NULL, inUse BOOL NOT NULL DEFAULT TRUE, PRIMARY KEY (carrier, service))`,
  'ALTER TABLE shipment ADD COLUMN IF NOT EXISTS chosen JSON NULL',
  'CREATE TABLE IF NOT EXISTS carrierClosed (day DATE NOT NULL PRIMARY KEY, name VARCHAR(60) NOT NULL)',
  "ALTER TABLE label MODIFY state ENUM('intended','asked','bought','refused','unknown','void asked','voided','doubtful') NOT NULL",
  `ALTER TABLE label ADD COLUMN IF NOT EXISTS account VARCHAR(40) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL DEFAULT '' AFTER carrierName,
     ADD COLUMN IF NOT EXISTS zone VARCHAR(10) NULL AFTER serviceName, ADD COLUMN IF NOT EXISTS billable VARCHAR(40) NULL AFTER zone, ADD COLUMN IF NOT EXISTS charges JSON NULL AFTER billable,
     ADD COLUMN IF NOT EXISTS picture MEDIUMBLOB NULL, ADD COLUMN IF NOT EXISTS checks INT NOT NULL DEFAULT 0, ADD COLUMN IF NOT EXISTS checkAt DATETIME(3) NULL,
     ADD COLUMN IF NOT EXISTS elsewhere BOOL NOT NULL DEFAULT FALSE, ADD COLUMN IF NOT EXISTS batchId UUID NULL`,
  `ALTER TABLE label ADD COLUMN IF NOT EXISTS liveTracking VARCHAR(80) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin
     AS (IF(state IN ('bought','void asked'), CONCAT(carrier, ' ', tracking), NULL)) PERSISTENT`,
  'ALTER TABLE label ADD UNIQUE INDEX IF NOT EXISTS byLiveTracking (liveTracking)',
  'ALTER TABLE label ADD INDEX IF NOT EXISTS byCheckAt (checkAt)',
  `CREATE TABLE IF NOT EXISTS labelBatch (id UUID NOT NULL PRIMARY KEY, state ENUM('pricing','priced','buying','done','stopped') NOT NULL, at DATETIME(3) NOT NULL, personId UUID NULL, INDEX (at))`,
  `CREATE TABLE IF NOT EXISTS labelBatchItem (id UUID NOT NULL PRIMARY KEY, batchId UUID NOT NULL REFERENCES labelBatch (id), seq INT NOT NULL, parcelId UUID NOT NULL REFERENCES parcel (id),
     state ENUM('waiting','priced','none','asked','refused') NOT NULL DEFAULT 'waiting', offer JSON NULL, minor BIGINT NULL, why VARCHAR(300) NULL, UNIQUE (batchId, seq), UNIQUE (batchId, parcelId), INDEX (parcelId))`,
  `CREATE TABLE IF NOT EXISTS refundClaim (id UUID NOT NULL PRIMARY KEY, labelId UUID NOT NULL REFERENCES label (id), kind ENUM('stray','price') NOT NULL, minor BIGINT NOT NULL, currency CHAR(3) NOT NULL,
     state ENUM('open','settled','given up') NOT NULL DEFAULT 'open', why VARCHAR(300) NOT NULL, tracking VARCHAR(40) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NULL, at DATETIME(3) NOT NULL, closedAt DATETIME(3) NULL,
     personId UUID NULL, UNIQUE (labelId, kind), INDEX (state))`,
];

export class Labels1764800000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await steps(runner, '0009-labels', LABELS);
  }

  async down(): Promise<void> {
    throw new Error('Migrations only go forward.');
  }
}
