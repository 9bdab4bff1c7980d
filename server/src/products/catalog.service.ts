import type { Page, PlaceView, ProductHistory, ProductQuery, ProductRow } from '@auk/contract';
import { type Box, canonicalCode, missingFacts, type Size } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { Db, fromJson, NONE, type Sql } from '../database/db.js';
import { escapeLike } from '../database/escapeLike.js';
import { NotHere } from '../http/problem.js';
import { PROMISED_KINDS } from '../stock/stock.module.js';
import { factsHeld, fromRecord, type Product, type ProductRecord } from './product.js';

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
    const rows = await sql.rows<{ id: string }>('SELECT id FROM product WHERE sku IN (?)', [
      [...new Set(skus)],
    ]);
    return this.withParts(
      sql,
      rows.map(r => r.id),
    );
  }

  /** Products by id, with codes and newest recipe; all of them, or those named. */
  async products(sql: Sql, ids?: readonly string[]): Promise<Map<string, Product>> {
    if (ids?.length === 0) return new Map();
    const [where, params] = ids ? ['WHERE id IN (?)', [[...ids]]] : ['', []];
    const [whereOf, paramsOf] = ids ? ['WHERE productId IN (?)', [[...ids]]] : ['', []];
    const rows = await sql.rows<ProductRecord>(
      `SELECT id, sku, name, kind, stage, weightMg, packedWeightMg, length, width, height, facts, hint, picture, kitPolicy, version FROM product ${where}`,
      params,
    );
    const codes = await sql.rows<{ productId: string; code: string; units: number }>(
      `SELECT productId, code, units FROM productCode ${whereOf} ORDER BY units, code`,
      paramsOf,
    );
    const parts = await sql.rows<{ productId: string; recipeId: string; partId: string; quantity: number }>(
      `SELECT r.productId, r.id AS recipeId, p.productId AS partId, p.quantity FROM recipe r JOIN recipePart p ON p.recipeId = r.id
       WHERE r.version = (SELECT MAX(n.version) FROM recipe n WHERE n.productId = r.productId) ${ids ? 'AND r.productId IN (?)' : ''} ORDER BY r.id, p.position`,
      params,
    );
    const products = new Map(rows.map(r => [r.id, fromRecord(r)]));
    for (const c of codes) products.get(c.productId)!.codes.push({ code: c.code, units: c.units });
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
    return sql.one(
      'SELECT p.id, p.sku, p.name, c.units FROM productCode c JOIN product p ON p.id = c.productId WHERE c.code = ? UNION SELECT id, sku, name, 1 FROM product WHERE sku = ? LIMIT 1',
      [code, code],
    );
  }

  async boxes(sql: Sql): Promise<Box[]> {
    const rows = await sql.rows<Size & Omit<Box, 'inner'>>(
      'SELECT * FROM box ORDER BY length * width * height',
    );
    return rows.map(({ length, width, height, ...b }) => ({
      code: b.code,
      name: b.name,
      tareMg: b.tareMg,
      limitMg: b.limitMg,
      priceMinor: b.priceMinor,
      inner: { length, width, height },
    }));
  }

  /** The product list, with stock; words match SKU, name, codes and the other codes products are known by. Paged by SKU. */
  async list(q: ProductQuery): Promise<Page<ProductRow>> {
    const like = `%${escapeLike(q.words)}%`;
    const found = await this.db.rows<{ id: string; sku: string }>(
      `SELECT p.id, p.sku FROM product p WHERE (? = '' OR p.name LIKE ? OR p.sku LIKE ? OR EXISTS (SELECT 1 FROM productAlias a WHERE a.productId = p.id AND a.code LIKE ?)
         OR EXISTS (SELECT 1 FROM productCode c WHERE c.productId = p.id AND c.code = ?)) AND p.sku > ? ${q.stage ? 'AND p.stage = ?' : ''} ORDER BY p.sku LIMIT ?`,
      [
        q.words,
        like,
        like.toUpperCase(),
        like.toUpperCase(),
        canonicalCode(q.words),
        q.after ?? '',
        ...(q.stage ? [q.stage] : []),
        q.size + 1,
      ],
    );
    const rows = await this.rows(found.slice(0, q.size).map(f => f.id));
    return {
      rows: q.missing ? rows.filter(r => r.missing.some(m => m.serious)) : rows,
      next: found.length > q.size ? found[q.size - 1]!.sku : null,
    };
  }

  async bySku(sku: string): Promise<ProductRow> {
    const found = await this.db.one<{ id: string }>('SELECT id FROM product WHERE sku = ?', [
      sku.toUpperCase(),
    ]);
    if (!found) throw new NotHere(`The product ${sku.slice(0, 60)}`);
    return (await this.rows([found.id]))[0]!;
  }

  /** Every change of a product, oldest first. */
  async history(sku: string): Promise<ProductHistory[]> {
    const rows = await this.db.rows<{
      at: Date;
      person: string | null;
      says: string;
      changes: string | null;
    }>(
      'SELECT e.at, n.name AS person, e.says, e.changes FROM productEvent e JOIN product p ON p.id = e.productId LEFT JOIN person n ON n.id = e.personId WHERE p.sku = ? ORDER BY e.id',
      [sku.toUpperCase()],
    );
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
      this.db.rows<{ productId: string; onHand: number; reserved: number }>(
        'SELECT * FROM productStock WHERE productId IN (?)',
        [ids],
      ),
      this.db.rows<{ productId: string; code: string; onHand: number; listed: number }>(
        `SELECT b.productId, p.code, SUM(b.onHand) AS onHand, SUM(b.listed) AS listed FROM stockBalance b JOIN place p ON p.id = b.placeId
         WHERE p.kind IN (${PROMISED_KINDS}) AND b.onHand > 0 AND b.productId IN (?) GROUP BY b.productId, p.code ORDER BY p.code`,
        [ids],
      ),
      this.db.rows<ProductRow['listings'][number] & { productId: string }>(
        'SELECT l.productId, c.name AS channel, l.channelSku, l.units, l.priceMinor FROM listing l JOIN channel c ON c.id = l.channelId WHERE l.productId IN (?) ORDER BY c.name, l.channelSku',
        [ids],
      ),
      this.db.rows<{ productId: string; code: string }>(
        'SELECT productId, code FROM productAlias WHERE productId IN (?) ORDER BY code',
        [ids],
      ),
      this.db.rows<{ productId: string; n: number }>(
        'SELECT p.productId, COUNT(DISTINCT p.orderId) AS n FROM linePart p JOIN orders o ON o.id = p.orderId WHERE p.productId IN (?) AND p.quantity > 0 AND o.isOpen GROUP BY p.productId',
        [ids],
      ),
    ]);
    const partIds = [...products.values()].flatMap(p => p.recipe.parts.map(x => x.productId));
    const names = new Map(
      (
        await this.db.rows<{ id: string; sku: string; name: string }>(
          'SELECT id, sku, name FROM product WHERE id IN (?)',
          [[...partIds, NONE]],
        )
      ).map(p => [p.id, p]),
    );
    const [stockOf, placesOf, listingsOf, aliasesOf, openOf] = [
      new Map(stock.map(s => [s.productId, s])),
      byProduct(places),
      byProduct(listings),
      byProduct(aliases),
      new Map(open.map(o => [o.productId, o.n])),
    ];
    return ids.map(id => {
      const p = products.get(id)!;
      const s = stockOf.get(id) ?? { onHand: 0, reserved: 0 };
      return {
        id,
        sku: p.sku,
        name: p.name,
        kind: p.kind,
        stage: p.stage,
        codes: p.codes,
        aliases: (aliasesOf.get(id) ?? []).map(a => a.code),
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
        places: (placesOf.get(id) ?? []).map(({ code, onHand, listed }) => ({ code, onHand, listed })),
        parts: p.recipe.parts.map(r => ({
          sku: names.get(r.productId)!.sku,
          name: names.get(r.productId)!.name,
          quantity: r.quantity,
        })),
        listings: (listingsOf.get(id) ?? []).map(({ productId: _, ...l }) => l),
        openOrders: openOf.get(id) ?? 0,
        version: p.version,
      };
    });
  }

  /** What lies in a place. */
  async place(code: string): Promise<PlaceView> {
    const place = await this.db.one<{ id: string; code: string; kind: string }>(
      'SELECT id, code, kind FROM place WHERE code = ?',
      [code.toUpperCase()],
    );
    if (!place) throw new NotHere(`The place ${code}`);
    const stock = await this.db.rows<PlaceView['stock'][number]>(
      `SELECT p.sku, p.name, b.onHand, b.listed, l.code AS lot, l.expiry FROM stockBalance b JOIN product p ON p.id = b.productId
       LEFT JOIN lot l ON b.lotKey <> ? AND l.id = b.lotKey WHERE b.placeId = ? AND b.onHand <> 0 ORDER BY p.sku`,
      [NONE, place.id],
    );
    const { seen } = (await this.db.one<{ seen: number }>(
      'SELECT GREATEST(COALESCE((SELECT MAX(id) FROM stockMove WHERE fromPlaceId = ?), 0), COALESCE((SELECT MAX(id) FROM stockMove WHERE toPlaceId = ?), 0)) AS seen',
      [place.id, place.id],
    ))!;
    return { code: place.code, kind: place.kind, seen, stock };
  }
}

function byProduct<T extends { productId: string }>(rows: readonly T[]): Map<string, T[]> {
  const by = new Map<string, T[]>();
  for (const r of rows) by.set(r.productId, [...(by.get(r.productId) ?? []), r]);
  return by;
}
