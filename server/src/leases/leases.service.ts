import { Injectable } from '@nestjs/common';
import { Db, newId, type Sql } from '../database/db.js';

/** The right to do one piece of work alone, until the database's clock says otherwise. The fence grows with every holder. */
export interface Lease {
  name: string;
  owner: string;
  fence: number;
}

/** The lease was lost to another worker: what was done under it must not be written any more. */
export class LeaseLost extends Error {
  constructor(name: string) {
    super(`Another worker does “${name}” by now.`);
  }
}

/** Names stay this long after their lease ended; a worker that slept longer finds no lease of its own either way. */
const KEEP_DAYS = 7;

/**
 * Gives out work that one worker at a time may do: jobs, pulls, recoveries, sweeps, planning. Time is the database's, so that servers
 * whose clocks differ agree. A holder that died lets go by itself when its time is over.
 */
@Injectable()
export class Leases {
  constructor(private readonly db: Db) {}

  /** Takes the lease of a name for `ms`, or null while another holds it. Within a transaction it begins with what the transaction commits. */
  async take(name: string, ms: number, sql: Sql = this.db): Promise<Lease | null> {
    const owner = newId();
    await sql.run(
      'INSERT IGNORE INTO lease (name, owner, fence, until) VALUES (?, ?, 0, NOW(3) - INTERVAL 1 SECOND)',
      [name, owner],
    );
    const taken = await sql.run(
      'UPDATE lease SET owner = ?, fence = fence + 1, until = NOW(3) + INTERVAL ? MICROSECOND WHERE name = ? AND until <= NOW(3)',
      [owner, ms * 1000, name],
    );
    if (taken === 0) return null;
    const { fence } = (await sql.one<{ fence: number }>('SELECT fence FROM lease WHERE name = ?', [name]))!;
    return { name, owner, fence };
  }

  /** Holds a lease for `ms` from now on; false when it was lost. */
  async renew(lease: Lease, ms: number): Promise<boolean> {
    return (
      (await this.db.run(
        'UPDATE lease SET until = NOW(3) + INTERVAL ? MICROSECOND WHERE name = ? AND owner = ? AND until > NOW(3)',
        [ms * 1000, lease.name, lease.owner],
      )) > 0
    );
  }

  /** Lets go. Letting go of what was lost changes nothing. */
  async free(lease: Lease): Promise<void> {
    await this.db.run('UPDATE lease SET until = NOW(3) WHERE name = ? AND owner = ? AND until > NOW(3)', [
      lease.name,
      lease.owner,
    ]);
  }

  /** Makes sure within a transaction that the lease is still held, and keeps it held until the transaction ends. */
  async must(sql: Sql, lease: Lease): Promise<void> {
    const held = await sql.one(
      'SELECT name FROM lease WHERE name = ? AND owner = ? AND until > NOW(3) FOR UPDATE',
      [lease.name, lease.owner],
    );
    if (!held) throw new LeaseLost(lease.name);
  }

  /** The same, and holds the lease for `ms` from now on. */
  async keep(sql: Sql, lease: Lease, ms: number): Promise<void> {
    const held = await sql.run(
      'UPDATE lease SET until = NOW(3) + INTERVAL ? MICROSECOND WHERE name = ? AND owner = ? AND until > NOW(3)',
      [ms * 1000, lease.name, lease.owner],
    );
    if (held === 0) throw new LeaseLost(lease.name);
  }

  /** Does work under a lease and lets go of it; null when another does it at this moment. */
  async alone<T>(name: string, ms: number, work: (lease: Lease) => Promise<T>): Promise<T | null> {
    const lease = await this.take(name, ms);
    if (!lease) return null;
    try {
      return await work(lease);
    } finally {
      await this.free(lease);
    }
  }

  /** Forgets names that nobody has held for days. */
  tidy(): Promise<number> {
    return this.db.run('DELETE FROM lease WHERE until < NOW(3) - INTERVAL ? DAY LIMIT 5000', [KEEP_DAYS]);
  }
}
