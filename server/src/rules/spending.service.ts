import type { SpendCapsIn, SpendingView } from '@auk/contract';
import { EMPTY_BOOK, maySpend, type RuleBook, rulesOf } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { Db, type Doer, fromJson, type Sql, type Tx } from '../database/db.js';
import { HouseService } from '../house/house.module.js';
import { lastBook } from './books.queries.js';
import { lockDay, spentOn, wantedOn } from './spending.queries.js';

const CAPS = 'rules.caps';
const PAUSED = 'rules.paused';
const NO_CAPS: SpendCapsIn = { labelMinor: null, dayMinor: null, rules: {} };

/** Caps of what is bought without a person, the pause, and what was done today. */
@Injectable()
export class Spending {
  constructor(
    private readonly db: Db,
    private readonly house: HouseService,
  ) {}

  caps(sql: Sql): Promise<SpendCapsIn> {
    return this.house.setting(sql, CAPS, NO_CAPS);
  }

  paused(sql: Sql): Promise<boolean> {
    return this.house.setting(sql, PAUSED, false);
  }

  setCaps(caps: SpendCapsIn, doer: Doer): Promise<void> {
    return this.db.tx(doer, async tx => {
      await this.house.set(tx, CAPS, caps);
      await tx.tell('rules', 'caps');
    });
  }

  setPause(paused: boolean, doer: Doer): Promise<void> {
    return this.db.tx(doer, async tx => {
      await this.house.set(tx, PAUSED, paused);
      await tx.tell('rules', 'pause');
    });
  }

  /**
   * Whether a label may be bought now, with the day's sums locked until the transaction ends: what is held in it counts for whoever
   * comes next. Gives why not, or null.
   */
  async refused(
    tx: Tx,
    ruleId: string,
    minor: number,
    day: string,
  ): Promise<{ says: string; cure: string } | null> {
    await lockDay(tx, day);
    const { currency } = await this.house.warehouse(tx);
    const caps = await this.caps(tx);
    const spent = await spentOn(tx, day);
    const all = spent.reduce((n, s) => n + s.minor, 0);
    const allowed = maySpend(
      minor,
      { labelMinor: caps.labelMinor, dayMinor: caps.dayMinor, ruleMinor: caps.rules[ruleId] ?? null },
      { dayMinor: all, ruleMinor: spent.find(s => s.ruleId === ruleId)?.minor ?? 0 },
      currency,
      await this.paused(tx),
    );
    return allowed.ok ? null : allowed.problem;
  }

  /** What was done today, by the warehouse's day. */
  async view(now: Date): Promise<SpendingView> {
    const { currency } = await this.house.warehouse(this.db);
    const day = await this.house.today(this.db, now);
    const spent = await spentOn(this.db, day);
    const rows = await wantedOn(this.db, day);
    const running = await lastBook(this.db);
    const book = running ? fromJson<RuleBook>(running.book) : EMPTY_BOOK;
    return {
      currency,
      caps: await this.caps(this.db),
      buys: rulesOf(book).some(r => r.runs && r.do.some(a => a.do === 'buy')),
      paused: await this.paused(this.db),
      day,
      labels: spent.reduce((n, s) => n + s.labels, 0),
      minor: spent.reduce((n, s) => n + s.minor, 0),
      refused: rows.filter(r => r.freedAt !== null).length,
      rules: spent.map(s => ({ rule: s.ruleId, minor: s.minor })),
      rows: rows.map(r => ({
        id: r.id,
        parcel: r.no === null ? '' : `PA-${r.no}`,
        order: r.channelNumber,
        orderId: r.orderId,
        rule: r.rule,
        service: r.service,
        minor: r.minor,
        state: stateOf(r),
        why: r.why ?? '',
        at: r.at.toISOString(),
      })),
    };
  }
}

/** What became of it, in one word. */
function stateOf({
  freedAt,
  state,
}: {
  freedAt: Date | null;
  state: string | null;
}): SpendingView['rows'][number]['state'] {
  if (freedAt !== null || state === 'refused') return 'refused';
  if (state === 'voided') return 'voided';
  return state === 'bought' || state === 'void asked' ? 'bought' : 'under way';
}
