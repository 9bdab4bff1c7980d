import type { Board, BoardDeparture, HandoverView, StageBar, Strip } from '@auk/contract';
import { type DockScan, forecast, reconcile, type Stage } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { DateTime } from 'luxon';
import { Db } from '../database/db.js';
import { HouseService } from '../house/house.module.js';
import { NotHere } from '../http/problem.js';
import { PickForecasts } from '../planning/planning.module.js';
import { HeldOrders } from '../records/records.module.js';
import { scansAt } from './handover.queries.js';
import { NeedsQueries } from './needs.queries.js';

interface DepartureRecord {
  id: string;
  no: number;
  carrier: string;
  carrierName: string;
  name: string;
  cutOff: Date;
  state: 'open' | 'closed' | 'cancelled';
  freight: number;
}

const BAR: Partial<Record<Stage, keyof StageBar>> = {
  Clear: 'clear',
  Listed: 'listed',
  Picked: 'picked',
  Packed: 'packed',
  Labelled: 'labelled',
};
/** Minutes of the past that today's pace is taken from. */
const PACE_MINUTES = 90;

/** Reads for the Board, the route strip and the handover. */
/** Scans at the dock as the core compares them with what was bought; a tracking number stands for itself. */
const dockScans = (rows: readonly { text: string; kind: string; says: string }[]): DockScan[] =>
  [...rows].reverse().map(r => ({
    text: r.text,
    parcel: /\bPA-\d+\b/.exec(r.says)?.[0] ?? null,
    refused: r.kind === 'refused',
    says: r.says,
  }));

@Injectable()
export class BoardQueries {
  constructor(
    private readonly db: Db,
    private readonly house: HouseService,
    private readonly held: HeldOrders,
    private readonly picks: PickForecasts,
    private readonly needsQueries: NeedsQueries,
  ) {}

  async board(now: Date): Promise<Board> {
    const { zone } = await this.house.warehouse(this.db);
    const [departures, bars, handed, gone, pace, needs, picks] = await Promise.all([
      this.today(now, zone),
      this.bars(),
      this.handedOver(),
      this.goneToday(now, zone),
      this.pace(now),
      this.needsQueries.needs(),
      this.picks.now(this.db, now),
    ]);
    let ahead = 0;
    const rows = departures.map((d): BoardDeparture => {
      const bar = bars.get(d.id) ?? { clear: 0, listed: 0, picked: 0, packed: 0, labelled: 0 };
      const unlabelled = bar.clear + bar.listed + bar.picked + bar.packed;
      if (d.state === 'open') ahead += unlabelled;
      const f = forecast({
        unlabelled,
        ahead,
        perHour: pace,
        minutesLeft: Math.floor((d.cutOff.getTime() - now.getTime()) / 60_000),
      });
      return {
        id: d.id,
        no: `DE-${d.no}`,
        carrier: d.carrier,
        carrierName: d.carrierName,
        name: d.name,
        cutOff: d.cutOff.toISOString(),
        state: d.state,
        freight: !!d.freight,
        bar,
        handedOver: handed.get(d.id) ?? 0,
        total: unlabelled + bar.labelled,
        readyAt:
          f.readyIn === null || unlabelled === 0
            ? null
            : new Date(now.getTime() + f.readyIn * 60_000).toISOString(),
        spare: f.spare,
        miss: f.miss,
        word: f.word,
        pickers: d.state === 'open' ? (picks.needed.get(d.id) ?? null) : null,
      };
    });
    return {
      now: now.toISOString(),
      zone,
      toLeave: rows.reduce((n, r) => n + (r.state === 'open' ? r.total : 0), 0),
      gone,
      perHour: pace,
      picking: picks.picking,
      departures: rows,
      needs,
      labelledByHour: await this.byHour(now, zone, rows),
    };
  }

  async strip(now: Date): Promise<Strip> {
    const { zone } = await this.house.warehouse(this.db);
    const counts = await this.db.rows<{ stage: Stage; n: number }>(
      "SELECT stage, COUNT(*) AS n FROM orders WHERE stage NOT IN ('Departed', 'Cancelled') GROUP BY stage",
    );
    const of = (...stages: Stage[]) =>
      counts.filter(c => stages.includes(c.stage)).reduce((n, c) => n + c.n, 0);
    const unanswered = (await this.db.one<{ n: number }>(
      "SELECT COUNT(*) AS n FROM label WHERE state IN ('unknown', 'asked')",
    ))!.n;
    const wrote = (await this.db.one<{ n: number }>(
      "SELECT COUNT(DISTINCT orderId) AS n FROM orderMessage WHERE sender = 'buyer' AND readAt IS NULL",
    ))!.n;
    const next = await this.db.one<{ carrierName: string; cutOff: Date }>(
      "SELECT carrierName, cutOff FROM departure WHERE state = 'open' AND cutOff > ? ORDER BY cutOff LIMIT 1",
      [now],
    );
    return {
      orders: of('Incoming', 'Stopped', 'Parked', 'Short', 'Clear'),
      stopped: of('Stopped'),
      pick: of('Listed'),
      bench: of('Picked'),
      parcels: of('Packed', 'Labelled'),
      unanswered,
      wrote,
      departed: await this.goneToday(now, zone),
      next: next && { carrierName: next.carrierName, cutOff: next.cutOff.toISOString() },
    };
  }

  async handover(no: number): Promise<HandoverView> {
    const d = await this.db.one<
      DepartureRecord & { reason: string; bookedAs: string | null; manifest: string | null }
    >(
      'SELECT id, no, carrier, carrierName, name, cutOff, state, freight, reason, bookedAs, manifest FROM departure WHERE no = ?',
      [no],
    );
    if (!d) throw new NotHere(`The departure DE-${no}`);
    const parcels = await this.db.rows<{
      no: number;
      order: string;
      buyer: string;
      tracking: string;
      service: string;
      handedOverAt: Date | null;
      orderId: string;
      weightMg: number | null;
    }>(
      `SELECT c.no, c.orderId, o.channelNumber AS \`order\`, o.buyer, b.tracking, b.serviceName AS service, c.handedOverAt, c.weightMg FROM parcel c JOIN orders o ON o.id = c.orderId
       JOIN label b ON b.liveParcel = c.id AND b.state = 'bought' WHERE c.departureId = ? AND (c.departedAt IS NULL OR ? = 'closed') ORDER BY c.handedOverAt IS NOT NULL, c.no`,
      [d.id, d.state],
    );
    const held = await this.held.among(this.db, d.state === 'open' ? parcels.map(p => p.orderId) : []);
    const shown = parcels.map(({ handedOverAt, orderId, ...p }) => ({
      ...p,
      no: `PA-${p.no}`,
      scanned: handedOverAt !== null,
      held: held.get(orderId)?.says ?? null,
    }));
    return {
      id: d.id,
      no: `DE-${d.no}`,
      carrierName: d.carrierName,
      name: d.name,
      cutOff: d.cutOff.toISOString(),
      state: d.state,
      reason: d.reason,
      parcels: shown,
      strange: d.state === 'open' ? reconcile(shown, dockScans(await scansAt(this.db, d.id))).strange : [],
      bookedAs: d.bookedAs,
      manifest: d.manifest,
    };
  }

  private today(now: Date, zone: string): Promise<DepartureRecord[]> {
    const day = DateTime.fromJSDate(now, { zone }).toISODate();
    // The first day that still has a collection to come, so that the Board looks at tomorrow once today is over.
    return this.db.rows(
      "SELECT id, no, carrier, carrierName, name, cutOff, state, freight FROM departure WHERE day = COALESCE((SELECT MIN(day) FROM departure WHERE cutOff > ? AND state = 'open' AND NOT freight), ?) ORDER BY cutOff, no",
      [now, day],
    );
  }

  private async bars(): Promise<Map<string, StageBar>> {
    const rows = await this.db.rows<{ departureId: string; stage: Stage; n: number }>(
      "SELECT departureId, stage, COUNT(*) AS n FROM orders WHERE stage IN ('Clear', 'Listed', 'Picked', 'Packed', 'Labelled') AND departureId IS NOT NULL GROUP BY departureId, stage",
    );
    const bars = new Map<string, StageBar>();
    for (const r of rows) {
      const bar = bars.get(r.departureId) ?? { clear: 0, listed: 0, picked: 0, packed: 0, labelled: 0 };
      bar[BAR[r.stage]!] = r.n;
      bars.set(r.departureId, bar);
    }
    return bars;
  }

  private async handedOver(): Promise<Map<string, number>> {
    const rows = await this.db.rows<{ departureId: string; n: number }>(
      'SELECT departureId, COUNT(*) AS n FROM parcel WHERE handedOverAt > NOW() - INTERVAL 1 DAY AND departureId IS NOT NULL GROUP BY departureId',
    );
    return new Map(rows.map(r => [r.departureId, r.n]));
  }

  private async goneToday(now: Date, zone: string): Promise<number> {
    const from = DateTime.fromJSDate(now, { zone }).startOf('day').toJSDate();
    return (await this.db.one<{ n: number }>('SELECT COUNT(*) AS n FROM parcel WHERE departedAt >= ?', [
      from,
    ]))!.n;
  }

  /** Parcels labelled an hour, from the last hour and a half. */
  private async pace(now: Date): Promise<number> {
    const { n } = (await this.db.one<{ n: number }>(
      "SELECT COUNT(*) AS n FROM label WHERE state = 'bought' AND NOT back AND answeredAt > ? AND answeredAt <= ?",
      [new Date(now.getTime() - PACE_MINUTES * 60_000), now],
    ))!;
    return Math.round((n * 60) / PACE_MINUTES);
  }

  /** Labels bought by the end of each hour of today, beside what must be by then. */
  private async byHour(now: Date, zone: string, rows: BoardDeparture[]): Promise<Board['labelledByHour']> {
    const start = DateTime.fromJSDate(now, { zone }).startOf('day').set({ hour: 7 });
    const bought = await this.db.rows<{ at: Date }>(
      "SELECT answeredAt AS at FROM label WHERE state = 'bought' AND NOT back AND answeredAt >= ? ORDER BY answeredAt",
      [start.toJSDate()],
    );
    return Array.from({ length: 12 }, (_, i) => start.plus({ hours: i })).map(at => ({
      at: at.toUTC().toISO()!,
      labelled:
        at.toMillis() > now.getTime() ? -1 : bought.filter(b => b.at.getTime() <= at.toMillis()).length,
      due: rows.filter(r => Date.parse(r.cutOff) <= at.toMillis()).reduce((n, r) => n + r.total, 0),
    }));
  }
}
