/** A move of the ledger: units of a product (and lot, '' for none) from one place to another. */
export interface LedgerMove {
  productId: string;
  lot: string;
  from: string;
  to: string;
  quantity: number;
}

/** A hold's change: units of a part that enter (positive) or leave (negative) a hold; a listed one names where it lies. */
export interface LedgerHold {
  part: string;
  productId: string;
  hold: 'soft' | 'listed' | 'picked' | 'sorted' | 'packed' | 'departed';
  change: number;
  at?: { place: string; lot: string };
}

/** How goods in a kind of place count: `promised` may be promised to orders, `bounded` may never owe. */
export interface PlaceNature {
  promised: boolean;
  bounded: boolean;
}

/** Everything that follows from the ledger. Keys are texts: product|place|lot, product, part|hold. */
export interface Book {
  onHand: Map<string, number>;
  listed: Map<string, number>;
  promisable: Map<string, number>;
  reserved: Map<string, number>;
  held: Map<string, number>;
}

/** What forbids a change of the book, and where. */
export interface LedgerProblem {
  code: 'takes-more-than-lies-there' | 'reserved-above-on-hand' | 'listed-above-on-hand' | 'hold-below-zero';
  where: string;
}

/** A book in which nothing has happened. */
export const emptyBook = (): Book => ({
  onHand: new Map(),
  listed: new Map(),
  promisable: new Map(),
  reserved: new Map(),
  held: new Map(),
});

const balanceKey = (product: string, place: string, lot: string) => `${product}|${place}|${lot}`;
const RESERVING = new Set(['soft', 'listed']);

/**
 * Posts moves and holds into a book, all or nothing: the book is changed in place, or left as it was and the first problem told.
 * Invariants: no bounded place owes; what is listed of a place lies there; what is reserved of a product is on hand in promised
 * places; no hold is negative. These are the rules that the database's checks say, as plain code.
 */
export function post(
  book: Book,
  change: { moves?: readonly LedgerMove[]; holds?: readonly LedgerHold[] },
  nature: (place: string) => PlaceNature,
): LedgerProblem | null {
  const undo: [map: Map<string, number>, key: string, before: number | undefined][] = [];
  const add = (map: Map<string, number>, key: string, n: number) => {
    const before = map.get(key);
    undo.push([map, key, before]);
    map.set(key, (before ?? 0) + n);
  };
  const balances = new Map<string, string>();
  const products = new Set<string>();
  for (const m of change.moves ?? []) {
    for (const [place, n] of [
      [m.from, -m.quantity],
      [m.to, m.quantity],
    ] as const) {
      const key = balanceKey(m.productId, place, m.lot);
      add(book.onHand, key, n);
      balances.set(key, place);
      if (nature(place).promised) add(book.promisable, m.productId, n);
    }
    products.add(m.productId);
  }
  const holds = new Set<string>();
  for (const h of change.holds ?? []) {
    const key = `${h.part}|${h.hold}`;
    add(book.held, key, h.change);
    holds.add(key);
    products.add(h.productId);
    if (RESERVING.has(h.hold)) add(book.reserved, h.productId, h.change);
    if (h.hold === 'listed') {
      const at = balanceKey(h.productId, h.at!.place, h.at!.lot);
      add(book.listed, at, h.change);
      balances.set(at, h.at!.place);
    }
  }
  const problem = firstProblem(book, balances, products, holds, nature);
  if (problem)
    for (const [map, key, before] of undo.reverse())
      if (before === undefined) map.delete(key);
      else map.set(key, before);
  return problem;
}

function firstProblem(
  book: Book,
  balances: ReadonlyMap<string, string>,
  products: ReadonlySet<string>,
  holds: ReadonlySet<string>,
  nature: (place: string) => PlaceNature,
): LedgerProblem | null {
  for (const [where, place] of balances) {
    const [onHand, listed] = [book.onHand.get(where) ?? 0, book.listed.get(where) ?? 0];
    if (!nature(place).bounded) continue;
    if (onHand < 0) return { code: 'takes-more-than-lies-there', where };
    if (listed < 0 || listed > onHand) return { code: 'listed-above-on-hand', where };
  }
  for (const where of products) {
    const reserved = book.reserved.get(where) ?? 0;
    if (reserved < 0 || reserved > (book.promisable.get(where) ?? 0))
      return { code: 'reserved-above-on-hand', where };
  }
  for (const where of holds) if ((book.held.get(where) ?? 0) < 0) return { code: 'hold-below-zero', where };
  return null;
}

/** A product's units by place and lot, folded from its moves in any order. Places that come to nothing are left out. */
export function foldMoves(moves: Iterable<LedgerMove>): Map<string, number> {
  const sums = new Map<string, number>();
  for (const m of moves) {
    const [from, to] = [balanceKey(m.productId, m.from, m.lot), balanceKey(m.productId, m.to, m.lot)];
    sums.set(from, (sums.get(from) ?? 0) - m.quantity);
    sums.set(to, (sums.get(to) ?? 0) + m.quantity);
  }
  for (const [key, n] of sums) if (n === 0) sums.delete(key);
  return sums;
}
