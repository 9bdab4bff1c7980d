import { pickersNeeded } from '@auk/core';
import { Injectable } from '@nestjs/common';
import type { Sql } from '../database/db.js';
import { pickingNow, toPickByDeparture, walkedForOrders } from './planning.queries.js';
import { PlanTimes } from './planTimes.service.js';
import { PACK_SECONDS } from './planWork.service.js';

/** Lists from which one learns how far is walked for an order; before the first, so far, in tenths of a millimetre. */
const NEWEST_LISTS = 50;
const FIRST_WALK = 250_000;
/** Whoever has scanned within so many minutes is picking. */
const ACTIVE_MINUTES = 30;

/** Pickers that departures need, and how many are picking. */
export interface PickForecast {
  picking: number;
  /** By departure: pickers it takes to have it picked in time; null where the time is over. */
  needed: Map<string, number | null>;
}

/** Whether departures will be picked in time, by the times that the house has learned. */
@Injectable()
export class PickForecasts {
  constructor(private readonly times: PlanTimes) {}

  async now(sql: Sql, now: Date): Promise<PickForecast> {
    const [work, walked, active, { times }] = await Promise.all([
      toPickByDeparture(sql),
      walkedForOrders(sql, NEWEST_LISTS),
      pickingNow(sql, ACTIVE_MINUTES),
      this.times.now(sql),
    ]);
    const known = walked && walked.distance !== null && walked.orders > 0 ? walked : null;
    const walk = known ? known.distance! / known.orders : FIRST_WALK;
    const setUp = known ? (known.lists / known.orders) * times.setUp : times.setUp;
    const needed = pickersNeeded(
      work.map(w => ({
        seconds: w.orders * (walk / times.speed + setUp) + w.stops * times.stop + w.units * times.unit,
        left: (w.cutOff.getTime() - now.getTime()) / 1000 - PACK_SECONDS,
      })),
    );
    return { picking: active!.n, needed: new Map(work.map((w, i) => [w.id, needed[i]!])) };
  }
}
