import type { MigrationInterface, QueryRunner } from 'typeorm';
import { steps } from './steps.js';

const CODE = (length: number) => `VARCHAR(${length}) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin`;
const MOMENTS =
  "ENUM('entered','packed','labelled','departed','cancelled','on the way','delivered','exception','back','message')";

/**
 * What follows after a parcel left: what its carrier tells of it, mails and messages, a page for the buyer, bills. Collections are booked
 * and days ended at the carrier; papers have templates for abroad.
 */
export const AFTERWARDS = [
  `CREATE TABLE IF NOT EXISTS trackedParcel (labelId UUID NOT NULL PRIMARY KEY REFERENCES label (id), state ENUM('announced','collected','on the way','out for delivery','waits for the buyer','delivered','exception','coming back','back') NULL,
     says VARCHAR(200) NOT NULL DEFAULT '', since DATETIME(3) NULL, expected DATE NULL, leftAt DATETIME(3) NOT NULL, askAt DATETIME(3) NULL, why VARCHAR(300) NULL, INDEX (askAt), INDEX (state))`,
  `CREATE TABLE IF NOT EXISTS trackingEvent (labelId UUID NOT NULL REFERENCES label (id), code ${CODE(60)} NOT NULL, at DATETIME(3) NOT NULL,
     kind ENUM('announced','collected','on the way','out for delivery','waits for the buyer','delivered','exception','coming back','back') NOT NULL, says VARCHAR(200) NOT NULL, place VARCHAR(80) NOT NULL, PRIMARY KEY (labelId, code))`,
  `INSERT IGNORE INTO trackedParcel (labelId, leftAt, askAt) SELECT b.id, p.departedAt, p.departedAt FROM label b JOIN parcel p ON p.id = b.liveParcel
     WHERE b.state = 'bought' AND p.departedAt > NOW() - INTERVAL 90 DAY`,
  `ALTER TABLE departure ADD COLUMN IF NOT EXISTS bookedAs ${CODE(40)} NULL, ADD COLUMN IF NOT EXISTS manifest ${CODE(40)} NULL`,
  'CREATE TABLE IF NOT EXISTS stagePassed (id BIGINT NOT NULL AUTO_INCREMENT PRIMARY KEY, orderId UUID NOT NULL, stage VARCHAR(20) NOT NULL, at DATETIME(3) NOT NULL)',
  `CREATE TABLE IF NOT EXISTS mailTemplate (id UUID NOT NULL PRIMARY KEY, moment ${MOMENTS} NOT NULL, channelId UUID NULL REFERENCES channel (id), inUse BOOL NOT NULL DEFAULT TRUE,
     subject VARCHAR(150) NOT NULL, text VARCHAR(3000) NOT NULL, INDEX (moment))`,
  `CREATE TABLE IF NOT EXISTS mail (id UUID NOT NULL PRIMARY KEY, orderId UUID NULL REFERENCES orders (id), moment ${CODE(20)} NOT NULL, cause ${CODE(80)} NOT NULL, toWhom VARCHAR(254) NOT NULL, subject VARCHAR(200) NOT NULL,
     text VARCHAR(6000) NOT NULL, state ENUM('waiting','sent','bounced') NOT NULL DEFAULT 'waiting', why VARCHAR(300) NULL, at DATETIME(3) NOT NULL, sentAt DATETIME(3) NULL, UNIQUE (moment, cause), INDEX (orderId), INDEX (state))`,
  `CREATE TABLE IF NOT EXISTS brandLook (channelId UUID NOT NULL PRIMARY KEY REFERENCES channel (id), colour CHAR(7) NOT NULL, logo MEDIUMBLOB NULL, logoType VARCHAR(40) NULL, sentFrom VARCHAR(254) NOT NULL DEFAULT '')`,
  `CREATE TABLE IF NOT EXISTS alertWish (id UUID NOT NULL PRIMARY KEY, kind ENUM('order','trouble','message') NOT NULL, channelId UUID NULL REFERENCES channel (id), mail VARCHAR(254) NOT NULL)`,
  `CREATE TABLE IF NOT EXISTS orderMessage (id UUID NOT NULL PRIMARY KEY, orderId UUID NOT NULL REFERENCES orders (id), sender ENUM('buyer','staff') NOT NULL, text VARCHAR(2000) NOT NULL, at DATETIME(3) NOT NULL, personId UUID NULL,
     readAt DATETIME(3) NULL, INDEX (orderId), INDEX (sender, readAt))`,
  `CREATE TABLE IF NOT EXISTS carrierBill (id UUID NOT NULL PRIMARY KEY, carrier ${CODE(30)} NOT NULL REFERENCES carrier (code), number VARCHAR(60) NOT NULL, name VARCHAR(120) NOT NULL, currency CHAR(3) NOT NULL, at DATETIME(3) NOT NULL,
     personId UUID NULL, UNIQUE (carrier, number), INDEX (at))`,
  `CREATE TABLE IF NOT EXISTS carrierBillLine (id UUID NOT NULL PRIMARY KEY, billId UUID NOT NULL REFERENCES carrierBill (id), seq INT NOT NULL, tracking ${CODE(40)} NOT NULL, labelId UUID NULL REFERENCES label (id), service VARCHAR(80) NOT NULL,
     weightMg BIGINT NULL, minor BIGINT NOT NULL, charges JSON NOT NULL, verdict ENUM('agrees','cheaper','dearer','heavier','twice','voided','unknown') NOT NULL, agreedMinor BIGINT NULL, says VARCHAR(300) NOT NULL, UNIQUE (billId, seq), INDEX (labelId), INDEX (tracking))`,
  `CREATE TABLE IF NOT EXISTS parcelTemplate (id UUID NOT NULL PRIMARY KEY, name VARCHAR(60) NOT NULL UNIQUE, carrier ${CODE(30)} NOT NULL REFERENCES carrier (code), account ${CODE(40)} NOT NULL DEFAULT '', service ${CODE(40)} NOT NULL,
     serviceName VARCHAR(80) NOT NULL, boxCode ${CODE(20)} NULL REFERENCES box (code), options JSON NOT NULL, at DATETIME(3) NOT NULL)`,
  'ALTER TABLE carrier ADD COLUMN IF NOT EXISTS latin BOOL NOT NULL DEFAULT FALSE',
  `CREATE TABLE IF NOT EXISTS latinAddress (orderId UUID NOT NULL PRIMARY KEY REFERENCES orders (id), ofAddress ${CODE(40)} NOT NULL, address JSON NOT NULL, at DATETIME(3) NOT NULL, personId UUID NULL)`,
  // A label for the way back is no label of the parcel as it leaves: of each there is one that lives.
  'ALTER TABLE label ADD COLUMN IF NOT EXISTS back BOOL NOT NULL DEFAULT FALSE',
  "ALTER TABLE label MODIFY liveParcel UUID AS (IF(state IN ('refused','voided') OR back, NULL, parcelId)) PERSISTENT",
  "ALTER TABLE label ADD COLUMN IF NOT EXISTS liveReturn UUID AS (IF(back AND state NOT IN ('refused','voided'), parcelId, NULL)) PERSISTENT",
  'ALTER TABLE label ADD UNIQUE INDEX IF NOT EXISTS byLiveReturn (liveReturn)',
  "ALTER TABLE paperTemplate MODIFY kind ENUM('slip','invoice','customs','commercial','dangerous') NOT NULL, ADD COLUMN IF NOT EXISTS buyer VARCHAR(120) NOT NULL DEFAULT '' AFTER country",
  "ALTER TABLE printJob MODIFY kind ENUM('label','slip','invoice','customs') NOT NULL",
  // Nothing ever wrote what came back by line; it is kept by product and lot.
  'ALTER TABLE returnReceipt ADD COLUMN IF NOT EXISTS parcelId UUID NULL REFERENCES parcel (id), ADD UNIQUE INDEX IF NOT EXISTS byParcel (parcelId)',
  'DROP TABLE IF EXISTS returnLine',
  `CREATE TABLE IF NOT EXISTS returnedPiece (id UUID NOT NULL PRIMARY KEY, receiptId UUID NOT NULL REFERENCES returnReceipt (id), lineId UUID NOT NULL REFERENCES orderLine (id), productId UUID NOT NULL REFERENCES product (id), lotId UUID NULL REFERENCES lot (id),
     sent INT NOT NULL, quantity INT NOT NULL CHECK (quantity >= 0), judged ENUM('open','resell','write off') NOT NULL DEFAULT 'open', judgedAt DATETIME(3) NULL, personId UUID NULL, INDEX (receiptId), INDEX (lineId), INDEX (productId), INDEX (lotId), INDEX (judged))`,
];

export class Afterwards1764900000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await steps(runner, '0010-afterwards', AFTERWARDS);
  }

  async down(): Promise<void> {
    throw new Error('Migrations only go forward.');
  }
}
