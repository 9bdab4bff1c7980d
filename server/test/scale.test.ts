import { v7 } from 'uuid';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { Statements } from '../src/database/statements.js';
import {
  bringIn,
  idOfOrder,
  listAndPick,
  ordersIn,
  packAndClose,
  productOf,
  scanOf,
  wishOf,
} from './drive.js';
import { type Caller, type House, openHouse } from './house.js';

const [PRODUCTS, PLACES, ORDERS] = [20_000, 5_000, 100_000];
/** More rows than this may not be read through on a hot path. */
const MOST = 1_000;

let house: House;
let lead: Caller;
beforeAll(async () => {
  house = await openHouse();
  lead = await house.signIn('AB-1001');
  await grow();
}, 240_000);
afterAll(() => house.close());

/** Makes the house as large as a busy one after a year: rows that nobody looks at any more, and many products and places. */
async function grow(): Promise<void> {
  const run = (sql: string) => house.db.run(sql);
  const one = async (sql: string) => Object.values((await house.db.one<Record<string, string>>(sql))!)[0]!;
  const warehouse = await one('SELECT id FROM warehouse LIMIT 1');
  const channel = await one("SELECT id FROM channel WHERE code = 'web'");
  const outside = await one("SELECT id FROM place WHERE kind = 'outside'");
  const id = (kind: string, n: string) =>
    `CAST(CONCAT('00000000-${kind}-7000-8000-', LPAD(${n}, 12, '0')) AS UUID)`;
  await run(
    `INSERT INTO product (id, sku, name, kind, stage, weightMg, facts) SELECT ${id('aaaa', 'seq')}, CONCAT('SCALE-', seq), CONCAT('Scale product ', seq), 'piece', 'Live', 1000, '{}' FROM seq_1_to_${PRODUCTS}`,
  );
  await run(
    `INSERT INTO productCode (code, productId, units) SELECT CONCAT('SCALECODE', seq), ${id('aaaa', 'seq')}, 1 FROM seq_1_to_${PRODUCTS}`,
  );
  await run(
    `INSERT INTO listing (id, channelId, channelSku, title, productId) SELECT ${id('abab', 'seq')}, '${channel}', CONCAT('SCALE-', seq), 'x', ${id('aaaa', 'seq')} FROM seq_1_to_${PRODUCTS}`,
  );
  await run(
    `INSERT INTO place (id, warehouseId, code, kind, aisle, along, walk) SELECT ${id('bbbb', 'seq')}, '${warehouse}', CONCAT('S', LPAD(seq, 6, '0')), IF(seq % 10 = 0, 'reserve', 'bin'), 1, seq, seq FROM seq_1_to_${PLACES}`,
  );
  await run(
    `INSERT INTO stockBalance (productId, placeId, lotKey, bounded, onHand) SELECT ${id('aaaa', 'seq')}, ${id('bbbb', `(seq % ${PLACES}) + 1`)}, '00000000-0000-0000-0000-000000000000', TRUE, 5 FROM seq_1_to_${PRODUCTS}`,
  );
  await run(
    `INSERT INTO productStock (productId, onHand) SELECT ${id('aaaa', 'seq')}, 5 FROM seq_1_to_${PRODUCTS}`,
  );
  await run(
    `INSERT INTO orders (id, warehouseId, channelId, channelNumber, placedAt, receivedAt, buyer, mail, shipTo, payment, currency, linesMinor, shippingMinor, note, digest, stage, totalMinor, paidMinor)
     SELECT ${id('cccc', 'seq')}, '${warehouse}', '${channel}', CONCAT('SC-', seq), NOW() - INTERVAL seq MINUTE, NOW() - INTERVAL seq MINUTE, CONCAT('Buyer ', seq), 'x@mail.example', '{"city":"Boise","region":"ID"}', 'paid', 'USD', 100, 0, '', '', 'Departed', 100, 100 FROM seq_1_to_${ORDERS}`,
  );
  await run(
    `INSERT INTO shipment (id, orderId, seq) SELECT ${id('dddd', 'seq')}, ${id('cccc', 'seq')}, 1 FROM seq_1_to_${ORDERS}`,
  );
  await run(
    `INSERT INTO orderLine (id, orderId, position, channelSku, title, quantity, priceMinor, productId, lineKey) SELECT ${id('eeee', 'seq')}, ${id('cccc', 'seq')}, 0, CONCAT('SCALE-', seq % ${PRODUCTS} + 1), 'x', 1, 100, ${id('aaaa', `(seq % ${PRODUCTS}) + 1`)}, 'x#1' FROM seq_1_to_${ORDERS}`,
  );
  await run(
    `INSERT INTO linePart (id, lineId, orderId, shipmentId, productId, quantity) SELECT ${id('ffff', 'seq')}, ${id('eeee', 'seq')}, ${id('cccc', 'seq')}, ${id('dddd', 'seq')}, ${id('aaaa', `(seq % ${PRODUCTS}) + 1`)}, 1 FROM seq_1_to_${ORDERS}`,
  );
  await run(
    `INSERT INTO pickList (id, warehouseId, state, distance, createdAt, doneAt) SELECT ${id('1111', 'seq')}, '${warehouse}', 'done', 1, NOW() - INTERVAL seq HOUR, NOW() - INTERVAL seq HOUR FROM seq_1_to_10000`,
  );
  await run(
    `INSERT INTO pickStop (id, listId, seq, placeId, productId, partId, orderId, quantity) SELECT ${id('2222', 'seq')}, ${id('1111', '(seq % 10000) + 1')}, FLOOR(seq / 10000) + 1, ${id('bbbb', `(seq % ${PLACES}) + 1`)}, ${id('aaaa', `(seq % ${PRODUCTS}) + 1`)}, ${id('ffff', 'seq')}, ${id('cccc', 'seq')}, 1 FROM seq_1_to_${ORDERS}`,
  );
  await run(
    `INSERT INTO allocation (partId, hold, stopKey, parcelKey, orderId, productId, quantity) SELECT ${id('ffff', 'seq')}, 'departed', ${id('2222', 'seq')}, ${id('3333', 'seq')}, ${id('cccc', 'seq')}, ${id('aaaa', `(seq % ${PRODUCTS}) + 1`)}, 1 FROM seq_1_to_${ORDERS}`,
  );
  await run(
    `INSERT INTO allocationEntry (at, partId, hold, stopKey, parcelKey, quantity, why) SELECT NOW(), ${id('ffff', 'seq')}, 'departed', ${id('2222', 'seq')}, ${id('3333', 'seq')}, 1, 'x' FROM seq_1_to_${ORDERS}`,
  );
  await run(
    `INSERT INTO parcel (id, orderId, shipmentId, placeId, openedAt, closedAt, departedAt) SELECT ${id('3333', 'seq')}, ${id('cccc', 'seq')}, ${id('dddd', 'seq')}, '${outside}', NOW() - INTERVAL seq MINUTE, NOW() - INTERVAL seq MINUTE, NOW() - INTERVAL (seq + 2000) MINUTE FROM seq_1_to_${ORDERS}`,
  );
  await run(
    `INSERT INTO label (id, parcelId, state, carrier, carrierName, service, serviceName, minor, currency, request, arrives, tracking, intendedAt, answeredAt) SELECT ${id('4444', 'seq')}, ${id('3333', 'seq')}, 'bought', 'heron', 'x', 'x', 'x', 1, 'USD', '{}', CURRENT_DATE, CONCAT('SCT', seq), NOW(), NOW() - INTERVAL (seq + 2000) MINUTE FROM seq_1_to_${ORDERS}`,
  );
  await run(
    `INSERT INTO stockMove (at, productId, fromPlaceId, toPlaceId, quantity, why, causeId) SELECT NOW() - INTERVAL seq MINUTE, ${id('aaaa', `(seq % ${PRODUCTS}) + 1`)}, '${outside}', ${id('bbbb', `(seq % ${PLACES}) + 1`)}, 1, 'pick', ${id('2222', 'seq')} FROM seq_1_to_${ORDERS}`,
  );
  await run(
    `INSERT INTO stockCount (id, countId, at, placeId, productId, lotKey, expected, counted) SELECT ${id('5555', 'seq')}, ${id('5555', 'seq')}, NOW() - INTERVAL seq MINUTE, ${id('bbbb', `(seq % ${PLACES}) + 1`)}, ${id('aaaa', `(seq % ${PRODUCTS}) + 1`)}, '00000000-0000-0000-0000-000000000000', 1, 1 FROM seq_1_to_20000`,
  );
  await run(
    `INSERT INTO supplier (id, name) SELECT ${id('6666', 'seq')}, CONCAT('Supplier ', seq) FROM seq_1_to_50`,
  );
  await run(
    `INSERT INTO purchaseOrder (id, warehouseId, supplierId, state, createdAt, doneAt) SELECT ${id('7777', 'seq')}, '${warehouse}', ${id('6666', '(seq % 50) + 1')}, 'done', NOW(), NOW() FROM seq_1_to_5000`,
  );
  await run(
    `INSERT INTO purchaseLine (id, orderId, position, productId, quantity, received) SELECT ${id('8888', 'seq')}, ${id('7777', '(seq % 5000) + 1')}, FLOOR(seq / 5000), ${id('aaaa', 'seq')}, 1, 1 FROM seq_1_to_15000`,
  );
  await run(
    `INSERT INTO orderEvent (orderId, at, kind, says) SELECT ${id('cccc', 'seq')}, NOW(), 'received', 'x' FROM seq_1_to_${ORDERS}`,
  );
  const tables = await house.db.rows<{ t: string }>(
    "SELECT table_name AS t FROM information_schema.tables WHERE table_schema = DATABASE() AND table_type = 'BASE TABLE'",
  );
  for (const { t } of tables) await house.db.rows(`ANALYZE TABLE \`${t}\``);
}

/** Statements that one path ran, each with its parameters. */
async function statementsOf(work: () => Promise<unknown>): Promise<Map<string, unknown[]>> {
  const ran = new Map<string, unknown[]>();
  const stop = Statements.listen((sql, params) => ran.set(sql, params));
  try {
    await work();
  } finally {
    stop();
  }
  return ran;
}

interface Step {
  table: string | null;
  type: string | null;
  key: string | null;
  rows: number | string | null;
  Extra: string;
}

/** What a path reads through: every step of a plan that scans a whole table or index of many rows. */
async function scansOf(work: () => Promise<unknown>): Promise<string[]> {
  const found: string[] = [];
  for (const [sql, params] of await statementsOf(work)) {
    if (!/^\s*\(?(SELECT|UPDATE|DELETE)/i.test(sql)) continue;
    const plan = await house.db.rows<Step>(`EXPLAIN ${sql}`, params);
    for (const step of plan) {
      const rows = Number(step.rows ?? 0);
      const scan = step.type === 'ALL' || step.type === 'index';
      // A walk along an index that stops at its LIMIT reads few, whatever is estimated.
      const stops =
        step.type === 'index' && /LIMIT/.test(sql) && !/temporary|filesort/.test(step.Extra ?? '');
      if (scan && !stops && rows > MOST && !/^</.test(step.table ?? ''))
        found.push(
          `${step.table} (${rows} rows by ${step.type} ${step.key ?? ''}): ${sql.replace(/\s+/g, ' ').slice(0, 260)}`,
        );
    }
  }
  return [...new Set(found)];
}

/** Reads of a page that is opened all day. */
const PAGES = [
  'departures/board',
  'departures/strip',
  'orders?size=100',
  'orders?stage=all&size=100&sort=newest',
  'orders?words=SC-4711&stage=all',
  'picking/lists',
  'parcels',
  'receiving',
  'stock?size=100',
  'stock?words=SCALE-77&size=100',
  'stock/places?size=100',
  'stock/counts/proposed',
  'products?size=100',
  'places/S000077',
  'products/SCALE-77',
  'find?text=SCALECODE77',
  'find?text=SC-4711',
  'find?text=PA-77',
  'find?text=S000077',
];

test.each(PAGES)('the page %s finds its rows by an index', async path => {
  expect(
    await scansOf(async () => {
      const answer = await lead.get(path);
      expect(answer.status, JSON.stringify(answer.body)).toBe(200);
    }),
  ).toEqual([]);
});

test('intake, release, picking, packing, labels and handover find their rows by an index', async () => {
  expect(await scansOf(() => bringIn(lead, [['HOT-1', 'SMK-4-ST', 1, '38.00']]))).toEqual([]);
  const id = await idOfOrder(lead, 'HOT-1');
  expect(await scansOf(() => listAndPick(lead, [id]))).toEqual([]);
  let parcelNo = '';
  expect(
    await scansOf(async () => {
      parcelNo = (await packAndClose(lead, (await lead.get(`orders/${id}`)).body.row.no)).parcelNo;
    }),
  ).toEqual([]);
  const { offers } = (await lead.get(`parcels/${parcelNo}/offers`)).body;
  expect(await scansOf(() => lead.post(`parcels/${parcelNo}/label`, wishOf(offers[0])))).toEqual([]);
  const { departureNo, tracking } = (await lead.get(`orders/${id}`)).body.parcels[0];
  expect(
    await scansOf(async () => {
      await lead.post(`departures/${departureNo}/scans`, scanOf(tracking));
      await lead.post(`departures/${departureNo}/scans`, scanOf(parcelNo));
      await lead.post(`departures/${departureNo}/scans`, scanOf('PA-77'));
    }),
  ).toEqual([]);
});

test('receiving and corrections find their rows by an index', async () => {
  const made = await lead.post('receiving', {
    key: v7(),
    supplier: 'Hive & Hollow',
    reference: '',
    expected: null,
    note: '',
    lines: [{ sku: 'SCALE-500', quantity: 5 }],
  });
  const { sessionId } = (await lead.post(`receiving/${made.body.no}/open`, { device: 'd' })).body;
  expect(
    await scansOf(async () => {
      await lead.post(`receiving/sessions/${sessionId}/scans`, scanOf('SCALECODE500'));
      await lead.post(`receiving/sessions/${sessionId}/scans`, scanOf('S000077'));
    }),
  ).toEqual([]);
  const at = (await productOf(lead, 'SCALE-600')).places[0].code;
  expect(
    await scansOf(async () => {
      const move = { key: v7(), sku: 'SCALE-600', from: at, to: 'DOCK-1', quantity: 1, reason: 'test' };
      expect((await lead.post('stock/moves', move)).status).toBe(200);
      expect((await lead.post('stock/write-offs', { ...move, key: v7(), from: 'DOCK-1' })).status).toBe(200);
    }),
  ).toEqual([]);
  const [open] = await ordersIn(lead, 'Clear', 1);
  expect(await scansOf(() => lead.post(`orders/${open}/park`, { reason: 'test', word: '' }))).toEqual([]);
});

test('orders to one address are found as quickly however many drafts and departed ones are to it', async () => {
  const ids = (await lead.get('orders?stage=Clear&size=2')).body.rows.map((r: { id: string }) => r.id);
  await house.db.run("UPDATE orders SET together = UNHEX(MD5('one address')) WHERE id IN (?)", [ids]);
  await house.db.run(
    "UPDATE orders SET together = UNHEX(MD5('one address')) WHERE channelNumber LIKE 'SC-3%' LIMIT 3000",
  );
  await house.db.run(
    "UPDATE orders SET together = UNHEX(MD5('one address')), stage = 'Incoming', draftedAt = NOW() WHERE channelNumber LIKE 'SC-4%' LIMIT 3000",
  );
  const read = async () =>
    Number((await house.db.one<{ Value: string }>("SHOW GLOBAL STATUS LIKE 'Handler_read_next'"))!.Value);
  const before = await read();
  const { rows } = (await lead.get('orders?stage=all&together=yes&sort=promised')).body;
  expect(rows.map((r: { id: string }) => r.id)).toEqual(expect.arrayContaining(ids));
  // Each held against each would be nine million.
  expect((await read()) - before).toBeLessThan(500_000);
});

test('a word that is in very many orders is counted with what else is asked as exactly as one by one', async () => {
  await house.db.run(
    "UPDATE orders SET starred = 1 WHERE stage = 'Departed' AND channelNumber LIKE 'SC-12%'",
  );
  const begins = (word: string) => `(^|[^[:alnum:]])${word}`;
  for (const words of [['buyer'], ['buyer', '1'], ['buyer', '123']]) {
    const { n } = (await house.db.one<{ n: number }>(
      `SELECT COUNT(*) AS n FROM orders o WHERE o.starred = 1 AND ${words.map(() => "CONCAT(o.buyer, ' ', o.mail) REGEXP ?").join(' AND ')}`,
      words.map(begins),
    ))!;
    expect(n).toBeGreaterThan(0);
    const asked = `orders?stage=all&starred=yes&sort=promised&words=${encodeURIComponent(words.join(' '))}`;
    expect((await lead.get(asked)).body.count).toEqual({ n, over: false });
  }
});

test('a product that is in very many orders is tested order by order, and counted as exactly', async () => {
  const [product] = await house.db.rows<{ id: string }>("SELECT id FROM product WHERE sku = 'SCALE-1'");
  await house.db.run(
    "UPDATE orderLine SET productId = ? WHERE title = 'x' ORDER BY orderId DESC LIMIT 30000",
    [product!.id],
  );
  await house.db.run("UPDATE orders SET starred = 1 WHERE channelNumber LIKE 'SC-91%'");
  const WITH = 'EXISTS (SELECT 1 FROM orderLine l WHERE l.orderId = o.id AND l.productId = ?)';
  const all = (await lead.get('orders?stage=all&product=SCALE-1&sort=newest&size=50')).body;
  expect(all.count).toEqual({ n: 10_000, over: true });
  const first = await house.db.rows<{ no: number }>(
    `SELECT o.no FROM orders o WHERE ${WITH} ORDER BY o.no DESC LIMIT 50`,
    [product!.id],
  );
  expect(all.rows.map((r: { no: string }) => r.no)).toEqual(first.map(o => `OR-${o.no}`));
  const { n } = (await house.db.one<{ n: number }>(
    `SELECT COUNT(*) AS n FROM orders o WHERE o.starred = 1 AND ${WITH}`,
    [product!.id],
  ))!;
  expect(n).toBeGreaterThan(0);
  expect((await lead.get('orders?stage=all&product=SCALE-1&starred=yes')).body.count).toEqual({
    n,
    over: false,
  });
});
