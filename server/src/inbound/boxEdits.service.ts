import type { InboundBoxView, MoveUnitsIn } from '@auk/contract';
import { moveUnits } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { once } from '../acts/once.js';
import { Db, type Doer, fromJson, type Tx } from '../database/db.js';
import { Forbidden, NotHere } from '../http/problem.js';
import { PackPlans } from '../packing/packing.module.js';
import { CatalogService } from '../products/products.module.js';
import { boxView } from './boxView.js';
import { boxesOf } from './inbound.queries.js';
import { InboundPart } from './inboundPart.entity.js';
import { InboundShipment } from './inboundShipment.entity.js';
import { linesToBox } from './linesToBox.js';
import { InboundLoading, type Loaded, mustBeKnown } from './loading.service.js';
import { boxesHold } from './plannedBoxes.js';
import { lockPart, tell } from './shipments.js';

/** Planned boxes that a person changes, until the bench has begun to pack them. */
@Injectable()
export class InboundBoxEdits {
  constructor(
    private readonly db: Db,
    private readonly loading: InboundLoading,
    private readonly catalog: CatalogService,
    private readonly plans: PackPlans,
  ) {}

  async move(partId: string, { key, ...moving }: MoveUnitsIn, doer: Doer): Promise<void> {
    const seen = await this.db.of(InboundPart).findOneBy({ id: partId });
    if (!seen) throw new NotHere('That part of the shipment', 'Open the shipment anew under Inbound.');
    const { no } = (await this.db.of(InboundShipment).findOneBy({ id: seen.shipmentId }))!;
    const loaded = await this.loading.load(this.db, `IN-${no}`);
    await this.db.tx(doer, async tx => {
      const locked = await lockPart(tx, partId);
      await once(tx, key, 'move units', () => this.moveIn(tx, locked, moving, loaded));
    });
  }

  private async moveIn(
    tx: Tx,
    { shipment, part }: { shipment: InboundShipment; part: InboundPart },
    { sku, units, from, to }: Omit<MoveUnitsIn, 'key'>,
    loaded: Loaded,
  ): Promise<void> {
    if (part.stage !== 'Draft' || (part.orderId && (await boxesOf(tx, part.orderId)).length > 0))
      throw new Forbidden(
        `The boxes for ${part.center} are being packed already.`,
        'Put it otherwise at the bench: scan YES when it asks.',
      );
    const kinds = (await this.catalog.boxes(tx)).filter(b => b.kind !== 'mailer');
    const boxes = fromJson<InboundBoxView[]>(part.boxes).map(b => ({
      box: kinds.find(k => k.code === b.code) ?? kinds[0]!,
      contents: b.contents.map(c => ({ id: c.sku, units: c.units, cases: c.cases })),
    }));
    const moved = moveUnits(
      boxes,
      { line: sku, units, from: from - 1, to: to === null ? null : to - 1 },
      kinds,
      linesToBox(loaded.lines),
      mustBeKnown(loaded).limits,
    );
    if (!moved.ok) throw new Forbidden(moved.problem, 'Move fewer, or into another box.');
    const planned = JSON.stringify(moved.value.map(boxView));
    await tx.of(InboundPart).update(part.id, { boxes: planned as never });
    if (part.orderId) await this.plans.set(tx, part.orderId, boxesHold({ boxes: planned }, loaded));
    await tell(
      tx,
      shipment.id,
      `${units} × ${sku} moved from box ${from} into ${to === null ? 'a new box' : `box ${to}`}, for ${part.center}.`,
      { partId: part.id },
    );
    await tx.tell('inbound', `IN-${shipment.no}`);
  }
}
