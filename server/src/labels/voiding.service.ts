import { formatMoney, type LabelEvent, labelNext } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { PrintQueue } from '../benches/benches.module.js';
import { CarrierRegistry } from '../carriers/carriers.module.js';
import { Db, type Doer } from '../database/db.js';
import { Forbidden, NotHere, TooLate } from '../http/problem.js';
import { type Lease, Leases, Rounds } from '../leases/leases.module.js';
import { Parcels } from '../parcels/parcels.module.js';
import { event, lockOrders, refreshStages, toHistory } from '../records/records.module.js';
import { Label } from './label.entity.js';
import {
  askedSince,
  lockLabel,
  lockParcel,
  noteVoidAsked,
  orderOfLabel,
  parcelToVoid,
  VOID_STUCK,
} from './labels.queries.js';
import { Purchases } from './purchases.service.js';

type Answered = Extract<LabelEvent, { type: 'answered voided' | 'void refused' | 'answered nothing' }> & {
  refundMinor?: number;
};

const ROUND = 'recover voidings';

/**
 * Takes bought labels back, once. That it was asked for is committed before the carrier is asked; until the carrier has answered, the
 * parcel has its label, so that nothing is bought for it and nothing leaves with it twice. What stays unanswered is found out in the
 * carrier's books.
 */
@Injectable()
export class Voiding {
  constructor(
    private readonly db: Db,
    private readonly written: Parcels,
    private readonly leases: Leases,
    private readonly rounds: Rounds,
    private readonly purchases: Purchases,
    private readonly carriers: CarrierRegistry,
    private readonly prints: PrintQueue,
  ) {
    purchases.recover(ROUND, VOID_STUCK, (id, lease, doer) => this.recoverOne(id, lease, doer));
  }

  /** Voids the label of a parcel that is still here; pressing twice voids once. */
  void(no: number, doer: Doer): Promise<void> {
    return this.giveBack(no, false, doer);
  }

  /** Voids the label for a parcel's way back, as long as the parcel has not come back. */
  voidReturn(no: number, doer: Doer): Promise<void> {
    return this.giveBack(no, true, doer);
  }

  private async giveBack(no: number, back: boolean, doer: Doer): Promise<void> {
    const begun = await this.db.tx(doer, async tx => {
      const seen = await parcelToVoid(tx, no, back);
      if (!seen) throw new NotHere(`The parcel PA-${no}`);
      await lockOrders(tx, [seen.orderId]);
      await lockParcel(tx, seen.id);
      const parcel = (await parcelToVoid(tx, no, back))!;
      if (back && parcel.cameBack)
        throw new Forbidden(
          `PA-${no} came back already: its return label was used.`,
          'Look at it under Parcels > Returns.',
        );
      if (!back && (parcel.departedAt || parcel.handedOverAt))
        throw new Forbidden(
          `PA-${no} has been handed over.`,
          'Its label stays; ask the carrier to give the parcel back.',
        );
      if (parcel.state === 'void asked') return null;
      if (parcel.state !== 'bought')
        throw new TooLate(
          `PA-${no} has no bought ${back ? 'return label' : 'label'}.`,
          'Look at the parcel again.',
        );
      await noteVoidAsked(tx, parcel.labelId!);
      await refreshStages(tx, [parcel.orderId]);
      const lease = await this.purchases.take(parcel.labelId!, tx);
      return { id: parcel.labelId!, lease };
    });
    // Without the lease somebody is at it, or its round will be.
    if (begun?.lease) await this.purchases.under(begun.lease, l => this.ask(begun.id, l, doer));
  }

  /** Asks again for what stayed unanswered; waits for the end. */
  recover(): Promise<void> {
    return this.rounds.once(ROUND);
  }

  /**
   * A voiding that stayed unanswered may have been done, or may still be: the carrier's books tell. Only when it can no longer be at
   * work on it, and its books hold nothing, it is asked again; until then a refusal would say nothing.
   */
  private async recoverOne(id: string, lease: Lease, doer: Doer): Promise<void> {
    const { carrier: code, sinceMs, elsewhere } = (await askedSince(this.db, id))!;
    if (elsewhere) return this.ask(id, lease, doer);
    const carrier = await this.carriers.get(code);
    if (!carrier) return;
    const found = await carrier.find(id);
    if (found.kind !== 'answered') return;
    const refundMinor = found.value?.refundMinor ?? null;
    if (refundMinor !== null) await this.step(id, lease, doer, { type: 'answered voided', refundMinor });
    else if ((sinceMs ?? 0) >= carrier.longestMs && (await this.askedAgain(id, lease, doer)))
      await this.ask(id, lease, doer);
  }

  /** Notes that it is asked for once more; false when the row has moved on meanwhile. */
  private askedAgain(id: string, lease: Lease, doer: Doer): Promise<boolean> {
    return this.db.tx(doer, async tx => {
      const { orderId } = (await orderOfLabel(tx, id))!;
      await lockOrders(tx, [orderId]);
      const row = (await lockLabel(tx, id))!;
      await this.leases.must(tx, lease);
      if (row.state !== 'void asked') return false;
      await noteVoidAsked(tx, id);
      return true;
    });
  }

  private async ask(id: string, lease: Lease, doer: Doer): Promise<void> {
    const row = await this.db.of(Label).findOneByOrFail({ id });
    // What was bought elsewhere is given back there; here it only stops counting.
    if (row.elsewhere) return this.step(id, lease, doer, { type: 'answered voided', refundMinor: 0 });
    const carrier = await this.carriers.get(row.carrier);
    if (!carrier) return;
    const answer = await carrier.takeBack(id);
    const later = { ...doer, at: new Date() };
    if (answer.kind === 'answered')
      await this.step(id, lease, later, {
        type: 'answered voided',
        refundMinor: answer.value.refundMinor,
      });
    else
      await this.step(id, lease, later, {
        type: answer.kind === 'refused' ? 'void refused' : 'answered nothing',
        why: answer.why,
      });
  }

  /** Stores what the carrier answered; nothing when the row has moved on meanwhile. */
  private step(id: string, lease: Lease, doer: Doer, happened: Answered): Promise<void> {
    return this.db.tx(doer, async tx => {
      const { orderId } = (await orderOfLabel(tx, id))!;
      await lockOrders(tx, [orderId]);
      const row = (await lockLabel(tx, id))!;
      await this.leases.must(tx, lease);
      const next = labelNext(row.state, happened);
      if (!next.ok) return;
      const why = 'why' in happened ? happened.why.slice(0, 300) : null;
      const refundMinor = happened.refundMinor ?? null;
      await tx.of(Label).update({ id }, { state: next.value, why, refundMinor });
      // What lies in the house, and what is printed, hangs on the way there only.
      if (next.value === 'voided' && !row.back) {
        await this.written.plan(tx, [row.parcelId], null);
        await this.written.fits(tx, row.parcelId);
        await this.prints.callOff(tx, row.parcelNo);
      }
      await toHistory(tx, [event(tx, orderId, 'label', saysOf(row, happened))]);
      await refreshStages(tx, [orderId]);
      await tx.tell('parcels', row.parcelId);
    });
  }
}

function saysOf(
  row: { carrierName: string; tracking: string | null; currency: string; back: number },
  happened: Answered,
): string {
  const label = row.back ? 'return label' : 'label';
  if (happened.type === 'void refused') return `The ${label} ${row.tracking} was not voided. ${happened.why}`;
  if (happened.type === 'answered nothing')
    return `Voiding the ${label} ${row.tracking} stayed without an answer. ${happened.why} Auk asks again.`;
  const refund = formatMoney(happened.refundMinor ?? 0, row.currency);
  return `${row.back ? 'Return label' : 'Label'} ${row.tracking} voided; ${refund} come back from ${row.carrierName}.`;
}
