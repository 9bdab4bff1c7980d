import type { Board, BoardDeparture, HandoverView, NeedsPerson, StageBar, Strip } from '@auk/contract';
import { forecast, type Stage } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { DateTime } from 'luxon';
import { Db } from '../database/db.js';
import { HouseService } from '../house/house.module.js';
import { NotHere } from '../http/problem.js';
import { PickForecasts } from '../planning/planning.module.js';
import { HeldOrders } from '../records/records.module.js';

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
type Cause = Omit<NeedsPerson, 'job'>;

/** Most causes of one kind that are named. */
const NEEDS = 50;
/** A channel that could not be told for so long is shown to a person. */
const UNTOLD_MINUTES = 30;

const need = (
  code: string,
  subject: string,
  says: string,
  detail: string,
  cure: string,
  job: string | null = null,
): NeedsPerson => ({ code, subject, says, detail, cure, orders: 1, job });

/** Minutes of the past that today's pace is taken from. */
const PACE_MINUTES = 90;

/** Reads for the Board, the route strip and the handover. */
@Injectable()
export class BoardQueries {
  constructor(
    private readonly db: Db,
    private readonly house: HouseService,
    private readonly held: HeldOrders,
    private readonly picks: PickForecasts,
  ) {}

  async board(now: Date): Promise<Board> {
    const { zone } = await this.house.warehouse(this.db);
    const [departures, bars, handed, gone, pace, needs, picks] = await Promise.all([
      this.today(now, zone),
      this.bars(),
      this.handedOver(),
      this.goneToday(now, zone),
      this.pace(now),
      this.needs(),
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
      departed: await this.goneToday(now, zone),
      next: next && { carrierName: next.carrierName, cutOff: next.cutOff.toISOString() },
    };
  }

  async handover(no: number): Promise<HandoverView> {
    const d = await this.db.one<DepartureRecord & { reason: string }>(
      'SELECT id, no, carrier, carrierName, name, cutOff, state, freight, reason FROM departure WHERE no = ?',
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
    }>(
      `SELECT c.no, c.orderId, o.channelNumber AS \`order\`, o.buyer, b.tracking, b.serviceName AS service, c.handedOverAt FROM parcel c JOIN orders o ON o.id = c.orderId
       JOIN label b ON b.liveParcel = c.id AND b.state = 'bought' WHERE c.departureId = ? AND (c.departedAt IS NULL OR ? = 'closed') ORDER BY c.handedOverAt IS NOT NULL, c.no`,
      [d.id, d.state],
    );
    const held = await this.held.among(this.db, d.state === 'open' ? parcels.map(p => p.orderId) : []);
    return {
      id: d.id,
      no: `DE-${d.no}`,
      carrierName: d.carrierName,
      name: d.name,
      cutOff: d.cutOff.toISOString(),
      state: d.state,
      reason: d.reason,
      parcels: parcels.map(({ handedOverAt, orderId, ...p }) => ({
        ...p,
        no: `PA-${p.no}`,
        scanned: handedOverAt !== null,
        held: held.get(orderId)?.says ?? null,
      })),
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
      "SELECT COUNT(*) AS n FROM label WHERE state = 'bought' AND answeredAt > ? AND answeredAt <= ?",
      [new Date(now.getTime() - PACE_MINUTES * 60_000), now],
    ))!;
    return Math.round((n * 60) / PACE_MINUTES);
  }

  /** What only a person can do, grouped by cause, most orders first. */
  private async needs(): Promise<NeedsPerson[]> {
    const stops = await this.db.rows<Cause>(
      `SELECT s.code, s.subject, MIN(s.says) AS says, GROUP_CONCAT(DISTINCT o.channelNumber ORDER BY o.no SEPARATOR ', ') AS detail, MIN(s.cure) AS cure, COUNT(DISTINCT s.orderId) AS orders
       FROM stopReason s JOIN orders o ON o.id = s.orderId WHERE s.liftedAt IS NULL AND o.stage = 'Stopped' GROUP BY s.code, s.subject ORDER BY orders DESC LIMIT ${NEEDS}`,
    );
    const short = await this.db.rows<Cause>(
      `SELECT 'short' AS code, x.sku AS subject, CONCAT(x.name, ' is short.') AS says, CONCAT(SUM(x.n), ' missing') AS detail, 'Receive or count it.' AS cure, COUNT(DISTINCT x.orderId) AS orders FROM
         (SELECT p.orderId, pr.sku, pr.name, p.quantity - COALESCE((SELECT SUM(a.quantity) FROM allocation a WHERE a.partId = p.id), 0) AS n
          FROM orders o JOIN linePart p ON p.orderId = o.id JOIN product pr ON pr.id = p.productId WHERE o.stage = 'Short' AND NOT p.optional) x WHERE x.n > 0 GROUP BY x.sku, x.name ORDER BY orders DESC LIMIT ${NEEDS}`,
    );
    const labels = await this.db.rows<Cause>(
      `SELECT 'label' AS code, CONCAT('PA-', c.no) AS subject, CONCAT('The label of PA-', c.no, ' has no answer yet.') AS says, COALESCE(b.why, '') AS detail, 'Auk asks the carrier again.' AS cure, 1 AS orders
       FROM label b JOIN parcel c ON c.id = b.parcelId WHERE b.state IN ('unknown', 'asked') LIMIT ${NEEDS}`,
    );
    const doubts = await this.db.rows<Cause>(
      `SELECT 'doubt' AS code, CONCAT('PA-', c.no) AS subject, CONCAT('Nobody can prove whether the label of PA-', c.no, ' was bought.') AS says, COALESCE(b.why, '') AS detail, 'Ask the carrier, then decide on the page of parcels.' AS cure, 1 AS orders
       FROM label b JOIN parcel c ON c.id = b.parcelId WHERE b.state = 'doubtful' LIMIT ${NEEDS}`,
    );
    const claims = await this.db.rows<Cause>(
      `SELECT 'claim' AS code, CONCAT('PA-', c.no) AS subject, CONCAT(b.carrierName, ' owes money for PA-', c.no, '.') AS says, r.why AS detail, 'Claim it, then close it on the page of parcels.' AS cure, 1 AS orders
       FROM refundClaim r JOIN label b ON b.id = r.labelId JOIN parcel c ON c.id = b.parcelId WHERE r.state = 'open' ORDER BY r.at LIMIT ${NEEDS}`,
    );
    const parked = await this.db.rows<Cause>(
      "SELECT 'parked' AS code, channelNumber AS subject, CONCAT(channelNumber, ' is parked.') AS says, parkedReason AS detail, 'Read why.' AS cure, 1 AS orders FROM orders WHERE stage = 'Parked' ORDER BY no LIMIT 50",
    );
    const held = (await this.held.parcels(this.db, NEEDS)).map(p =>
      need('held', `PA-${p.no}`, `PA-${p.no} is packed and must not go.`, p.says, p.cure),
    );
    const rest = [...doubts, ...labels, ...claims, ...stops, ...short, ...parked].map(n => ({
      ...n,
      job: null,
    }));
    return [...held, ...(await this.untold()), ...(await this.filesLeft()), ...rest];
  }

  /** Parcels of which a channel could not be told for long, or is not told any more. */
  private async untold(): Promise<NeedsPerson[]> {
    const rows = await this.db.rows<{
      id: string;
      no: number;
      state: string;
      error: string;
      channel: string;
    }>(
      `SELECT j.id, c.no, j.state, j.error, h.name AS channel FROM job j JOIN parcel c ON c.id = j.subjectId JOIN orders o ON o.id = c.orderId JOIN channel h ON h.id = o.channelId
       WHERE j.kind = 'tell tracking' AND (j.state = 'given up' OR j.state = 'waiting' AND j.error IS NOT NULL AND j.createdAt < NOW(3) - INTERVAL ${UNTOLD_MINUTES} MINUTE) ORDER BY j.createdAt LIMIT ${NEEDS}`,
    );
    return rows.map(j => {
      const cure =
        j.state === 'given up'
          ? 'Auk has stopped trying. Try again when the channel is back.'
          : 'Auk tries on by itself; try again now if the channel is back.';
      return need(
        'untold',
        `PA-${j.no}`,
        `${j.channel} was not told that PA-${j.no} left.`,
        j.error,
        cure,
        j.id,
      );
    });
  }

  /** Files that were not taken in whole, whatever was tried. */
  private async filesLeft(): Promise<NeedsPerson[]> {
    const rows = await this.db.rows<{
      id: string;
      name: string;
      taken: number;
      things: number;
      error: string;
    }>(
      `SELECT j.id, f.name, f.taken, f.things, j.error FROM job j JOIN importFile f ON f.id = j.subjectId WHERE j.state = 'given up' ORDER BY j.createdAt LIMIT ${NEEDS}`,
    );
    return rows.map(f =>
      need(
        'file',
        f.name,
        `${f.name} was taken in only in part: ${f.taken} of ${f.things}.`,
        f.error,
        'Auk has stopped trying. Try again; it goes on where it stood.',
        f.id,
      ),
    );
  }

  /** Labels bought by the end of each hour of today, beside what must be by then. */
  private async byHour(now: Date, zone: string, rows: BoardDeparture[]): Promise<Board['labelledByHour']> {
    const start = DateTime.fromJSDate(now, { zone }).startOf('day').set({ hour: 7 });
    const bought = await this.db.rows<{ at: Date }>(
      "SELECT answeredAt AS at FROM label WHERE state = 'bought' AND answeredAt >= ? ORDER BY answeredAt",
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
