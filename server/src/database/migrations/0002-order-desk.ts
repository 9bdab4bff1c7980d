import type { MigrationInterface, QueryRunner } from 'typeorm';
import { steps } from './steps.js';

const CODE = 'CHARACTER SET utf8mb4 COLLATE utf8mb4_bin';
const AT = 'DATETIME(3)';

/** The order desk: money, notes, merging and finding of orders; facts of products; channels that are asked; files with mappings. */
const STATEMENTS = [
  // Orders: money in full, what the channel last told (the base of merging), drafts, splits and merges, and what lists sort and filter by.
  `ALTER TABLE orders
     ADD discountMinor BIGINT NOT NULL DEFAULT 0, ADD taxMinor BIGINT NOT NULL DEFAULT 0, ADD totalMinor BIGINT NOT NULL DEFAULT 0, ADD paidMinor BIGINT NOT NULL DEFAULT 0,
     ADD billTo JSON NULL, ADD pickUpPoint VARCHAR(120) NOT NULL DEFAULT '', ADD serviceAsked VARCHAR(60) NOT NULL DEFAULT '', ADD shipBy DATE NULL,
     ADD base JSON NULL, ADD draftedAt ${AT} NULL, ADD parkWord VARCHAR(40) NULL, ADD mergedIntoId UUID NULL, ADD splitOfId UUID NULL, ADD together BINARY(16) NULL, ADD leavesAt ${AT} NULL, ADD revision BIGINT NULL,
     ADD country CHAR(2) ${CODE} NOT NULL DEFAULT '', ADD isOpen BOOL AS (stage NOT IN ('Departed', 'Cancelled')) PERSISTENT`,
  `UPDATE orders o LEFT JOIN departure d ON d.id = o.departureId SET o.totalMinor = o.linesMinor + o.shippingMinor, o.leavesAt = d.cutOff, o.country = JSON_VALUE(o.shipTo, '$.country'),
     o.paidMinor = IF(o.payment IN ('paid', 'part refunded'), o.linesMinor + o.shippingMinor, 0)`,
  `ALTER TABLE orders ADD INDEX byOpen (isOpen, no), ADD INDEX byOpenPromised (isOpen, promised, no), ADD INDEX byOpenLeaves (isOpen, leavesAt, no), ADD INDEX byOpenTotal (isOpen, totalMinor, no),
     ADD INDEX byStagePromised (stage, promised, no), ADD INDEX byChannel (channelId, no), ADD INDEX byPromised (promised, no), ADD INDEX byPlaced (placedAt, no), ADD INDEX byTotal (totalMinor, no), ADD INDEX byLeaves (leavesAt, no),
     ADD INDEX byStar (starred, no), ADD INDEX byPayment (payment, no), ADD INDEX byCountry (country, no), ADD INDEX byMail (mail), ADD INDEX byNumber (channelNumber), ADD INDEX byTogether (together),
     ADD FULLTEXT byWords (buyer, mail), ADD FOREIGN KEY (mergedIntoId) REFERENCES orders (id), ADD FOREIGN KEY (splitOfId) REFERENCES orders (id)`,
  // Lines: tax as told or by rate, units of one sale, and the key by which a channel's line is known again.
  `ALTER TABLE orderLine ADD taxPpm INT NULL, ADD taxMinor BIGINT NULL, ADD weightMg BIGINT NULL CHECK (weightMg > 0), ADD units INT NOT NULL DEFAULT 1 CHECK (units > 0),
     ADD lineKey VARCHAR(80) ${CODE} NOT NULL DEFAULT '', ADD removedAt ${AT} NULL`,
  `UPDATE orderLine l JOIN (SELECT id, ROW_NUMBER() OVER (PARTITION BY orderId, channelSku ORDER BY position) AS n FROM orderLine) k ON k.id = l.id SET l.lineKey = CONCAT(l.channelSku, '#', k.n)`,
  'ALTER TABLE orderLine ADD UNIQUE byKey (orderId, lineKey), ADD FULLTEXT byTitle (title)',
  'ALTER TABLE linePart MODIFY quantity INT NOT NULL CHECK (quantity >= 0)',
  `ALTER TABLE orderEvent MODIFY says VARCHAR(600) NOT NULL, ADD changes JSON NULL, ADD version INT NULL`,
  `CREATE TABLE orderDifference (id UUID PRIMARY KEY, orderId UUID NOT NULL, lineKey VARCHAR(80) ${CODE} NULL, field VARCHAR(40) NOT NULL, ours JSON NULL, theirs JSON NULL, theirLine JSON NULL,
     raisedAt ${AT} NOT NULL, decidedAt ${AT} NULL, personId UUID NULL, taken BOOL NULL, INDEX (orderId, decidedAt), FOREIGN KEY (orderId) REFERENCES orders (id))`,
  `CREATE TABLE stopAccepted (orderId UUID NOT NULL, code VARCHAR(30) NOT NULL, subject VARCHAR(100) NOT NULL, at ${AT} NOT NULL, personId UUID NULL, PRIMARY KEY (orderId, code, subject), FOREIGN KEY (orderId) REFERENCES orders (id))`,
  `CREATE TABLE suspicion (orderId UUID NOT NULL, otherId UUID NOT NULL, score DECIMAL(3,2) NOT NULL, why JSON NOT NULL, PRIMARY KEY (orderId, otherId), INDEX (otherId),
     FOREIGN KEY (orderId) REFERENCES orders (id), FOREIGN KEY (otherId) REFERENCES orders (id))`,
  `CREATE TABLE orderNote (id UUID PRIMARY KEY, orderId UUID NOT NULL, kind ENUM('packer','slip','staff') NOT NULL, text VARCHAR(500) NOT NULL, confirm BOOL NOT NULL DEFAULT FALSE, at ${AT} NOT NULL, personId UUID NULL,
     removedAt ${AT} NULL, INDEX (orderId), FOREIGN KEY (orderId) REFERENCES orders (id))`,
  `CREATE TABLE orderTag (tag VARCHAR(30) NOT NULL, orderId UUID NOT NULL, PRIMARY KEY (tag, orderId), INDEX (orderId), FOREIGN KEY (orderId) REFERENCES orders (id))`,
  `CREATE TABLE orderScan (id UUID PRIMARY KEY, orderId UUID NOT NULL, text VARCHAR(300) NOT NULL, at ${AT} NOT NULL, personId UUID NULL, answer JSON NOT NULL, INDEX (orderId), FOREIGN KEY (orderId) REFERENCES orders (id))`,
  // How many orders stand in each stage: changes are appended without waiting for each other, and folded every minute.
  `CREATE TABLE stageCount (id BIGINT AUTO_INCREMENT PRIMARY KEY, stage VARCHAR(12) NOT NULL, n INT NOT NULL)`,
  `INSERT INTO stageCount (stage, n) SELECT stage, COUNT(*) FROM orders GROUP BY stage`,
  `CREATE TABLE keptQuestion (id UUID PRIMARY KEY, personId UUID NOT NULL, name VARCHAR(60) NOT NULL, question VARCHAR(1000) NOT NULL, at ${AT} NOT NULL, UNIQUE (personId, name), FOREIGN KEY (personId) REFERENCES person (id))`,
  `CREATE TABLE preference (personId UUID NOT NULL, name VARCHAR(40) NOT NULL, value JSON NOT NULL, PRIMARY KEY (personId, name), FOREIGN KEY (personId) REFERENCES person (id))`,
  `CREATE TABLE setting (name VARCHAR(40) PRIMARY KEY, value JSON NOT NULL)`,
  // Products and listings.
  `ALTER TABLE product ADD packedWeightMg BIGINT NULL CHECK (packedWeightMg > 0), ADD version INT NOT NULL DEFAULT 1`,
  `CREATE TABLE productAlias (code VARCHAR(60) ${CODE} NOT NULL, productId UUID NOT NULL, PRIMARY KEY (code, productId), INDEX (productId), FOREIGN KEY (productId) REFERENCES product (id))`,
  `CREATE TABLE productEvent (id BIGINT AUTO_INCREMENT PRIMARY KEY, productId UUID NOT NULL, at ${AT} NOT NULL, personId UUID NULL, says VARCHAR(600) NOT NULL, changes JSON NULL, INDEX (productId, id), FOREIGN KEY (productId) REFERENCES product (id))`,
  `CREATE TABLE pictureFile (id UUID PRIMARY KEY, type VARCHAR(20) NOT NULL, bytes MEDIUMBLOB NOT NULL, at ${AT} NOT NULL, personId UUID NULL)`,
  `ALTER TABLE listing ADD gtin VARCHAR(14) ${CODE} NOT NULL DEFAULT '', ADD units INT NOT NULL DEFAULT 1 CHECK (units > 0), ADD pushed INT NULL, ADD seenAt ${AT} NULL`,
  // Channels that are asked over the network. The key is sealed; a cursor is the channel's own.
  `CREATE TABLE channelLink (channelId UUID PRIMARY KEY, kind VARCHAR(20) NOT NULL, address VARCHAR(300) NOT NULL, keySealed VARCHAR(600) NOT NULL, everyMinutes INT NOT NULL DEFAULT 10 CHECK (everyMinutes > 0), active BOOL NOT NULL DEFAULT TRUE,
     orderCursor VARCHAR(300) NULL, listingCursor VARCHAR(300) NULL, pullAt ${AT} NOT NULL, leaseUntil ${AT} NULL, doing VARCHAR(120) NULL, triedAt ${AT} NULL, succeededAt ${AT} NULL, error VARCHAR(400) NULL, lastCounts JSON NULL,
     pushAt ${AT} NOT NULL, pushedAt ${AT} NULL, pushError VARCHAR(400) NULL, INDEX (active, pullAt), FOREIGN KEY (channelId) REFERENCES channel (id))`,
  `CREATE TABLE channelTrouble (channelId UUID NOT NULL, number VARCHAR(60) ${CODE} NOT NULL, why VARCHAR(400) NOT NULL, body JSON NOT NULL, at ${AT} NOT NULL, PRIMARY KEY (channelId, number), FOREIGN KEY (channelId) REFERENCES channel (id))`,
  // Orders that people type have a channel of their own.
  `INSERT INTO channel (id, code, name, brand, currency, sender) SELECT UUID(), 'hand', 'By hand', name, currency, sender FROM warehouse LIMIT 1`,
  `ALTER TABLE importFile MODIFY channelId UUID NULL, ADD kind VARCHAR(12) NOT NULL DEFAULT 'orders'`,
  `CREATE TABLE importMapping (kind VARCHAR(12) NOT NULL, source VARCHAR(20) ${CODE} NOT NULL, mapping JSON NOT NULL, at ${AT} NOT NULL, personId UUID NULL, PRIMARY KEY (kind, source))`,
  `CREATE TABLE paperTemplate (id UUID PRIMARY KEY, kind ENUM('slip','invoice') NOT NULL, name VARCHAR(60) NOT NULL, position INT NOT NULL, channelId UUID NULL, country VARCHAR(6) NOT NULL DEFAULT '', heading VARCHAR(80) NOT NULL DEFAULT '',
     message VARCHAR(600) NOT NULL DEFAULT '', prices BOOL NOT NULL DEFAULT FALSE, metric BOOL NOT NULL DEFAULT FALSE, INDEX (kind, position), FOREIGN KEY (channelId) REFERENCES channel (id))`,
];

export class OrderDesk1764100000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await steps(runner, '0002-order-desk', STATEMENTS);
  }

  async down(): Promise<void> {
    throw new Error('Migrations only go forward.');
  }
}
