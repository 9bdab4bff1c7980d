import type { ChosenService } from '@auk/contract';
import { nextDeparture, planDeparture } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { CarrierRegistry } from '../carriers/carriers.module.js';
import { Db, type Doer } from '../database/db.js';
import { Forbidden, NotHere } from '../http/problem.js';
import {
  chooseFor,
  event,
  leaveWith,
  lockOrders,
  refreshStages,
  toHistory,
  weightOf,
} from '../records/records.module.js';
import { DeparturePlanner } from '../timetable/timetable.module.js';
import { orderToSend } from './compare.queries.js';

/** What a person chose for an order before its label is bought: its service, and with it the departure that it is planned for. */
@Injectable()
export class ChoiceService {
  constructor(
    private readonly db: Db,
    private readonly carriers: CarrierRegistry,
    private readonly planner: DeparturePlanner,
  ) {}

  /** Chooses, or with null frees the order again; its departure follows. */
  async choose(orderId: string, chosen: ChosenService | null, doer: Doer): Promise<void> {
    const carrier = chosen && (await this.carriers.get(chosen.carrier));
    if (chosen && !carrier) throw new NotHere(`The carrier ${chosen.carrier}`, 'Compare the services again.');
    await this.db.tx(doer, async tx => {
      await lockOrders(tx, [orderId]);
      const order = await orderToSend(tx, orderId);
      if (!order) throw new NotHere('This order');
      if (['Labelled', 'Departed', 'Cancelled'].includes(order.stage))
        throw new Forbidden(
          `${order.channelNumber} is ${order.stage}.`,
          'Void its label first; then another service can be chosen.',
        );
      await chooseFor(tx, orderId, chosen);
      const open = await this.planner.open(tx, tx.at);
      const now = tx.at.toISOString();
      const next = chosen
        ? nextDeparture(open, chosen.carrier, now)
        : planDeparture(open, await weightOf(tx, orderId), now);
      await leaveWith(tx, [orderId], next?.id ?? null);
      const says = chosen
        ? `${chosen.name} of ${carrier!.name} was chosen.`
        : 'The service is chosen at the bench again.';
      await toHistory(tx, [event(tx, orderId, 'service', says)]);
      await refreshStages(tx, [orderId]);
      await tx.tell('orders', orderId);
    });
  }
}
