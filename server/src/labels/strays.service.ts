import { formatMoney, STRAY_CHECKS_MS } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { CarrierRegistry } from '../carriers/carriers.module.js';
import { Db, type Doer } from '../database/db.js';
import { type Lease, Leases, Rounds } from '../leases/leases.module.js';
import { lockOrders } from '../records/records.module.js';
import { Claims } from './claims.service.js';
import { Label } from './label.entity.js';
import { lockLabel, noteCheck, orderOfLabel, TO_CHECK } from './labels.queries.js';
import { Purchases } from './purchases.service.js';

const ROUND = 'look for stray purchases';

/**
 * A carrier may refuse, or know nothing, and have sold all the same. Its books are looked through again for every purchase that ended
 * without a label; what is found there is owed back, and is given back at once. Another label may be live for the parcel by then: the
 * stray one never becomes a second.
 */
@Injectable()
export class Strays {
  constructor(
    private readonly db: Db,
    private readonly leases: Leases,
    private readonly rounds: Rounds,
    private readonly carriers: CarrierRegistry,
    private readonly claims: Claims,
    purchases: Purchases,
  ) {
    purchases.recover(ROUND, TO_CHECK, (id, lease, doer) => this.check(id, lease, doer));
  }

  /** Looks through the books for all that is due; waits for the end. */
  look(): Promise<void> {
    return this.rounds.once(ROUND);
  }

  private async check(id: string, lease: Lease, doer: Doer): Promise<void> {
    const label = await this.db.of(Label).findOneByOrFail({ id });
    const carrier = await this.carriers.get(label.carrier);
    if (!carrier) return this.again(id, lease, doer, label.checks + 1);
    const found = await carrier.find(id);
    // Silence says nothing: the same look is due again soon.
    if (found.kind !== 'answered') return this.again(id, lease, doer, label.checks);
    const stray = found.value;
    if (!stray) return this.again(id, lease, doer, label.checks + 1);
    await this.db.tx(doer, async tx => {
      const { orderId } = (await orderOfLabel(tx, id))!;
      await lockOrders(tx, [orderId]);
      const row = (await lockLabel(tx, id))!;
      await this.leases.must(tx, lease);
      const why = `It sold ${stray.tracking} for ${formatMoney(stray.minor, stray.currency)} and had denied it.`;
      await this.claims.open(
        tx,
        { ...row, currency: stray.currency },
        'stray',
        stray.minor,
        why,
        stray.tracking,
      );
    });
    const back = stray.refundMinor === undefined ? await carrier.takeBack(id) : null;
    const returned = !back || back.kind === 'answered';
    if (returned) await this.db.tx(doer, tx => this.claims.settle(tx, id, 'stray'));
    // A carrier that keeps the money has its say; silence is asked once more.
    const done = returned || back?.kind === 'refused';
    await this.again(id, lease, doer, done ? STRAY_CHECKS_MS.length : label.checks);
  }

  /** Notes when its books are looked through next; never after the last time. */
  private async again(id: string, lease: Lease, doer: Doer, checks: number): Promise<void> {
    await this.db.tx(doer, async tx => {
      await this.leases.must(tx, lease);
      await noteCheck(tx, id, checks, STRAY_CHECKS_MS[checks] ?? null);
    });
  }
}
