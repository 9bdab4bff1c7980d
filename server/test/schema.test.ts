import { DataSource } from 'typeorm';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { migrate } from '../src/database/migrate.js';
import { openDataSource } from '../src/database/source.js';
import { ENTITIES } from '../src/entities.js';
import { buildFromEntities, differencesOf, readSchema } from './schema.js';

const port = Number(process.env.AUK_TEST_DB_PORT);
const [made, said, planted] = ['migrated', 'said', 'planted'].map(n => `auk_schema_${process.pid}_${n}`) as [
  string,
  string,
  string,
];
let root: DataSource;
let entities: DataSource;
beforeAll(async () => {
  root = await new DataSource({ type: 'mariadb', host: '127.0.0.1', port, username: 'root' }).initialize();
  for (const name of [made, said, planted])
    await root.query(`CREATE DATABASE ${name} CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_520_ci`);
  for (const name of [made, planted]) {
    const source = await openDataSource({ port, database: name });
    await migrate(source);
    await source.destroy();
  }
  entities = await new DataSource({
    type: 'mariadb',
    host: '127.0.0.1',
    port,
    username: 'root',
    database: said,
    charset: 'utf8mb4_unicode_520_ci',
    entities: ENTITIES,
  }).initialize();
  await buildFromEntities(entities);
});
afterAll(async () => {
  await entities.destroy();
  for (const name of [made, said, planted]) await root.query(`DROP DATABASE ${name}`);
  await root.destroy();
});

test('the entities say what the migrations made: every table, column, index, key, check and expression', async () => {
  expect(differencesOf(await readSchema(root, made), await readSchema(root, said))).toEqual([]);
});

test.each([
  ['a check that is missing', 'orderLine', 'ALTER TABLE orderLine MODIFY quantity INT NOT NULL'],
  ['another collation', 'product.sku', 'ALTER TABLE product MODIFY sku VARCHAR(60) NOT NULL'],
  [
    'another generated expression',
    'label.liveParcel',
    "ALTER TABLE label DROP COLUMN liveParcel, ADD liveParcel UUID AS (IF(state IN ('refused'), NULL, parcelId)) PERSISTENT, ADD UNIQUE (liveParcel)",
  ],
  [
    'two columns of an index swapped',
    'orders: indexes',
    'ALTER TABLE orders DROP INDEX bySettled, ADD INDEX bySettled (no, settled)',
  ],
  ['a column that no entity has', 'place.shade', 'ALTER TABLE place ADD shade INT NULL'],
  ['a table that no entity has', 'forgotten', 'CREATE TABLE forgotten (id INT PRIMARY KEY)'],
  ['another default', 'orders.version', 'ALTER TABLE orders MODIFY version INT NOT NULL DEFAULT 2'],
  [
    'a column that may be empty',
    'lot.code',
    'ALTER TABLE lot MODIFY code VARCHAR(40) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NULL',
  ],
])('a planted breach is found: %s', async (_, where, statement) => {
  await root.query(`USE ${planted}`);
  await root.query(statement);
  const found = differencesOf(await readSchema(root, planted), await readSchema(root, said));
  expect(
    found.some(f => f.startsWith(where)),
    found.join('\n'),
  ).toBe(true);
});
