import { formatMoney, type LabelEvent, labelNext } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { CarrierRegistry } from '../carriers/carriers.module.js';
import { Db, type Doer } from '../database/db.js';
import { log } from '../http/log.js';
import { Forbidden, NotHere, TooLate } from '../http/problem.js';
import { type Lease, Leases, Rounds, type Turn } from '../leases/leases.module.js';
import { Parcels } from '../parcels/parcels.module.js';
import { event, lockOrders, refreshStages, toHistory } from '../records/records.module.js';
import { Label } from './label.entity.js';
import {
  lockLabel,
  lockParcel,
  noteVoidAsked,
  orderOfLabel,
  parcelToVoid,
  stuckCarriers,
  stuckLabels,
  VOID_STUCK,
} from './labels.queries.js';
import { HOLD_MS, leaseOf, underLease } from './underLease.js';

type Answered = Extract<LabelEvent, { type: 'answered voided' | 'void refused' | 'answered nothing' }> & {
  refundMinor?: number;
};

const EVERY_MS = 15_000;
const ROUND = 'recover voidings';

/**
 * Takes bought labels back, once. That it was asked for is committed before the carrier is asked; until the carrier has answered, the
 * parcel has its label, so that nothing is bought for it and nothing leaves with it twice. What stays unanswered is asked again: the
 * carrier takes one purchase back once, however often it is asked.
 */
@Injectable()
export class Voiding {
  constructor(
    private readonly db: Db,
    private readonly written: Parcels,
    private readonly leases: Leases,
    private readonly rounds: Rounds,
    private readonly carriers: CarrierRegistry,
  ) {
    rounds.register({
      name: ROUND,
      everyMs: EVERY_MS,
      leaseMs: HOLD_MS,
      lanes: async () => (await stuckCarriers(this.db, VOID_STUCK)).map(r => r.carrier),
      work: (carrier, turn) => this.recoverOf(carrier, turn),
    });
  }

  /** Voids the label of a parcel that is still here; pressing twice voids once. */
  async void(no: number, doer: Doer): Promise<void> {
    const begun = await this.db.tx(doer, async tx => {
      const seen = await parcelToVoid(tx, no);
      if (!seen) throw new NotHere(`The parcel PA-${no}`);
      await lockOrders(tx, [seen.orderId]);
      await lockParcel(tx, seen.id);
      const parcel = (await parcelToVoid(tx, no))!;
      if (parcel.departedAt || parcel.handedOverAt)
        throw new Forbidden(
          `PA-${no} has been handed over.`,
          'Its label stays; ask the carrier to give the parcel back.',
        );
      if (parcel.state === 'void asked') return null;
      if (parcel.state !== 'bought')
        throw new TooLate(`PA-${no} has no bought label.`, 'Look at the parcel again.');
      await noteVoidAsked(tx, parcel.labelId!);
      await refreshStages(tx, [parcel.orderId]);
      const lease = await this.leases.take(leaseOf(parcel.labelId!), HOLD_MS, tx);
      return { id: parcel.labelId!, lease };
    });
    // Without the lease somebody is at it, or its round will be.
    if (begun?.lease) await underLease(this.leases, begun.lease, l => this.ask(begun.id, l, doer));
  }

  /** Asks again for what stayed unanswered; waits for the end. */
  recover(): Promise<void> {
    return this.rounds.once(ROUND);
  }

  private async recoverOf(carrier: string, turn: Turn): Promise<void> {
    for (const { id } of await stuckLabels(this.db, carrier, VOID_STUCK)) {
      if (turn.stopped() || !(await this.leases.renew(turn.lease, HOLD_MS))) return;
      const lease = await this.leases.take(leaseOf(id), HOLD_MS);
      if (!lease) continue;
      try {
        await underLease(this.leases, lease, l => this.ask(id, l, { personId: null, at: new Date() }));
      } catch (error) {
        log.error({ err: error, purchase: id }, 'a voiding failed; it is tried again');
      }
    }
  }

  private async ask(id: string, lease: Lease, doer: Doer): Promise<void> {
    const row = await this.db.of(Label).findOneByOrFail({ id });
    const carrier = this.carriers.get(row.carrier);
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
      if (next.value === 'voided') await this.written.plan(tx, [row.parcelId], null);
      await toHistory(tx, [event(tx, orderId, 'label', saysOf(row, happened))]);
      await refreshStages(tx, [orderId]);
      await tx.tell('parcels', row.parcelId);
    });
  }
}

function saysOf(
  row: { carrierName: string; tracking: string | null; currency: string },
  happened: Answered,
): string {
  if (happened.type === 'void refused') return `The label ${row.tracking} was not voided. ${happened.why}`;
  if (happened.type === 'answered nothing')
    return `Voiding the label ${row.tracking} stayed without an answer. ${happened.why} Auk asks again.`;
  const refund = formatMoney(happened.refundMinor ?? 0, row.currency);
  return `Label ${row.tracking} voided; ${refund} come back from ${row.carrierName}.`;
}
