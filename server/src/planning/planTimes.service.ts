import { ENOUGH_STOPS, FIRST_TIMES, learnTimes, type PickTimes } from '@auk/core';
import { Injectable } from '@nestjs/common';
import type { Sql } from '../database/db.js';
import { walkedLists } from './planning.queries.js';

/** What is longer than this between two scans was a break. */
const BREAK_SECONDS = 300;
const LEARNED_MS = 600_000;
/** Walks that are learned from, the newest. */
const MOST_WALKS = 400;

/** What picking takes in this house: learned from its own scans as soon as there are enough. */
@Injectable()
export class PlanTimes {
  private known: { at: number; times: Promise<{ times: PickTimes; from: string }> } | null = null;

  /** The times as they are known; learned anew every ten minutes, as the Board asks for them with each change. */
  now(sql: Sql): Promise<{ times: PickTimes; from: string }> {
    const fresh = this.known && performance.now() - this.known.at < LEARNED_MS;
    if (fresh) return this.known!.times;
    const times = this.learn(sql);
    this.known = { at: performance.now(), times };
    times.catch(() => {
      this.known = null;
    });
    return times;
  }

  private async learn(sql: Sql): Promise<{ times: PickTimes; from: string }> {
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
