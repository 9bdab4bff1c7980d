import { readFileSync } from 'node:fs';
import { gunzipSync } from 'node:zlib';
import { evenLayout } from '@auk/core';
import { createConnection } from 'mysql2/promise';
import { DataSource, type QueryRunner } from 'typeorm';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { checkData } from '../src/checks/checkData.js';
import { Db } from '../src/database/db.js';
import { migrate } from '../src/database/migrate.js';
import { FirstLight1764000000000 } from '../src/database/migrations/0001-first-light.js';
import { openDataSource } from '../src/database/source.js';
import { differencesOf, readSchema } from './schema.js';

const name = `auk_migrate_${process.pid}`;
let root: DataSource;
let source: DataSource;
beforeAll(async () => {
  const port = Number(process.env.AUK_TEST_DB_PORT);
  root = await new DataSource({ type: 'mariadb', host: '127.0.0.1', port, username: 'root' }).initialize();
  await root.query(`CREATE DATABASE ${name} CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_520_ci`);
  source = await openDataSource({ port, database: name });
});
afterAll(async () => {
  await source.destroy();
  await root.query(`DROP DATABASE ${name}`);
  await root.destroy();
});

const ID = (n: number) => `00000000-0000-7000-8000-${String(n).padStart(12, '0')}`;

/** A house as the first migration left it: a warehouse, a channel, a paid and an unpaid order with two lines of one SKU. */
async function firstHouse(): Promise<void> {
  const runner = source.createQueryRunner();
  await new FirstLight1764000000000().up(runner);
  await runner.query(
    'CREATE TABLE migrations (id INT AUTO_INCREMENT PRIMARY KEY, timestamp BIGINT NOT NULL, name VARCHAR(255) NOT NULL)',
  );
  await runner.query(
    "INSERT INTO migrations (timestamp, name) VALUES (1764000000000, 'FirstLight1764000000000')",
  );
  const q = (sql: string, params: unknown[] = []) => runner.query(sql, params);
  await q(
    "INSERT INTO warehouse VALUES (?, 'ZAN', 'House', 'America/New_York', 'USD', '43701', 'US', '{}', '{}')",
    [ID(1)],
  );
  await q("INSERT INTO channel VALUES (?, 'web', 'Web store', 'Brand', 'USD', '{}')", [ID(2)]);
  await q(
    "INSERT INTO departure (id, warehouseId, carrier, carrierName, name, day, cutOff, services) VALUES (?, ?, 'heron', 'Heron', 'x', '2026-11-23', '2026-11-23 18:30:00', '[]')",
    [ID(3), ID(1)],
  );
  for (const [n, payment] of [
    [10, 'paid'],
    [11, 'unpaid'],
  ] as const) {
    await q(
      `INSERT INTO orders (id, warehouseId, channelId, channelNumber, receivedAt, buyer, mail, shipTo, payment, currency, linesMinor, shippingMinor, note, digest, departureId, stage)
       VALUES (?, ?, ?, ?, '2026-11-23 10:00:00', 'Ruth', '', '{"name":"Ruth","country":"US"}', ?, 'USD', 1000, 500, '', '', ?, ?)`,
      [ID(n), ID(1), ID(2), `W-${n}`, payment, ID(3), n === 10 ? 'Departed' : 'Stopped'],
    );
    for (const position of [0, 1])
      await q(
        "INSERT INTO orderLine (id, orderId, position, channelSku, title, quantity, priceMinor) VALUES (?, ?, ?, 'JAR', 'Jar', 1, 500)",
        [ID(n * 10 + position), ID(n), position],
      );
  }
  await q(
    "INSERT INTO place (id, warehouseId, code, kind, aisle, along, level) VALUES (?, ?, 'B-07-2', 'bin', 1, 90000, 2)",
    [ID(50), ID(1)],
  );
  await q(
    "INSERT INTO product (id, sku, name, kind, stage, facts) VALUES (?, 'JAR', 'Jar', 'piece', 'Live', '{}')",
    [ID(60)],
  );
  await q(
    'INSERT INTO stockBalance (productId, placeId, lotKey, bounded, onHand) VALUES (?, ?, ?, TRUE, 7)',
    [ID(60), ID(50), '00000000-0000-0000-0000-000000000000'],
  );
  await runner.release();
}

test('a house of the first migration keeps its data, and what follows from it is filled', async () => {
  await firstHouse();
  await migrate(source);
  const orders = await source.query(
    'SELECT channelNumber, totalMinor, paidMinor, country, leavesAt, isOpen FROM orders ORDER BY no',
  );
  expect(orders).toMatchObject([
    { channelNumber: 'W-10', totalMinor: 1500, paidMinor: 1500, country: 'US', isOpen: 0 },
    { channelNumber: 'W-11', totalMinor: 1500, paidMinor: 0, isOpen: 1 },
  ]);
  expect(orders[0].leavesAt.toISOString()).toBe('2026-11-23T18:30:00.000Z');
  const lines = await source.query('SELECT lineKey, units, removedAt FROM orderLine ORDER BY id');
  expect(lines.map((l: { lineKey: string }) => l.lineKey)).toEqual(['JAR#1', 'JAR#2', 'JAR#1', 'JAR#2']);
  const counts = await source.query('SELECT stage, n FROM stageCount ORDER BY stage');
  expect(counts.map((c: { stage: string; n: number }) => [c.stage, c.n])).toEqual([
    ['Departed', 1],
    ['Stopped', 1],
  ]);
  expect(
    await source.query("SELECT name FROM channel WHERE code IN ('hand', 'build') ORDER BY name"),
  ).toEqual([{ name: 'Builds' }, { name: 'By hand' }]);
  // Places know their bay and zone, a dock and the place of making are there, and what lay somewhere lies there still.
  expect(await source.query('SELECT code, kind, bay, zone FROM place ORDER BY code')).toEqual([
    { code: 'B-07-2', kind: 'bin', bay: 7, zone: 'Shelves' },
    { code: 'DOCK-1', kind: 'dock', bay: null, zone: 'Dock' },
    { code: 'MADE', kind: 'made', bay: null, zone: '' },
  ]);
  expect(await source.query('SELECT onHand FROM stockBalance')).toEqual([{ onHand: 7 }]);
});

test('migrating again changes nothing, and there is no way back', async () => {
  expect(await source.runMigrations({ transaction: 'none' })).toEqual([]);
  await expect(source.undoLastMigration()).rejects.toThrow('Migrations only go forward.');
});

/** An empty database beside the others; gives a way to it, and away with it. */
async function empty(called: string) {
  const own = `${name}_${called}`;
  await root.query(`CREATE DATABASE ${own} CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_520_ci`);
  const made = await openDataSource({ port: Number(process.env.AUK_TEST_DB_PORT), database: own });
  const away = async () => {
    await made.destroy();
    await root.query(`DROP DATABASE ${own}`);
  };
  return { own, made, away };
}

/** The connection of a migration ends after so many statements, as by a kill. */
class Killed extends Error {}

test('migrations that are killed again and again on the way, and run again, make what one run makes', async () => {
  const [whole, torn] = [await empty('whole'), await empty('torn')];
  await migrate(whole.made);
  let kills = 0;
  for (let finished = false; !finished; ) {
    const make = torn.made.createQueryRunner.bind(torn.made);
    let left = 17 + (kills % 3);
    torn.made.createQueryRunner = ((mode: 'master') => {
      const runner: QueryRunner = make(mode);
      const query = runner.query.bind(runner);
      runner.query = (async (...args: Parameters<typeof query>) => {
        if (left-- <= 0) throw new Killed();
        return query(...args);
      }) as typeof query;
      return runner;
    }) as typeof torn.made.createQueryRunner;
    try {
      await torn.made.runMigrations({ transaction: 'none' });
      finished = true;
    } catch (error) {
      if (!(error instanceof Killed)) throw error;
      kills++;
    } finally {
      torn.made.createQueryRunner = make;
    }
  }
  expect(kills).toBeGreaterThan(10);
  expect(differencesOf(await readSchema(root, whole.own), await readSchema(root, torn.own))).toEqual([]);
  expect(await torn.made.query('SELECT COUNT(*) AS n FROM migrations')).toEqual(
    await whole.made.query('SELECT COUNT(*) AS n FROM migrations'),
  );
  await whole.away();
  await torn.away();
}, 120_000);

test('the demo company as it landed before migrates with its data, and everything derived still agrees', async () => {
  const { own, made, away } = await empty('before');
  const dump = gunzipSync(readFileSync(new URL('./fixtures/demo-before-ground.sql.gz', import.meta.url)));
  const connection = await createConnection({
    host: '127.0.0.1',
    port: Number(process.env.AUK_TEST_DB_PORT),
    user: 'root',
    database: own,
    multipleStatements: true,
  });
  await connection.query(dump.toString('utf8'));
  await connection.end();
  const count = async (labels: string) =>
    made.query(
      `SELECT (SELECT COUNT(*) FROM orders) AS orders, (SELECT SUM(onHand) FROM productStock) AS units, (SELECT COUNT(*) FROM stockMove) AS moves, (SELECT COUNT(*) FROM person) AS people, (SELECT COUNT(*) FROM ${labels}) AS labels`,
    );
  const before = await count('purchase');
  await made.query(
    "INSERT INTO orderScan (id, orderId, text, at, personId, answer) SELECT UUID(), id, 'JAR', '2026-11-23 10:00:00', NULL, '{\"kind\":\"counted\"}' FROM orders ORDER BY no LIMIT 2",
  );
  await migrate(made);
  expect(await count('label')).toEqual(before);
  // Scans of drafts came through another door; they are kept like all others now.
  expect(
    await made.query(
      "SELECT x.kind, JSON_VALUE(e.scan, '$.text') AS text, JSON_VALUE(e.answer, '$.kind') AS answer FROM scanEvent e JOIN scanSession x ON x.id = e.sessionId AND x.orderId IS NOT NULL",
    ),
  ).toEqual([1, 2].map(() => ({ kind: 'draft', text: 'JAR', answer: 'counted' })));
  expect(Number(before[0].orders)).toBeGreaterThan(150);
  expect(await checkData(new Db(made))).toEqual([]);
  // The floor was eight aisles as far apart; it is one block of them now.
  expect(await made.query('SELECT layout FROM warehouse')).toEqual([
    { layout: evenLayout({ aisles: 8, length: 164_000, pitch: 40_000 }) },
  ]);
  expect(await made.query('SELECT DISTINCT asks FROM label')).toEqual([{ asks: 1 }]);
  expect(
    await made.query("SELECT JSON_VALUE(value, '$') AS origin FROM setting WHERE name = 'origin'"),
  ).toEqual([{ origin: 'demo' }]);
  expect(
    await made.query('SELECT settled, COUNT(*) > 0 AS some FROM orders GROUP BY settled ORDER BY settled'),
  ).toMatchObject([{ settled: 'paid' }, { settled: 'unpaid' }]);
  const fresh = await empty('fresh');
  await migrate(fresh.made);
  expect(differencesOf(await readSchema(root, fresh.own), await readSchema(root, own))).toEqual([]);
  await fresh.away();
  await away();
}, 120_000);
