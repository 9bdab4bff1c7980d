import { type BatchView, BuyLabel, type OfferView, wishOf } from '@auk/contract';
import { convert, formatMoney } from '@auk/core';
import { Injectable } from '@nestjs/common';
import pLimit from 'p-limit';
import { Db, type Doer, fromJson, newId } from '../database/db.js';
import { HouseService } from '../house/house.module.js';
import { Forbidden, NotHere, TooLate, Trouble } from '../http/problem.js';
import { JobsService, type JobTurn } from '../jobs/jobs.module.js';
import { type PriceGround, RatingService } from '../rating/rating.module.js';
import { itemsOf, nextItems, parcelIds, pricedSum } from './batches.queries.js';
import { LabelBatch } from './labelBatch.entity.js';
import { LabelBatchItem } from './labelBatchItem.entity.js';
import { Labels, type OfBatch } from './labels.service.js';

const KIND = 'label batch';
/** So many items are worked at once; the carriers are asked by fewer, so that what is stored meanwhile costs no time. */
const AT_ONCE = 16;
/** After so many items it is looked whether the batch is to go on. */
const LOOKED_EVERY = 16;
const TRY_HOURS = 12;

const HAS_ONE = 'It has a label already.';

type Item = { id: string; parcelNo: number; offer: string | null };

/** Labels of many parcels: all are priced first, the sum is shown, and exactly that is bought, each under a key of its own. */
@Injectable()
export class Batches {
  constructor(
    private readonly db: Db,
    private readonly house: HouseService,
    private readonly rating: RatingService,
    private readonly labels: Labels,
    private readonly jobs: JobsService,
  ) {
    jobs.register<{ personId: string | null }>({
      kind: KIND,
      tryHours: TRY_HOURS,
      work: (job, turn) => this.work(job.subjectId!, job.payload.personId, turn),
    });
  }

  /** Begins a batch: its parcels are priced by a job. */
  async begin(nos: readonly number[], doer: Doer): Promise<string> {
    const id = newId();
    await this.db.tx(doer, async tx => {
      const found = await parcelIds(tx, nos);
      const missing = nos.find(no => !found.some(f => f.no === no));
      if (missing !== undefined) throw new NotHere(`The parcel PA-${missing}`);
      await tx.insert(LabelBatch, [{ id, state: 'pricing', at: tx.at, personId: tx.personId }]);
      await tx.insert(
        LabelBatchItem,
        found.map(({ id: parcelId, labelled }, seq) => ({
          id: newId(),
          batchId: id,
          seq,
          parcelId,
          state: labelled ? 'none' : 'waiting',
          why: labelled ? HAS_ONE : null,
        })),
      );
      await this.jobs.add(tx, [{ kind: KIND, lane: id, payload: { personId: tx.personId }, subjectId: id }]);
    });
    this.jobs.soon();
    return id;
  }

  async view(id: string): Promise<BatchView> {
    const batch = await this.db.of(LabelBatch).findOneBy({ id });
    if (!batch) throw new NotHere('This batch');
    const { currency } = await this.house.warehouse(this.db);
    const rates = await this.house.exchangeRates(this.db, await this.house.today(this.db, batch.at));
    const rows = await itemsOf(this.db, id);
    const sum = (state: string) =>
      rows.filter(r => r.state === state).reduce((n, r) => n + (r.minor ?? 0), 0);
    return {
      id,
      state: batch.state,
      at: batch.at.toISOString(),
      currency,
      toBuyMinor: sum('priced'),
      boughtMinor: sum('bought'),
      items: rows.map(r => {
        const offer = r.offer ? fromJson<OfferView>(r.offer) : null;
        return {
          parcel: `PA-${r.parcelNo}`,
          channelNumber: r.channelNumber,
          state: r.state,
          carrierName: offer?.carrierName ?? null,
          service: offer?.name ?? null,
          arrives: offer?.arrives ?? null,
          keeps: offer?.keeps ?? null,
          minor: r.minor,
          paidMinor: convert(r.shippingMinor, r.currency, currency, rates, currency),
          tracking: r.tracking,
          why: r.why,
        };
      }),
    };
  }

  /** Buys what is priced, when that still sums to what was shown. */
  async buy(id: string, minor: number, doer: Doer): Promise<void> {
    await this.db.tx(doer, async tx => {
      const batch = await tx.of(LabelBatch).findOne({ where: { id }, lock: { mode: 'pessimistic_write' } });
      if (!batch) throw new NotHere('This batch');
      if (batch.state === 'buying' || batch.state === 'done') return;
      if (batch.state === 'pricing')
        throw new TooLate('The batch is still being priced.', 'Wait until all of it has its price.');
      const sum = await pricedSum(tx, id);
      const { currency } = await this.house.warehouse(tx);
      if (sum !== minor)
        throw new Forbidden(
          `The batch costs ${formatMoney(sum, currency)} now, not ${formatMoney(minor, currency)}.`,
          'Look at it again, then buy.',
        );
      await tx.of(LabelBatch).update(id, { state: 'buying' });
      await this.jobs.add(tx, [{ kind: KIND, lane: id, payload: { personId: tx.personId }, subjectId: id }]);
      await tx.tell('parcels', id);
    });
    this.jobs.soon();
  }

  /** Stops a batch: what is being bought at this moment is finished, the rest is not begun. It can be bought later. */
  async stop(id: string, doer: Doer): Promise<void> {
    await this.db.tx(doer, async tx => {
      const batch = await tx.of(LabelBatch).findOne({ where: { id }, lock: { mode: 'pessimistic_write' } });
      if (!batch) throw new NotHere('This batch');
      if (batch.state === 'done') return;
      await tx.of(LabelBatch).update(id, { state: 'stopped' });
      await tx.tell('parcels', id);
    });
  }

  /** Parcels of the batch that have their label, in their order. */
  async bought(id: string): Promise<number[]> {
    const rows = await itemsOf(this.db, id);
    return rows.filter(r => r.state === 'bought').map(r => r.parcelNo);
  }

  private async work(id: string, personId: string | null, turn: JobTurn): Promise<void> {
    const stateOf = async () => (await this.db.of(LabelBatch).findOneByOrFail({ id })).state;
    const state = await stateOf();
    if (state !== 'pricing' && state !== 'buying') return;
    const items = await nextItems(this.db, id, state === 'pricing' ? 'waiting' : 'priced');
    const limit = pLimit(AT_ONCE);
    let ended = false;
    let ground = await this.rating.ground(this.db, new Date());
    const work = items.map((item, i) =>
      limit(async () => {
        // Now and then it is looked whether somebody stopped it, and others are kept from it for another while.
        if (i % LOOKED_EVERY === 0) {
          ended ||= turn.stopped() || (await stateOf()) !== state;
          if (!ended) await this.keep(id, turn);
          ground = await this.rating.ground(this.db, new Date());
        }
        if (!ended)
          await (state === 'pricing'
            ? this.price(item, ground)
            : this.buyOne({ id, ground }, item, personId));
      }),
    );
    for (const one of await Promise.allSettled(work)) if (one.status === 'rejected') throw one.reason;
    if (turn.stopped()) turn.later();
    await this.db.tx({ personId: null, at: new Date() }, async tx => {
      const batch = await tx
        .of(LabelBatch)
        .findOneOrFail({ where: { id }, lock: { mode: 'pessimistic_write' } });
      const next = { pricing: 'priced', buying: 'done' } as const;
      if (batch.state === 'pricing' || batch.state === 'buying')
        await tx.of(LabelBatch).update(id, { state: next[batch.state] });
      await tx.tell('parcels', id);
    });
  }

  private async keep(id: string, turn: JobTurn): Promise<void> {
    await this.db.tx({ personId: null, at: new Date() }, async tx => {
      await turn.within(tx);
      await tx.tell('parcels', id);
    });
  }

  /** The service that is taken when nobody chooses: what a person chose for the order, else the cheapest in time. */
  private async price({ id, parcelNo }: Item, ground: PriceGround): Promise<void> {
    try {
      const { offers, silent } = await this.rating.offers(parcelNo, new Date(), {}, ground);
      const offer = offers[0];
      if (!offer || offer.houseMinor === null)
        return await this.put(id, {
          state: 'none',
          why: silent[0] ? `${silent[0].carrierName}: ${silent[0].why}` : 'No service takes it.',
        });
      await this.put(id, { state: 'priced', offer: JSON.stringify(offer), minor: offer.houseMinor });
    } catch (error) {
      await this.put(id, { state: 'none', why: wordsOf(error) });
    }
  }

  private async buyOne(
    batch: OfBatch,
    { id, parcelNo, offer }: Item,
    personId: string | null,
  ): Promise<void> {
    const wish = BuyLabel.parse({ ...wishOf(fromJson<OfferView>(offer!)), key: id });
    try {
      const label = await this.labels.buy(parcelNo, wish, { personId, at: new Date() }, batch);
      // Somebody else was faster: their label is the parcel's.
      await this.put(id, label.id === id ? { state: 'asked' } : { state: 'refused', why: HAS_ONE });
    } catch (error) {
      await this.put(id, { state: 'refused', why: wordsOf(error) });
    }
  }

  private async put(id: string, change: Partial<LabelBatchItem>): Promise<void> {
    const why = change.why?.slice(0, 300) ?? null;
    await this.db.of(LabelBatchItem).update(id, { ...change, why } as object);
  }
}

/** Why a parcel of a batch was left, in words. What is no refusal is a fault, and goes on to the job. */
function wordsOf(error: unknown): string {
  if (error instanceof Trouble) return error.problem.detail;
  throw error;
}
