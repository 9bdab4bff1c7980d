import type { Page, PlaceView, ProductHistory, ProductQuery, ProductRow } from '@auk/contract';
import { type Box, canonicalCode, missingFacts } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { IsNull } from 'typeorm';
import { Db, fromJson, type Sql } from '../database/db.js';
import { NotHere } from '../http/problem.js';
import { placeByCode } from '../stock/stock.module.js';
import { Box as BoxEntity } from './box.entity.js';
import {
  aliasesOf,
  codesOf,
  eventsOf,
  idOfSku,
  idsOfSkus,
  listingsOf,
  namesOf,
  newestMoveOf,
  newestParts,
  openOrdersOf,
  placesOf,
  productByCode,
  productRecords,
  productsFound,
  stockIn,
  stockOf,
} from './catalog.queries.js';
import { factsHeld, fromRecord, type Product } from './product.js';

/** Reads of products, codes, recipes and boxes. */
@Injectable()
export class CatalogService {
  constructor(private readonly db: Db) {}

  /** Products by id with all that their newest recipes reach, level by level: what exploding them needs, and no more. */
  async withParts(sql: Sql, ids: readonly string[]): Promise<Map<string, Product>> {
    const all = new Map<string, Product>();
    for (let wanted = [...new Set(ids)]; wanted.length > 0; ) {
      const level = await this.products(sql, wanted);
      for (const [id, p] of level) all.set(id, p);
      wanted = [...new Set([...level.values()].flatMap(p => p.recipe.parts.map(x => x.productId)))].filter(
        id => !all.has(id),
      );
    }
    return all;
  }

  /** Products by SKU with all that their newest recipes reach. SKUs that no product has are left out. */
  async skusWithParts(sql: Sql, skus: readonly string[]): Promise<Map<string, Product>> {
    if (skus.length === 0) return new Map();
    const rows = await idsOfSkus(sql, [...new Set(skus)]);
    return this.withParts(
      sql,
      rows.map(r => r.id),
    );
  }

  /** Products by id, with codes and newest recipe; all of them, or those named. */
  async products(sql: Sql, ids?: readonly string[]): Promise<Map<string, Product>> {
    if (ids?.length === 0) return new Map();
    const rows = await productRecords(sql, ids);
    const codes = await codesOf(sql, ids);
    const parts = await newestParts(sql, ids);
    const products = new Map(rows.map(r => [r.id, fromRecord(r)]));
    for (const { productId, code, units, length, width, height, weightMg } of codes) {
      const product = products.get(productId)!;
      product.codes.push({ code, units });
      const size = length && width && height ? { length, width, height } : null;
      if (units > 1) product.cases.push({ code, units, size, weightMg });
    }
    for (const p of parts) {
      const product = products.get(p.productId)!;
      const part = { productId: p.partId, quantity: p.quantity };
      product.recipe = { ...product.recipe, recipeId: p.recipeId, parts: [...product.recipe.parts, part] };
    }
    return products;
  }

  /** The product a scanned code belongs to, and how many units it counts; SKUs count too. */
  async byCode(
    sql: Sql,
    text: string,
  ): Promise<{ id: string; sku: string; name: string; units: number } | null> {
    const code = canonicalCode(text);
    return productByCode(sql, code);
  }

  /** The boxes in use, those first that are preferred. */
  async boxes(sql: Sql): Promise<Box[]> {
    const rows = await sql.of(BoxEntity).find({ where: { retiredAt: IsNull() }, order: { position: 'ASC' } });
    return rows.map(({ length, width, height, ...b }) => ({
      code: b.code,
      name: b.name,
      tareMg: b.tareMg,
      limitMg: b.limitMg,
      priceMinor: b.priceMinor,
      kind: b.kind,
      stock: b.stock,
      inner: { length, width, height },
    }));
  }

  /** The product list, with stock; words match SKU, name, codes and the other codes products are known by. Paged by SKU. */
  async list(q: ProductQuery): Promise<Page<ProductRow>> {
    const found = await productsFound(this.db, q, q.size + 1);
    const rows = await this.rows(found.slice(0, q.size).map(f => f.id));
    return {
      rows: q.missing ? rows.filter(r => r.missing.some(m => m.serious)) : rows,
      next: found.length > q.size ? found[q.size - 1]!.sku : null,
    };
  }

  async bySku(sku: string): Promise<ProductRow> {
    const found = await idOfSku(this.db, sku.toUpperCase());
    if (!found) throw new NotHere(`The product ${sku.slice(0, 60)}`);
    return (await this.rows([found.id]))[0]!;
  }

  /** Every change of a product, oldest first. */
  async history(sku: string): Promise<ProductHistory[]> {
    const rows = await eventsOf(this.db, sku.toUpperCase());
    return rows.map(r => ({
      at: r.at.toISOString(),
      person: r.person,
      says: r.says,
      changes: r.changes ? fromJson(r.changes) : [],
    }));
  }

  private async rows(ids: string[]): Promise<ProductRow[]> {
    if (ids.length === 0) return [];
    const [products, stock, places, listings, aliases, open] = await Promise.all([
      this.products(this.db, ids),
      stockOf(this.db, ids),
      placesOf(this.db, ids),
      listingsOf(this.db, ids),
      aliasesOf(this.db, ids),
      openOrdersOf(this.db, ids),
    ]);
    const partIds = [...products.values()].flatMap(p => p.recipe.parts.map(x => x.productId));
    const names = new Map((await namesOf(this.db, partIds)).map(p => [p.id, p]));
    const [stockBy, placesBy, listingsBy, aliasesBy, openBy] = [
      new Map(stock.map(s => [s.productId, s])),
      byProduct(places),
      byProduct(listings),
      byProduct(aliases),
      new Map(open.map(o => [o.productId, o.n])),
    ];
    return ids.map(id => {
      const p = products.get(id)!;
      const s = stockBy.get(id) ?? { onHand: 0, reserved: 0 };
      return {
        id,
        sku: p.sku,
        name: p.name,
        kind: p.kind,
        stage: p.stage,
        codes: p.codes,
        cases: p.cases,
        aliases: (aliasesBy.get(id) ?? []).map(a => a.code),
        picture: p.picture,
        hint: p.hint ?? null,
        weightMg: p.weightMg,
        packedWeightMg: p.packedWeightMg,
        size: p.size,
        facts: p.facts,
        missing: missingFacts(factsHeld(p)),
        onHand: s.onHand,
        reserved: s.reserved,
        free: s.onHand - s.reserved,
        places: (placesBy.get(id) ?? []).map(({ code, onHand, listed }) => ({ code, onHand, listed })),
        parts: p.recipe.parts.map(r => ({
          sku: names.get(r.productId)!.sku,
          name: names.get(r.productId)!.name,
          quantity: r.quantity,
        })),
        listings: (listingsBy.get(id) ?? []).map(({ productId: _, ...l }) => l),
        openOrders: openBy.get(id) ?? 0,
        version: p.version,
      };
    });
  }

  /** What lies in a place. */
  async place(code: string): Promise<PlaceView> {
    const place = await placeByCode(this.db, code.toUpperCase());
    if (!place) throw new NotHere(`The place ${code}`);
    const stock = await stockIn(this.db, place.id);
    const { seen } = (await newestMoveOf(this.db, place.id))!;
    return { code: place.code, kind: place.kind, seen, stock };
  }
}

function byProduct<T extends { productId: string }>(rows: readonly T[]): Map<string, T[]> {
  const by = new Map<string, T[]>();
  for (const r of rows) by.set(r.productId, [...(by.get(r.productId) ?? []), r]);
  return by;
}
