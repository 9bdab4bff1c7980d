import type { Gathered, RecipePart } from './explode.js';
import { net } from './net.js';

/** A kit as the list of proposed builds sees it. Units. */
export interface KitNeed {
  productId: string;
  /** Wanted by open orders and promised by nothing yet. */
  unserved: number;
  /** Fewest that shall lie there free. */
  least: number;
  free: number;
  /** Already on builds that are not finished. */
  building: number;
  /** Lower is more urgent. */
  priority: number;
}

/** A build that should be made, and how many of it the free parts allow beside the more urgent ones before it. */
export interface ProposedBuild {
  productId: string;
  quantity: number;
  now: number;
  limits: RecipePart[];
}

/**
 * Proposes builds: what open orders lack, and what lies under the least stock, less what is being built. The most urgent takes
 * shared parts first (ties by product). Kits inside kits are counted from stock only: each is proposed by itself.
 */
export function proposeBuilds(
  kits: readonly KitNeed[],
  free: (productId: string) => number,
  look: (id: string) => Gathered | undefined,
): ProposedBuild[] {
  const used = new Map<string, number>();
  const left = (id: string) => Math.max(0, free(id) - (used.get(id) ?? 0));
  const order = [...kits].sort(
    (a, b) => a.priority - b.priority || (a.productId < b.productId ? -1 : a.productId > b.productId ? 1 : 0),
  );
  return order.flatMap(kit => {
    const quantity = Math.max(0, kit.unserved + Math.max(0, kit.least - kit.free) - kit.building);
    const recipe = look(kit.productId);
    if (quantity === 0 || !recipe || recipe.parts.length === 0) return [];
    const parts = flat(recipe.parts, look);
    const now = Math.min(quantity, ...parts.map(p => Math.floor(left(p.productId) / p.quantity)));
    const limits = parts
      .map(p => ({ productId: p.productId, quantity: p.quantity * quantity - left(p.productId) }))
      .filter(p => p.quantity > 0);
    for (const p of parts) used.set(p.productId, (used.get(p.productId) ?? 0) + p.quantity * now);
    return [{ productId: kit.productId, quantity, now, limits }];
  });
}

/** Parts of one kit as they are picked for a build: bundles broken up, kits whole. */
function flat(parts: readonly RecipePart[], look: (id: string) => Gathered | undefined): RecipePart[] {
  const asStocked = (id: string): Gathered | undefined => {
    const thing = look(id);
    return thing && thing.kind !== 'bundle' ? { ...thing, kind: 'piece', parts: [] } : thing;
  };
  const netted = net(parts, () => 0, asStocked);
  return netted.ok ? [...netted.value.short].map(([productId, quantity]) => ({ productId, quantity })) : [];
}
