import type { MigrationInterface, QueryRunner } from 'typeorm';
import { steps } from './steps.js';

/** The names of aisles by their number: A to Z, then AA to ZZ. */
const LETTERS =
  "CONCAT(IF(seq < 26, '', CHAR(64 + seq DIV 26 USING ascii)), CHAR(65 + seq MOD 26 USING ascii))";
const OLD = (name: string) => `JSON_VALUE(w.layout, '$.${name}')`;

/**
 * The floor is said aisle by aisle: each with its code, its x and its reach, and the cross aisles that join them. What a house had (so
 * many aisles of one length, as far apart) becomes one block, walked from the front of the first aisle. Plans of pick lists are kept, and a list can
 * be set aside for a person. Totes have a colour.
 */
export const LAYOUT = [
  `UPDATE warehouse w SET w.layout = JSON_OBJECT(
     'aisles', JSON_EXTRACT((SELECT CONCAT('[', GROUP_CONCAT(JSON_OBJECT('code', ${LETTERS}, 'x', seq * ${OLD('aislePitch')}, 'from', 0, 'to', 0 + ${OLD('aisleLength')}) ORDER BY seq), ']') FROM seq_0_to_701 WHERE seq < ${OLD('aisles')}), '$'),
     'crossAisles', JSON_ARRAY(
       JSON_OBJECT('code', 'FRONT', 'y', 0, 'from', 0, 'to', GREATEST(1, ${OLD('aisles')} - 1) * ${OLD('aislePitch')}),
       JSON_OBJECT('code', 'BACK', 'y', 0 + ${OLD('aisleLength')}, 'from', 0, 'to', GREATEST(1, ${OLD('aisles')} - 1) * ${OLD('aislePitch')})),
     'start', JSON_OBJECT('cross', 0, 'along', 0), 'end', JSON_OBJECT('cross', 0, 'along', 0))
   WHERE ${OLD('aislePitch')} IS NOT NULL`,
  "ALTER TABLE place ADD COLUMN IF NOT EXISTS colour ENUM('grey','blue','green','yellow','red','white') NULL AFTER mark",
  'ALTER TABLE pickList ADD COLUMN IF NOT EXISTS forId UUID NULL AFTER distance',
  `CREATE TABLE IF NOT EXISTS pickPlan (id UUID NOT NULL PRIMARY KEY, warehouseId UUID NOT NULL REFERENCES warehouse (id), createdAt DATETIME(3) NOT NULL, createdBy UUID NULL,
     state ENUM('planning','ready','failed') NOT NULL DEFAULT 'planning', question JSON NOT NULL, progress JSON NULL, outcome JSON NULL, says VARCHAR(400) NULL,
     stopAsked BOOL NOT NULL DEFAULT 0, version INT NOT NULL DEFAULT 0, INDEX byCreated (createdAt))`,
  `CREATE TABLE IF NOT EXISTS plannedList (id UUID NOT NULL PRIMARY KEY, planId UUID NOT NULL REFERENCES pickPlan (id), seq INT NOT NULL, distance INT NOT NULL, seconds INT NOT NULL,
     finish INT NULL, picker INT NULL, locked BOOL NOT NULL DEFAULT 0, tooLarge BOOL NOT NULL DEFAULT 0, pickListId UUID NULL REFERENCES pickList (id), INDEX bySeq (planId, seq), INDEX byPickList (pickListId))`,
  `CREATE TABLE IF NOT EXISTS plannedOrder (id UUID NOT NULL PRIMARY KEY, planId UUID NOT NULL REFERENCES pickPlan (id), plannedListId UUID NOT NULL REFERENCES plannedList (id), orderId UUID NOT NULL REFERENCES orders (id),
     spots JSON NOT NULL, units INT NOT NULL, totes INT NOT NULL, due INT NULL, UNIQUE INDEX byOrder (planId, orderId), INDEX byList (plannedListId), INDEX byOrderAlone (orderId))`,
];

export class Layout1764500000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await steps(runner, '0006-layout', LAYOUT);
  }

  async down(): Promise<void> {
    throw new Error('Migrations only go forward.');
  }
}
