import {
  type BenchPiece,
  type CustomsFacts,
  explode,
  type FactsHeld,
  type FactValue,
  type Gathered,
  type ProductStage,
  type RecipePart,
  type ScanProduct,
  type Size,
} from '@auk/core';
import { fromJson } from '../database/db.js';

/** A product with everything that orders, floor and bench need of it. */
export interface Product extends ScanProduct {
  kind: 'piece' | 'kit' | 'bundle';
  stage: ProductStage;
  weightMg: number | null;
  packedWeightMg: number | null;
  size: Size | null;
  /** Its cases by their codes, with size and weight where they were measured. */
  cases: { code: string; units: number; size: Size | null; weightMg: number | null }[];
  facts: Record<string, FactValue>;
  recipe: Gathered;
  kitPolicy: 'stock' | 'stock then parts';
  version: number;
}

/** A row of the product table. */
export interface ProductRecord {
  id: string;
  sku: string;
  name: string;
  kind: Product['kind'];
  stage: Product['stage'];
  weightMg: number | null;
  packedWeightMg: number | null;
  length: number | null;
  width: number | null;
  height: number | null;
  facts: string;
  hint: string | null;
  picture: string | null;
  kitPolicy: Product['kitPolicy'];
  version: number;
}

/** A product without its codes and recipe yet. */
export function fromRecord(r: ProductRecord): Product {
  const size =
    r.length && r.width && r.height ? { length: r.length, width: r.width, height: r.height } : null;
  return {
    id: r.id,
    sku: r.sku,
    name: r.name,
    kind: r.kind,
    stage: r.stage,
    weightMg: r.weightMg,
    packedWeightMg: r.packedWeightMg,
    size,
    facts: fromJson(r.facts),
    hint: r.hint,
    picture: r.picture,
    kitPolicy: r.kitPolicy,
    version: r.version,
    codes: [],
    cases: [],
    recipe: { kind: r.kind, recipeId: null, parts: [] },
  };
}

/** A product as the core tells what is missing of it. */
export const factsHeld = (p: Product): FactsHeld => ({
  kind: p.kind,
  stage: p.stage,
  weightMg: p.weightMg,
  hasSize: p.size !== null,
  barcodes: p.codes.length,
  parts: p.recipe.parts.length,
  picture: p.picture !== null,
  facts: p.facts,
});

/** What one unit of a kit is made of, as it is gathered from stock: bundles broken up, kits inside whole. Empty when its recipe is missing or broken. */
export function stockedParts(kitId: string, products: ReadonlyMap<string, Product>): RecipePart[] {
  const exploded = explode(kitId, 1, id =>
    id === kitId ? { ...products.get(id)!.recipe, kind: 'bundle' } : products.get(id)?.recipe,
  );
  return exploded.ok ? exploded.value : [];
}

/** A product as boxes are planned with it; `measured` counts where the product has no size. */
export function pieceOf(
  { size, weightMg, packedWeightMg, facts }: Product,
  measured: Size | null,
): BenchPiece {
  return {
    size: size ?? measured,
    weightMg: packedWeightMg ?? weightMg ?? 0,
    ...(facts.fragile === true && { fragile: true }),
    ...(facts.upright === true && { upright: true }),
    ...(facts.foldable === true && { foldable: true }),
    ...(facts.alone === true && { alone: true }),
    ...(typeof facts.perParcel === 'number' && { most: facts.perParcel }),
  };
}

const text = (value: unknown): string | null => (typeof value === 'string' && value !== '' ? value : null);

/** What customs, and the carrier of dangerous goods, ask of a product. */
export const customsFacts = ({ facts, weightMg }: Pick<Product, 'facts' | 'weightMg'>): CustomsFacts => ({
  customsCode: text(facts.customsCode),
  origin: text(facts.origin),
  weightMg,
  hazardous: facts.hazardous === true,
  unNumber: text(facts.unNumber),
  hazardClass: text(facts.hazardClass),
  hazardName: text(facts.hazardName),
});

/** The boxes that products prefer, each once. */
export const boxesNamed = (products: readonly Pick<Product, 'facts'>[]): string[] => [
  ...new Set(
    products.flatMap(({ facts: { box } }) =>
      typeof box === 'string' && box.trim() !== '' ? box.trim() : [],
    ),
  ),
];
