import { explode, makeable, type RecipePart } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { type Sql } from '../database/db.js';
import { CatalogService } from './catalog.service.js';
import { freeOf } from './stockForSale.queries.js';

/** How many of a product can still be sold. */
@Injectable()
export class StockForSale {
  constructor(private readonly catalog: CatalogService) {}

  /** Free quantity by product: of pieces and kits what is on hand and not reserved, of bundles what the free parts of their netted recipe give. */
  async ofProducts(sql: Sql, ids: readonly string[]): Promise<Map<string, number>> {
    if (ids.length === 0) return new Map();
    const all = await this.catalog.withParts(sql, ids);
    const asked = new Map(
      [...new Set(ids)].flatMap(id => (all.has(id) ? [[id, all.get(id)!] as const] : [])),
    );
    const partsOf = (id: string): RecipePart[] => {
      const exploded = explode(id, 1, x => all.get(x)?.recipe);
      return exploded.ok ? exploded.value : [];
    };
    const needs = new Map([...asked.keys()].map(id => [id, partsOf(id)]));
    const stocked = [...new Set([...needs.values()].flatMap(parts => parts.map(p => p.productId)))];
    const rows = await freeOf(sql, stocked);
    const free = new Map(rows.map(r => [r.productId, r.free]));
    return new Map([...needs].map(([id, parts]) => [id, makeable(parts, p => free.get(p) ?? 0)]));
  }
}
