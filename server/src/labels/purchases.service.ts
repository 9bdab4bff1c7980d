import { Injectable } from '@nestjs/common';
import { Db, type Doer, type Tx } from '../database/db.js';
import { log } from '../http/log.js';
import { type Lease, LeaseLost, Leases, Rounds } from '../leases/leases.module.js';
import { stuckCarriers, stuckLabels } from './labels.queries.js';

/** A worker holds a purchase for this long: longer than it waits for the carrier, twice. */
const HOLD_MS = 20_000;
const RECOVER_EVERY_MS = 15_000;

/** One worker at a time is at a purchase, by a lease; what waits too long for an answer is taken up by a round. */
@Injectable()
export class Purchases {
  constructor(
    private readonly db: Db,
    private readonly leases: Leases,
    private readonly rounds: Rounds,
  ) {}

  /** A round over what is stuck by a rule; each carrier is asked by itself, so that a dead one holds up no other. */
  recover(name: string, rule: string, one: (id: string, lease: Lease, doer: Doer) => Promise<void>): void {
    this.rounds.register({
      name,
      everyMs: RECOVER_EVERY_MS,
      leaseMs: HOLD_MS,
      lanes: async () => (await stuckCarriers(this.db, rule)).map(r => r.carrier),
      work: async (carrier, turn) => {
        for (const { id } of await stuckLabels(this.db, carrier, rule)) {
          if (turn.stopped() || !(await this.leases.renew(turn.lease, HOLD_MS))) return;
          const lease = await this.take(id);
          if (!lease) continue;
          try {
            await this.under(lease, l => one(id, l, { personId: null, at: new Date() }));
          } catch (error) {
            log.error(
              { err: error, purchase: id, round: name },
              'a purchase could not be found out; tried again',
            );
          }
        }
      },
    });
  }

  /** The lease of a purchase; null while somebody else is at it. */
  take(id: string, tx?: Tx): Promise<Lease | null> {
    return this.leases.take(`label ${id}`, HOLD_MS, tx);
  }

  /** Works at a purchase under its lease and lets go of it. When the lease was lost on the way, whoever has it finds out what was done. */
  async under(lease: Lease, work: (lease: Lease) => Promise<void>): Promise<void> {
    try {
      await work(lease);
    } catch (error) {
      if (!(error instanceof LeaseLost)) throw error;
      log.warn({ purchase: lease.name }, 'a carrier answered after its purchase was given to another worker');
    } finally {
      await this.leases.free(lease);
    }
  }
}
