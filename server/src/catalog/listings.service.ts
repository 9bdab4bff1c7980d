import type { LinkAnswer, LinkListings } from '@auk/contract';
import { quoted } from '@auk/core';
import { HttpException, Injectable } from '@nestjs/common';
import { Db, type Doer, type Tx } from '../database/db.js';
import { Forbidden, NotHere } from '../http/problem.js';
import { OrderChecks } from '../intake/intake.module.js';
import { linkListing, type Product } from '../products/products.module.js';
import { OrderWriter } from '../records/records.module.js';
import { type Listing, listingNames, lockChannelOf, lockListing, unlinkedOf } from './listings.queries.js';
import { ProductsService } from './products.service.js';

/** Links listings to products, one or many; orders that waited for a link go on at once. */
@Injectable()
export class ListingsService {
  constructor(
    private readonly db: Db,
    private readonly products: ProductsService,
    private readonly checks: OrderChecks,
    private readonly writer: OrderWriter,
  ) {}

  /** Links (or, with no SKU, unlinks) each listing in a transaction of its own; each gets its answer. */
  async link(input: LinkListings, doer: Doer): Promise<LinkAnswer> {
    return this.each(
      input.links.map(l => l.listingId),
      id => {
        const { sku, units } = input.links.find(l => l.listingId === id)!;
        return this.db.tx(doer, async tx => {
          const listing = await this.locked(tx, id);
          if (sku === null) return this.unlink(tx, listing);
          const product = await this.products.locked(tx, sku);
          return {
            freed: await this.linkOne(tx, listing, product, units),
            says: `linked to ${product.name}`,
          };
        });
      },
    );
  }

  /** Links the unlinked listings of a SKU, whatever their channel; for the cure beside an order. */
  async linkSku(channelSku: string, sku: string, units: number, doer: Doer): Promise<LinkAnswer> {
    const ids = await unlinkedOf(this.db, channelSku);
    if (ids.length === 0) throw new NotHere(`The unlinked listing ${quoted(channelSku)}`);
    const answer = await this.link({ links: ids.map(l => ({ listingId: l.id, sku, units })) }, doer);
    const refused = answer.answers.find(a => !a.done);
    if (refused && answer.freed === 0) throw new Forbidden(refused.says, 'Choose another product.');
    return answer;
  }

  /** Makes a product of each listing, with its title, barcode and price, and links it. */
  makeProducts(listingIds: readonly string[], doer: Doer): Promise<LinkAnswer> {
    return this.each(listingIds, id =>
      this.db.tx(doer, async tx => {
        const listing = await this.locked(tx, id);
        if (listing.productId)
          throw new Forbidden(`${listing.channelSku} is linked already.`, 'Nothing needs to be made.');
        const sku = listing.channelSku.toUpperCase();
        await this.products.insert(tx, sku, {
          name: listing.title.slice(0, 120),
          valueMinor: listing.priceMinor,
        });
        const product = await this.products.locked(tx, sku);
        if (listing.gtin) await this.products.addCode(tx, product, listing.gtin, 1);
        return { freed: await this.linkOne(tx, listing, product, 1), says: `made ${sku}` };
      }),
    );
  }

  /** Links a locked listing in a transaction; returns how many orders waited for it. */
  async linkOne(
    tx: Tx,
    listing: Pick<Listing, 'id' | 'channelSku'>,
    product: Product,
    units: number,
  ): Promise<number> {
    if (product.stage === 'Retired')
      throw new Forbidden(
        `${product.name} is retired.`,
        'Choose a product that is sold, or make it live again.',
      );
    const orders = await this.writer.waitingFor(tx, listing.id);
    await linkListing(tx, listing.id, { productId: product.id, units });
    await this.writer.linkLines(tx, listing, product, units, orders);
    await this.checks.recheck(tx, orders);
    await tx.tell('catalog', product.sku);
    return orders.length;
  }

  private async unlink(tx: Tx, listing: Listing): Promise<{ freed: number; says: string }> {
    await linkListing(tx, listing.id, null);
    await tx.tell('catalog', '');
    return { freed: 0, says: 'unlinked; orders that are here keep their product' };
  }

  /** Locks a listing, and its channel before it: orders that come in meanwhile must see the link, or be seen by it. */
  private async locked(tx: Tx, id: string): Promise<Listing> {
    await lockChannelOf(tx, id);
    const listing = await lockListing(tx, id);
    if (!listing) throw new NotHere('That listing');
    return listing;
  }

  private async each(
    ids: readonly string[],
    act: (id: string) => Promise<{ freed: number; says: string }>,
  ): Promise<LinkAnswer> {
    const names = await listingNames(this.db, [...ids]);
    const skuOf = new Map(names.map(n => [n.id, n.channelSku]));
    const answer: LinkAnswer = { freed: 0, answers: [] };
    for (const listingId of new Set(ids)) {
      const channelSku = skuOf.get(listingId) ?? '';
      try {
        const { freed, says } = await act(listingId);
        answer.freed += freed;
        answer.answers.push({ listingId, channelSku, done: true, says });
      } catch (error) {
        if (!(error instanceof HttpException) || error.getStatus() >= 500) throw error;
        const { detail, cure } = error.getResponse() as { detail: string; cure: string };
        answer.answers.push({ listingId, channelSku, done: false, says: `${detail} ${cure}` });
      }
    }
    return answer;
  }
}
