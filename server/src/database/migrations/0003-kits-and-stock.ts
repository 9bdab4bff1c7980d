import type { MigrationInterface, QueryRunner } from 'typeorm';
import { steps } from './steps.js';

const CODE = 'CHARACTER SET utf8mb4 COLLATE utf8mb4_bin';
const AT = 'DATETIME(3)';

/** Kits, builds, receiving, counts: places of more kinds, lots that expire, kits eked out with parts, purchase orders, and whose moves those are. */
const STATEMENTS = [
  // Places: reserve and dock beside pick faces (`bin`); `made` is where builds turn parts into kits and may owe.
  `ALTER TABLE place MODIFY kind ENUM('bin','tote','trolley','staging','bench','parcel','quarantine','missing','gone','center','outside','reserve','dock','made') NOT NULL,
     ADD zone VARCHAR(20) NOT NULL DEFAULT '', ADD bay INT NULL, ADD bin VARCHAR(2) NULL, ADD capacity INT NULL CHECK (capacity > 0)`,
  `UPDATE place SET bay = CAST(SUBSTRING_INDEX(SUBSTRING_INDEX(code, '-', 2), '-', -1) AS INT), zone = 'Shelves' WHERE kind = 'bin' AND code RLIKE '^[A-Z]{1,2}-[0-9]{2}-[0-9]{1,2}$'`,
  `INSERT INTO place (id, warehouseId, code, kind, aisle, along, zone) SELECT UUID(), id, 'DOCK-1', 'dock', 0, 0, 'Dock' FROM warehouse`,
  `INSERT INTO place (id, warehouseId, code, kind) SELECT UUID(), id, 'MADE', 'made' FROM warehouse`,
  // A lot whose day has come is marked by the sweep, under its product's lock; from then on none of it is promised.
  `ALTER TABLE lot ADD expiredAt ${AT} NULL, ADD INDEX byExpiry (expiry)`,
  `ALTER TABLE recipe ADD note VARCHAR(200) NOT NULL DEFAULT ''`,
  // A line's kit that is eked out with parts: `made` of its units come from the parts that name it in `kitId`.
  `ALTER TABLE linePart ADD kitId UUID NULL, ADD made INT NOT NULL DEFAULT 0 CHECK (made >= 0), ADD FOREIGN KEY (kitId) REFERENCES product (id)`,
  `ALTER TABLE stockMove ADD reason VARCHAR(120) NOT NULL DEFAULT '', ADD INDEX byLot (lotId)`,
  `ALTER TABLE stockBalance ADD INDEX byLot (lotKey)`,
  `CREATE TABLE stockCount (id UUID PRIMARY KEY, countId UUID NOT NULL, at ${AT} NOT NULL, personId UUID NULL, placeId UUID NOT NULL, productId UUID NOT NULL, lotKey UUID NOT NULL,
     expected INT NOT NULL, counted INT NOT NULL CHECK (counted >= 0), reason VARCHAR(120) NOT NULL DEFAULT '', INDEX (countId), INDEX (productId, placeId, at),
     FOREIGN KEY (placeId) REFERENCES place (id), FOREIGN KEY (productId) REFERENCES product (id))`,
  `CREATE TABLE supplier (id UUID PRIMARY KEY, name VARCHAR(80) NOT NULL UNIQUE)`,
  `CREATE TABLE purchaseOrder (id UUID PRIMARY KEY, no INT NOT NULL AUTO_INCREMENT UNIQUE, warehouseId UUID NOT NULL, supplierId UUID NOT NULL, reference VARCHAR(60) ${CODE} NOT NULL DEFAULT '',
     expected DATE NULL, state ENUM('open','done','cancelled') NOT NULL DEFAULT 'open', note VARCHAR(300) NOT NULL DEFAULT '', createdAt ${AT} NOT NULL, personId UUID NULL, doneAt ${AT} NULL,
     INDEX (state, expected), INDEX (supplierId, reference), FOREIGN KEY (supplierId) REFERENCES supplier (id), FOREIGN KEY (warehouseId) REFERENCES warehouse (id))`,
  `CREATE TABLE purchaseLine (id UUID PRIMARY KEY, orderId UUID NOT NULL, position INT NOT NULL, productId UUID NOT NULL, quantity INT NOT NULL CHECK (quantity > 0), received INT NOT NULL DEFAULT 0,
     UNIQUE (orderId, productId), INDEX (productId), CONSTRAINT received_whole CHECK (received >= 0 AND received <= quantity), FOREIGN KEY (orderId) REFERENCES purchaseOrder (id), FOREIGN KEY (productId) REFERENCES product (id))`,
  `ALTER TABLE scanSession MODIFY kind ENUM('pick','pack','receive') NOT NULL, ADD purchaseOrderId UUID NULL, ADD UNIQUE (purchaseOrderId), ADD FOREIGN KEY (purchaseOrderId) REFERENCES purchaseOrder (id)`,
  // A build's parts are an order of the house's own, so that they are reserved, listed and picked like any other.
  `CREATE TABLE build (id UUID PRIMARY KEY, no INT NOT NULL AUTO_INCREMENT UNIQUE, kind ENUM('make','unbuild') NOT NULL, productId UUID NOT NULL, recipeId UUID NOT NULL, quantity INT NOT NULL CHECK (quantity > 0),
     made INT NOT NULL DEFAULT 0, due DATE NULL, benchId UUID NULL, instruction VARCHAR(500) NOT NULL DEFAULT '', source ENUM('pick','bench') NOT NULL, state ENUM('open','done','cancelled') NOT NULL DEFAULT 'open',
     orderId UUID NULL UNIQUE, createdAt ${AT} NOT NULL, personId UUID NULL, doneAt ${AT} NULL, INDEX (state, due), INDEX (productId), CONSTRAINT made_whole CHECK (made >= 0 AND made <= quantity),
     FOREIGN KEY (productId) REFERENCES product (id), FOREIGN KEY (recipeId) REFERENCES recipe (id), FOREIGN KEY (benchId) REFERENCES place (id), FOREIGN KEY (orderId) REFERENCES orders (id))`,
  // Finishing is asked with a key of the asker: the same key again changes nothing.
  `CREATE TABLE actKey (id UUID PRIMARY KEY, at ${AT} NOT NULL, personId UUID NULL, kind VARCHAR(24) NOT NULL)`,
  `INSERT INTO channel (id, code, name, brand, currency, sender) SELECT UUID(), 'build', 'Builds', name, currency, sender FROM warehouse LIMIT 1`,
];

export class KitsAndStock1764200000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await steps(runner, '0003-kits-and-stock', STATEMENTS);
  }

  async down(): Promise<void> {
    throw new Error('Migrations only go forward.');
  }
}
