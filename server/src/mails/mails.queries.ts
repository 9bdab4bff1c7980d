import type { MailMoment } from '@auk/contract';
import type { Channel } from '../channels/channel.entity.js';
import type { Sql } from '../database/db.js';
import type { Label } from '../labels/label.entity.js';
import type { Order } from '../records/order.entity.js';
import { HOUSE_CHANNELS } from '../records/records.module.js';
import type { BrandLook } from './brandLook.entity.js';
import type { Mail } from './mail.entity.js';
import type { MailTemplate } from './mailTemplate.entity.js';

/** An order whose buyer may be written to; orders of the house and those without an address are none. */
export type WrittenTo = Pick<
  Order,
  'id' | 'no' | 'channelNumber' | 'buyer' | 'mail' | 'channelId' | 'promised'
> &
  Pick<Channel, 'brand'>;

export function ordersToWrite(sql: Sql, ids: readonly string[]): Promise<WrittenTo[]> {
  return sql.rows(
    "SELECT o.id, o.no, o.channelNumber, o.buyer, o.mail, o.channelId, o.promised, h.brand FROM orders o JOIN channel h ON h.id = o.channelId WHERE o.id IN (?) AND o.mail LIKE '%_@_%' AND o.draftedAt IS NULL",
    [ids],
  );
}

/** What staff are told of new orders. */
export function headsOf(
  sql: Sql,
  ids: readonly string[],
): Promise<
  (Pick<Order, 'id' | 'channelId' | 'channelNumber' | 'buyer' | 'totalMinor' | 'currency'> & {
    channel: string;
  })[]
> {
  return sql.rows(
    'SELECT o.id, o.channelId, o.channelNumber, o.buyer, o.totalMinor, o.currency, h.name AS channel FROM orders o JOIN channel h ON h.id = o.channelId WHERE o.id IN (?) AND h.code NOT IN (?)',
    [ids, HOUSE_CHANNELS],
  );
}

/** What is told of the parcels of an order. */
export function labelsOfOrder(
  sql: Sql,
  orderId: string,
): Promise<(Pick<Label, 'carrierName' | 'tracking' | 'arrives'> & { departed: number })[]> {
  return sql.rows(
    "SELECT b.carrierName, b.tracking, b.arrives, c.departedAt IS NOT NULL AS departed FROM parcel c JOIN label b ON b.liveParcel = c.id AND b.state = 'bought' WHERE c.orderId = ? ORDER BY c.seq",
    [orderId],
  );
}

/** The templates of moments that count: of a channel its own, else the one of all channels. */
export function templatesOf(
  sql: Sql,
  moments: readonly MailMoment[],
): Promise<Pick<MailTemplate, 'id' | 'name' | 'moment' | 'channelId' | 'inUse' | 'subject' | 'text'>[]> {
  return sql.rows(
    'SELECT id, name, moment, channelId, inUse, subject, text FROM mailTemplate WHERE moment IN (?) ORDER BY channelId IS NULL, id DESC',
    [moments],
  );
}

/** A mail that waits to be sent, with the look of its brand. */
export type MailToSend = Pick<Mail, 'id' | 'orderId' | 'toWhom' | 'subject' | 'text' | 'at' | 'state'> & {
  brand: string | null;
} & { [K in 'colour' | 'logo' | 'logoType' | 'sentFrom']: BrandLook[K] | null };

export function mailToSend(sql: Sql, id: string): Promise<MailToSend | null> {
  return sql.one(
    `SELECT m.id, m.orderId, m.toWhom, m.subject, m.text, m.at, m.state, h.brand, k.colour, k.logo, k.logoType, k.sentFrom FROM mail m
     LEFT JOIN orders o ON o.id = m.orderId LEFT JOIN channel h ON h.id = o.channelId LEFT JOIN brandLook k ON k.channelId = h.id WHERE m.id = ?`,
    [id],
  );
}

export function templatesByChannel(
  sql: Sql,
): Promise<(Omit<MailTemplate, 'channelId' | 'inUse'> & { channel: string | null; inUse: number })[]> {
  return sql.rows(
    'SELECT t.id, t.name, t.moment, t.inUse, t.subject, t.text, h.code AS channel FROM mailTemplate t LEFT JOIN channel h ON h.id = t.channelId ORDER BY t.id',
  );
}

export function brands(
  sql: Sql,
): Promise<
  { channel: string; brand: string; colour: string | null; sentFrom: string | null; hasLogo: number }[]
> {
  return sql.rows(
    'SELECT h.code AS channel, h.brand, k.colour, k.sentFrom, k.logo IS NOT NULL AS hasLogo FROM channel h LEFT JOIN brandLook k ON k.channelId = h.id WHERE h.code NOT IN (?) ORDER BY h.code',
    [HOUSE_CHANNELS],
  );
}

const SHOWN = 100;

export function bouncedMails(
  sql: Sql,
): Promise<{ id: string; to: string; subject: string; why: string; order: string | null }[]> {
  return sql.rows(
    `SELECT m.id, m.toWhom AS \`to\`, m.subject, COALESCE(m.why, '') AS why, o.channelNumber AS \`order\` FROM mail m LEFT JOIN orders o ON o.id = m.orderId WHERE m.state = 'bounced' ORDER BY m.at DESC LIMIT ${SHOWN}`,
  );
}

export function alertsByChannel(
  sql: Sql,
): Promise<{ id: string; kind: 'order' | 'trouble' | 'message'; mail: string; channel: string | null }[]> {
  return sql.rows(
    'SELECT a.id, a.kind, a.mail, h.code AS channel FROM alertWish a LEFT JOIN channel h ON h.id = a.channelId ORDER BY a.kind, a.mail',
  );
}

/** Who of the house wants to hear of something of an order of a channel. */
export function alertsFor(sql: Sql, kind: string, channelId: string): Promise<{ mail: string }[]> {
  return sql.rows(
    'SELECT DISTINCT mail FROM alertWish WHERE kind = ? AND (channelId IS NULL OR channelId = ?) ORDER BY mail',
    [kind, channelId],
  );
}

export function channelIdOf(sql: Sql, code: string): Promise<Pick<Channel, 'id'> | null> {
  return sql.one('SELECT id FROM channel WHERE code = ?', [code]);
}
