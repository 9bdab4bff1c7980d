import type { ListingQuery, ListingRow, Page } from '@auk/contract';
import { Proposer } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { Db, NONE } from '../database/db.js';
import { escapeLike } from '../database/escapeLike.js';
import { CatalogService } from './catalog.service.js';
import { StockForSale } from './stockForSale.js';

type Record = Omit<ListingRow, 'proposals' | 'product' | 'forSale'> & {
  productId: string | null;
  sku: string | null;
  name: string | null;
  stage: string | null;
};

/** Listings of all channels, those that orders wait for first; unlinked ones with proposals. */
@Injectable()
export class ListingsQueries {
  constructor(
    private readonly db: Db,
    private readonly catalog: CatalogService,
    private readonly stock: StockForSale,
  ) {}

  async list(q: ListingQuery): Promise<Page<ListingRow>> {
    const like = `%${escapeLike(q.words)}%`;
    const where = ["(? = '' OR UPPER(l.channelSku) LIKE ? OR l.title LIKE ?)"];
    const params: unknown[] = [q.words, like.toUpperCase(), like];
    const and = (sql: string, ...more: unknown[]) => {
      where.push(sql);
      params.push(...more);
    };
    if (q.state === 'unlinked') and('l.productId IS NULL');
    if (q.state === 'linked') and('l.productId IS NOT NULL');
    if (q.channel) and('c.code = ?', q.channel);
    if (q.product) and('p.sku = ?', q.product.toUpperCase());
    const [waiting, id] = q.after?.split('~') ?? [];
    const page = id === undefined ? '' : 'HAVING waiting < ? OR (waiting = ? AND id > ?)';
    const rows = await this.db.rows<Record>(
      `SELECT l.id, c.name AS channel, c.code AS channelCode, c.currency, l.channelSku, l.title, l.gtin, l.priceMinor, l.units, l.pushed, l.productId, p.sku, p.name, p.stage,
         IF(l.productId IS NULL, (SELECT COUNT(DISTINCT k.orderId) FROM orderLine k JOIN orders o ON o.id = k.orderId AND o.isOpen WHERE k.listingId = l.id AND k.productId IS NULL AND k.removedAt IS NULL), 0) AS waiting
       FROM listing l JOIN channel c ON c.id = l.channelId LEFT JOIN product p ON p.id = l.productId WHERE ${where.join(' AND ')} ${page} ORDER BY waiting DESC, l.id LIMIT ?`,
      [...params, ...(id === undefined ? [] : [Number(waiting), Number(waiting), id]), q.size + 1],
    );
    const shown = rows.slice(0, q.size);
    const [proposer, forSale] = [
      await this.proposer(shown),
      await this.stock.ofProducts(
        this.db,
        shown.flatMap(r => r.productId ?? []),
      ),
    ];
    return {
      rows: shown.map(({ productId, sku, name, stage, ...r }) => ({
        ...r,
        product: sku ? { sku, name: name!, stage: stage! } : null,
        forSale: productId ? Math.floor((forSale.get(productId) ?? 0) / r.units) : null,
        proposals: productId ? [] : proposer(r),
      })),
      next: rows.length > q.size ? `${shown.at(-1)!.waiting}~${shown.at(-1)!.id}` : null,
    };
  }

  /** Proposes products for unlinked listings, if there are any among the rows. */
  private async proposer(
    rows: readonly Record[],
  ): Promise<(r: { channelSku: string; title: string; gtin: string }) => ListingRow['proposals']> {
    if (rows.every(r => r.productId)) return () => [];
    const products = await this.catalog.products(this.db);
    const aliases = await this.db.rows<{ productId: string; code: string }>(
      'SELECT productId, code FROM productAlias WHERE productId <> ?',
      [NONE],
    );
    const proposer = new Proposer(
      [...products.values()]
        .filter(p => p.stage !== 'Retired')
        .map(p => ({
          id: p.id,
          sku: p.sku,
          name: p.name,
          barcodes: p.codes.filter(c => c.units === 1).map(c => c.code),
          otherCodes: aliases.filter(a => a.productId === p.id).map(a => a.code),
        })),
    );
    return r =>
      proposer.propose(r).map(x => {
        const p = products.get(x.productId)!;
        return { ...x, sku: p.sku, name: p.name, picture: p.picture };
      });
  }
}
