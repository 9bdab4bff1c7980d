import type { MigrationInterface, QueryRunner } from 'typeorm';
import { steps } from './steps.js';

/**
 * A session at the bench is the order's, which may leave in several parcels; what is told of units (serial numbers, lots, expiry, answers)
 * is kept. Parts may be left out. Boxes are mailers too, are counted, and stand in the order in which they are preferred.
 */
export const BENCH = [
  'ALTER TABLE parcel ADD COLUMN IF NOT EXISTS seq INT NOT NULL DEFAULT 1 AFTER orderId',
  `UPDATE parcel c JOIN (SELECT id, ROW_NUMBER() OVER (PARTITION BY orderId ORDER BY no) AS seq FROM parcel) n ON n.id = c.id SET c.seq = n.seq`,
  'ALTER TABLE parcel ADD UNIQUE INDEX IF NOT EXISTS byOrderSeq (orderId, seq)',
  'ALTER TABLE scanSession ADD UNIQUE INDEX IF NOT EXISTS byOrderKind (orderId, kind)',
  'ALTER TABLE scanSession DROP INDEX IF EXISTS byOrder',
  `UPDATE scanSession x JOIN parcel c ON c.id = x.parcelId SET x.orderId = c.orderId
     WHERE x.kind = 'pack' AND NOT EXISTS (SELECT 1 FROM parcel d WHERE d.orderId = c.orderId AND d.seq > c.seq)`,
  'ALTER TABLE scanSession DROP FOREIGN KEY IF EXISTS scanSession_ibfk_2',
  'ALTER TABLE scanSession DROP INDEX IF EXISTS parcelId',
  'ALTER TABLE scanSession DROP COLUMN IF EXISTS parcelId',
  'ALTER TABLE orderNote ADD COLUMN IF NOT EXISTS word VARCHAR(40) NULL AFTER confirm',
  'ALTER TABLE linePart ADD COLUMN IF NOT EXISTS optional BOOL NOT NULL DEFAULT FALSE, ADD COLUMN IF NOT EXISTS leftOut INT NOT NULL DEFAULT 0, ADD CONSTRAINT linePartLeftOut CHECK (leftOut >= 0)',
  "ALTER TABLE box ADD COLUMN IF NOT EXISTS kind ENUM('box','mailer') NOT NULL DEFAULT 'box', ADD COLUMN IF NOT EXISTS stock INT NULL, ADD COLUMN IF NOT EXISTS position INT NOT NULL DEFAULT 0, ADD COLUMN IF NOT EXISTS retiredAt DATETIME(3) NULL",
  'UPDATE box b JOIN (SELECT code, ROW_NUMBER() OVER (ORDER BY 1.0 * length * width * height, code) AS position FROM box) n ON n.code = b.code SET b.position = n.position',
  `CREATE TABLE IF NOT EXISTS unitFact (id UUID NOT NULL PRIMARY KEY, orderId UUID NOT NULL REFERENCES orders (id), partId UUID NOT NULL REFERENCES linePart (id), parcelId UUID NOT NULL REFERENCES parcel (id),
     productId UUID NOT NULL REFERENCES product (id), n INT NOT NULL, serial VARCHAR(60) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NULL, lot VARCHAR(60) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NULL,
     expiry DATE NULL, answer VARCHAR(60) NULL, at DATETIME(3) NOT NULL, personId UUID NULL, returnedAt DATETIME(3) NULL,
     liveSerial VARCHAR(60) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin AS (IF(returnedAt IS NULL, serial, NULL)) PERSISTENT,
     UNIQUE (productId, liveSerial), UNIQUE (orderId, n), INDEX bySerial (serial), INDEX byLot (lot), INDEX byPart (partId), INDEX byParcel (parcelId))`,
  `CREATE TABLE IF NOT EXISTS orderPhoto (id UUID NOT NULL PRIMARY KEY, orderId UUID NOT NULL REFERENCES orders (id), takenAt DATETIME(3) NOT NULL, at DATETIME(3) NOT NULL,
     personId UUID NULL, bytes MEDIUMBLOB NOT NULL, INDEX (orderId), INDEX (at))`,
  `CREATE TABLE IF NOT EXISTS measured (id UUID NOT NULL PRIMARY KEY, productId UUID NOT NULL REFERENCES product (id), orderId UUID NULL REFERENCES orders (id), length INT NULL, width INT NULL, height INT NULL,
     weightMg BIGINT NULL, at DATETIME(3) NOT NULL, personId UUID NULL, decidedAt DATETIME(3) NULL, taken BOOL NULL, INDEX (productId), INDEX (decidedAt), INDEX (orderId))`,
  'CREATE TABLE IF NOT EXISTS printer (id UUID NOT NULL PRIMARY KEY, name VARCHAR(40) NOT NULL, url VARCHAR(200) NOT NULL, UNIQUE (name))',
  `CREATE TABLE IF NOT EXISTS bench (id UUID NOT NULL PRIMARY KEY, code VARCHAR(20) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL, name VARCHAR(40) NOT NULL,
     labelPrinterId UUID NULL REFERENCES printer (id), slipPrinterId UUID NULL REFERENCES printer (id), invoicePrinterId UUID NULL REFERENCES printer (id), scaleAt VARCHAR(80) NULL,
     afterOrder ENUM('wait','next') NOT NULL DEFAULT 'wait', checkOnly BOOL NOT NULL DEFAULT FALSE, wantsPhoto BOOL NOT NULL DEFAULT FALSE, UNIQUE (code), UNIQUE (name), INDEX (labelPrinterId), INDEX (slipPrinterId), INDEX (invoicePrinterId))`,
  'CREATE TABLE IF NOT EXISTS benchDevice (device VARCHAR(60) NOT NULL PRIMARY KEY, benchId UUID NOT NULL REFERENCES bench (id), at DATETIME(3) NOT NULL, INDEX (benchId))',
  `CREATE TABLE IF NOT EXISTS printJob (id UUID NOT NULL PRIMARY KEY, printerId UUID NOT NULL REFERENCES printer (id), benchId UUID NULL REFERENCES bench (id), kind ENUM('label','slip','invoice') NOT NULL,
     orderId UUID NOT NULL REFERENCES orders (id), parcelNo INT NULL, state ENUM('waiting','printed') NOT NULL DEFAULT 'waiting', tries INT NOT NULL DEFAULT 0, copies INT NOT NULL DEFAULT 0, why VARCHAR(300) NULL,
     at DATETIME(3) NOT NULL, printedAt DATETIME(3) NULL, personId UUID NULL, INDEX (printerId, state), INDEX (at), INDEX (orderId), INDEX (benchId))`,
  'ALTER TABLE label ADD COLUMN IF NOT EXISTS refundMinor BIGINT NULL AFTER chargedMinor',
  "ALTER TABLE orderLine ADD COLUMN IF NOT EXISTS leaveOut ENUM('yes','no') NULL AFTER weightMg",
];

export class Bench1764700000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await steps(runner, '0008-bench', BENCH);
  }

  async down(): Promise<void> {
    throw new Error('Migrations only go forward.');
  }
}
