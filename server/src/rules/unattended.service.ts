import { type BuyLabel, type OfferView, wishOf } from '@auk/contract';
import { formatMoney } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { Db, fromJson, newId, type Tx } from '../database/db.js';
import { HouseService } from '../house/house.module.js';
import { Trouble } from '../http/problem.js';
import { JobsService, laneOf } from '../jobs/jobs.module.js';
import { Labels } from '../labels/labels.module.js';
import { Ahead } from '../packing/packing.module.js';
import { RatingService } from '../rating/rating.module.js';
import { ruleEvent, toHistory, wantedFor } from '../records/records.module.js';
import { isBegun, isWanted, parcelsToBuy, timeNow } from './spending.queries.js';
import { Spending } from './spending.service.js';
import { Unattended } from './unattended.entity.js';

/** A rule wants the labels of an order bought. */
export interface WantedLabels {
  orderId: string;
  ruleId: string;
  /** "book 15, rule 4", and its name. */
  actor: string;
  name: string;
  /** A size or weight of its products is a guess. */
  guessed: boolean;
  /** Nobody has packed it yet: its parcel is planned first. Not said in jobs from before. */
  ahead?: boolean;
}

const KIND = 'buy unattended';
/** A carrier that is silent for so long is told to a person. */
const TRY_HOURS = 2;

/**
 * Buys labels that rules want, without a person. The price is held of the day's caps in the transaction that stores the purchase's key;
 * then it is bought as any label is. What is tried again after a crash is the same purchase under the same key.
 */
@Injectable()
export class UnattendedBuying {
  constructor(
    private readonly db: Db,
    private readonly house: HouseService,
    private readonly ahead: Ahead,
    private readonly rating: RatingService,
    private readonly labels: Labels,
    private readonly spending: Spending,
    private readonly jobs: JobsService,
  ) {
    jobs.register<WantedLabels>({
      kind: KIND,
      tryHours: TRY_HOURS,
      work: async ({ payload }) => {
        if (payload.ahead) await this.plan(payload);
        for (const parcel of await parcelsToBuy(this.db, payload.orderId)) await this.parcel(parcel, payload);
      },
    });
  }

  /** Puts it down to be done, with what decided it. */
  async want(tx: Tx, wanted: readonly WantedLabels[]): Promise<void> {
    await this.jobs.add(
      tx,
      wanted.map(w => ({ kind: KIND, lane: laneOf('buy', w.orderId), payload: w, subjectId: w.orderId })),
    );
  }

  /** Plans the parcel of an order that nobody has packed; or notes why none can be. */
  private plan(wanted: WantedLabels): Promise<void> {
    return this.db.tx({ personId: null, at: new Date() }, async tx => {
      const why = await this.ahead.plan(tx, wanted.orderId);
      if (why === null || (await isWanted(tx, wanted))) return;
      const id = newId();
      const day = await this.house.today(tx, await timeNow(tx));
      const { orderId, ruleId } = wanted;
      const row = { id, orderId, ruleId, rule: ruleName(wanted), day, at: tx.at, freedAt: tx.at };
      await tx.insert(Unattended, [{ ...row, parcelId: null, minor: null, service: '', wish: null, why }]);
      await this.notBought(tx, null, why, wanted);
      await tx.tell('rules', id);
    });
  }

  private async parcel({ id, no }: { id: string; no: number }, wanted: WantedLabels): Promise<void> {
    const known = await this.db.of(Unattended).findOneBy({ parcelId: id, ruleId: wanted.ruleId });
    if (known?.freedAt || (known && !known.wish)) return;
    const held = known ?? (await this.held(id, no, wanted));
    if (held?.wish) await this.buy(no, held.id, fromJson<BuyLabel>(held.wish), wanted);
  }

  /** Holds the price of what would be bought; or notes why it is not. */
  private async held(parcelId: string, no: number, wanted: WantedLabels): Promise<Unattended | null> {
    const key = newId();
    const found = await this.offer(no, wanted);
    return this.db.tx({ personId: null, at: new Date() }, async tx => {
      // Two servers may tell the time otherwise; the day of the caps is the database's.
      const day = await this.house.today(tx, await timeNow(tx));
      const row = {
        id: key,
        parcelId,
        ruleId: wanted.ruleId,
        rule: ruleName(wanted),
        day,
        at: tx.at,
      };
      const { offer } = found;
      const why =
        offer === null
          ? found.why
          : ((await this.spending.refused(tx, wanted.ruleId, offer.houseMinor!, day))?.says ?? null);
      const wish = offer && why === null ? { ...wishOf(offer), key, options: {} } : null;
      await tx.insert(Unattended, [
        {
          ...row,
          minor: offer?.houseMinor ?? null,
          service: offer?.name ?? '',
          wish: wish && JSON.stringify(wish),
          why,
          freedAt: wish ? null : tx.at,
        },
      ]);
      if (why !== null) await this.notBought(tx, no, why, wanted);
      await tx.tell('rules', key);
      return tx.of(Unattended).findOneBy({ id: key });
    });
  }

  /** What would be bought for a parcel: what was chosen for its order, else the first offered. A carrier that is silent is asked again later. */
  private async offer(
    no: number,
    { orderId, guessed }: WantedLabels,
  ): Promise<{ offer: OfferView; why: null } | { offer: null; why: string }> {
    if (guessed) return { offer: null, why: 'The size or weight of a product in it is a guess.' };
    try {
      const { offers, silent } = await this.rating.offers(no, new Date());
      const { service } = await wantedFor(this.db, orderId);
      const [first] = offers;
      if (!first && silent.length > 0)
        throw new Error(`${silent[0]!.carrierName} does not answer: ${silent[0]!.why}`);
      if (!first) return { offer: null, why: 'No service takes it.' };
      if (service && !first.chosen)
        return { offer: null, why: 'The service that was chosen does not take it.' };
      if (first.houseMinor === null)
        return {
          offer: null,
          why: `No rate of ${first.currency} is stored, so its price is not known here.`,
        };
      return { offer: first, why: null };
    } catch (error) {
      if (!(error instanceof Trouble)) throw error;
      return { offer: null, why: error.problem.detail };
    }
  }

  /** Buys what is held. Only a refusal frees it; what is not answered holds it. */
  private async buy(no: number, key: string, wish: BuyLabel, wanted: WantedLabels): Promise<void> {
    const doer = { personId: null, at: new Date() };
    if ((await this.spending.paused(this.db)) && !(await isBegun(this.db, key)))
      return this.free(key, no, 'Buying unattended is paused.', wanted);
    try {
      const label = await this.labels.buy(no, wish, doer);
      if (label.id !== key) return this.free(key, no, 'Another label was bought meanwhile.', wanted);
      if (label.state === 'refused')
        return this.free(key, no, label.why ?? 'The carrier refused it.', wanted);
      await this.db.tx(doer, async tx => {
        const says = `${wish.name} for PA-${no}, ${formatMoney(wish.minor, wish.currency)}: asked for unattended.`;
        await toHistory(tx, [ruleEvent(tx, wanted.orderId, wanted.actor, says)]);
        await tx.tell('rules', key);
      });
    } catch (error) {
      if (!(error instanceof Trouble)) throw error;
      await this.free(key, no, error.problem.detail, wanted);
    }
  }

  private free(key: string, no: number, why: string, wanted: WantedLabels): Promise<void> {
    return this.db.tx({ personId: null, at: new Date() }, async tx => {
      await tx.of(Unattended).update(key, { freedAt: tx.at, why: why.slice(0, 300) });
      await this.notBought(tx, no, why, wanted);
      await tx.tell('rules', key);
    });
  }

  /** The order says that a rule wanted its label bought, and why it was not. */
  private notBought(tx: Tx, no: number | null, why: string, { orderId, actor }: WantedLabels): Promise<void> {
    return toHistory(tx, [
      ruleEvent(
        tx,
        orderId,
        actor,
        `${no === null ? 'Its label' : `The label of PA-${no}`} was not bought unattended. ${why}`,
      ),
    ]);
  }
}

/** The rule as it is called in the list of what was done. */
const ruleName = ({ actor, name }: WantedLabels): string => `${actor} “${name}”`.slice(0, 120);
