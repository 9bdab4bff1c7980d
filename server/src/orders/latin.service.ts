import type { LatinIn, LatinView } from '@auk/contract';
import { type Address, isLatinAddress } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { Db, type Doer, fromJson } from '../database/db.js';
import { Forbidden, NotHere } from '../http/problem.js';
import { OrderChecks } from '../intake/intake.module.js';
import { event, lockOrders, toHistory } from '../records/records.module.js';
import { proposeLatin } from '../reference/latin.js';
import { addressOfOrder } from './latin.queries.js';

/** Addresses in Latin letters, for carriers that take no others: proposed, and given by a person. */
@Injectable()
export class LatinAddresses {
  constructor(
    private readonly db: Db,
    private readonly checks: OrderChecks,
  ) {}

  async of(orderId: string): Promise<LatinView> {
    const row = await addressOfOrder(this.db, orderId);
    if (!row) throw new NotHere('That order');
    const shipTo = fromJson<Address>(row.shipTo);
    return {
      needed: !isLatinAddress(shipTo),
      proposal: proposeLatin(shipTo),
      given: row.given ? fromJson<Address>(row.given) : null,
    };
  }

  /** Keeps it for the address that the order has now; the order goes on where it waited for it. */
  async give(orderId: string, latin: LatinIn, doer: Doer): Promise<LatinView> {
    await this.db.tx(doer, async tx => {
      await lockOrders(tx, [orderId]);
      const row = await addressOfOrder(tx, orderId);
      if (!row) throw new NotHere('That order');
      const address = { ...fromJson<Address>(row.shipTo), ...latin };
      if (!isLatinAddress(address))
        throw new Forbidden(
          'Some of it is not in Latin letters.',
          'Write it as it sounds; accents are fine.',
        );
      await this.checks.giveLatin(tx, orderId, address);
      await toHistory(tx, [
        event(tx, orderId, 'address', `In Latin letters: ${address.name}, ${address.city}.`),
      ]);
      await this.checks.recheck(tx, [orderId]);
      await tx.tell('orders', orderId);
    });
    return this.of(orderId);
  }
}
