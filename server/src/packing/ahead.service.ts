import { proposeBoxes } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { newId, type Tx } from '../database/db.js';
import { Parcels } from '../parcels/parcels.module.js';
import { Boxes, boxesNamed, CatalogService } from '../products/products.module.js';
import { PiecesOfOrders } from '../rating/rating.module.js';
import { wantedFor } from '../records/records.module.js';
import { Places } from '../stock/stock.module.js';
import { aheadFacts, aheadParcel, lockForPacking, parcelsOf, sessionOfOrder } from './packing.queries.js';

/** Plans the parcel of an order that nobody has begun to pack, so that its label can be bought before. The bench takes it over when the order is opened. */
@Injectable()
export class Ahead {
  constructor(
    private readonly written: Parcels,
    private readonly places: Places,
    private readonly catalog: CatalogService,
    private readonly kinds: Boxes,
    private readonly pieces: PiecesOfOrders,
  ) {}

  /** Plans the one parcel of an order, in its box and with the weight that it will have; says why not where it cannot. Planned again it is the same parcel, as of now. */
  async plan(tx: Tx, orderId: string): Promise<string | null> {
    const order = (await lockForPacking(tx, orderId))!;
    if (!WAITS.has(order.stage)) return `The order is ${order.stage}.`;
    const known = await aheadParcel(tx, orderId);
    if (known?.label) return `PA-${known.no} has its label already.`;
    if ((await sessionOfOrder(tx, orderId)) || (!known && (await parcelsOf(tx, orderId)).length > 0))
      return 'It is being packed already.';
    const { abroad, hazardous, optional } = (await aheadFacts(tx, orderId))!;
    if (abroad) return 'It leaves the country: its papers say what was packed.';
    if (hazardous) return 'Hazardous goods are in it: its papers say what was packed.';
    if (optional) return 'Something in it may be left out, so nobody knows yet what it weighs.';
    const proposed = await this.proposed(tx, orderId);
    if ('why' in proposed) return proposed.why;
    const id = known?.id ?? newId();
    if (!known) {
      const placeId = await this.places.makeForParcel(tx, order.warehouseId, id);
      await this.written.open(tx, [{ id, orderId, shipmentId: order.shipmentId, placeId }]);
    }
    await this.written.planAhead(tx, id, proposed);
    return null;
  }

  private async proposed(
    tx: Tx,
    orderId: string,
  ): Promise<{ boxCode: string; weightMg: number } | { why: string }> {
    const { orders, products } = await this.pieces.of(tx, [orderId]);
    const { pieces, guessed } = orders.get(orderId) ?? { pieces: [], guessed: [] };
    if (guessed.length > 0) return { why: `The size or weight of ${guessed[0]} is a guess.` };
    const { padding, parcelCostMinor } = await this.kinds.choices(tx);
    const wanted = (await wantedFor(tx, orderId)).boxes;
    if (wanted.length > 1) return several(wanted.length);
    const parcels = proposeBoxes(await this.catalog.boxes(tx), pieces, {
      padding,
      parcelCostMinor,
      preferred: boxesNamed(pieces.map(p => products.get(p.id)!)),
      wanted,
    });
    const [only] = parcels;
    if (!only) return { why: 'No box takes it.' };
    if (parcels.length > 1) return several(parcels.length);
    return { boxCode: only.box.code, weightMg: only.weightMg };
  }
}

/** Stages in which an order waits to be packed. */
const WAITS = new Set(['Clear', 'Listed', 'Picked']);

const several = (parcels: number) => ({
  why: `It takes ${parcels} parcels; their labels are bought when they are packed.`,
});
