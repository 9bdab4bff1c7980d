import { Injectable } from '@nestjs/common';
import { In } from 'typeorm';
import type { Row, Tx } from '../database/db.js';
import { Parcel } from './parcel.entity.js';

/** The one writer of parcels: opened at a bench, closed in a box, planned for a departure, handed over, gone. */
@Injectable()
export class Parcels {
  async open(
    tx: Tx,
    parcels: readonly (Pick<Parcel, 'id' | 'orderId' | 'shipmentId' | 'placeId'> & { seq?: number })[],
  ): Promise<void> {
    await tx.insert(
      Parcel,
      parcels.map((p): Row => ({ ...p, seq: p.seq ?? 1, openedAt: tx.at })),
    );
  }

  /** The number of a parcel. */
  async noOf(tx: Tx, id: string): Promise<number> {
    return (await tx.of(Parcel).findOneByOrFail({ id })).no;
  }

  /** An open parcel is planned before anybody packs: what its label is bought for. */
  async planAhead(tx: Tx, id: string, of: Pick<Parcel, 'boxCode' | 'weightMg'>): Promise<void> {
    await tx.of(Parcel).update(id, { ...of, aheadAt: tx.at });
  }

  /** A bench begins a parcel that was planned ahead. */
  async takeOver(tx: Tx, id: string): Promise<void> {
    await tx.of(Parcel).update(id, { aheadAt: null, openedAt: tx.at });
  }

  /** `misfit`: why a label that it has already is not right for it. */
  async close(
    tx: Tx,
    id: string,
    of: Pick<Parcel, 'boxCode' | 'weightMg'> & Partial<Pick<Parcel, 'misfit'>>,
  ): Promise<void> {
    await tx.of(Parcel).update(id, { closedAt: tx.at, ...of });
  }

  /** Its label was given back: what is bought next is bought for what it is. */
  async fits(tx: Tx, id: string): Promise<void> {
    await tx.of(Parcel).update(id, { misfit: null });
  }

  /** A closed parcel is taken open again; it is weighed anew before it closes. */
  async openAgain(tx: Tx, id: string): Promise<void> {
    await tx.of(Parcel).update(id, { closedAt: null, departureId: null, handedOverAt: null });
  }

  /** Plans parcels for a departure; what was scanned onto another is not on it any more. */
  async plan(tx: Tx, ids: readonly string[], departureId: string | null): Promise<void> {
    await tx.of(Parcel).update({ id: In([...ids]) }, { departureId, handedOverAt: null });
  }

  /** A parcel was scanned onto a departure. */
  async handOver(tx: Tx, id: string, departureId: string): Promise<void> {
    await tx.of(Parcel).update(id, { handedOverAt: tx.at, departureId });
  }

  async depart(tx: Tx, ids: readonly string[]): Promise<void> {
    await tx.of(Parcel).update({ id: In([...ids]) }, { departedAt: tx.at });
  }
}
