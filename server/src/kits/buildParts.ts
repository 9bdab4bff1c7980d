import type { RecipePart } from '@auk/core';
import { Forbidden, NotHere } from '../http/problem.js';
import { type Product, stockedParts } from '../products/products.module.js';
import type { HoldChange, Move } from '../stock/stock.module.js';
import type { Build } from './build.entity.js';

/** A build as it is worked on. */
export type BuildRecord = Build;

/** Units of a part at hand: picked into a tote for the build's order, or lying on its bench. */
export interface AtHand {
  productId: string;
  placeId: string;
  lotId: string | null;
  quantity: number;
  partId: string | null;
  stopId: string | null;
  homeId: string | null;
}

/** The part of a move that all of one act share. */
export interface Act {
  why: 'build' | 'scrap' | 'left over';
  reason: string;
}

export function mustBeOpen(build: BuildRecord): void {
  if (build.state !== 'open')
    throw new Forbidden(
      `BU-${build.no} is ${build.state === 'done' ? 'finished' : 'given up'}.`,
      'Plan another build for more.',
    );
}

/** The kit with a SKU and what one of it is made of. */
export function recipeOf(products: Map<string, Product>, sku: string): { kit: Product; parts: RecipePart[] } {
  const kit = [...products.values()].find(p => p.sku === sku);
  if (!kit) throw new NotHere(`The product ${sku}`);
  if (kit.kind !== 'kit')
    throw new Forbidden(
      `${kit.name} is a ${kit.kind}; only kits are built.`,
      kit.kind === 'bundle' ? 'A bundle is gathered when it is picked.' : 'Give it a recipe as a kit first.',
    );
  if (kit.stage === 'Retired') throw new Forbidden(`${kit.name} is retired.`, 'Make it live again first.');
  const parts = stockedParts(kit.id, products);
  if (parts.length === 0)
    throw new Forbidden(`${kit.name} has no recipe that can be built.`, 'Write its recipe first.');
  const retired = parts.map(p => products.get(p.productId)!).find(p => p.stage === 'Retired');
  if (retired)
    throw new Forbidden(
      `Its part ${retired.name} is retired.`,
      'Change the recipe, or make the part live again.',
    );
  return { kit, parts };
}

/** Refuses when what is at hand is not enough, naming the part. */
export function mustSuffice(
  parts: readonly RecipePart[],
  made: number,
  spoiled: readonly { productId: string; quantity: number }[],
  hand: readonly AtHand[],
  products: Map<string, Product>,
): void {
  for (const p of parts) {
    const has = hand.filter(h => h.productId === p.productId).reduce((n, h) => n + h.quantity, 0);
    const scrap = spoiled.filter(s => s.productId === p.productId).reduce((n, s) => n + s.quantity, 0);
    if (p.quantity * made + scrap > has)
      throw new Forbidden(
        `${has} of ${products.get(p.productId)!.name} are at hand; ${p.quantity * made + scrap} would be used.`,
        has === 0 ? 'Pick the parts first.' : 'Finish fewer, or bring more parts.',
      );
  }
}

/** Takes units of a part out of what is at hand; gives from where how many. */
export function takeFrom(hand: AtHand[], productId: string, quantity: number): [AtHand, number][] {
  const taken: [AtHand, number][] = [];
  let left = quantity;
  for (const h of hand) {
    if (h.productId !== productId || left === 0) continue;
    const n = Math.min(left, h.quantity);
    if (n === 0) continue;
    h.quantity -= n;
    left -= n;
    taken.push([h, n]);
  }
  return taken;
}

export const moveOf = (build: BuildRecord, h: AtHand, quantity: number, to: string, act: Act): Move => ({
  productId: h.productId,
  lotId: h.lotId,
  from: h.placeId,
  to,
  quantity,
  why: act.why,
  causeId: build.id,
  reason: act.reason,
});

export const holdOf = (
  build: BuildRecord,
  h: AtHand,
  hold: 'picked' | 'departed',
  change: number,
): HoldChange => ({
  partId: h.partId!,
  orderId: build.orderId!,
  productId: h.productId,
  hold,
  stopId: hold === 'picked' ? h.stopId : null,
  parcelId: null,
  change,
  why: 'build',
});

/** Used parts of the build's order are done with, as if they had left; parts from a bench belong to no order. */
export function usedHolds(build: BuildRecord, h: AtHand, n: number): HoldChange[] {
  return h.partId === null ? [] : [holdOf(build, h, 'picked', -n), holdOf(build, h, 'departed', n)];
}
