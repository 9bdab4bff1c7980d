import { Injectable } from '@nestjs/common';
import type { Sql, Tx } from '../database/db.js';
import { lockAll } from '../database/locks.js';
import { HouseService } from '../house/house.module.js';
import { Forbidden } from '../http/problem.js';
import { Lists, type OnList } from '../lists/lists.module.js';
import { type HoldChange, type Move, Places, StockService } from '../stock/stock.module.js';
import { event, toHistory } from './events.js';
import { productsOf } from './parts.js';
import { refreshStages } from './stages.js';
import { openParcelOf } from './undoing.queries.js';

/** What an edit of an order's goods would undo, or why it cannot be done now. */
export interface Undoes {
  state: 'nothing' | 'undo' | 'blocked';
  says: string;
  cure: string;
  /** True when the bench has begun it: what is in stays in, and single units are given up. */
  packing?: boolean;
}

export const beingPicked = (h: Pick<OnList, 'picker' | 'listNo'>): { says: string; cure: string } => ({
  says: `${h.picker ?? 'Somebody'} is picking it on PL-${h.listNo} right now.`,
  cure: 'Wait until that list is picked, then do it again; what was picked is put back then.',
});

function atTheBench({ no, units, closedAt }: { no: number; units: number; closedAt: Date | null }): Undoes {
  if (closedAt)
    return {
      state: 'blocked',
      says: `It is packed: PA-${no} is closed.`,
      cure: 'Take the parcel open again at the bench, then do it again.',
    };
  return {
    state: 'undo',
    packing: true,
    says: `The bench is packing it: ${units} units are in PA-${no}. What is in stays in; what the order wants no more is taken out there.`,
    cure: 'Say that this is meant, or leave the order as it is.',
  };
}

const NOTHING: Undoes = { state: 'nothing', says: '', cure: '' };

/** Takes an order back from its pick list, or off the tote, when an edit makes what was done useless. */
@Injectable()
export class Undoing {
  constructor(
    private readonly stock: StockService,
    private readonly lists: Lists,
    private readonly places: Places,
    private readonly house: HouseService,
  ) {}

  /**
   * Says what an edit of lines (or of the address, when only a label is concerned) would undo. `single`: the edit can give up single
   * units, so that an order at the bench stays there.
   */
  async what(sql: Sql, orderId: string, goods: boolean, single = false): Promise<Undoes> {
    const parcel = await openParcelOf(sql, orderId);
    if (parcel?.state)
      return {
        state: 'blocked',
        says: `PA-${parcel.no} has its label already (${parcel.state}), made for what the order said before.`,
        cure: parcel.aheadAt
          ? 'Void its label under Parcels, then do it again.'
          : 'Void its label at the bench and take the parcel open again, then do it again. Park the order when the parcel must not leave.',
      };
    if (!goods) return NOTHING;
    if (parcel && single) return atTheBench(parcel);
    if (parcel)
      return {
        state: 'blocked',
        says: `The bench is packing it: ${parcel.units} units are in PA-${parcel.no}.`,
        cure: 'Ask the bench to finish it, or to take everything out with Undo; then do it again.',
      };
    const held = await this.lists.of(sql, orderId);
    const busy = held.find(h => h.listState === 'picking');
    if (busy) return { state: 'blocked', ...beingPicked(busy) };
    const units = (of: readonly OnList[]) => of.reduce((n, h) => n + h.quantity, 0);
    const lies = held.filter(h => h.hold !== 'listed');
    const [listed, picked] = [units(held.filter(h => h.hold === 'listed')), units(lies)];
    if (listed + picked === 0) return NOTHING;
    const off = listed > 0 ? `It is taken off PL-${held[0]!.listNo}.` : '';
    const back = picked > 0 ? `${picked} picked units leave ${lies[0]!.lies} and must be put back.` : '';
    return {
      state: 'undo',
      says: `This undoes work: ${[off, back].filter(Boolean).join(' ')}`,
      cure: 'Say that this is meant, or leave the order as it is.',
    };
  }

  /** Makes a locked order Clear again: off its list, and what was picked goes from the tote to the staging place, to be put back. */
  async takeBack(tx: Tx, orderId: string): Promise<void> {
    const held = await this.heldLocked(tx, orderId);
    // Whoever takes back gives up promises next: the products are locked before anything of them, and all at once.
    await lockAll(tx, { productStock: await productsOf(tx, orderId) });
    const staging = await this.house.placeNamed(tx, 'staging');
    const holds: HoldChange[] = [];
    const moves: Move[] = [];
    for (const h of held) {
      const common = {
        partId: h.partId,
        orderId,
        productId: h.productId,
        parcelId: null,
        why: 'edit',
      } as const;
      if (h.hold === 'listed') {
        holds.push(
          {
            ...common,
            hold: 'listed',
            stopId: h.stopKey,
            change: -h.quantity,
            at: { placeId: h.placeId, lotId: h.lotId },
          },
          { ...common, hold: 'soft', stopId: null, change: h.quantity },
        );
      } else {
        holds.push({ ...common, hold: h.hold, stopId: h.stopKey, change: -h.quantity });
        moves.push({
          productId: h.productId,
          lotId: h.lotId,
          from: h.liesIn!,
          to: staging.id,
          quantity: h.quantity,
          why: 'put back',
          causeId: orderId,
        });
      }
    }
    await this.stock.apply(tx, { moves, holds });
    await this.lists.leave(tx, orderId, held);
    await this.places.freeTotes(tx, orderId);
    const picked = moves.reduce((n, m) => n + m.quantity, 0);
    await toHistory(tx, [
      event(
        tx,
        orderId,
        'taken back',
        picked > 0
          ? `Taken off the pick list; ${picked} picked units were laid on ${staging.code}, to be put back.`
          : 'Taken off the pick list.',
      ),
    ]);
    await refreshStages(tx, [orderId]);
    await tx.tell('lists', '');
  }

  /** Whether something of an order is on a list, and whether somebody picks it. */
  async listed(sql: Sql, orderId: string): Promise<'nothing' | 'released' | 'picking'> {
    const held = (await this.lists.of(sql, orderId)).filter(h => h.hold === 'listed');
    return held.some(h => h.listState === 'picking') ? 'picking' : held.length > 0 ? 'released' : 'nothing';
  }

  /** Takes what is listed and not picked yet off its lists; it stays promised. What lies in totes stays there. */
  async takeOffLists(tx: Tx, orderId: string): Promise<void> {
    const held = (await this.heldLocked(tx, orderId)).filter(h => h.hold === 'listed');
    await lockAll(tx, { productStock: await productsOf(tx, orderId) });
    const common = (h: OnList) =>
      ({ partId: h.partId, orderId, productId: h.productId, parcelId: null, why: 'edit' }) as const;
    await this.stock.apply(tx, {
      holds: held.flatMap((h): HoldChange[] => [
        {
          ...common(h),
          hold: 'listed',
          stopId: h.stopKey,
          change: -h.quantity,
          at: { placeId: h.placeId, lotId: h.lotId },
        },
        { ...common(h), hold: 'soft', stopId: null, change: h.quantity },
      ]),
    });
    await this.lists.leave(tx, orderId, held);
  }

  /** What an order has on lists and in totes, with the lists locked. A list that was opened first refuses. */
  private async heldLocked(tx: Tx, orderId: string): Promise<OnList[]> {
    const held = await this.lists.lockedOf(tx, orderId);
    const busy = held.find(h => h.listState === 'picking');
    if (busy) {
      const { says, cure } = beingPicked(busy);
      throw new Forbidden(says, cure, { undoes: 'blocked' });
    }
    return held;
  }
}
