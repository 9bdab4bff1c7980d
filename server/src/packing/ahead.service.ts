import { proposeBoxes } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { newId, type Tx } from '../database/db.js';
import { Parcels } from '../parcels/parcels.module.js';
import { Boxes, boxesNamed, CatalogService } from '../products/products.module.js';
import { PiecesOfOrders } from '../rating/rating.module.js';
import { wantedFor } from '../records/records.module.js';
import { Places } from '../stock/stock.module.js';
import { aheadFacts, aheadParcel, lockForPacking, parcelsOf, sessionOfOrder } from './packing.queries.js';

/** The parcel that is planned, or why none is. */
export type Planned = { parcel: { id: string; no: number }; why: null } | { parcel: null; why: string };

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

  /** The one parcel of an order, in its box and with the weight that it will have. Planned again it is the same parcel, as of now. */
  async plan(tx: Tx, orderId: string): Promise<Planned> {
    const order = (await lockForPacking(tx, orderId))!;
    if (!WAITS.has(order.stage)) return not(`The order is ${order.stage}.`);
    const known = await aheadParcel(tx, orderId);
    if (known?.label) return not(`PA-${known.no} has its label already.`);
    if ((await sessionOfOrder(tx, orderId)) || (!known && (await parcelsOf(tx, orderId)).length > 0))
      return not('It is being packed already.');
    const { abroad, hazardous, optional } = (await aheadFacts(tx, orderId))!;
    if (abroad) return not('It leaves the country: its papers say what was packed.');
    if (hazardous) return not('Hazardous goods are in it: its papers say what was packed.');
    if (optional) return not('Something in it may be left out, so nobody knows yet what it weighs.');
    const proposed = await this.proposed(tx, orderId);
    if ('why' in proposed) return not(proposed.why);
    const { boxCode, weightMg } = proposed;
    if (known) {
      await this.written.planAhead(tx, known.id, { boxCode, weightMg });
      return { parcel: known, why: null };
    }
    const id = newId();
    const placeId = await this.places.makeForParcel(tx, order.warehouseId, id);
    await this.written.open(tx, [{ id, orderId, shipmentId: order.shipmentId, placeId }]);
    await this.written.planAhead(tx, id, { boxCode, weightMg });
    return { parcel: { id, no: await this.written.noOf(tx, id) }, why: null };
  }

  private async proposed(
    tx: Tx,
    orderId: string,
  ): Promise<{ boxCode: string; weightMg: number } | { why: string }> {
    const { orders, products } = await this.pieces.of(tx, [orderId]);
    const { pieces, guessed } = orders.get(orderId) ?? { pieces: [], guessed: [] };
    if (guessed.length > 0) return { why: `The size or weight of ${guessed[0]} is a guess.` };
    const { padding, parcelCostMinor } = await this.kinds.choices(tx);
    const parcels = proposeBoxes(await this.catalog.boxes(tx), pieces, {
      padding,
      parcelCostMinor,
      preferred: boxesNamed(pieces.map(p => products.get(p.id)!)),
      wanted: (await wantedFor(tx, orderId)).boxes,
    });
    const [only] = parcels;
    if (!only) return { why: 'No box takes it.' };
    if (parcels.length > 1)
      return { why: `It takes ${parcels.length} parcels; their labels are bought when they are packed.` };
    return { boxCode: only.box.code, weightMg: only.weightMg };
  }
}

/** Stages in which an order waits to be packed. */
const WAITS = new Set(['Clear', 'Listed', 'Picked']);

const not = (why: string): Planned => ({ parcel: null, why });
