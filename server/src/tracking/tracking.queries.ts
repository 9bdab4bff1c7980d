import type { Sql, Tx } from '../database/db.js';
import type { Label } from '../labels/label.entity.js';
import type { Parcel } from '../parcels/parcel.entity.js';
import type { Order } from '../records/order.entity.js';
import type { TrackedParcel } from './trackedParcel.entity.js';

/** Carriers that have parcels to be asked after by now, by the database's clock. */
export function carriersToAsk(sql: Sql): Promise<Pick<Label, 'carrier'>[]> {
  return sql.rows(
    'SELECT DISTINCT b.carrier FROM trackedParcel t JOIN label b ON b.id = t.labelId WHERE t.askAt <= NOW(3)',
  );
}

/** Parcels of a carrier to be asked after by now, those that waited longest first. */
export function parcelsToAsk(
  sql: Sql,
  carrier: string,
  most: number,
): Promise<Pick<Label, 'id' | 'tracking'>[]> {
  return sql.rows(
    'SELECT b.id, b.tracking FROM trackedParcel t JOIN label b ON b.id = t.labelId WHERE t.askAt <= NOW(3) AND b.carrier = ? AND b.tracking IS NOT NULL ORDER BY t.askAt LIMIT ?',
    [carrier, most],
  );
}

/** Sets when parcels are asked after next, by the database's clock: after so many minutes, or never again when they left over so many days ago. */
export function askLater(
  tx: Tx,
  labelIds: readonly string[],
  minutes: number,
  days: number,
  why: string | null,
): Promise<number> {
  return tx.run(
    'UPDATE trackedParcel SET askAt = IF(leftAt < NOW(3) - INTERVAL ? DAY, NULL, NOW(3) + INTERVAL ? MINUTE), why = ? WHERE labelId IN (?)',
    [days, minutes, why, labelIds],
  );
}

export type TrackedOrder = Pick<Order, 'channelId' | 'channelNumber'> & {
  orderId: string;
  no: number;
} & Pick<TrackedParcel, 'state'>;

/** Whose a label is, with its parcel locked until the transaction ends. */
export function lockTracked(tx: Tx, labelId: string): Promise<TrackedOrder | null> {
  return tx.one(
    `SELECT o.id AS orderId, o.channelId, o.channelNumber, c.no, t.state FROM trackedParcel t JOIN label b ON b.id = t.labelId JOIN parcel c ON c.id = b.parcelId JOIN orders o ON o.id = c.orderId
     WHERE t.labelId = ? FOR UPDATE`,
    [labelId],
  );
}

/** Live labels of parcels, to be followed: those of carriers that Auk speaks with. */
export function labelsOfParcels(
  sql: Sql,
  parcelIds: readonly string[],
): Promise<(Pick<Label, 'id'> & { parcelId: Parcel['id'] })[]> {
  return sql.rows(
    "SELECT id, parcelId FROM label WHERE liveParcel IN (?) AND state = 'bought' AND carrier <> ''",
    [parcelIds],
  );
}

/** The label of a parcel that left by a carrier that Auk does not speak with. */
export function leftElsewhere(
  sql: Sql,
  parcelNo: number,
): Promise<Pick<Label, 'carrierName' | 'tracking'> | null> {
  return sql.one(
    'SELECT b.carrierName, b.tracking FROM parcel c JOIN label b ON b.liveParcel = c.id WHERE c.no = ? AND c.departedAt IS NOT NULL',
    [parcelNo],
  );
}

/** What trouble follows from, of the parcels that left, by their numbers. */
export function wayOf(
  sql: Sql,
  parcelNo: number,
): Promise<
  | (Pick<TrackedParcel, 'labelId' | 'state' | 'says' | 'since' | 'expected' | 'leftAt' | 'why'> &
      Pick<Label, 'arrives'> &
      Pick<Order, 'promised'>)
  | null
> {
  return sql.one(
    `SELECT t.labelId, t.state, t.says, t.since, t.expected, t.leftAt, t.why, b.arrives, o.promised FROM parcel c JOIN label b ON b.liveParcel = c.id JOIN trackedParcel t ON t.labelId = b.id
     JOIN orders o ON o.id = c.orderId WHERE c.no = ?`,
    [parcelNo],
  );
}
