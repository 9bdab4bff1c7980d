import { ENOUGH_STOPS, FIRST_TIMES, learnTimes, type PickTimes } from '@auk/core';
import { Injectable } from '@nestjs/common';
import type { Sql } from '../database/db.js';
import { walkedLists } from './planning.queries.js';

/** What is longer than this between two scans was a break. */
const BREAK_SECONDS = 300;
/** Walks that are learned from, the newest. */
const MOST_WALKS = 400;

/** What picking takes in this house: learned from its own scans as soon as there are enough. */
@Injectable()
export class PlanTimes {
  async now(sql: Sql): Promise<{ times: PickTimes; from: string }> {
    const walks = await walkedLists(sql, BREAK_SECONDS, MOST_WALKS);
    const learned = learnTimes(walks, FIRST_TIMES);
    const stops = walks.reduce((n, w) => n + w.stops, 0);
    if (!learned)
      return {
        times: FIRST_TIMES,
        from: `Times are common practice until ${ENOUGH_STOPS} stops have been walked here; ${stops} have been.`,
      };
    const missed = Math.round(100 * learned.error);
    return {
      times: learned.times,
      from: `Times are learned from ${walks.length} walks with ${learned.stops} stops here; they missed the latest walks by ${missed} % on average.`,
    };
  }
}
