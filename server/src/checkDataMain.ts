import 'reflect-metadata';
import { checkData } from './checks/checkData.js';
import { Db } from './database/db.js';
import { openDataSource } from './database/source.js';

const source = await openDataSource({
  port: Number(process.env.AUK_DB_PORT),
  database: process.env.AUK_DB_NAME ?? 'auk',
});
const differences = await checkData(new Db(source));
await source.destroy();
for (const d of differences)
  console.log(`${d.what}: ${d.where} is stored as ${d.stored} and follows as ${d.derived}`);
console.log(
  differences.length === 0
    ? 'Everything derived agrees with the ledger and the events.'
    : `${differences.length} differences.`,
);
process.exit(differences.length === 0 ? 0 : 1);
