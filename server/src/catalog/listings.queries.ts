import type { Sql, Tx } from '../database/db.js';

export interface Listing {
  id: string;
  channelId: string;
  channelSku: string;
  title: string;
  gtin: string;
  priceMinor: number | null;
  productId: string | null;
}

export function unlinkedOf(sql: Sql, channelSku: string): Promise<Pick<Listing, 'id'>[]> {
  return sql.rows('SELECT id FROM listing WHERE channelSku = ? AND productId IS NULL', [channelSku]);
}

export function lockChannelOf(tx: Tx, id: string): Promise<unknown | null> {
  return tx.one('SELECT id FROM channel WHERE id = (SELECT channelId FROM listing WHERE id = ?) FOR UPDATE', [
    id,
  ]);
}

export function lockListing(tx: Tx, id: string): Promise<Listing | null> {
  return tx.one(
    'SELECT id, channelId, channelSku, title, gtin, priceMinor, productId FROM listing WHERE id = ? FOR UPDATE',
    [id],
  );
}

export function listingNames(
  sql: Sql,
  ids: readonly string[],
): Promise<Pick<Listing, 'id' | 'channelSku'>[]> {
  return sql.rows('SELECT id, channelSku FROM listing WHERE id IN (?)', [ids]);
}
