import type { MigrationInterface, QueryRunner } from 'typeorm';
import { steps } from './steps.js';

const CODE = (length: number) => `VARCHAR(${length}) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin`;
const STAGES =
  "ENUM('Draft','Boxed','Booked','Travelling','At dock','Counting in','Closed','Cancelled') NOT NULL DEFAULT 'Draft'";

/**
 * Shipments to fulfillment centers: what goes, to which centers, in which boxes with which numbers, what is booked and what was counted.
 * Goods on their way lie in a place of their own. Boxes may be planned for an order with what lies in each.
 */
export const INBOUND = [
  `CREATE TABLE IF NOT EXISTS packPlan (orderId UUID NOT NULL PRIMARY KEY REFERENCES orders (id), mostMg BIGINT NOT NULL, lasts DATE NULL, boxes JSON NOT NULL, CHECK (mostMg > 0))`,
  `ALTER TABLE place MODIFY kind ENUM('bin','tote','trolley','staging','bench','parcel','quarantine','missing','gone','center','outside','reserve','dock','made','cell','away') NOT NULL`,
  `CREATE TABLE IF NOT EXISTS inboundShipment (id UUID NOT NULL PRIMARY KEY, no INT NOT NULL AUTO_INCREMENT UNIQUE, name VARCHAR(40) NOT NULL DEFAULT '', network ${CODE(40)} NOT NULL, source ENUM('house','supplier','abroad') NOT NULL,
     storage ENUM('near','deep') NOT NULL, stage ${STAGES}, shipDay DATE NULL, weeks INT NOT NULL DEFAULT 6, way JSON NULL, placedAt DATETIME(3) NULL, createdAt DATETIME(3) NOT NULL, personId UUID NULL, doneAt DATETIME(3) NULL, INDEX (stage), CHECK (weeks > 0))`,
  `CREATE TABLE IF NOT EXISTS inboundLine (id UUID NOT NULL PRIMARY KEY, shipmentId UUID NOT NULL REFERENCES inboundShipment (id), productId UUID NOT NULL REFERENCES product (id), units INT NOT NULL, perCase INT NULL,
     preparedBy ENUM('us','network') NOT NULL DEFAULT 'us', scans ${CODE(100)} NULL, category VARCHAR(60) NULL, askedAt DATETIME(3) NULL, confirmed ${CODE(100)} NULL, confirmedAt DATETIME(3) NULL, prepared INT NOT NULL DEFAULT 0, spoiled INT NOT NULL DEFAULT 0,
     UNIQUE (shipmentId, productId), INDEX (productId), CHECK (units > 0), CHECK (perCase > 0), CHECK (prepared >= 0 and spoiled >= 0))`,
  `CREATE TABLE IF NOT EXISTS inboundPart (id UUID NOT NULL PRIMARY KEY, shipmentId UUID NOT NULL REFERENCES inboundShipment (id), seq INT NOT NULL, center ${CODE(40)} NOT NULL, address JSON NOT NULL, stage ${STAGES}, orderId UUID NULL UNIQUE REFERENCES orders (id),
     placeId UUID NULL REFERENCES place (id), boxes JSON NOT NULL, bookState ENUM('none','asked','booked','refused','unknown','cancelled') NOT NULL DEFAULT 'none', bookKey UUID NULL, asked JSON NULL, askedMinor BIGINT NULL, currency CHAR(3) NULL, bookedMinor BIGINT NULL,
     bookNo ${CODE(40)} NULL, freeUntil DATETIME(3) NULL, tracking JSON NULL, why VARCHAR(300) NULL, leftAt DATETIME(3) NULL, late DATE NULL, countedAt DATETIME(3) NULL, UNIQUE (shipmentId, seq), INDEX (placeId), INDEX (bookState), INDEX (stage))`,
  `CREATE TABLE IF NOT EXISTS inboundPartLine (partId UUID NOT NULL REFERENCES inboundPart (id), productId UUID NOT NULL REFERENCES product (id), units INT NOT NULL, PRIMARY KEY (partId, productId), INDEX (productId), CHECK (units > 0))`,
  `CREATE TABLE IF NOT EXISTS inboundBox (n BIGINT NOT NULL AUTO_INCREMENT PRIMARY KEY, partId UUID NOT NULL REFERENCES inboundPart (id), parcelId UUID NOT NULL UNIQUE REFERENCES parcel (id), sscc CHAR(18) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NULL UNIQUE, INDEX (partId))`,
  `CREATE TABLE IF NOT EXISTS inboundEvent (id BIGINT NOT NULL AUTO_INCREMENT PRIMARY KEY, shipmentId UUID NOT NULL REFERENCES inboundShipment (id), partId UUID NULL REFERENCES inboundPart (id), code ${CODE(80)} NULL, at DATETIME(3) NOT NULL, personId UUID NULL, says VARCHAR(300) NOT NULL,
     sscc ${CODE(18)} NULL, UNIQUE (partId, code), INDEX (shipmentId))`,
  `CREATE TABLE IF NOT EXISTS inboundCount (partId UUID NOT NULL REFERENCES inboundPart (id), sscc ${CODE(18)} NOT NULL, code ${CODE(60)} NOT NULL, productId UUID NULL REFERENCES product (id), units INT NOT NULL, PRIMARY KEY (partId, sscc, code), INDEX (productId), CHECK (units >= 0))`,
  `CREATE TABLE IF NOT EXISTS inboundDifference (id UUID NOT NULL PRIMARY KEY, partId UUID NOT NULL REFERENCES inboundPart (id), sscc ${CODE(18)} NOT NULL, code ${CODE(60)} NOT NULL, productId UUID NULL REFERENCES product (id), missing INT NOT NULL, surplus INT NOT NULL, stranger BOOL NOT NULL,
     state ENUM('open','claimed','written off','booked') NOT NULL DEFAULT 'open', reason VARCHAR(120) NOT NULL DEFAULT '', decidedAt DATETIME(3) NULL, personId UUID NULL, UNIQUE (partId, sscc, code), INDEX (productId), INDEX (state))`,
  `INSERT INTO channel (id, code, name, brand, currency, sender) SELECT UUID(), 'inbound', 'Inbound', name, currency, sender FROM warehouse WHERE NOT EXISTS (SELECT 1 FROM channel WHERE code = 'inbound') LIMIT 1`,
];

export class Inbound1766200000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await steps(runner, '0014-inbound', INBOUND);
  }

  async down(): Promise<void> {
    throw new Error('Migrations only go forward.');
  }
}
