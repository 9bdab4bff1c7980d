import { AsyncLocalStorage } from 'node:async_hooks';
import { MysqlDriver } from 'typeorm/driver/mysql/MysqlDriver.js';
import { Db } from '../src/database/db.js';

/**
 * The work of a transaction uses the connection of the transaction alone. Who holds locks and waits for a second connection waits for
 * everybody who has one, and they may wait for those locks; and what is read there is older than what was just written. Here each test
 * fails whose server asks for a second one within a transaction.
 */
const within = new AsyncLocalStorage<boolean>();
const found = new Set<string>();

const tx = Db.prototype.tx;
Db.prototype.tx = function (this: Db, doer, work) {
  return tx.call(this, doer, t => within.run(true, () => work(t))) as never;
};

const obtain = MysqlDriver.prototype.obtainMasterConnection;
MysqlDriver.prototype.obtainMasterConnection = function () {
  if (within.getStore()) found.add(new Error('A second connection within a transaction').stack!);
  return obtain.call(this);
};

/** Where second connections were asked for since this was asked last. */
export function secondConnections(): string[] {
  const now = [...found];
  found.clear();
  return now;
}
