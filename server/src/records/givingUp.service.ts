import { Injectable } from '@nestjs/common';
import type { Tx } from '../database/db.js';
import { lockAll } from '../database/locks.js';
import { HouseService } from '../house/house.module.js';
import { Forbidden } from '../http/problem.js';
import { Lists } from '../lists/lists.module.js';
import { type HoldChange, type Move, StockService } from '../stock/stock.module.js';
import { packedOf, parcelIdsOf } from './givingUp.queries.js';
import { beingPicked } from './undoing.service.js';

/** Units of one hold that may be given up. */
type Held = Pick<HoldChange, 'partId' | 'productId' | 'hold' | 'stopId' | 'parcelId'> & {
  quantity: number;
  lotId: string | null;
  /** Where they lie; for `listed`, where they would be taken from. */
  placeId: string;
  refusal: { says: string; cure: string } | null;
};

/** Gives up single units of an order that is at the bench already; all else of it stays where it is. */
@Injectable()
export class GivingUp {
  constructor(
    private readonly stock: StockService,
    private readonly lists: Lists,
    private readonly house: HouseService,
  ) {}

  /** Locks what an order has on lists and in parcels; before its products, as everybody does. */
  async lock(tx: Tx, orderId: string): Promise<void> {
    await this.lists.lockedOf(tx, orderId);
    await lockAll(tx, { parcel: await parcelIdsOf(tx, orderId) });
  }

  /**
   * Gives up units of parts, the least advanced first: off their lists, out of totes and cells, out of the parcel that is open. What
   * was picked is laid on the staging place, to be put back. The order, its lists, parcels and products are locked.
   */
  async giveUp(tx: Tx, orderId: string, units: ReadonlyMap<string, number>): Promise<void> {
    if (units.size === 0) return;
    const staging = await this.house.placeNamed(tx, 'staging');
    const left = new Map(units);
    const holds: HoldChange[] = [];
    const moves: Move[] = [];
    for (const h of await this.held(tx, orderId)) {
      const n = Math.min(h.quantity, left.get(h.partId) ?? 0);
      if (n === 0) continue;
      if (h.refusal) throw new Forbidden(h.refusal.says, h.refusal.cure, { undoes: 'blocked' });
      left.set(h.partId, left.get(h.partId)! - n);
      const { partId, productId, hold, stopId, parcelId, placeId, lotId } = h;
      const at = hold === 'listed' ? { at: { placeId, lotId } } : {};
      holds.push({ partId, orderId, productId, hold, stopId, parcelId, change: -n, why: 'edit', ...at });
      if (hold === 'listed') await this.lists.lessen(tx, stopId!, n);
      else
        moves.push({
          productId,
          lotId,
          from: placeId,
          to: staging.id,
          quantity: n,
          why: 'put back',
          causeId: orderId,
        });
    }
    await this.stock.apply(tx, { moves, holds });
  }

  /**
   * Empties all parcels of an order that is given up, closed ones too: what is in them is laid on the staging place, to be put back. The
   * order, its parcels and products are locked.
   */
  async emptyParcels(tx: Tx, orderId: string): Promise<void> {
    const packed = await packedOf(tx, orderId);
    const staging = await this.house.placeNamed(tx, 'staging');
    await this.stock.apply(tx, {
      moves: packed.map(p => ({
        productId: p.productId,
        lotId: p.lotId,
        from: p.placeId,
        to: staging.id,
        quantity: p.quantity,
        why: 'put back',
        causeId: orderId,
      })),
      holds: packed.map(p => ({
        partId: p.partId,
        orderId,
        productId: p.productId,
        hold: 'packed' as const,
        stopId: p.stopKey,
        parcelId: p.parcelId,
        change: -p.quantity,
        why: 'edit',
      })),
    });
  }

  /** What could be given up, the least advanced first. */
  private async held(tx: Tx, orderId: string): Promise<Held[]> {
    const onLists = await this.lists.of(tx, orderId);
    const packed = await packedOf(tx, orderId);
    const order = ['listed', 'picked', 'sorted'];
    return [
      ...onLists
        .sort((a, b) => order.indexOf(a.hold) - order.indexOf(b.hold))
        .map(h => ({
          ...h,
          stopId: h.stopKey,
          parcelId: null,
          placeId: h.hold === 'listed' ? h.placeId : h.liesIn!,
          refusal: h.hold === 'listed' && h.listState === 'picking' ? beingPicked(h) : null,
        })),
      ...packed.map(({ no, stopKey, closedAt, ...p }) => ({
        ...p,
        hold: 'packed' as const,
        stopId: stopKey,
        refusal: closedAt
          ? {
              says: `${p.quantity} of it lie in PA-${no}, which is closed.`,
              cure: 'Take the parcel open again at the bench, then do it again.',
            }
          : null,
      })),
    ];
  }
}
