import { DataSource } from 'typeorm';
import { ENTITIES } from '../entities.js';
import { MIGRATIONS } from './migrations/index.js';
import { Statements } from './statements.js';

/** Where the database listens, from the environment that scripts/ sets. */
export interface DatabaseAddress {
  port: number;
  database: string;
  host?: string;
  user?: string;
  password?: string;
}

interface RawConnection {
  query(sql: string): void;
}
interface RawPool {
  on(event: 'connection', listener: (connection: RawConnection) => void): void;
}

/** What every session of the application sets for itself, whatever the server's defaults are. */
const SESSION =
  "SET SESSION time_zone = '+00:00', SESSION sql_mode = 'STRICT_TRANS_TABLES,NO_ZERO_DATE,NO_ZERO_IN_DATE,ERROR_FOR_DIVISION_BY_ZERO', SESSION tx_isolation = 'READ-COMMITTED'";

/** Opens a data source whose sessions count time in UTC and refuse what does not fit, on every connection of the pool. */
export async function openDataSource(at: DatabaseAddress): Promise<DataSource> {
  const source = await makeDataSource(at).initialize();
  const { pool } = source.driver as unknown as { pool: RawPool };
  // Statements of one connection run in their order, so this is done before anything else that a new one is asked.
  pool.on('connection', connection => connection.query(SESSION));
  // The connection that the driver opened to look around is there already.
  await source.query(SESSION);
  return source;
}

/** A data source with UTC times, plain numbers for counts and sums, and ISO texts for days. */
export function makeDataSource(at: DatabaseAddress): DataSource {
  return new DataSource({
    type: 'mariadb',
    host: at.host ?? '127.0.0.1',
    port: at.port,
    username: at.user ?? 'root',
    password: at.password ?? '',
    database: at.database,
    timezone: 'Z',
    charset: 'utf8mb4_unicode_520_ci',
    entities: ENTITIES,
    migrations: MIGRATIONS,
    dateStrings: ['DATE'],
    supportBigNumbers: true,
    bigNumberStrings: false,
    logging: ['query'],
    logger: new Statements(),
    poolSize: 20,
    // Where a statement was asked is told by TypeORM's own error; the driver would note it for every statement beside.
    extra: { decimalNumbers: true, trace: false },
  });
}
