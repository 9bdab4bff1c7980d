import { fail, ok, type Result } from '../result.js';

/** One part of a recipe: a product and how many of it one kit or bundle takes (whole, positive). */
export interface RecipePart {
  productId: string;
  quantity: number;
}

/** How a sellable is gathered: `piece` and `kit` have stock of their own, a `bundle` only its recipe. */
export interface Gathered {
  kind: 'piece' | 'kit' | 'bundle';
  recipeId: string | null;
  parts: readonly RecipePart[];
}

export type ExplodeProblem =
  | { code: 'loop'; path: string[] }
  | { code: 'unknown-part'; productId: string }
  | { code: 'no-recipe'; productId: string };

/**
 * Breaks a quantity of a sellable into what is gathered from stock: bundles into their parts, at any depth; kits and pieces stay
 * whole. Parts reached twice are added. Order: first reached first.
 */
export function explode(
  productId: string,
  quantity: number,
  look: (id: string) => Gathered | undefined,
): Result<RecipePart[], ExplodeProblem> {
  const sum = new Map<string, number>();
  const problem = walk(productId, quantity, look, [], sum);
  return problem ? fail(problem) : ok([...sum].map(([id, n]) => ({ productId: id, quantity: n })));
}

function walk(
  id: string,
  quantity: number,
  look: (id: string) => Gathered | undefined,
  above: readonly string[],
  sum: Map<string, number>,
): ExplodeProblem | null {
  if (above.includes(id)) return { code: 'loop', path: [...above.slice(above.indexOf(id)), id] };
  const thing = look(id);
  if (!thing) return { code: 'unknown-part', productId: id };
  if (thing.kind !== 'bundle') {
    sum.set(id, (sum.get(id) ?? 0) + quantity);
    return null;
  }
  if (thing.parts.length === 0) return { code: 'no-recipe', productId: id };
  for (const part of thing.parts) {
    const problem = walk(part.productId, quantity * part.quantity, look, [...above, id], sum);
    if (problem) return problem;
  }
  return null;
}

/** Makeable quantity of a simple recipe: the least of floor(free / needed); 0 for an empty recipe. Example: 10 of each of four parts give 10. */
export function makeable(parts: readonly RecipePart[], free: (productId: string) => number): number {
  if (parts.length === 0) return 0;
  return Math.max(0, Math.min(...parts.map(p => Math.floor(free(p.productId) / p.quantity))));
}
