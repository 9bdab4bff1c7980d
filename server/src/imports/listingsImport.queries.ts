import type { Sql } from '../database/db.js';
import type { Listing } from '../products/listing.entity.js';

export function listingWithSku(
  sql: Sql,
  channelId: string,
  channelSku: string,
): Promise<
  (Pick<Listing, 'id' | 'title' | 'gtin' | 'priceMinor' | 'units'> & { sku: string | null }) | null
> {
  return sql.one(
    'SELECT l.id, l.title, l.gtin, l.priceMinor, l.units, p.sku FROM listing l LEFT JOIN product p ON p.id = l.productId WHERE l.channelId = ? AND l.channelSku = ?',
    [channelId, channelSku],
  );
}
