import type { Captured } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { IsNull } from 'typeorm';
import { newId, type Tx } from '../database/db.js';
import { UnitFact } from './unitFact.entity.js';

/** What is told of packed units, kept with their order. */
@Injectable()
export class UnitFacts {
  async keep(
    tx: Tx,
    {
      n,
      line,
      serial,
      lot,
      expiry,
      answer,
      ...of
    }: Captured & { orderId: string; parcelId: string; productId: string },
  ): Promise<void> {
    await tx.insert(UnitFact, [
      {
        id: newId(),
        orderId: of.orderId,
        partId: line,
        parcelId: of.parcelId,
        productId: of.productId,
        n,
        serial: serial ?? null,
        lot: lot ?? null,
        expiry: expiry ?? null,
        answer: answer ?? null,
        at: tx.at,
        personId: tx.personId,
      },
    ]);
  }

  /** What left in a parcel is back: its serial numbers may leave again. */
  async cameBack(tx: Tx, parcelId: string): Promise<void> {
    await tx.of(UnitFact).update({ parcelId, returnedAt: IsNull() }, { returnedAt: tx.at });
  }

  async forget(tx: Tx, orderId: string, n: number): Promise<void> {
    await tx.of(UnitFact).delete({ orderId, n });
  }
}
