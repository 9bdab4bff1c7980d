import { fieldSpec, type Op } from './fields.js';

/**
 * One comparison: a field, how, and with what. Numbers of things stand as they are, what has a unit as it was typed ("40 lb", "25 in",
 * "60.00", "2 h"), words in a list; yes and no need nothing more.
 */
export interface Comparison {
  field: string;
  is: Op;
  value?: string | number | readonly string[];
}

/** What must hold. `all` of nothing always holds. */
export type Condition =
  | Comparison
  | { all: readonly Condition[] }
  | { any: readonly Condition[] }
  | { none: readonly Condition[] };

export const ALWAYS: Condition = { all: [] };

/** Deepest nesting of conditions that is taken. */
export const MOST_NESTED = 8;

/** The parts of a group and which kind it is; null for a single comparison. */
export function groupOf(c: Condition): { kind: 'all' | 'any' | 'none'; parts: readonly Condition[] } | null {
  if ('all' in c) return { kind: 'all', parts: c.all };
  if ('any' in c) return { kind: 'any', parts: c.any };
  if ('none' in c) return { kind: 'none', parts: c.none };
  return null;
}

/** All comparisons of a condition, from left to right. */
export function comparisonsOf(c: Condition): Comparison[] {
  const group = groupOf(c);
  return group ? group.parts.flatMap(comparisonsOf) : [c as Comparison];
}

/** Whether a condition asks for something that is known only where prices are. */
export const asksPrice = (c: Condition): boolean =>
  comparisonsOf(c).some(({ field }) => fieldSpec(field)?.priced === true);

/**
 * The same condition without what says nothing: a group of one is that one, groups within a group of their kind are one. Sentences are
 * printed from this form, so that reading one gives it back.
 */
export function plain(c: Condition): Condition {
  const group = groupOf(c);
  if (!group) return c;
  const parts = group.parts.map(plain);
  if (group.kind === 'none') return { none: parts.flatMap(p => ('any' in p ? p.any : [p])) };
  const flat = parts.flatMap(p =>
    group.kind === 'all' ? ('all' in p ? p.all : [p]) : 'any' in p ? p.any : [p],
  );
  if (flat.length === 1) return flat[0]!;
  return group.kind === 'all' ? { all: flat } : { any: flat };
}
