import { fail, ok, type Result } from '../result.js';
import type { ExplodeProblem, Gathered, RecipePart } from './explode.js';

/** Units free to use, by product. Products not told have none. */
export type FreeUnits = (productId: string) => number;

/** What a wish comes to when stock of each level is used before its parts: units taken from stock, kits to make, and what is short. */
export interface Netted {
  taken: Map<string, number>;
  builds: Map<string, number>;
  short: Map<string, number>;
}

export type NetProblem = ExplodeProblem | { code: 'too-many'; productId: string };

/**
 * Nets wished quantities (units, added where named twice) against free stock, level by level as bills of materials are netted in
 * materials planning: a product's whole need is known before it is met, its own stock is used first, and only the rest asks for its
 * parts. Using stock first is never worse than making anew, so nothing is short exactly when some plan serves all wishes.
 * Bundles have no stock; a kit without recipe is short like a piece. Example: 180 of one A and two B, 219 B free, gives 141 B short.
 */
export function net(
  wishes: readonly RecipePart[],
  free: FreeUnits,
  look: (id: string) => Gathered | undefined,
): Result<Netted, NetProblem> {
  const order = wholeNeedsFirst(
    wishes.map(w => w.productId),
    look,
  );
  if (!order.ok) return order;
  const need = new Map<string, number>();
  for (const w of wishes) need.set(w.productId, (need.get(w.productId) ?? 0) + w.quantity);
  const netted: Netted = { taken: new Map(), builds: new Map(), short: new Map() };
  for (const id of order.value) {
    const rest = fromStock(id, need.get(id) ?? 0, free, look(id)!, netted);
    if (rest === 0) continue;
    for (const part of look(id)!.parts) {
      const sum = (need.get(part.productId) ?? 0) + rest * part.quantity;
      if (!Number.isSafeInteger(sum)) return fail({ code: 'too-many', productId: part.productId });
      need.set(part.productId, sum);
    }
  }
  return ok(netted);
}

/** Meets a need from stock; the rest is made (returned, asks for parts) or short (returned as 0). */
function fromStock(id: string, need: number, free: FreeUnits, thing: Gathered, netted: Netted): number {
  if (thing.kind === 'bundle') return need;
  const taken = Math.min(need, Math.max(0, free(id)));
  if (taken > 0) netted.taken.set(id, taken);
  const rest = need - taken;
  if (rest === 0) return 0;
  const makes = thing.kind === 'kit' && thing.parts.length > 0;
  (makes ? netted.builds : netted.short).set(id, rest);
  return makes ? rest : 0;
}

/** All products that the roots reach, each before its parts (a depth-first order, turned round). */
function wholeNeedsFirst(
  roots: readonly string[],
  look: (id: string) => Gathered | undefined,
): Result<string[], ExplodeProblem> {
  const done = new Set<string>();
  const above: string[] = [];
  const order: string[] = [];
  const visit = (id: string): ExplodeProblem | null => {
    if (done.has(id)) return null;
    if (above.includes(id)) return { code: 'loop', path: [...above.slice(above.indexOf(id)), id] };
    const thing = look(id);
    if (!thing) return { code: 'unknown-part', productId: id };
    if (thing.kind === 'bundle' && thing.parts.length === 0) return { code: 'no-recipe', productId: id };
    above.push(id);
    for (const part of thing.kind === 'piece' ? [] : thing.parts) {
      const problem = visit(part.productId);
      if (problem) return problem;
    }
    above.pop();
    done.add(id);
    order.push(id);
    return null;
  };
  for (const id of roots) {
    const problem = visit(id);
    if (problem) return fail(problem);
  }
  return ok(order.reverse());
}
