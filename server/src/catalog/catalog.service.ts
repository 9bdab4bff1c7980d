import type { PlaceView, ProductRow } from '@auk/contract';
import { type Box, canonicalCode, type Gathered, type ScanProduct, type Size } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { Db, fromJson, NONE, type Sql } from '../database/db.js';
import { NotHere } from '../http/problem.js';

/** A product with everything that orders, floor and bench need of it. */
export interface Product extends ScanProduct {
  kind: 'piece' | 'kit' | 'bundle';
  stage: 'Unproven' | 'Live' | 'Retired';
  weightMg: number | null;
  size: Size | null;
  facts: { fragile?: boolean; sharp?: boolean; liquid?: boolean };
  recipe: Gathered;
}

interface ProductRecord {
  id: string;
  sku: string;
  name: string;
  kind: Product['kind'];
  stage: Product['stage'];
  weightMg: number | null;
  length: number | null;
  width: number | null;
  height: number | null;
  facts: string;
  hint: string | null;
  picture: string | null;
}

/** Reads of products, codes, recipes and boxes. */
@Injectable()
export class CatalogService {
  constructor(private readonly db: Db) {}

  /** Products by id, with codes and newest recipe; all of them, or those named. */
  async products(sql: Sql, ids?: readonly string[]): Promise<Map<string, Product>> {
    if (ids?.length === 0) return new Map();
    const [where, params] = ids ? ['WHERE id IN (?)', [[...ids]]] : ['', []];
    const [whereOf, paramsOf] = ids ? ['WHERE productId IN (?)', [[...ids]]] : ['', []];
    const rows = await sql.rows<ProductRecord>(`SELECT * FROM product ${where}`, params);
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
  async byCode(sql: Sql, text: string): Promise<{ id: string; sku: string; name: string } | null> {
    const code = canonicalCode(text);
    return sql.one(
      'SELECT p.id, p.sku, p.name FROM productCode c JOIN product p ON p.id = c.productId WHERE c.code = ? UNION SELECT id, sku, name FROM product WHERE sku = ? LIMIT 1',
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

  /** The product list, with stock; words match SKU and name. */
  async list(words: string): Promise<ProductRow[]> {
    const found = await this.db.rows<{ id: string }>(
      'SELECT id FROM product WHERE ? = "" OR name LIKE ? OR sku LIKE ? ORDER BY sku LIMIT 500',
      [words, `%${escapeLike(words)}%`, `%${escapeLike(words)}%`],
    );
    return this.rows(found.map(f => f.id));
  }

  async bySku(sku: string): Promise<ProductRow> {
    const found = await this.db.one<{ id: string }>('SELECT id FROM product WHERE sku = ?', [
      sku.toUpperCase(),
    ]);
    if (!found) throw new NotHere(`The product ${sku}`);
    return (await this.rows([found.id]))[0]!;
  }

  private async rows(ids: string[]): Promise<ProductRow[]> {
    if (ids.length === 0) return [];
    const products = await this.products(this.db, ids);
    const stock = await this.db.rows<{ productId: string; onHand: number; reserved: number }>(
      'SELECT * FROM productStock WHERE productId IN (?)',
      [ids],
    );
    const places = await this.db.rows<{ productId: string; code: string; onHand: number; listed: number }>(
      `SELECT b.productId, p.code, SUM(b.onHand) AS onHand, SUM(b.listed) AS listed FROM stockBalance b JOIN place p ON p.id = b.placeId
       WHERE p.kind = 'bin' AND b.onHand > 0 AND b.productId IN (?) GROUP BY b.productId, p.code ORDER BY p.code`,
      [ids],
    );
    const listings = await this.db.rows<{ productId: string; channel: string; channelSku: string }>(
      'SELECT l.productId, c.name AS channel, l.channelSku FROM listing l JOIN channel c ON c.id = l.channelId WHERE l.productId IN (?)',
      [ids],
    );
    const names = new Map(
      (
        await this.db.rows<{ id: string; sku: string; name: string }>('SELECT id, sku, name FROM product')
      ).map(p => [p.id, p]),
    );
    return ids.map(id => {
      const p = products.get(id)!;
      const s = stock.find(x => x.productId === id);
      return {
        id,
        sku: p.sku,
        name: p.name,
        kind: p.kind,
        stage: p.stage,
        codes: p.codes,
        picture: p.picture,
        weightMg: p.weightMg,
        onHand: s?.onHand ?? 0,
        reserved: s?.reserved ?? 0,
        free: (s?.onHand ?? 0) - (s?.reserved ?? 0),
        places: places
          .filter(x => x.productId === id)
          .map(({ code, onHand, listed }) => ({ code, onHand, listed })),
        parts: p.recipe.parts.map(r => ({
          sku: names.get(r.productId)!.sku,
          name: names.get(r.productId)!.name,
          quantity: r.quantity,
        })),
        listings: listings
          .filter(l => l.productId === id)
          .map(({ channel, channelSku }) => ({ channel, channelSku })),
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
    return { code: place.code, kind: place.kind, stock };
  }
}

/** Makes a text harmless inside LIKE. */
export const escapeLike = (text: string): string => text.replace(/[\\%_]/g, c => `\\${c}`);

function fromRecord(r: ProductRecord): Product {
  const size =
    r.length && r.width && r.height ? { length: r.length, width: r.width, height: r.height } : null;
  return {
    id: r.id,
    sku: r.sku,
    name: r.name,
    kind: r.kind,
    stage: r.stage,
    weightMg: r.weightMg,
    size,
    facts: fromJson(r.facts),
    hint: r.hint,
    picture: r.picture,
    codes: [],
    recipe: { kind: r.kind, recipeId: null, parts: [] },
  };
}
