import { ok, type Result } from '../result.js';
import type { Gathered, RecipePart } from './explode.js';
import { type FreeUnits, type NetProblem, net } from './net.js';

/** How many of a kit or bundle there can be. Units. */
export interface Available {
  /** Of its own stock, free. A bundle has none. */
  own: number;
  /** That could be made from free parts, beside its own. */
  makeable: number;
  /** What one more would lack: the parts that limit it. */
  limits: RecipePart[];
}

type Look = (id: string) => Gathered | undefined;

/**
 * The largest number of a sellable whose netted explosion fits free stock, apart into own stock and makeable ones, with the parts
 * that limit it. With a simple recipe this is the least of floor(part free / needed).
 * Example: 10 of each of four parts give 10 packs; one shipped, 9 of each remain and give 9.
 */
export function available(productId: string, free: FreeUnits, look: Look): Result<Available, NetProblem> {
  const own = look(productId)?.kind === 'bundle' ? 0 : Math.max(0, free(productId));
  const most = largest(n => fits([{ productId, quantity: n }], free, look));
  const next = net([{ productId, quantity: most + 1 }], free, look);
  if (!next.ok && next.problem.code !== 'too-many') return next;
  return ok({ own, makeable: Math.max(0, most - own), limits: next.ok ? listOf(next.value.short) : [] });
}

/** What is missing to have `quantity` of a sellable, own stock and makeable ones counted. Nothing when it can be had. */
export function missingFor(
  productId: string,
  quantity: number,
  free: FreeUnits,
  look: Look,
): Result<RecipePart[], NetProblem> {
  const netted = net([{ productId, quantity }], free, look);
  return netted.ok ? ok(listOf(netted.value.short)) : netted;
}

/** Whether all wishes together can be promised; if not, at which wish what runs out. */
export type JointPromise =
  | { yes: true; builds: RecipePart[] }
  | {
      yes: false;
      /** Index of the first wish that does not fit beside those before it, and how many of it would. */
      at: number;
      fits: number;
      /** What one more than fits would lack: the parts that run out first. */
      runsOut: RecipePart[];
      /** What all of the wish lacks. */
      short: RecipePart[];
    };

/**
 * Whether wished quantities of several sellables can be promised together, shared parts counted once. Wishes are met in their
 * order: the answer names the first that does not fit whole beside those before it. `builds` are the kits that must be made for a yes.
 */
export function promiseTogether(
  wishes: readonly RecipePart[],
  free: FreeUnits,
  look: Look,
): Result<JointPromise, NetProblem> {
  let builds: RecipePart[] = [];
  for (const [at, wish] of wishes.entries()) {
    const before = wishes.slice(0, at);
    const netted = net([...before, wish], free, look);
    if (!netted.ok) return netted;
    if (netted.value.short.size > 0) {
      const most = largest(n => fits([...before, { ...wish, quantity: n }], free, look));
      const next = net([...before, { ...wish, quantity: most + 1 }], free, look);
      const runsOut = next.ok ? listOf(next.value.short) : [];
      return ok({ yes: false, at, fits: most, runsOut, short: listOf(netted.value.short) });
    }
    builds = listOf(netted.value.builds);
  }
  return ok({ yes: true, builds });
}

/** Free stock after open wants are served too: what each product has left. Kits that were counted on being made use up their parts. */
export function freeAfter(wants: readonly RecipePart[], free: FreeUnits, look: Look): FreeUnits {
  const netted = net(wants, free, look);
  if (!netted.ok) return free;
  return id => Math.max(0, free(id)) - (netted.value.taken.get(id) ?? 0);
}

function fits(wishes: readonly RecipePart[], free: FreeUnits, look: Look): boolean {
  const netted = net(wishes, free, look);
  return netted.ok && netted.value.short.size === 0;
}

/** The largest whole number that passes; `passes` holds up to some number and never again after it. */
function largest(passes: (n: number) => boolean): number {
  let over = 1;
  while (over < Number.MAX_SAFE_INTEGER / 4 && passes(over)) over *= 2;
  let under = Math.floor(over / 2);
  while (over - under > 1) {
    const middle = Math.floor((under + over) / 2);
    if (passes(middle)) under = middle;
    else over = middle;
  }
  return under;
}

const listOf = (units: ReadonlyMap<string, number>): RecipePart[] =>
  [...units].map(([productId, quantity]) => ({ productId, quantity }));
