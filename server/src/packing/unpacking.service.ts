import { Injectable } from '@nestjs/common';
import type { Tx } from '../database/db.js';
import { lockAll } from '../database/locks.js';
import { Forbidden } from '../http/problem.js';
import { Parcels } from '../parcels/parcels.module.js';
import { GivingUp, productsOf, Undoing } from '../records/records.module.js';
import { ScansService } from '../scans/scans.module.js';
import { parcelsOf, sessionOfOrder } from './packing.queries.js';

/** Takes out what was packed of an order that is given up. */
@Injectable()
export class Unpacking {
  constructor(
    private readonly scans: ScansService,
    private readonly givingUp: GivingUp,
    private readonly undoing: Undoing,
    private readonly written: Parcels,
  ) {}

  /** Empties the parcels of an order, closed ones too, and ends its session at the bench. A label that lives is refused: it is voided first. */
  async unpack(tx: Tx, orderId: string): Promise<void> {
    const session = await sessionOfOrder(tx, orderId);
    if (session) await this.scans.lock(tx, session.id);
    await lockAll(tx, { orders: [orderId] });
    await this.givingUp.lock(tx, orderId);
    const labelled = await this.undoing.what(tx, orderId, false);
    if (labelled.state === 'blocked') throw new Forbidden(labelled.says, labelled.cure);
    await lockAll(tx, { productStock: await productsOf(tx, orderId) });
    await this.givingUp.emptyParcels(tx, orderId);
    // A box that holds nothing is no packed parcel.
    for (const p of await parcelsOf(tx, orderId))
      if (p.closedAt && !p.departedAt) await this.written.openAgain(tx, p.id);
    if (session && !session.closedAt) await this.scans.close(tx, session.id);
  }
}
