import type { MigrationInterface, QueryRunner } from 'typeorm';
import { steps } from './steps.js';

/**
 * One door for scans: the handover of a departure, the scans of a draft, counts and builds are sessions as lists, parcels and purchase
 * orders are. Scans of drafts move over; of those before, the device and its count are not known. Files are taken in by jobs.
 */
export const ONE_DOOR = [
  `ALTER TABLE scanSession MODIFY kind ENUM('pick','pack','receive','handover','draft','count','build') NOT NULL,
     ADD COLUMN IF NOT EXISTS departureId UUID NULL REFERENCES departure (id), ADD COLUMN IF NOT EXISTS orderId UUID NULL REFERENCES orders (id),
     ADD COLUMN IF NOT EXISTS placeId UUID NULL REFERENCES place (id), ADD COLUMN IF NOT EXISTS buildId UUID NULL REFERENCES build (id),
     ADD COLUMN IF NOT EXISTS reducers INT NOT NULL DEFAULT 1`,
  'ALTER TABLE scanSession ADD UNIQUE INDEX IF NOT EXISTS byDeparture (departureId), ADD UNIQUE INDEX IF NOT EXISTS byOrder (orderId), ADD INDEX IF NOT EXISTS byPlace (placeId), ADD INDEX IF NOT EXISTS byBuild (buildId), ADD INDEX IF NOT EXISTS byClosed (closedAt)',
  // A scan may be sent under another sign-in than it was made.
  'ALTER TABLE scanEvent ADD COLUMN IF NOT EXISTS sentById UUID NULL AFTER personId',
  'UPDATE scanSession x SET x.reducers = COALESCE((SELECT MAX(e.reducers) FROM scanEvent e WHERE e.sessionId = x.id), 2)',
  "INSERT INTO scanSession (id, kind, orderId, opened, state, openedAt, closedAt, personId, device, lastScanAt, reducers) SELECT MIN(id), 'draft', orderId, '{}', '{}', MIN(at), NULL, MIN(personId), '', MAX(at), 1 FROM orderScan GROUP BY orderId",
  `INSERT INTO scanEvent (id, sessionId, device, deviceCount, deviceAt, at, personId, reducers, scan, answer)
     SELECT s.id, x.id, '', 0, s.at, s.at, s.personId, 1, JSON_OBJECT('id', s.id, 'text', LEFT(s.text, 260), 'at', DATE_FORMAT(s.at, '%Y-%m-%dT%H:%i:%s.000Z'), 'device', '', 'count', 0), s.answer
     FROM orderScan s JOIN scanSession x ON x.orderId = s.orderId ORDER BY s.at, s.id`,
  'DROP TABLE IF EXISTS orderScan',
  // What is bought from a carrier is a label; what is bought from a supplier, a purchase order.
  'ALTER TABLE IF EXISTS purchase RENAME TO label',
  'ALTER TABLE importFile ADD COLUMN IF NOT EXISTS question JSON NULL, ADD COLUMN IF NOT EXISTS bytes MEDIUMBLOB NULL, ADD COLUMN IF NOT EXISTS taken INT NOT NULL DEFAULT 0, ADD COLUMN IF NOT EXISTS things INT NOT NULL DEFAULT 0, ADD COLUMN IF NOT EXISTS report JSON NULL, ADD COLUMN IF NOT EXISTS doneAt DATETIME(3) NULL, ADD INDEX IF NOT EXISTS byAt (at)',
  "UPDATE importFile SET doneAt = at, taken = COALESCE(JSON_VALUE(counts, '$.new'), 0) + COALESCE(JSON_VALUE(counts, '$.changed'), 0) + COALESCE(JSON_VALUE(counts, '$.same'), 0), things = taken + COALESCE(JSON_VALUE(counts, '$.cannotChange'), 0) WHERE doneAt IS NULL AND bytes IS NULL",
];

export class OneDoor1764400000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await steps(runner, '0005-one-door', ONE_DOOR);
  }

  async down(): Promise<void> {
    throw new Error('Migrations only go forward.');
  }
}
