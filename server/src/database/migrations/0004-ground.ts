import type { MigrationInterface, QueryRunner } from 'typeorm';
import { steps } from './steps.js';

const CODE = 'CHARACTER SET utf8mb4 COLLATE utf8mb4_bin';
const AT = 'DATETIME(3)';
/** Behind all places that have coordinates. */
const LAST_ON_THE_WALK = 999_999_999;

/**
 * The ground: leases, purchases that may be asked again, telling that never ends in silence, acts that answer a repeat as the first
 * time, throttled sign-in, payment in a word that follows the money. Each statement may run again after a kill half-way.
 */
export const GROUND = [
  // One worker at a time, by the database's clock. A name stays, so that its fence only grows.
  `CREATE TABLE IF NOT EXISTS lease (name VARCHAR(80) ${CODE} PRIMARY KEY, owner UUID NOT NULL, fence BIGINT NOT NULL, until ${AT} NOT NULL, INDEX byUntil (until))`,
  // How often the carrier was asked to sell: a refusal of a second asking says nothing of the first.
  'ALTER TABLE purchase ADD COLUMN IF NOT EXISTS asks INT NOT NULL DEFAULT 0 CHECK (asks >= 0)',
  "UPDATE purchase SET asks = 1 WHERE asks = 0 AND state <> 'intended'",
  // What a job is about, since when it waits, and who asked for another try.
  `ALTER TABLE job ADD COLUMN IF NOT EXISTS subjectId UUID NULL, ADD COLUMN IF NOT EXISTS createdAt ${AT} NULL, ADD INDEX IF NOT EXISTS bySubject (subjectId)`,
  `UPDATE job SET subjectId = CAST(JSON_VALUE(payload, '$.parcelId') AS UUID) WHERE kind = 'tell tracking' AND subjectId IS NULL`,
  'UPDATE job SET createdAt = runAt WHERE createdAt IS NULL',
  `ALTER TABLE job ADD COLUMN IF NOT EXISTS lane VARCHAR(60) ${CODE} NOT NULL DEFAULT '', ADD INDEX IF NOT EXISTS byLane (lane, state, runAt)`,
  "UPDATE job j JOIN parcel c ON c.id = j.subjectId JOIN orders o ON o.id = c.orderId SET j.lane = o.channelId WHERE j.lane = ''",
  `ALTER TABLE job MODIFY createdAt ${AT} NOT NULL, MODIFY error VARCHAR(400) NULL`,
  // Whoever pulls a channel holds a lease now.
  'ALTER TABLE channelLink DROP COLUMN IF EXISTS leaseUntil',
  // A split order names the order that the channel knows, also when it was split off a split one.
  'UPDATE orders o JOIN orders p ON p.id = o.splitOfId SET o.splitOfId = p.splitOfId WHERE p.splitOfId IS NOT NULL',
  // What an act answered, told again when it is repeated.
  'ALTER TABLE actKey ADD COLUMN IF NOT EXISTS answer JSON NULL',
  // Guesses at PINs, by badge as typed, whether anyone has it or not.
  `CREATE TABLE IF NOT EXISTS signInTry (badge VARCHAR(40) ${CODE} PRIMARY KEY, tries INT NOT NULL DEFAULT 0 CHECK (tries >= 0), until ${AT} NOT NULL, INDEX byUntil (until))`,
  'ALTER TABLE person DROP COLUMN IF EXISTS failures, DROP COLUMN IF EXISTS lockedUntil',
  // Houses that are there before this are the demo company's.
  `INSERT IGNORE INTO setting (name, value) SELECT 'origin', '"demo"' FROM warehouse LIMIT 1`,
  // Ours stand beside a channel's own numbers and may be longer than they.
  `ALTER TABLE orders MODIFY channelNumber VARCHAR(48) ${CODE} NOT NULL`,
  // The word for payment follows the money; \`payment\` stays what the channel said.
  `ALTER TABLE orders ADD COLUMN IF NOT EXISTS settled VARCHAR(16) ${CODE} AS (
     CASE WHEN payment IN ('refunded', 'on delivery', 'part refunded') THEN payment WHEN paidMinor >= totalMinor AND (payment = 'paid' OR paidMinor > 0) THEN 'paid' WHEN paidMinor > 0 THEN 'part paid' ELSE 'unpaid' END) PERSISTENT,
     ADD INDEX IF NOT EXISTS bySettled (settled, no)`,
  // Reads that grow with the house: places by code alone, errors by their day, what was not counted for long, what is worth most.
  'ALTER TABLE place ADD INDEX IF NOT EXISTS byCode (code)',
  'ALTER TABLE stockMove ADD INDEX IF NOT EXISTS byWhy (why, at)',
  `ALTER TABLE stockBalance ADD COLUMN IF NOT EXISTS countedAt ${AT} NULL, ADD INDEX IF NOT EXISTS byCounted (countedAt)`,
  `UPDATE stockBalance b JOIN (SELECT productId, placeId, lotKey, MAX(at) AS at FROM stockCount GROUP BY productId, placeId, lotKey) c ON c.productId = b.productId AND c.placeId = b.placeId AND c.lotKey = b.lotKey SET b.countedAt = c.at`,
  "ALTER TABLE product ADD COLUMN IF NOT EXISTS valueMinor BIGINT AS (CAST(JSON_VALUE(facts, '$.valueMinor') AS INT)) PERSISTENT, ADD INDEX IF NOT EXISTS byValue (valueMinor)",
  // Positions of the live stream are given after commit, by one sequencer, and never twice.
  `CREATE TABLE IF NOT EXISTS counter (name VARCHAR(20) ${CODE} PRIMARY KEY, value BIGINT NOT NULL DEFAULT 0)`,
  "INSERT IGNORE INTO counter (name, value) SELECT 'live', COALESCE(MAX(id), 0) FROM outbox",
  'ALTER TABLE outbox ADD COLUMN IF NOT EXISTS position BIGINT NULL, ADD UNIQUE INDEX IF NOT EXISTS byPosition (position)',
  // A collection that was called off says why.
  "ALTER TABLE departure ADD COLUMN IF NOT EXISTS reason VARCHAR(200) NOT NULL DEFAULT ''",
  // Scans of places are known by the house's codes now, and no longer by the look of a code; what was scanned before says so too.
  'ALTER TABLE scanEvent ADD COLUMN IF NOT EXISTS reducers INT NOT NULL DEFAULT 1 AFTER personId',
  `UPDATE scanEvent e JOIN scanSession s ON s.id = e.sessionId AND s.kind = 'receive' JOIN place p ON p.code = UPPER(TRIM(JSON_VALUE(e.scan, '$.text'))) AND p.kind NOT IN ('parcel', 'tote')
   SET e.scan = JSON_SET(e.scan, '$.known', JSON_OBJECT('kind', 'place', 'name', p.code)) WHERE JSON_EXTRACT(e.scan, '$.known') IS NULL`,
  // A place without coordinates is walked last.
  `UPDATE place SET walk = ${LAST_ON_THE_WALK} WHERE aisle IS NULL AND kind IN ('bin', 'reserve')`,
];

export class Ground1764300000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await steps(runner, '0004-ground', GROUND);
  }

  async down(): Promise<void> {
    throw new Error('Migrations only go forward.');
  }
}
