import type { Channel } from '../channels/channel.entity.js';
import type { Sql } from '../database/db.js';
import type { Label } from '../labels/label.entity.js';
import type { Parcel } from '../parcels/parcel.entity.js';
import type { Order } from '../records/order.entity.js';
import type { OrderLine } from '../records/orderLine.entity.js';
import type { TrackedParcel } from '../tracking/trackedParcel.entity.js';
import type { TrackingEvent } from '../tracking/trackingEvent.entity.js';
import type { OrderMessage } from './orderMessage.entity.js';

export type BuyersOrder = Pick<
  Order,
  'id' | 'no' | 'channelNumber' | 'stage' | 'promised' | 'cancelledAt' | 'mail' | 'channelId' | 'buyer'
> &
  Pick<Channel, 'brand'> & { colour: string | null; hasLogo: number };

const ORDER = `SELECT o.id, o.no, o.channelNumber, o.stage, o.promised, o.cancelledAt, o.mail, o.channelId, o.buyer, h.brand, k.colour, k.logo IS NOT NULL AS hasLogo FROM orders o JOIN channel h ON h.id = o.channelId
  LEFT JOIN brandLook k ON k.channelId = h.id`;

export function orderByNo(sql: Sql, no: number): Promise<BuyersOrder | null> {
  return sql.one(`${ORDER} WHERE o.no = ? AND o.draftedAt IS NULL`, [no]);
}

export function orderById(sql: Sql, id: string): Promise<BuyersOrder | null> {
  return sql.one(`${ORDER} WHERE o.id = ?`, [id]);
}

export function linesOf(sql: Sql, orderId: string): Promise<Pick<OrderLine, 'title' | 'quantity'>[]> {
  return sql.rows(
    'SELECT title, quantity FROM orderLine WHERE orderId = ? AND removedAt IS NULL ORDER BY position',
    [orderId],
  );
}

export function parcelsOf(
  sql: Sql,
  orderId: string,
): Promise<
  (Pick<Parcel, 'id' | 'departedAt'> & {
    labelId: Label['id'] | null;
    carrier: string | null;
    tracking: string | null;
    arrives: string | null;
    state: TrackedParcel['state'];
    since: Date | null;
    expected: string | null;
    asked: number;
    no: number;
    returns: number;
  })[]
> {
  return sql.rows(
    `SELECT c.id, c.departedAt, b.id AS labelId, b.carrierName AS carrier, b.tracking, b.arrives, t.state, t.since, t.expected, t.askAt IS NOT NULL AS asked, c.no, EXISTS (SELECT 1 FROM label r WHERE r.liveReturn = c.id AND r.state = 'bought') AS returns FROM parcel c
     LEFT JOIN label b ON b.liveParcel = c.id AND b.state = 'bought' LEFT JOIN trackedParcel t ON t.labelId = b.id WHERE c.orderId = ? ORDER BY c.seq`,
    [orderId],
  );
}

/** What is in each parcel, in the words of the order. */
export function contentsOf(
  sql: Sql,
  orderId: string,
): Promise<{ parcelId: string; title: string; quantity: number }[]> {
  return sql.rows(
    `SELECT a.parcelKey AS parcelId, p.name AS title, CAST(SUM(a.quantity) AS SIGNED) AS quantity FROM allocation a JOIN product p ON p.id = a.productId JOIN parcel c ON c.id = a.parcelKey
     WHERE a.orderId = ? AND a.quantity > 0 GROUP BY a.parcelKey, p.id, p.name ORDER BY p.name`,
    [orderId],
  );
}

export function eventsOf(
  sql: Sql,
  labelIds: readonly string[],
): Promise<Pick<TrackingEvent, 'labelId' | 'at' | 'kind' | 'says' | 'place'>[]> {
  return sql.rows(
    'SELECT labelId, at, kind, says, place FROM trackingEvent WHERE labelId IN (?) ORDER BY at DESC, code',
    [labelIds],
  );
}

export function messagesOf(
  sql: Sql,
  orderId: string,
): Promise<
  (Pick<OrderMessage, 'id' | 'sender' | 'text' | 'at' | 'readAt'> & {
    person: string | null;
    mailed: 'waiting' | 'sent' | 'bounced' | null;
  })[]
> {
  return sql.rows(
    `SELECT m.id, m.sender, m.text, m.at, m.readAt, p.name AS person, x.state AS mailed FROM orderMessage m LEFT JOIN person p ON p.id = m.personId LEFT JOIN mail x ON x.moment = 'message' AND x.cause = m.id
     WHERE m.orderId = ? ORDER BY m.at, m.id LIMIT 500`,
    [orderId],
  );
}

/** Staff notes and mails of an order, as rows of its thread. */
export function besideMessages(
  sql: Sql,
  orderId: string,
): Promise<
  {
    id: string;
    at: Date;
    kind: 'note' | 'mail';
    text: string;
    by: string | null;
    state: 'waiting' | 'sent' | 'bounced' | null;
  }[]
> {
  return sql.rows(
    `SELECT n.id, n.at, 'note' AS kind, n.text, p.name AS \`by\`, NULL AS state FROM orderNote n LEFT JOIN person p ON p.id = n.personId WHERE n.orderId = ? AND n.kind = 'staff' AND n.removedAt IS NULL
     UNION ALL SELECT m.id, m.at, 'mail', m.subject, COALESCE(m.why, ''), m.state FROM mail m WHERE m.orderId = ? AND m.moment <> 'message' ORDER BY at, id LIMIT 500`,
    [orderId, orderId],
  );
}

/** How many messages a buyer wrote in the last hour and day, by the database's clock. */
export function wroteLately(sql: Sql, orderId: string): Promise<{ hour: number; day: number } | null> {
  return sql.one(
    "SELECT CAST(COALESCE(SUM(at > NOW(3) - INTERVAL 1 HOUR), 0) AS SIGNED) AS hour, COUNT(*) AS day FROM orderMessage WHERE orderId = ? AND sender = 'buyer' AND at > NOW(3) - INTERVAL 1 DAY",
    [orderId],
  );
}
