import { type FactRow, folded, placeOf } from './compile.js';
import { type Comparison, type Condition, groupOf } from './condition.js';
import { type Fact, fieldSpec } from './fields.js';
import { readNumber, readWords } from './literals.js';

/**
 * Which rules of a book may act on an order, found without asking each rule. Rules are kept by comparisons of facts that no row changes:
 * by one without which their condition cannot hold, and by those of which any is enough for it. So one look at a fact finds all rules that
 * it lets pass. Bits stand for rules by their places, in words of 32.
 */
export interface Candidates {
  /** What is found is good until the next order is asked about. */
  of(row: FactRow): Found;
}
export interface Found {
  /** Rules that may act. */
  may: Bits;
  /** Those of them whose conditions hold, so that they need not be asked. */
  sure: Bits;
}
export type Bits = Uint32Array;

/** Finds the rules that one fact lets pass. */
interface Shelf {
  at: number;
  find(fact: Fact | undefined): Bits | null;
}

/** Prepares the conditions of a book, by their places; null for a rule that is asked of every order. */
export function candidatesOf(conditions: readonly (Condition | null)[], currency: string): Candidates {
  const size = Math.ceil(conditions.length / 32);
  const asked = new Uint32Array(size);
  const [needed, enough] = [new Map<string, Kept[]>(), new Map<string, Kept[]>()];
  const keep = (by: Map<string, Kept[]>, rule: number, comparisons: readonly Comparison[]) => {
    for (const comparison of comparisons) {
      const key = `${comparison.field} ${familyOf(comparison)}`;
      by.set(key, [...(by.get(key) ?? []), { rule, comparison }]);
    }
  };
  conditions.forEach((condition, rule) => {
    const suffices = condition ? enoughOf(condition, currency) : [];
    const wants = condition && neededOf(condition, currency);
    keep(enough, rule, suffices);
    if (!wants) mark(asked, rule);
    else if (wants.some(c => !suffices.includes(c))) keep(needed, rule, wants);
  });
  const shelves = (by: Map<string, Kept[]>) => [...by.values()].map(all => shelfOf(all, size, currency));
  const [must, will] = [shelves(needed), shelves(enough)];
  const found: Found = { may: new Uint32Array(size), sure: new Uint32Array(size) };
  return {
    of: row => {
      found.sure.fill(0);
      found.may.set(asked);
      lookUp(will, row, found.sure);
      lookUp(must, row, found.may);
      add(found.may, found.sure);
      return found;
    },
  };
}

function lookUp(shelves: readonly Shelf[], row: FactRow, into: Bits): void {
  for (let i = 0; i < shelves.length; i++) {
    const more = shelves[i]!.find(row[shelves[i]!.at]);
    if (more) add(into, more);
  }
}

function add(into: Bits, more: Bits): void {
  for (let i = 0; i < into.length; i++) into[i]! |= more[i]!;
}

/** A rule, and the comparison that it is kept by. */
interface Kept {
  rule: number;
  comparison: Comparison;
}

const mark = (bits: Bits, rule: number): void => {
  bits[rule >>> 5]! |= 1 << (rule & 31);
};

/** Comparisons one of which must hold for a condition to hold; null where none can be kept. Of several parts that must all hold, the one that fewest pass. */
function neededOf(condition: Condition, currency: string): Comparison[] | null {
  const group = groupOf(condition);
  if (!group) return rankOf(condition as Comparison, currency) === null ? null : [condition as Comparison];
  if (group.kind === 'none') return null;
  const parts = group.parts.map(p => neededOf(p, currency));
  const known = parts.flatMap(p => (p ? [p] : []));
  if (group.kind === 'any') return known.length < parts.length || known.length === 0 ? null : known.flat();
  const rank = (all: readonly Comparison[]) => Math.max(...all.map(c => rankOf(c, currency)!));
  return known.sort((a, b) => rank(a) - rank(b))[0] ?? null;
}

/** Comparisons each of which is enough for a condition to hold. */
function enoughOf(condition: Condition, currency: string): Comparison[] {
  const group = groupOf(condition);
  if (!group) return rankOf(condition as Comparison, currency) === null ? [] : [condition as Comparison];
  const one = group.parts.length === 1 && group.kind === 'all';
  return group.kind === 'any' || one ? group.parts.flatMap(p => enoughOf(p, currency)) : [];
}

/** How few orders pass a comparison, as a rule: the fewest first. Null for what cannot be kept. */
function rankOf(c: Comparison, currency: string): number | null {
  const spec = fieldSpec(c.field);
  if (!spec || spec.changes || placeOf(c.field) === undefined) return null;
  if (spec.kind === 'flag') return 4;
  if (spec.kind === 'choice' || spec.kind === 'text' || spec.kind === 'words') {
    if (!readWords(c.value).ok) return null;
    return { 'begins with': 0, 'one of': 1, 'has any of': 2 }[c.is as string] ?? null;
  }
  return readNumber(spec.kind, c.value, currency).ok ? (c.is === 'is' ? 0 : 3) : null;
}

/** Comparisons of a field that are looked up in one way. */
function familyOf({ is }: Comparison): string {
  return is === 'yes' || is === 'no' ? 'flag' : is;
}

function shelfOf(all: readonly Kept[], size: number, currency: string): Shelf {
  const { field, is } = all[0]!.comparison;
  const at = placeOf(field);
  const { kind } = fieldSpec(field)!;
  if (kind === 'flag') return { at, find: byValue(all, size, c => [c.is === 'yes']) };
  if (kind === 'choice' || kind === 'text' || kind === 'words') {
    const words = byValue(all, size, wordsOf);
    if (is === 'one of') return { at, find: words };
    if (is === 'begins with') return { at, find: byBeginning(all, size, words) };
    return { at, find: union(size, words) };
  }
  const number = (c: Comparison) => {
    const read = readNumber(kind, c.value, currency);
    return read.ok ? read.value : Number.NaN;
  };
  if (is === 'is') return { at, find: byValue(all, size, c => [number(c)]) };
  return { at, find: byLimit(all, size, number) };
}

function wordsOf(c: Comparison): string[] {
  const read = readWords(c.value);
  return read.ok ? read.value.map(folded) : [];
}

type Find = Shelf['find'];

/** Rules by the values that let them pass. */
function byValue(all: readonly Kept[], size: number, valuesOf: (c: Comparison) => Fact[]): Find {
  const found = new Map<Fact | undefined, Bits>();
  for (const { rule, comparison } of all)
    for (const value of valuesOf(comparison)) {
      const bits = found.get(value) ?? new Uint32Array(size);
      found.set(value, bits);
      mark(bits, rule);
    }
  return fact => found.get(fact) ?? null;
}

/** Rules by how a text begins: looked up at each length that some rule asks for. */
function byBeginning(all: readonly Kept[], size: number, words: Find): Find {
  const lengths = [...new Set(all.flatMap(({ comparison }) => wordsOf(comparison).map(w => w.length)))];
  const beginnings = union(size, words);
  return fact => (typeof fact === 'string' ? beginnings(lengths.map(n => fact.slice(0, n))) : null);
}

/** What any word of a list lets pass. */
function union(size: number, words: Find): Find {
  const found = new Uint32Array(size);
  return fact => {
    if (!Array.isArray(fact)) return null;
    found.fill(0);
    for (const word of fact as readonly string[]) {
      const more = words(word);
      if (more) add(found, more);
    }
    return found;
  };
}

/** Rules by a limit: sorted so that those which a number passes come first, and for each number of them all that are passed. */
function byLimit(all: readonly Kept[], size: number, limitOf: (c: Comparison) => number): Find {
  const { is } = all[0]!.comparison;
  const upwards = is === 'over' || is === 'at least';
  const limits = all
    .map(({ rule, comparison }) => ({ rule, n: limitOf(comparison) }))
    .sort((a, b) => (upwards ? a.n - b.n : b.n - a.n));
  const passed: Bits[] = [new Uint32Array(size)];
  for (const { rule } of limits) {
    const bits = passed.at(-1)!.slice();
    mark(bits, rule);
    passed.push(bits);
  }
  const passes = {
    over: (fact: number, n: number) => fact > n,
    'at least': (fact: number, n: number) => fact >= n,
    under: (fact: number, n: number) => fact < n,
    'at most': (fact: number, n: number) => fact <= n,
  }[is as 'over'];
  return fact => {
    if (typeof fact !== 'number') return null;
    let [low, high] = [0, limits.length];
    while (low < high) {
      const middle = (low + high) >>> 1;
      if (passes(fact, limits[middle]!.n)) low = middle + 1;
      else high = middle;
    }
    return passed[low]!;
  };
}
