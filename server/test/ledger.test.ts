import { emptyBook, foldMoves, type Hold, type LedgerHold, type LedgerMove, post, seeded } from '@auk/core';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { errnoOf, NONE, Tx } from '../src/database/db.js';
import { lockAll } from '../src/database/locks.js';
import { StockService } from '../src/stock/stock.service.js';
import { type House, openHouse } from './house.js';

let house: House;
beforeAll(async () => {
  house = await openHouse();
});
afterAll(() => house.close());

const PROMISED = ['bin', 'reserve', 'dock'];
const OWING = ['outside', 'gone', 'missing', 'made'];

/** Everything the database keeps of some products, as a book of the core. */
async function bookOf(products: string[]) {
  const book = emptyBook();
  for (const b of await house.db.rows<{
    productId: string;
    placeId: string;
    lotKey: string;
    onHand: number;
    listed: number;
  }>('SELECT productId, placeId, lotKey, onHand, listed FROM stockBalance WHERE productId IN (?)', [
    products,
  ])) {
    const key = `${b.productId}|${b.placeId}|${b.lotKey === NONE ? '' : b.lotKey}`;
    if (b.onHand !== 0) book.onHand.set(key, b.onHand);
    if (b.listed !== 0) book.listed.set(key, b.listed);
  }
  for (const s of await house.db.rows<{ productId: string; onHand: number; reserved: number }>(
    'SELECT productId, onHand, reserved FROM productStock WHERE productId IN (?)',
    [products],
  )) {
    book.promisable.set(s.productId, s.onHand);
    book.reserved.set(s.productId, s.reserved);
  }
  for (const a of await house.db.rows<{ partId: string; hold: Hold; n: number }>(
    'SELECT partId, hold, CAST(SUM(a.quantity) AS INT) AS n FROM allocation a JOIN linePart p ON p.id = a.partId WHERE p.productId IN (?) GROUP BY partId, hold HAVING n <> 0',
    [products],
  ))
    book.held.set(`${a.partId}|${a.hold}`, a.n);
  return book;
}

const filled = (map: ReadonlyMap<string, number>) =>
  Object.fromEntries([...map].filter(([, n]) => n !== 0).sort());

test('the database accepts and refuses 600 random changes as the core does, and keeps the same book', async () => {
  const stock = house.app.get(StockService);
  const random = seeded(99);
  const below = (n: number) => Math.floor(random() * n);
  const parts = await house.db.rows<{ id: string; orderId: string; productId: string }>(
    `SELECT p.id, p.orderId, p.productId FROM linePart p JOIN orders o ON o.id = p.orderId AND o.stage = 'Clear' WHERE p.productId IN
       (SELECT * FROM (SELECT productId FROM linePart GROUP BY productId HAVING COUNT(*) > 2 ORDER BY productId LIMIT 3) x) ORDER BY p.id LIMIT 8`,
  );
  const products = [...new Set(parts.map(p => p.productId))];
  const places = await house.db.rows<{ id: string; kind: string }>(
    "SELECT id, kind FROM place WHERE kind IN ('outside', 'missing', 'quarantine', 'staging', 'dock', 'made') UNION ALL (SELECT id, kind FROM place WHERE kind = 'bin' ORDER BY code LIMIT 2) UNION ALL (SELECT id, kind FROM place WHERE kind = 'reserve' ORDER BY code LIMIT 1)",
  );
  const kinds = new Map(
    (await house.db.rows<{ id: string; kind: string }>('SELECT id, kind FROM place')).map(p => [
      p.id,
      p.kind,
    ]),
  );
  const nature = (place: string) => ({
    promised: PROMISED.includes(kinds.get(place)!),
    bounded: !OWING.includes(kinds.get(place)!),
  });
  const book = await bookOf(products);
  let [accepted, refused] = [0, 0];
  for (let i = 0; i < 600; i++) {
    const part = parts[below(parts.length)]!;
    const [from, to] = [places[below(places.length)]!.id, places[below(places.length)]!.id];
    const n = 1 + below(6);
    const moves: LedgerMove[] =
      below(3) > 0 && from !== to ? [{ productId: part.productId, lot: '', from, to, quantity: n }] : [];
    const order: Hold[] = ['soft', 'listed', 'picked', 'packed', 'departed'];
    const step = below(5);
    const hold = (name: Hold, change: number): LedgerHold => ({
      part: part.id,
      productId: part.productId,
      hold: name,
      change,
      ...(name === 'listed' && { at: { place: from, lot: '' } }),
    });
    const holds =
      below(2) === 0
        ? []
        : step === 0
          ? [hold('soft', below(2) ? n : -n)]
          : [hold(order[step - 1]!, -n), hold(order[step]!, n)];
    if (moves.length + holds.length === 0) continue;
    const problem = post(book, { moves, holds }, nature);
    const done = await house.db
      .tx({ personId: null, at: new Date() }, async tx => {
        await lockAll(tx, {
          orders: holds.length > 0 ? [part.orderId] : [],
          productStock: [...moves, ...holds].map(c => c.productId),
        });
        return stock.apply(tx, {
          moves: moves.map(({ lot: _, ...m }) => ({ ...m, lotId: null, why: 'move', causeId: null })),
          holds: holds.map(h => ({
            partId: h.part,
            orderId: part.orderId,
            productId: h.productId,
            hold: h.hold,
            stopId: null,
            parcelId: null,
            change: h.change,
            why: 'test',
            ...(h.at && { at: { placeId: h.at.place, lotId: null } }),
          })),
        });
      })
      .then(
        () => true,
        error => {
          if (errnoOf(error) !== 4025) throw error;
          return false;
        },
      );
    expect(done, `${i}: ${JSON.stringify({ moves, holds, problem })}`).toBe(problem === null);
    if (done) accepted++;
    else refused++;
  }
  expect(Math.min(accepted, refused)).toBeGreaterThan(60);
  const stored = await bookOf(products);
  expect(filled(stored.onHand)).toEqual(filled(book.onHand));
  expect(filled(stored.listed)).toEqual(filled(book.listed));
  expect(filled(stored.promisable)).toEqual(filled(book.promisable));
  expect(filled(stored.reserved)).toEqual(filled(book.reserved));
  const folded = foldMoves(
    await house.db.rows<{ productId: string; lot: string; from: string; to: string; quantity: number }>(
      "SELECT productId, IF(lotId IS NULL, '', CAST(lotId AS CHAR)) AS lot, fromPlaceId AS `from`, toPlaceId AS `to`, quantity FROM stockMove WHERE productId IN (?)",
      [products],
    ),
  );
  expect(filled(folded)).toEqual(filled(book.onHand));
});

test('the writer takes no change of what was not locked before: the way to it is the locked scope', async () => {
  const stock = house.app.get(StockService);
  const [lies] = await house.db.rows<{ productId: string; placeId: string }>(
    "SELECT b.productId, b.placeId FROM stockBalance b JOIN place p ON p.id = b.placeId AND p.kind = 'bin' WHERE b.onHand > b.listed LIMIT 1",
  );
  const [part] = await house.db.rows<{ id: string; orderId: string; productId: string }>(
    'SELECT id, orderId, productId FROM linePart ORDER BY id LIMIT 1',
  );
  const gone = (await house.db.one<{ id: string }>("SELECT id FROM place WHERE kind = 'gone'"))!.id;
  const move = {
    productId: lies!.productId,
    lotId: null,
    from: lies!.placeId,
    to: gone,
    quantity: 1,
    why: 'move',
    causeId: null,
  };
  const hold = {
    partId: part!.id,
    orderId: part!.orderId,
    productId: part!.productId,
    hold: 'soft' as const,
    stopId: null,
    parcelId: null,
    change: 1,
    why: 'test',
  };
  const inTx = (work: Parameters<typeof house.db.tx<void>>[1]) =>
    house.db.tx({ personId: null, at: new Date() }, work);
  await expect(inTx(tx => stock.apply(tx, { moves: [move] }))).rejects.toThrow(/was not locked/);
  await expect(
    inTx(async tx => {
      await lockAll(tx, { productStock: [hold.productId] });
      await stock.apply(tx, { holds: [hold] });
    }),
  ).rejects.toThrow(/order .* was not locked/);
  const before = await house.db.one('SELECT COUNT(*) AS n FROM stockMove');
  // Whatever the order in which they are named, rows are locked table by table as stated.
  const found: unknown[] = [];
  Tx.onOutOfOrder = f => found.push(f);
  try {
    await inTx(async tx => {
      await lockAll(tx, { productStock: [move.productId, hold.productId], orders: [part!.orderId] });
      expect(tx.has('orders', part!.orderId)).toBe(true);
      expect(tx.has('orders', move.productId)).toBe(false);
    });
  } finally {
    Tx.onOutOfOrder = null;
  }
  expect(found).toEqual([]);
  expect(await house.db.one('SELECT COUNT(*) AS n FROM stockMove')).toEqual(before);
});
