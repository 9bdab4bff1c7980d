import type { MigrationInterface, QueryRunner } from 'typeorm';
import { steps } from './steps.js';

const CODE = (length: number) => `VARCHAR(${length}) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin`;

/** Orders that a supplier or a fulfillment center sends to the buyer: who, what was ordered there, and what left. Mails that rules send have names. */
export const ELSEWHERE = [
  `CREATE TABLE IF NOT EXISTS sentElsewhere (orderId UUID NOT NULL PRIMARY KEY REFERENCES orders (id), supplierId UUID NULL REFERENCES supplier (id), center ${CODE(40)} NULL, purchaseOrderId UUID NULL REFERENCES purchaseOrder (id),
     at DATETIME(3) NOT NULL, placedAt DATETIME(3) NULL, leftAt DATETIME(3) NULL, why VARCHAR(300) NULL, INDEX (supplierId), INDEX (purchaseOrderId), INDEX (center, leftAt), CHECK ((supplierId IS NULL) <> (center IS NULL)))`,
  "ALTER TABLE purchaseOrder MODIFY COLUMN state ENUM('open','done','cancelled','to buyer') NOT NULL DEFAULT 'open'",
  "ALTER TABLE supplier ADD COLUMN IF NOT EXISTS mail VARCHAR(254) NOT NULL DEFAULT ''",
  'ALTER TABLE purchaseLine ADD COLUMN IF NOT EXISTS priceMinor BIGINT NULL CHECK (priceMinor >= 0)',
  `ALTER TABLE mailTemplate ADD COLUMN IF NOT EXISTS name VARCHAR(60) NOT NULL DEFAULT '',
     MODIFY COLUMN moment ENUM('entered','packed','labelled','departed','cancelled','on the way','delivered','exception','back','message','rule') NOT NULL`,
];

export class Elsewhere1765500000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await steps(runner, '0012-elsewhere', ELSEWHERE);
  }

  async down(): Promise<void> {
    throw new Error('Migrations only go forward.');
  }
}
