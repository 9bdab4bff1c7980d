import type { Gathered, RecipePart } from './explode.js';

/** Most levels of recipes within recipes; deeper ones are taken for a mistake. */
export const DEEPEST_RECIPE = 50;

/** Why a recipe is refused. `path` spells a loop out, from the product back to itself. */
export type RecipeProblem =
  | { code: 'empty' }
  | { code: 'bad-quantity'; productId: string; quantity: number }
  | { code: 'twice'; productId: string }
  | { code: 'unknown-part'; productId: string }
  | { code: 'retired-part'; productId: string }
  | { code: 'loop'; path: string[] }
  | { code: 'too-deep'; levels: number };

/** What judging a recipe needs of a product that may be its part. */
export interface PartFacts extends Gathered {
  retired: boolean;
}

/**
 * Judges the parts of a kit's or bundle's new recipe: some parts, each named once, known, not retired, in whole positive units; the
 * product nowhere inside itself; at most DEEPEST_RECIPE levels. Null when all is well.
 */
export function checkRecipe(
  productId: string,
  parts: readonly RecipePart[],
  look: (id: string) => PartFacts | undefined,
): RecipeProblem | null {
  if (parts.length === 0) return { code: 'empty' };
  const named = new Set<string>();
  for (const { productId: part, quantity } of parts) {
    if (!Number.isSafeInteger(quantity) || quantity < 1)
      return { code: 'bad-quantity', productId: part, quantity };
    if (named.has(part)) return { code: 'twice', productId: part };
    named.add(part);
    const facts = look(part);
    if (!facts) return { code: 'unknown-part', productId: part };
    if (facts.retired) return { code: 'retired-part', productId: part };
  }
  const partsOf = (id: string) => (id === productId ? parts : (look(id)?.parts ?? []));
  const loop = findLoop(productId, partsOf);
  if (loop) return { code: 'loop', path: loop };
  const levels = depth(productId, partsOf);
  return levels > DEEPEST_RECIPE ? { code: 'too-deep', levels } : null;
}

type PartsOf = (id: string) => readonly RecipePart[];

/** The way from a product back to itself, or null. Each product is looked into once. */
function findLoop(productId: string, partsOf: PartsOf): string[] | null {
  const seen = new Set<string>();
  const walk = (id: string, path: string[]): string[] | null => {
    for (const part of partsOf(id)) {
      if (part.productId === productId) return [...path, productId];
      if (seen.has(part.productId)) continue;
      seen.add(part.productId);
      const found = walk(part.productId, [...path, part.productId]);
      if (found) return found;
    }
    return null;
  };
  return walk(productId, [productId]);
}

function depth(productId: string, partsOf: PartsOf): number {
  const known = new Map<string, number>();
  const walk = (id: string): number => {
    const before = known.get(id);
    if (before !== undefined) return before;
    const parts = partsOf(id);
    const levels = parts.length === 0 ? 0 : 1 + Math.max(...parts.map(p => walk(p.productId)));
    known.set(id, levels);
    return levels;
  };
  return walk(productId);
}

/** A part that one version of a recipe has otherwise than another. */
export interface RecipeChange {
  productId: string;
  before: number;
  after: number;
}

/** What differs between two versions of a recipe: quantities by part, 0 where it is not in one of them. Same parts in another order differ in nothing. */
export function recipeChanges(before: readonly RecipePart[], after: readonly RecipePart[]): RecipeChange[] {
  const units = (parts: readonly RecipePart[]) => new Map(parts.map(p => [p.productId, p.quantity]));
  const [was, is] = [units(before), units(after)];
  return [...new Set([...was.keys(), ...is.keys()])]
    .map(productId => ({ productId, before: was.get(productId) ?? 0, after: is.get(productId) ?? 0 }))
    .filter(c => c.before !== c.after);
}
