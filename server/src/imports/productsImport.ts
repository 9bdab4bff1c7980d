import { type Mapping, PRODUCT_FIELDS, type ProductRowRead, readProductRows } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { ProductsService } from '../catalog/catalog.module.js';
import { type Tx } from '../database/db.js';
import type { IntakeChannel } from '../intake/intake.module.js';
import type { Product } from '../products/products.module.js';
import { CatalogService } from '../products/products.module.js';
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

/** Products of the house: facts, codes. */
@Injectable()
export class ProductsImport implements Importer {
  readonly kind = 'products';
  readonly fields = PRODUCT_FIELDS;
  readonly ofChannel = false;

  constructor(
    private readonly catalog: CatalogService,
    private readonly products: ProductsService,
  ) {}

  read(table: Table, mapping: Mapping, channel: IntakeChannel): ReadFile {
    return oneByOne(readProductRows(table, mapping, channel.currency), dataRows(table), async tx => {
      const known = new Map([...(await this.catalog.products(tx)).values()].map(p => [p.sku, p]));
      return (item, row, inTx, commit) => this.one(inTx, item, row, known.get(item.sku), commit);
    });
  }

  private async one(
    tx: Tx,
    item: ProductRowRead,
    row: number,
    known: Product | undefined,
    commit: boolean,
  ): Promise<Outcome> {
    try {
      const given = item.codes.filter(c => !known?.codes.some(k => k.code === c.code && k.units === c.units));
      const codes = given.map(c => field('code', null, c.units > 1 ? `${c.code} counts ${c.units}` : c.code));
      if (!known && !item.fields.name) return refused(row, item.sku, 'It is new and has no name.');
      const changes = known
        ? [...this.products.changes(known, item.fields), ...codes]
        : [whole(null, String(item.fields.name)), ...codes];
      if (commit && changes.length > 0)
        await tx.attempt(() => this.take(tx, item, known !== undefined, given));
      return {
        row,
        name: item.sku,
        about: String(item.fields.name ?? known?.name ?? ''),
        state: stateOf(!known, changes),
        says: '',
        changes,
      };
    } catch (error) {
      return refused(row, item.sku, sentenceOf(error));
    }
  }

  private async take(
    tx: Tx,
    item: ProductRowRead,
    known: boolean,
    codes: ProductRowRead['codes'],
  ): Promise<void> {
    if (!known) await this.products.insert(tx, item.sku, item.fields);
    const product = await this.products.locked(tx, item.sku);
    if (known) await this.products.apply(tx, product, item.fields);
    for (const c of codes) await this.products.addCode(tx, product, c.code, c.units);
  }
}
