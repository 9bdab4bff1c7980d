// orders.list: the order list at a million orders, each filter and sort pair through the API, against the bare statement that fetches the same page of keys.
import { OrderListQueries } from '@auk/server/orders/list.queries';
import { caller, percentile, services } from './house.mjs';

const ORDERS = Number(process.env.AUK_BENCH_ORDERS ?? 1_000_000);
/** Orders that have not departed, as on a large day. */
const OPEN = 5_000;
const RUNS = 25;
const FAST_MS = 150;
const ANY_MS = 1_000;
const ANY_RATIO = 60;

const FIRST = [
  'Marguerite',
  'Deshawn',
  'Annelie',
  'Ruth',
  'Ottoline',
  'Per',
  'Ilya',
  'Noor',
  'Calla',
  'Benedikt',
];
const LAST = [
  'Okafor',
  'Pruitt',
  'Brandel',
  'Castellano',
  'Grieve',
  'Aldous',
  'Hartmann',
  'Sayegh',
  'Whitlow',
  'Norrby',
];

/** Filters and sorts that the list offers as fast, as docs/orders-list.md lists them. */
const FAST = [
  ['', 'newest'],
  ['', 'oldest'],
  ['', 'promised'],
  ['', 'leaves'],
  ['', 'total'],
  ['stage=all', 'newest'],
  ['stage=all', 'promised'],
  ['stage=all', 'placed'],
  ['stage=all', 'total'],
  ['stage=all', 'leaves'],
  ['stage=Clear', 'newest'],
  ['stage=Departed', 'newest'],
  ['stage=Departed', 'promised'],
  ['stage=Stopped', 'promised'],
  ['stage=all&channel=plaza', 'newest'],
  ['stage=all&starred=yes', 'newest'],
  ['stage=all&payment=unpaid', 'newest'],
  ['stage=all&country=NL', 'newest'],
  ['stage=all&words=bench-77', 'newest'],
  ['stage=all&words=whitlowsky', 'newest'],
  ['channel=plaza', 'leaves'],
  ['leaves=today', 'leaves'],
];
/** Combinations that no index is made for. */
const OTHER = [
  ['words=whitlow', 'newest'],
  ['stage=all&words=whitlow', 'total'],
  ['stage=all&words=extractor', 'newest'],
  ['stage=all&words=extractor&channel=plaza', 'promised'],
  ['stage=all&product=JAR-HEX-12', 'total'],
  ['stage=all&channel=plaza&payment=unpaid', 'total'],
  ['stage=all&channel=web&country=NL', 'promised'],
  ['stage=Departed&placed=month', 'total'],
  ['product=JAR-HEX-12&words=ruth', 'promised'],
  ['stage=all&promised=week&starred=yes', 'placed'],
];

export async function* ordersList() {
  const lead = await caller();
  const house = await services();
  const made = await generate(house.db);
  console.error(`  ${made} orders generated`);
  for (const [question, sort] of FAST) yield await one(lead, house, question, sort, FAST_MS);
  for (const [question, sort] of OTHER) yield await one(lead, house, question, sort, ANY_MS);
  await house.close();
}

async function one(lead, { app, db }, question, sort, goal) {
  const path = `orders?${question}${question ? '&' : ''}sort=${sort}`;
  const took = [];
  let after = '';
  for (let i = 0; i < RUNS; i++) {
    const began = performance.now();
    const page = await lead.get(`${path}${after ? `&after=${encodeURIComponent(after)}` : ''}`);
    took.push(performance.now() - began);
    // Every second question goes on to the next page, as scrolling does.
    after = i % 2 === 0 && page.next ? page.next : '';
  }
  const floor = [];
  const ids = (await lead.get(path)).rows.map(r => r.id);
  for (let i = 0; i < RUNS; i++) {
    const began = performance.now();
    await db.rows('SELECT * FROM orders WHERE id IN (?)', [[...ids, '00000000-0000-0000-0000-000000000000']]);
    floor.push(performance.now() - began);
  }
  const [value, least] = [percentile(took, 0.95), percentile(floor, 0.95)];
  const plan = await app
    .get(OrderListQueries)
    .explain({ ...Object.fromEntries(new URLSearchParams(question)), sort, size: 100 }, new Date());
  console.error(
    `  ${question || 'not departed'}, ${sort}: ${plan.map(p => `${p.table} ${p.type} by ${p.key} ~${p.rows} ${p.Extra}`).join(' | ')}`,
  );
  return {
    n: `${question || 'not departed'}, ${sort}`,
    value,
    unit: 'ms p95',
    floor: least,
    ratio: value / least,
    goal: `p95 <= ${goal} ms${goal === ANY_MS ? `, ratio <= ${ANY_RATIO}` : ''}`,
    holds: value <= goal && (goal !== ANY_MS || value / least <= ANY_RATIO),
  };
}

/** Fills the tables up to ORDERS with departed orders and some open ones, by the database's own sequence: buyers, titles and stages spread as in a shop. */
async function generate(db) {
  const [{ have }] = await db.rows('SELECT COUNT(*) AS have FROM orders');
  const [{ w }] = await db.rows('SELECT id AS w FROM warehouse LIMIT 1');
  const channels = await db.rows("SELECT id FROM channel WHERE code <> 'hand' ORDER BY code");
  const products = await db.rows("SELECT id, name FROM product WHERE kind = 'piece' ORDER BY sku");
  const [jar] = await db.rows("SELECT id, name FROM product WHERE sku = 'JAR-HEX-12'");
  const pick = (list, by) =>
    `ELT(1 + MOD(${by}, ${list.length}), ${list.map(x => `'${String(x).replaceAll("'", "''")}'`).join(',')})`;
  const PART = 50_000;
  for (let from = have; from < ORDERS; from += PART) {
    const to = Math.min(ORDERS, from + PART) - 1;
    await db.run(
      `INSERT INTO orders (id, warehouseId, channelId, channelNumber, placedAt, receivedAt, buyer, mail, shipTo, payment, currency, linesMinor, shippingMinor, totalMinor, paidMinor, promised, note, digest, checkedAt, starred, stage, country, leavesAt, cancelledAt)
       SELECT UUID(), '${w}', ${pick(
         channels.map(c => c.id),
         'seq',
       )}, CONCAT('BENCH-', seq), NOW() - INTERVAL MOD(seq * 7, 525600) MINUTE, NOW() - INTERVAL MOD(seq * 7, 525600) MINUTE,
         CONCAT(${pick(FIRST, 'seq DIV 3')}, ' ', ${pick(LAST, 'seq DIV 31')}, IF(MOD(seq, 50000) = 7, 'sky', '')), CONCAT('b', MOD(seq, 300000), '@mail.example'),
         JSON_OBJECT('name', 'B', 'company', '', 'line1', '1 Road', 'line2', '', 'city', 'Boise', 'region', 'ID', 'postcode', '83702', 'country', IF(MOD(seq, 500) = 3, 'NL', 'US'), 'phone', ''),
         IF(MOD(seq, 400) = 9, 'unpaid', 'paid'), 'USD', 1000 + MOD(seq * 37, 20000), 500, 1500 + MOD(seq * 37, 20000), IF(MOD(seq, 400) = 9, 0, 1500 + MOD(seq * 37, 20000)), CURDATE() - INTERVAL MOD(seq, 360) DAY + INTERVAL 3 DAY, '', MD5(seq), NOW(), MOD(seq, 900) = 1,
         IF(seq >= ${ORDERS - OPEN}, ${pick(['Clear', 'Clear', 'Clear', 'Short', 'Stopped', 'Parked'], 'seq')}, IF(MOD(seq, 70) = 5, 'Cancelled', 'Departed')), IF(MOD(seq, 500) = 3, 'NL', 'US'),
         NOW() - INTERVAL MOD(seq * 7, 525600) MINUTE + INTERVAL 1 DAY, IF(seq < ${ORDERS - OPEN} AND MOD(seq, 70) = 5, NOW(), NULL)
       FROM seq_${from}_to_${to}`,
    );
    await db.run(
      `INSERT INTO orderLine (id, orderId, position, channelSku, lineKey, title, quantity, priceMinor, productId)
       SELECT UUID(), o.id, k.seq, CONCAT('S', k.seq), CONCAT('S', k.seq, '#1'), IF(MOD(o.no, 16) = 3 AND k.seq = 0, '${jar.name}', ${pick(
         products.map(p => p.name),
         'o.no * 3 + k.seq * 17',
       )}), 1 + MOD(o.no, 4), 500,
         IF(MOD(o.no, 16) = 3 AND k.seq = 0, '${jar.id}', ${pick(
           products.map(p => p.id),
           'o.no * 3 + k.seq * 17',
         )})
       FROM orders o JOIN seq_0_to_2 k ON k.seq < 2 + MOD(o.no, 2) WHERE o.channelNumber LIKE 'BENCH-%' AND o.digest <> '' AND o.no > (SELECT MAX(no) - ${to - from + 1} FROM orders)`,
    );
    console.error(`  ${to + 1} orders`);
  }
  await db.run('DELETE FROM stageCount');
  await db.run('INSERT INTO stageCount (stage, n) SELECT stage, COUNT(*) FROM orders GROUP BY stage');
  await db.rows('ANALYZE TABLE orders, orderLine');
  return ORDERS;
}
