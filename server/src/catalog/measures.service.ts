import type { MeasureCase, MeasuredRow, MeasureIn } from '@auk/contract';
import { type FactValue, formatSize, formatWeight, quoted, type Size } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { IsNull } from 'typeorm';
import { Db, type Doer, newId, type Sql, type Tx } from '../database/db.js';
import { NotHere } from '../http/problem.js';
import { CatalogService } from '../products/products.module.js';
import { Measured } from './measured.entity.js';
import { measuredSizes, openMeasure, openMeasures } from './measured.queries.js';
import { ProductCode } from './productCode.entity.js';
import { noteProduct } from './productHistory.js';
import { ProductsService } from './products.service.js';

const gone = () => new NotHere('That measure', 'Somebody has looked at it already; look at the list again.');

/** Sizes and weights that benches found: proposed at once, a product's own when somebody has said so. */
@Injectable()
export class Measures {
  constructor(
    private readonly db: Db,
    private readonly catalog: CatalogService,
    private readonly products: ProductsService,
  ) {}

  /** A person measured a product. */
  async measure(sku: string, { length, width, height }: MeasureIn, doer: Doer): Promise<void> {
    const { id } = await this.catalog.bySku(sku);
    await this.db.tx(doer, tx => this.propose(tx, id, { size: { length, width, height } }, null));
  }

  /** Proposes a size or weight; what nobody has looked at yet gives way to it. */
  async propose(
    tx: Tx,
    productId: string,
    { size, weightMg }: { size?: Size; weightMg?: number },
    orderId: string | null,
  ): Promise<void> {
    const open = { productId, decidedAt: IsNull() };
    if (weightMg !== undefined) await tx.of(Measured).delete({ ...open, length: IsNull() });
    else await tx.of(Measured).delete({ ...open, weightMg: IsNull() });
    await tx.insert(Measured, [
      {
        id: newId(),
        productId,
        orderId,
        length: size?.length ?? null,
        width: size?.width ?? null,
        height: size?.height ?? null,
        weightMg: weightMg ?? null,
        at: tx.at,
        personId: tx.personId,
      },
    ]);
    await tx.tell('catalog', productId);
  }

  /** Keeps what a case of a product measures and weighs; what is not named stays. */
  async measureCase(sku: string, { code, size, weightMg }: MeasureCase, doer: Doer): Promise<void> {
    const { id } = await this.catalog.bySku(sku);
    await this.db.tx(doer, async tx => {
      const product = (await this.catalog.products(tx, [id])).get(id)!;
      if (!product.cases.some(c => c.code === code))
        throw new NotHere(`A case of ${product.name} with the code ${quoted(code)}`);
      const sides = size === undefined ? {} : (size ?? { length: null, width: null, height: null });
      const weighs = weightMg === undefined ? {} : { weightMg };
      await tx.of(ProductCode).update({ code, productId: id }, { code, ...sides, ...weighs });
      const told = [size && formatSize(size, 'imperial'), weightMg && formatWeight(weightMg, 'imperial')];
      const says = `Case ${code} measured: ${told.filter(Boolean).join(', ') || 'not known any more'}.`;
      await noteProduct(tx, id, says);
      await tx.tell('catalog', sku);
    });
  }

  /** The sizes that were measured of products, for as long as nobody has looked at them. */
  async sizes(sql: Sql, productIds: readonly string[]): Promise<Map<string, Size>> {
    const rows = await measuredSizes(sql, productIds);
    return new Map(rows.map(({ productId, ...size }) => [productId, size]));
  }

  async open(): Promise<MeasuredRow[]> {
    const rows = await openMeasures(this.db);
    return rows.map(r => ({
      id: r.id,
      sku: r.sku,
      name: r.name,
      at: r.at.toISOString(),
      person: r.person,
      order: r.orderNo === null ? null : `OR-${r.orderNo}`,
      size: r.length === null ? null : { length: r.length, width: r.width!, height: r.height! },
      weightMg: r.weightMg,
      keptSize:
        r.keptLength && r.keptWidth && r.keptHeight
          ? { length: r.keptLength, width: r.keptWidth, height: r.keptHeight }
          : null,
      keptMg: r.keptMg,
    }));
  }

  /** A person has looked: the product takes it on, or it is let go; of two at once the first decides. */
  async decide(id: string, take: boolean, doer: Doer): Promise<void> {
    const m = await openMeasure(this.db, id);
    if (!m) throw gone();
    const fields: Record<string, FactValue> =
      m.length !== null
        ? { length: m.length, width: m.width, height: m.height }
        : { [m.packedWeightMg === null ? 'weightMg' : 'packedWeightMg']: m.weightMg };
    await this.db.tx(doer, async tx => {
      const open = { id, decidedAt: IsNull() };
      const { affected } = await tx.of(Measured).update(open, { decidedAt: tx.at, taken: take });
      if (affected === 0) throw gone();
      if (take) await this.products.set(tx, m.sku, fields);
      await tx.tell('catalog', m.sku);
    });
  }
}
