import { explode, type RecipePart } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { In } from 'typeorm';
import { newId, type Tx } from '../database/db.js';
import { CatalogService } from './catalog.service.js';
import { Listing as ListingEntity } from './listing.entity.js';
import type { Product } from './product.js';

/** A line as it is sold, before it is matched. */
export interface SoldLine {
  channelSku: string;
  title: string;
  priceMinor: number;
}

/** What a sold SKU means here: its listing, product, units a sale, and the parts of one sale (null when its recipe is broken). */
export interface Match {
  listingId: string | null;
  product: Product | null;
  units: number;
  parts: RecipePart[] | null;
}

interface Listing {
  id: string;
  channelSku: string;
  productId: string | null;
  units: number;
}

/** The matches of one channel within one transaction. */
export class Matches {
  private readonly exploded = new Map<string, RecipePart[] | null>();
  private readonly bySku: Map<string, Product>;

  constructor(
    readonly products: Map<string, Product>,
    private readonly listings: Map<string, Listing>,
  ) {
    this.bySku = new Map([...products.values()].map(p => [p.sku, p]));
  }

  /** A listing of the channel counts first; else, for lines that people type, a product of exactly this SKU. */
  of(channelSku: string): Match {
    const listing = this.listings.get(channelSku);
    if (listing) {
      const product = listing.productId ? this.products.get(listing.productId)! : null;
      return this.matched(listing.id, product, listing.units);
    }
    return this.matched(null, this.bySku.get(channelSku.toUpperCase()) ?? null, 1);
  }

  /** Parts of one sale of a product, in units each. */
  partsOf(productId: string, units: number): RecipePart[] | null {
    if (!this.exploded.has(productId)) {
      const exploded = explode(productId, 1, x => this.products.get(x)?.recipe);
      this.exploded.set(productId, exploded.ok ? exploded.value : null);
    }
    return this.exploded.get(productId)?.map(p => ({ ...p, quantity: p.quantity * units })) ?? null;
  }

  private matched(listingId: string | null, product: Product | null, units: number): Match {
    return { listingId, product, units, parts: product ? this.partsOf(product.id, units) : null };
  }
}

/** Matches what channels sell to products. */
@Injectable()
export class LineMatching {
  constructor(private readonly catalog: CatalogService) {}

  /** Parts of one sale of a product by its newest recipe; none when the recipe is broken. */
  async partsOf(tx: Tx, product: Product, units: number): Promise<RecipePart[]> {
    const products = await this.catalog.withParts(tx, [product.id]);
    return new Matches(products, new Map()).partsOf(product.id, units) ?? [];
  }

  /** Loads a channel's listings for the lines. With `makeMissing`, SKUs never seen become listings, unlinked. */
  async open(tx: Tx, channelId: string, lines: readonly SoldLine[], makeMissing: boolean): Promise<Matches> {
    const wanted = new Map(lines.map(l => [l.channelSku, l]));
    const skus = [...wanted.keys()];
    const found = new Map<string, Listing>();
    for (let i = 0; i < skus.length; i += 1000)
      for (const l of await tx.of(ListingEntity).find({
        where: { channelId, channelSku: In(skus.slice(i, i + 1000)) },
        select: { id: true, channelSku: true, productId: true, units: true },
      }))
        found.set(l.channelSku, l);
    if (makeMissing) {
      const missing = [...wanted.values()]
        .filter(l => !found.has(l.channelSku))
        .map(l => ({
          id: newId(),
          channelId,
          channelSku: l.channelSku,
          title: l.title,
          priceMinor: l.priceMinor,
          productId: null,
        }));
      await tx.insert(ListingEntity, missing);
      for (const m of missing) found.set(m.channelSku, { ...m, units: 1 });
    }
    const linked = [...found.values()].flatMap(l => l.productId ?? []);
    const typed = skus.filter(sku => !found.has(sku)).map(sku => sku.toUpperCase());
    const products = await this.catalog.withParts(tx, linked);
    for (const [id, p] of await this.catalog.skusWithParts(tx, typed)) products.set(id, p);
    return new Matches(products, found);
  }
}
