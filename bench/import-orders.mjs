// import.orders: a CSV of orders with 2.5 lines each through the API, against bare multi-row inserts of all the rows it ended up writing.
import { createConnection } from 'mysql2/promise';
import { caller, receive, services } from './house.mjs';

const SKUS = [
  'JAR-HEX-12',
  'SET-SMKHTL',
  'FRM-DP-A',
  'KIT-TOOLS',
  'SED-CLO',
  'SMK-4-ST',
  'BOOK-1ST',
  'HTL-J10',
  'VEIL-RND',
  'SYR-1GL',
];
const TABLES = [
  'orders',
  'shipment',
  'orderLine',
  'linePart',
  'stopReason',
  'orderEvent',
  'allocation',
  'allocationEntry',
  'importFile',
  'outbox',
];
const ROWS_A_STATEMENT = 1000;
/** The most times the floor: small files pay what is the same for every file. */
const goalOf = n => (n >= 10_000 ? 1.8 : 6);

export function csv(orders, tag) {
  const rows = [
    'Order number,Buyer name,E-mail,Address 1,City,State,Zip,SKU,Item title,Qty,Unit price,Deliver by',
  ];
  for (let i = 0; i < orders; i++)
    for (let k = 0; k < (i % 2 === 0 ? 2 : 3); k++)
      rows.push(
        `${tag}-${i},Ruth Penrose ${tag} ${i},r${i}.${tag}@mail.example,${i} Alder Lane,Boise,ID,83702,${SKUS[(i + k * 3) % SKUS.length]},A thing,${1 + (i % 3)},12.50,2026-12-24`,
      );
  return rows.join('\n');
}

export async function* importOrders() {
  const lead = await caller();
  const house = await services();
  await receive(house, 200_000);
  for (const n of [100, 1_000, 10_000]) {
    const runs = [];
    for (let run = 0; run < 3; run++) runs.push(await once(lead, house, n, `B${n}R${run}`));
    runs.sort((a, b) => a.value / a.floor - b.value / b.floor);
    const { value, floor } = runs[1];
    const ratio = value / floor;
    yield { n, value, unit: 'ms', floor, ratio, goal: `ratio <= ${goalOf(n)}`, holds: ratio <= goalOf(n) };
  }
  await house.close();
}

/** One import and its floor; the median of three by ratio is told. */
async function once(lead, { db }, n, tag) {
  const text = csv(n, tag);
  const marks = await newest(db);
  const began = performance.now();
  const report = await lead.takeIn('orders', `channel=web&name=${tag}.csv`, text);
  const value = performance.now() - began;
  if (report.counts.new !== n) throw new Error(`imported ${report.counts.new} of ${n}`);
  return { value, floor: await floorOf(marks, tag) };
}

/** The newest key of each table with a running one, so that what the import wrote can be told. */
async function newest(db) {
  const marks = {};
  for (const t of ['orderEvent', 'allocationEntry', 'outbox'])
    marks[t] = (await db.rows(`SELECT COALESCE(MAX(id), 0) AS id FROM ${t}`))[0].id;
  return marks;
}

/** Writes the same rows into empty copies of the tables by bare multi-row inserts in one transaction. */
async function floorOf(marks, tag) {
  const connection = await createConnection({
    host: '127.0.0.1',
    port: Number(process.env.AUK_DB_PORT),
    user: 'root',
    database: process.env.AUK_DB_NAME,
    timezone: 'Z',
    dateStrings: true,
  });
  const ids = `SELECT id FROM orders WHERE channelNumber LIKE '${tag}-%'`;
  const where = {
    orders: `id IN (${ids})`,
    importFile: `name = '${tag}.csv'`,
    orderEvent: `id > ${marks.orderEvent}`,
    allocationEntry: `id > ${marks.allocationEntry}`,
    outbox: `id > ${marks.outbox}`,
  };
  const work = [];
  for (const table of TABLES) {
    await connection.query(`DROP TABLE IF EXISTS bare_${table}`);
    await connection.query(`CREATE TABLE bare_${table} LIKE ${table}`);
    const [columns] = await connection.query(
      "SELECT column_name AS name FROM information_schema.columns WHERE table_schema = DATABASE() AND table_name = ? AND extra NOT LIKE '%GENERATED%' ORDER BY ordinal_position",
      [table],
    );
    const names = columns.map(c => c.name);
    const [rows] = await connection.query({
      sql: `SELECT ${names.join(',')} FROM ${table} WHERE ${where[table] ?? `orderId IN (${ids})`}`,
      rowsAsArray: true,
    });
    const asText = rows.map(r =>
      r.map(v => (v !== null && typeof v === 'object' && !Buffer.isBuffer(v) ? JSON.stringify(v) : v)),
    );
    for (let i = 0; i < asText.length; i += ROWS_A_STATEMENT)
      work.push([
        `INSERT INTO bare_${table} (${names.join(',')}) VALUES ?`,
        [asText.slice(i, i + ROWS_A_STATEMENT)],
      ]);
  }
  const began = performance.now();
  await connection.beginTransaction();
  for (const [sql, params] of work) await connection.query(sql, params);
  await connection.commit();
  const took = performance.now() - began;
  for (const table of TABLES) await connection.query(`DROP TABLE bare_${table}`);
  await connection.end();
  return took;
}
