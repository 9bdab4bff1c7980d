import type { Sql, Tx } from '../database/db.js';
import type { Listing } from '../products/listing.entity.js';
import type { Channel } from './channel.entity.js';
import type { ChannelLink } from './channelLink.entity.js';

export function channelsWithLinks(sql: Sql): Promise<Record<string, unknown>[]> {
  return sql.rows(`SELECT c.code, c.name, c.brand, c.currency, l.kind, l.address, l.keySealed, l.everyMinutes, l.active, IF(s.until > NOW(3), l.doing, NULL) AS doing, l.triedAt, l.succeededAt, l.error, l.lastCounts, l.pullAt, l.pushedAt, l.pushError,
         (SELECT COUNT(*) FROM listing x WHERE x.channelId = c.id) AS listings, (SELECT COUNT(*) FROM listing x WHERE x.channelId = c.id AND x.productId IS NULL) AS unlinked
       FROM channel c LEFT JOIN channelLink l ON l.channelId = c.id LEFT JOIN lease s ON s.name = CONCAT('pull ', c.id) ORDER BY c.name`);
}

export function lockLink(
  tx: Tx,
  code: string,
): Promise<(Pick<Channel, 'id'> & { kind: string | null; address: string | null }) | null> {
  return tx.one(
    'SELECT c.id, l.kind, l.address FROM channel c LEFT JOIN channelLink l ON l.channelId = c.id WHERE c.code = ? FOR UPDATE',
    [code],
  );
}

export function dueNow(tx: Tx, at: Date, code: string): Promise<number> {
  return tx.run(
    'UPDATE channelLink l JOIN channel c ON c.id = l.channelId SET l.pullAt = ?, l.pushAt = ? WHERE c.code = ? AND l.active',
    [at, at, code],
  );
}

export function beginTry(sql: Sql, channelId: string): Promise<number> {
  return sql.run(
    "UPDATE channelLink SET triedAt = NOW(3), doing = 'asking for listings' WHERE channelId = ?",
    [channelId],
  );
}

export function noteSent(sql: Sql, channelId: string): Promise<number> {
  return sql.run('UPDATE channelLink SET pushedAt = NOW(3), pushError = NULL WHERE channelId = ?', [
    channelId,
  ]);
}

export function noteNotSent(
  sql: Sql,
  message: string,
  retryAfterMs: number,
  channelId: string,
): Promise<number> {
  return sql.run(
    'UPDATE channelLink SET pushError = ?, pushAt = NOW(3) + INTERVAL ? MICROSECOND WHERE channelId = ?',
    [message, retryAfterMs, channelId],
  );
}

export function linkedListings(
  sql: Sql,
  channelId: string,
): Promise<(Pick<Listing, 'id' | 'channelSku' | 'units' | 'pushed'> & { productId: string })[]> {
  return sql.rows(
    'SELECT id, channelSku, productId, units, pushed FROM listing WHERE channelId = ? AND productId IS NOT NULL',
    [channelId],
  );
}

export function troublesOf(sql: Sql, code: string): Promise<{ number: string; why: string; at: Date }[]> {
  return sql.rows(
    'SELECT t.number, t.why, t.at FROM channelTrouble t JOIN channel c ON c.id = t.channelId WHERE c.code = ? ORDER BY t.at DESC LIMIT 50',
    [code],
  );
}

/** A connected channel with the house that its orders come to. */
export type LinkRow = Pick<
  ChannelLink,
  'channelId' | 'kind' | 'address' | 'keySealed' | 'orderCursor' | 'listingCursor' | 'everyMinutes'
> &
  Pick<Channel, 'code' | 'name' | 'currency'> & { warehouseId: string; home: string; active: number };

export function linkOf(sql: Sql, channelId: string): Promise<LinkRow | null> {
  return sql.one(
    `SELECT l.channelId, c.code, c.name, c.currency, w.id AS warehouseId, w.country AS home, l.kind, l.address, l.keySealed, l.orderCursor, l.listingCursor, l.everyMinutes, l.active
     FROM channelLink l JOIN channel c ON c.id = l.channelId JOIN (SELECT id, country FROM warehouse ORDER BY code LIMIT 1) w WHERE l.channelId = ?`,
    [channelId],
  );
}

/** When a channel is asked next, and when it is told its stock next. */
export type Clock = 'pullAt' | 'pushAt';

/** Channels whose time has come, the longest waiting first. */
export async function dueChannels(sql: Sql, clock: Clock): Promise<string[]> {
  const rows = await sql.rows<Pick<ChannelLink, 'channelId'>>(
    `SELECT channelId FROM channelLink WHERE active AND ${clock} <= NOW(3) ORDER BY ${clock}`,
  );
  return rows.map(r => r.channelId);
}

/** Moves a channel's time on when it has come still; true for the one that did. The next pull is by the channel's own minutes. */
export async function moveOn(
  sql: Sql,
  channelId: string,
  clock: Clock,
  pushSeconds: number,
): Promise<boolean> {
  const wait = clock === 'pullAt' ? 'everyMinutes * 60' : '?';
  const moved = await sql.run(
    `UPDATE channelLink SET ${clock} = NOW(3) + INTERVAL ${wait} SECOND WHERE channelId = ? AND active AND ${clock} <= NOW(3)`,
    clock === 'pullAt' ? [channelId] : [pushSeconds, channelId],
  );
  return moved > 0;
}

/** A round ended well. */
export function noteDone(sql: Sql, channelId: string, counts: string): Promise<number> {
  return sql.run(
    'UPDATE channelLink SET doing = NULL, lastCounts = ?, succeededAt = NOW(3), error = NULL WHERE channelId = ?',
    [counts, channelId],
  );
}

/** A round failed; the channel is asked again after microseconds. */
export function noteFailed(
  sql: Sql,
  channelId: string,
  counts: string,
  error: string,
  microseconds: number,
): Promise<number> {
  return sql.run(
    'UPDATE channelLink SET doing = NULL, lastCounts = ?, error = ?, pullAt = NOW(3) + INTERVAL ? MICROSECOND WHERE channelId = ?',
    [counts, error, microseconds, channelId],
  );
}
