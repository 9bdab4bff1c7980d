import fc from 'fast-check';
import { expect, test } from 'vitest';
import { emptyBook, foldMoves, type LedgerHold, type LedgerMove, post } from './ledger.js';
import { proposeCounts } from './proposeCounts.js';
import { proposePutAway } from './putAway.js';
import { withdraw } from './withdraw.js';

const BINS = ['b1', 'b2', 'b3'];
const nature = (place: string) => ({
  promised: BINS.includes(place),
  bounded: place !== 'outside' && place !== 'missing',
});

test('what is not there cannot be taken, and nothing of the change stays', () => {
  const book = emptyBook();
  const move = (from: string, to: string, quantity: number): LedgerMove => ({
    productId: 'p',
    lot: '',
    from,
    to,
    quantity,
  });
  expect(post(book, { moves: [move('outside', 'b1', 5)] }, nature)).toBeNull();
  expect(post(book, { moves: [move('b1', 'b2', 3), move('b1', 'b3', 3)] }, nature)).toEqual({
    code: 'takes-more-than-lies-there',
    where: 'p|b1|',
  });
  expect(book.onHand.get('p|b1|')).toBe(5);
  expect(book.onHand.has('p|b2|')).toBe(false);
  const hold: LedgerHold = { part: 'o', productId: 'p', hold: 'soft', change: 6 };
  expect(post(book, { holds: [hold] }, nature)).toMatchObject({ code: 'reserved-above-on-hand' });
});

/** A seeded source of whole numbers below n; the same seed gives the same run. */
function dice(seed: number): (n: number) => number {
  let x = seed >>> 0;
  return n => {
    x = (Math.imul(x, 1_664_525) + 1_013_904_223) >>> 0;
    return Math.floor((x / 2 ** 32) * n);
  };
}

/** Any operation of the house on a small world; most are possible, some must be refused. */
function operation(roll: (n: number) => number): { moves?: LedgerMove[]; holds?: LedgerHold[] } {
  const productId = `p${roll(3)}`;
  const lot = roll(2) ? '' : `L${roll(2)}`;
  const bin = BINS[roll(3)]!;
  const part = `${productId} o${roll(6)}`;
  const quantity = 1 + roll(4);
  const move = (from: string, to: string): LedgerMove => ({ productId, lot, from, to, quantity });
  const hold = (name: LedgerHold['hold'], change: number): LedgerHold => ({
    part,
    productId,
    hold: name,
    change,
    ...(name === 'listed' && { at: { place: bin, lot } }),
  });
  switch (roll(12)) {
    case 0:
    case 1:
      return { moves: [move('outside', bin)] };
    case 2:
      return { moves: [move(bin, BINS[roll(3)]!)].filter(m => m.from !== m.to) };
    case 3:
      return { moves: [move(bin, 'quarantine')] };
    case 4:
      return { moves: [roll(2) ? move(bin, 'missing') : move('missing', bin)] };
    case 5:
      return { holds: [hold('soft', quantity)] };
    case 6:
      return { holds: [hold('soft', -quantity)] };
    case 7:
      return { holds: [hold('soft', -quantity), hold('listed', quantity)] };
    case 8:
      return { moves: [move(bin, 'tote')], holds: [hold('listed', -quantity), hold('picked', quantity)] };
    case 9:
      return {
        moves: [move('tote', 'parcel')],
        holds: [hold('picked', -quantity), hold('packed', quantity)],
      };
    case 10:
      return {
        moves: [move('parcel', 'outside')],
        holds: [hold('packed', -quantity), hold('departed', quantity)],
      };
    default:
      return {
        moves: [move('tote', 'made'), { ...move('made', bin), productId: `p${roll(3)}` }],
        holds: [hold('picked', -quantity), hold('departed', quantity)],
      };
  }
}

test('1,000,000 random operations keep every invariant, and the book is the fold of what was posted', () => {
  const roll = dice(20_261_123);
  let posted = 0;
  for (let world = 0; world < 20; world++) {
    const book = emptyBook();
    const moves: LedgerMove[] = [];
    // Building makes kits out of nothing that lies there, so the place of making may owe, as the outside may.
    const natureHere = (place: string) => ({
      ...nature(place),
      bounded: nature(place).bounded && place !== 'made',
    });
    for (let i = 0; i < 50_000; i++) {
      const change = operation(roll);
      if (post(book, change, natureHere) === null) {
        posted++;
        moves.push(...(change.moves ?? []));
      }
      if (i % 5_000 === 4_999) {
        for (const [key, n] of book.onHand) {
          const bounded = natureHere(key.split('|')[1]!).bounded;
          if (bounded && (n < 0 || n < (book.listed.get(key) ?? 0))) throw new Error(key);
        }
        for (const [product, n] of book.reserved)
          if (n < 0 || n > (book.promisable.get(product) ?? 0)) throw new Error(product);
        for (const [key, n] of book.held) if (n < 0) throw new Error(key);
      }
    }
    const stored = new Map([...book.onHand].filter(([, n]) => n !== 0));
    const folded = foldMoves(moves);
    expect(new Map([...folded].sort())).toEqual(new Map([...stored].sort()));
    // Nothing is lost or doubled: all places of a product together hold nothing, because what is outside is owed.
    const sums = new Map<string, number>();
    for (const [key, n] of folded) sums.set(key.split('|')[0]!, (sums.get(key.split('|')[0]!) ?? 0) + n);
    expect([...sums.values()].every(n => n === 0)).toBe(true);
  }
  expect(posted).toBeGreaterThan(300_000);
}, 60_000);

test('the newest promise is taken back first, exactly as much as is wanted', () => {
  const promises = [
    { key: 'old', quantity: 3, since: 1 },
    { key: 'new', quantity: 2, since: 9 },
    { key: 'middle', quantity: 4, since: 5 },
  ];
  expect(withdraw(promises, 4)).toEqual([
    { key: 'new', units: 2 },
    { key: 'middle', units: 2 },
  ]);
  fc.assert(
    fc.property(
      fc.uniqueArray(fc.record({ key: fc.string(), quantity: fc.nat(9), since: fc.nat(99) }), {
        selector: p => p.key,
      }),
      fc.nat(60),
      (list, units) => {
        const taken = withdraw(list, units);
        const all = list.reduce((n, p) => n + p.quantity, 0);
        return taken.reduce((n, t) => n + t.units, 0) === Math.min(units, all);
      },
    ),
  );
});

test('counts are proposed by errors and by value that lay long uncounted', () => {
  const thing = { onHand: 10, valueMinor: 1_000, daysSinceCount: 30, errors: 0 };
  const proposed = proposeCounts(
    [
      { ...thing, key: 'cheap', valueMinor: 10 },
      { ...thing, key: 'dear', valueMinor: 90_000 },
      { ...thing, key: 'wrong', errors: 2 },
      { ...thing, key: 'fresh', daysSinceCount: 2 },
      { ...thing, key: 'old', valueMinor: 10, daysSinceCount: 200 },
    ],
    4,
  );
  expect(proposed.map(p => [p.key, p.why])).toEqual([
    ['dear', 'value'],
    ['wrong', 'errors'],
    ['old', 'long ago'],
    ['cheap', 'value'],
  ]);
});

test('goods go where they lie already, then to reserve, then to an empty place with room', () => {
  const place = { room: null, holds: false, empty: false, walk: 1 };
  const places = [
    { ...place, placeId: '1', code: 'A-01-1', kind: 'bin' as const, holds: true, room: 3 },
    { ...place, placeId: '2', code: 'A-02-3', kind: 'reserve' as const, empty: true, walk: 9 },
    { ...place, placeId: '3', code: 'A-03-3', kind: 'reserve' as const, empty: true, walk: 4 },
    { ...place, placeId: '4', code: 'B-01-1', kind: 'bin' as const, empty: true },
  ];
  expect(proposePutAway(3, places)?.code).toBe('A-01-1');
  expect(proposePutAway(4, places)?.code).toBe('A-03-3');
  expect(proposePutAway(4, places.slice(3))).toEqual({
    placeId: '4',
    code: 'B-01-1',
    why: 'an empty pick face',
  });
  expect(proposePutAway(4, places.slice(0, 1))).toBeNull();
});
