import type { MigrationInterface, QueryRunner } from 'typeorm';
import { steps } from './steps.js';

const CODE = (length: number) => `VARCHAR(${length}) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin`;
const MOMENTS = "ENUM('arrival','clear','picked','packed','labelled','departed','button')";

/** The rule book in versions, what came of it for each order with all that it was decided by, deeds that are done once, and dry runs. */
export const RULES = [
  'CREATE TABLE IF NOT EXISTS ruleBook (no INT NOT NULL PRIMARY KEY, book JSON NOT NULL, note VARCHAR(200) NOT NULL, at DATETIME(3) NOT NULL, personId UUID NULL)',
  `CREATE TABLE IF NOT EXISTS ruleOutcome (orderId UUID NOT NULL REFERENCES orders (id), moment ${MOMENTS} NOT NULL, button ${CODE(30)} NOT NULL DEFAULT '', bookNo INT NOT NULL REFERENCES ruleBook (no), ground JSON NOT NULL, ruled JSON NOT NULL, at DATETIME(3) NOT NULL,
     PRIMARY KEY (orderId, moment, button), INDEX (bookNo))`,
  `CREATE TABLE IF NOT EXISTS ruleDeed (orderId UUID NOT NULL REFERENCES orders (id), ruleId ${CODE(36)} NOT NULL, what ${CODE(80)} NOT NULL, bookNo INT NOT NULL, at DATETIME(3) NOT NULL, PRIMARY KEY (orderId, ruleId, what))`,
  `CREATE TABLE IF NOT EXISTS dryRun (id UUID NOT NULL PRIMARY KEY, question JSON NOT NULL, state ENUM('waiting','running','done','stopped','failed') NOT NULL DEFAULT 'waiting', done INT NOT NULL DEFAULT 0, total INT NOT NULL DEFAULT 0, says VARCHAR(300) NOT NULL DEFAULT '',
     result JSON NULL, at DATETIME(3) NOT NULL, personId UUID NULL, stopAsked BOOL NOT NULL DEFAULT FALSE, INDEX (at))`,
  `CREATE TABLE IF NOT EXISTS unattended (id UUID NOT NULL PRIMARY KEY, parcelId UUID NOT NULL REFERENCES parcel (id), ruleId ${CODE(36)} NOT NULL, rule VARCHAR(120) NOT NULL, day DATE NOT NULL, minor BIGINT NULL CHECK (minor >= 0),
     service VARCHAR(80) NOT NULL, wish JSON NULL, why VARCHAR(300) NULL, at DATETIME(3) NOT NULL, freedAt DATETIME(3) NULL, UNIQUE (parcelId, ruleId), INDEX (day))`,
  'CREATE TABLE IF NOT EXISTS spendDay (day DATE NOT NULL PRIMARY KEY)',
  'ALTER TABLE shipment ADD COLUMN IF NOT EXISTS ruled JSON NULL',
  'ALTER TABLE orderEvent ADD COLUMN IF NOT EXISTS actor VARCHAR(60) NULL AFTER personId',
];

export class Rules1765400000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await steps(runner, '0011-rules', RULES);
  }

  async down(): Promise<void> {
    throw new Error('Migrations only go forward.');
  }
}
