import { In } from 'typeorm';
import { newId, type Tx } from '../database/db.js';
import { Listing } from './listing.entity.js';

/** A listing as a channel or a file tells it. */
export type ToldListing = Pick<Listing, 'channelSku' | 'title' | 'gtin' | 'priceMinor'>;

/** Takes in what a channel tells of its listings; links and units that are here stay. */
export async function takeListings(tx: Tx, channelId: string, told: readonly ToldListing[]): Promise<void> {
  await tx.upsert(
    Listing,
    told.map(({ channelSku, title, gtin, priceMinor }) => ({
      id: newId(),
      channelId,
      channelSku,
      title,
      gtin,
      priceMinor,
      productId: null,
      seenAt: tx.at,
    })),
    ['title', 'gtin', 'priceMinor', 'seenAt'],
  );
}

/** Makes a listing, or says of a known one what it is. */
export async function putListing(
  tx: Tx,
  listing: ToldListing & { id: string; channelId: string },
  known: boolean,
): Promise<void> {
  const { id, channelId, channelSku, title, gtin, priceMinor } = listing;
  if (known) await tx.of(Listing).update(id, { title, gtin, priceMinor });
  else await tx.of(Listing).insert({ id, channelId, channelSku, title, gtin, priceMinor, productId: null });
}

/** Links a listing to a product, or to none; its channel is told its stock anew. */
export async function linkListing(
  tx: Tx,
  id: string,
  to: { productId: string; units: number } | null,
): Promise<void> {
  await tx.of(Listing).update(id, { ...(to ?? { productId: null }), pushed: null });
}

/** Keeps what a channel was told of a listing's stock. */
export async function pushedListings(
  tx: Tx,
  told: readonly { id: string; quantity: number }[],
): Promise<void> {
  const by = new Map<number, string[]>();
  for (const t of told) by.set(t.quantity, [...(by.get(t.quantity) ?? []), t.id]);
  for (const [pushed, ids] of by) await tx.of(Listing).update({ id: In(ids) }, { pushed });
}
