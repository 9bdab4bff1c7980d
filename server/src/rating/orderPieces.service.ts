import { FIRST_GUESS, type Guess } from '@auk/contract';
import { group, type Piece } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { Measures } from '../catalog/catalog.module.js';
import type { Sql } from '../database/db.js';
import { Boxes, CatalogService, type Product, pieceOf } from '../products/products.module.js';
import { partsToSend } from './compare.queries.js';

/** What of an order is to be sent, as boxes are planned with it; SKUs of what has no size or weight, and counts as its category does. */
export interface OrderPieces {
  pieces: Piece[];
  guessed: string[];
}

/** The pieces of orders as boxes are planned with them. */
@Injectable()
export class PiecesOfOrders {
  constructor(
    private readonly catalog: CatalogService,
    private readonly kinds: Boxes,
    private readonly measures: Measures,
  ) {}

  /** Further products, as they are known here. */
  products(sql: Sql, ids: readonly string[]): Promise<Map<string, Product>> {
    return this.catalog.withParts(sql, ids);
  }

  /** Of many orders in few statements, with the products that are in them. */
  async of(
    sql: Sql,
    orderIds: readonly string[],
  ): Promise<{ orders: Map<string, OrderPieces>; products: Map<string, Product> }> {
    const parts = await partsToSend(sql, orderIds);
    const ids = [...new Set(parts.map(p => p.productId))];
    const products = await this.catalog.withParts(sql, ids);
    const unsized = ids.filter(id => !products.get(id)!.size);
    const measured = unsized.length > 0 ? await this.measures.sizes(sql, unsized) : new Map();
    const guesses = await this.kinds.guesses(sql);
    const orders = [...group(parts, p => p.orderId)].map(([orderId, of]): [string, OrderPieces] => {
      const guessed: string[] = [];
      const pieces = of.map(({ productId, quantity, apart }): Piece => {
        const product = products.get(productId)!;
        const piece = pieceOf(product, measured.get(productId) ?? null);
        const guess = guessFor(guesses, product.facts.category);
        if (!piece.size || piece.weightMg === 0) guessed.push(product.sku);
        return {
          ...piece,
          id: productId,
          quantity,
          ...(apart && { apart }),
          size: piece.size ?? guess,
          weightMg: piece.weightMg || guess.weightMg,
        };
      });
      return [orderId, { pieces, guessed }];
    });
    return { orders: new Map(orders), products };
  }
}

/** What a product of a category counts as: the guess of its category, else that of all others. */
const guessFor = (guesses: readonly Guess[], category: unknown): Guess =>
  guesses.find(g => g.category !== '' && g.category.toLowerCase() === String(category ?? '').toLowerCase()) ??
  guesses.find(g => g.category === '') ??
  FIRST_GUESS;
