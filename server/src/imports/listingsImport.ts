import { LISTING_FIELDS, type ListingRowRead, type Mapping, readListingRows } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { ListingsService, ProductsService } from '../catalog/catalog.module.js';
import { newId, type Tx } from '../database/db.js';
import type { IntakeChannel } from '../intake/intake.module.js';
import { putListing } from '../products/products.module.js';
import type { Table } from '../reference/table.js';
import {
  dataRows,
  field,
  type Importer,
  type Outcome,
  oneByOne,
  type ReadFile,
  refused,
  sentenceOf,
  stateOf,
  whole,
} from './importer.js';
import { listingWithSku } from './listingsImport.queries.js';

/** Listings of a channel, with their links. */
@Injectable()
export class ListingsImport implements Importer {
  readonly kind = 'listings';
  readonly fields = LISTING_FIELDS;
  readonly ofChannel = true;

  constructor(
    private readonly products: ProductsService,
    private readonly listings: ListingsService,
  ) {}

  read(table: Table, mapping: Mapping, channel: IntakeChannel): ReadFile {
    return oneByOne(
      readListingRows(table, mapping, channel.currency),
      dataRows(table),
      async () => (item, row, tx, commit) => this.one(tx, channel, item, row, commit),
    );
  }

  private async one(
    tx: Tx,
    channel: IntakeChannel,
    item: ListingRowRead,
    row: number,
    commit: boolean,
  ): Promise<Outcome> {
    const known = await listingWithSku(tx, channel.id, item.channelSku);
    try {
      const now = known ?? {
        id: newId(),
        title: item.title ?? item.channelSku,
        gtin: '',
        priceMinor: null,
        units: 1,
        sku: null,
      };
      const facts = {
        title: item.title ?? now.title,
        gtin: item.gtin ?? now.gtin,
        priceMinor: item.priceMinor ?? now.priceMinor,
      };
      const changes = (['title', 'gtin', 'priceMinor'] as const)
        .filter(f => facts[f] !== now[f])
        .map(f => field(f, now[f], facts[f]));
      const units = item.units ?? now.units;
      const links = item.productSku !== null && (item.productSku !== now.sku || units !== now.units);
      if (links) {
        await this.products.locked(tx, item.productSku!);
        changes.push(
          field('product', now.sku, units > 1 ? `${item.productSku} × ${units}` : item.productSku),
        );
      }
      const all = known ? changes : [whole(null, facts.title), ...changes];
      if (commit && all.length > 0)
        await tx.attempt(async () => {
          await putListing(
            tx,
            { id: now.id, channelId: channel.id, channelSku: item.channelSku, ...facts },
            known !== null,
          );
          if (links)
            await this.listings.linkOne(
              tx,
              { id: now.id, channelSku: item.channelSku },
              await this.products.locked(tx, item.productSku!),
              units,
            );
        });
      return {
        row,
        name: item.channelSku,
        about: facts.title,
        state: stateOf(!known, all),
        says: '',
        changes: all,
      };
    } catch (error) {
      return refused(row, item.channelSku, sentenceOf(error));
    }
  }
}
