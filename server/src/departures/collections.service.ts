import type { CollectionIn } from '@auk/contract';
import { Injectable } from '@nestjs/common';
import { CarrierRegistry } from '../carriers/carriers.module.js';
import { Db, type Doer, type Tx } from '../database/db.js';
import { HouseService } from '../house/house.module.js';
import { NotHere } from '../http/problem.js';
import { leavesAgain, lockOrders } from '../records/records.module.js';
import { DeparturePlanner } from '../timetable/timetable.module.js';
import { ordersLeavingWith } from './handover.queries.js';

/** The weekly timetable of collections: what is changed counts for all departures that are still to come. */
@Injectable()
export class Collections {
  constructor(
    private readonly db: Db,
    private readonly house: HouseService,
    private readonly carriers: CarrierRegistry,
    private readonly planner: DeparturePlanner,
  ) {}

  /** Adds a collection of a carrier, or changes one. */
  async save(carrier: string, id: string | null, wish: CollectionIn, doer: Doer): Promise<void> {
    const known = await this.carriers.get(carrier);
    if (!known) throw new NotHere(`The carrier ${carrier}`, 'Look at the list of carriers again.');
    await this.db.tx(doer, async tx => {
      const { id: warehouseId } = await this.house.warehouse(tx);
      const saved = await this.planner.keepCollection(tx, {
        ...wish,
        id,
        warehouseId,
        carrier,
        carrierName: known.name,
      });
      if (!saved) throw new NotHere('This collection', 'Look at the list of carriers again.');
      await this.follow(tx, saved, wish);
    });
  }

  /** Takes a collection out of the timetable; departures that something is planned for stay, and can be called off one by one. */
  async remove(id: string, doer: Doer): Promise<void> {
    await this.db.tx(doer, async tx => {
      if (!(await this.planner.dropCollection(tx, id))) throw new NotHere('This collection');
      await this.follow(tx, id, null);
    });
  }

  private async follow(tx: Tx, id: string, wish: CollectionIn | null): Promise<void> {
    const coming = (await this.planner.toCome(tx, id)).map(d => d.id);
    if (coming.length > 0)
      await lockOrders(
        tx,
        (await ordersLeavingWith(tx, coming)).map(o => o.id),
      );
    await this.planner.follow(tx, id, wish);
    if (coming.length > 0) await leavesAgain(tx, coming);
    await tx.tell('departures', '');
    await tx.tell('carriers', id);
  }
}
