import { DataSource } from 'typeorm';
import { MIGRATIONS } from './migrations/index.js';

/** Where the database listens, from the environment that scripts/ sets. */
export interface DatabaseAddress {
  port: number;
  database: string;
  host?: string;
  user?: string;
  password?: string;
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
    migrations: MIGRATIONS,
    dateStrings: ['DATE'],
    supportBigNumbers: true,
    bigNumberStrings: false,
    poolSize: 20,
    extra: { decimalNumbers: true },
  });
}
