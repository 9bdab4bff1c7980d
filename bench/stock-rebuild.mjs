// stock.rebuild: rebuilding all balances from the ledger by SQL and comparing them with the stored ones, against a bare GROUP BY over
// the same table. The core folds the same moves of 100 products as a cross-check; a difference ends the benchmark.
import { foldMoves } from '@auk/core';
import { balances } from '@auk/server/checks/checkData';
import { services } from './house.mjs';

const NONE = '00000000-0000-0000-0000-000000000000';
const GOAL = 3;
const PRODUCTS = 2_000;
const CHECKED = 100;

export async function* stockRebuild() {
  const house = await services();
  const { db } = house;
  await db.run(
    `INSERT INTO product (id, sku, name, kind, stage, facts) SELECT UUID(), CONCAT('REBUILD-', seq), CONCAT('Rebuilt ', seq), 'piece', 'Live', '{}' FROM seq_1_to_${PRODUCTS}`,
  );
  await db.run(
    "CREATE TABLE benchProduct AS SELECT id, ROW_NUMBER() OVER (ORDER BY sku) - 1 AS n FROM product WHERE sku LIKE 'REBUILD-%'",
  );
  await db.run(
    "CREATE TABLE benchPlace AS SELECT id, ROW_NUMBER() OVER (ORDER BY code) - 1 AS n FROM place WHERE kind IN ('bin', 'reserve')",
  );
  await db.run('ALTER TABLE benchProduct ADD PRIMARY KEY (n)');
  await db.run('ALTER TABLE benchPlace ADD PRIMARY KEY (n)');
  const [{ places }] = await db.rows('SELECT COUNT(*) AS places FROM benchPlace');
  let made = 0;
  for (const n of [10_000, 100_000, 1_000_000]) {
    await grow(db, made, n, Number(places));
    made = n;
    const { value, floor } = await measured(db);
    await crossCheck(db);
    yield {
      n,
      value,
      unit: 'ms',
      floor,
      ratio: value / floor,
      goal: n === 1_000_000 ? `ratio <= ${GOAL}` : 'growth',
      holds: n < 1_000_000 || value / floor <= GOAL,
    };
  }
  await house.close();
}

/** Adds moves: each product goes between three of the places; and stores the balances that follow. */
async function grow(db, from, to, places) {
  const pick = k => `(p.n * 3 + ${k}) MOD ${places}`;
  for (let at = from; at < to; at += 100_000) {
    const end = Math.min(to, at + 100_000);
    await db.run(
      `INSERT INTO stockMove (at, productId, lotId, fromPlaceId, toPlaceId, quantity, why)
       SELECT NOW(3), p.id, NULL, f.id, t.id, 1 + CRC32(s.seq) MOD 9, 'move' FROM seq_${at + 1}_to_${end} s
       JOIN benchProduct p ON p.n = CRC32(CONCAT('p', s.seq)) MOD ${PRODUCTS}
       JOIN benchPlace f ON f.n = ${pick('s.seq MOD 3')} JOIN benchPlace t ON t.n = ${pick('(s.seq + 1) MOD 3')}`,
    );
  }
  await db.run('DELETE b FROM stockBalance b JOIN benchProduct p ON p.id = b.productId');
  await db.run(
    `INSERT INTO stockBalance (productId, placeId, lotKey, bounded, onHand) SELECT productId, placeId, '${NONE}', FALSE, SUM(n) FROM (
       SELECT m.productId, m.toPlaceId AS placeId, m.quantity AS n FROM stockMove m JOIN benchProduct p ON p.id = m.productId
       UNION ALL SELECT m.productId, m.fromPlaceId, -m.quantity FROM stockMove m JOIN benchProduct p ON p.id = m.productId) x GROUP BY productId, placeId`,
  );
}

/** Both by turns, the median of five pairs by ratio. */
async function measured(db) {
  const runs = [];
  for (let i = 0; i < 5; i++) {
    const floor = await timed(() =>
      db.rows(
        'SELECT productId, toPlaceId, lotId, SUM(quantity) AS n FROM stockMove GROUP BY productId, toPlaceId, lotId',
      ),
    );
    const value = await timed(async () => {
      const found = await balances(db);
      if (found.length > 0) throw new Error(`The rebuilt balances differ: ${JSON.stringify(found[0])}`);
    });
    runs.push({ value, floor });
  }
  return runs.sort((a, b) => a.value / a.floor - b.value / b.floor)[2];
}

async function timed(work) {
  const start = performance.now();
  await work();
  return performance.now() - start;
}

async function crossCheck(db) {
  const ids = (await db.rows('SELECT id FROM benchProduct WHERE n < ?', [CHECKED])).map(r => r.id);
  const moves = await db.rows(
    'SELECT productId, fromPlaceId, toPlaceId, quantity FROM stockMove WHERE productId IN (?)',
    [ids],
  );
  const folded = foldMoves(
    moves.map(m => ({
      productId: m.productId,
      lot: '',
      from: m.fromPlaceId,
      to: m.toPlaceId,
      quantity: m.quantity,
    })),
  );
  const stored = await db.rows(
    'SELECT productId, placeId, onHand FROM stockBalance WHERE productId IN (?) AND onHand <> 0',
    [ids],
  );
  const same =
    stored.length === folded.size &&
    stored.every(s => folded.get(`${s.productId}|${s.placeId}|`) === s.onHand);
  if (!same) throw new Error('The core folds the ledger to other balances than the database stores.');
}
