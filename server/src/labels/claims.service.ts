import type { ClaimView } from '@auk/contract';
import { formatMoney } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { Db, type Doer, newId, type Tx } from '../database/db.js';
import { NotHere, TooLate } from '../http/problem.js';
import { event, toHistory } from '../records/records.module.js';
import { claimsOf } from './claims.queries.js';
import { RefundClaim } from './refundClaim.entity.js';

/** Money that carriers owe back: opened when it is found, settled when it has come, given up by a person. */
@Injectable()
export class Claims {
  constructor(private readonly db: Db) {}

  /** Notes what is owed for a label; once for each kind. */
  async open(
    tx: Tx,
    label: { id: string; orderId: string; carrierName: string; currency: string },
    kind: RefundClaim['kind'],
    minor: number,
    why: string,
    tracking: string | null,
  ): Promise<void> {
    const { currency } = label;
    if (await tx.of(RefundClaim).existsBy({ labelId: label.id, kind })) return;
    await tx.insert(RefundClaim, [
      { id: newId(), labelId: label.id, kind, minor, currency, why: why.slice(0, 300), tracking, at: tx.at },
    ]);
    await toHistory(tx, [
      event(tx, label.orderId, 'label', `${label.carrierName} owes ${formatMoney(minor, currency)}. ${why}`),
    ]);
    await tx.tell('claims', label.id);
  }

  /** What was owed has come back. */
  async settle(tx: Tx, labelId: string, kind: RefundClaim['kind']): Promise<void> {
    await tx.of(RefundClaim).update({ labelId, kind, state: 'open' }, { state: 'settled', closedAt: tx.at });
    await tx.tell('claims', labelId);
  }

  list(): Promise<ClaimView[]> {
    return claimsOf(this.db);
  }

  /** A person has the money, or gives it up. */
  async close(id: string, state: 'settled' | 'given up', doer: Doer): Promise<void> {
    await this.db.tx(doer, async tx => {
      const claim = await tx.of(RefundClaim).findOne({ where: { id }, lock: { mode: 'pessimistic_write' } });
      if (!claim) throw new NotHere('This claim');
      if (claim.state !== 'open')
        throw new TooLate(`This claim is ${claim.state} already.`, 'Look at the list again.');
      await tx.of(RefundClaim).update(id, { state, closedAt: tx.at, personId: tx.personId });
      await tx.tell('claims', claim.labelId);
    });
  }
}
