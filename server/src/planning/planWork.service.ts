import { setTimeout as wait } from 'node:timers/promises';
import type { PlanIn } from '@auk/contract';
import { fillTotes, group, type Layout, type OrderToPick, type PickMethod, type Spot } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { IsNull } from 'typeorm';
import { Db, newId, type Sql } from '../database/db.js';
import { HouseService } from '../house/house.module.js';
import { log } from '../http/log.js';
import { type Job, JobsService, type JobTurn } from '../jobs/jobs.module.js';
import { ListRelease, type PlacedPart } from '../picking/picking.module.js';
import { Walls } from '../stock/stock.module.js';
import { PickPlan } from './pickPlan.entity.js';
import { PlannedList } from './plannedList.entity.js';
import { PlannedOrder } from './plannedOrder.entity.js';
import { clearOrders, noteProgress } from './planning.queries.js';
import { type Found, PlanThread } from './planThread.js';
import { PlanTimes } from './planTimes.service.js';
import { carryLimits, toteLimits } from './trolley.js';

export const PLAN_JOB = 'plan pick lists';
/** A plan that a server's death cut short is computed anew for so long. */
const TRY_HOURS = 1;
/** How often planning notes how far it is, and looks whether it shall stop. */
const LOOK_MS = 400;
/** An order is to be picked so long before its cut-off, so that it can be packed. */
export const PACK_SECONDS = 20 * 60;
/** Walks that may be measured while improving: so many for each order, within these bounds. */
const STEPS = { each: 60, least: 10_000, most: 250_000 };
const SEED = 1;
const NO_HEAPS: PickMethod[] = ['cluster', 'single'];
const ALL_METHODS: PickMethod[] = ['cluster', 'batch', 'single'];

/** A place where an order's goods are expected, as a plan keeps it. */
export interface PlannedSpot {
  code: string;
  aisle: number | null;
  along: number | null;
}

/** What a plan keeps of itself beside its lists. */
export interface Outcome {
  compared: {
    method: Found['plans'][number]['method'];
    lists: number;
    distance: number;
    seconds: number;
    late: number;
  }[];
  bound: number;
  singly: number | null;
  firstCome: number | null;
  exact: boolean;
}

interface KeptList {
  list: PlannedList;
  orders: PlannedOrder[];
}

/** An order to plan, with the places where its goods are expected. */
type Task = Omit<OrderToPick, 'visit' | 'stops'> & { spots: PlannedSpot[] };

/** Computes plans as jobs, each in a thread of its own: what to plan is read, the thread plans, what it found is stored. */
@Injectable()
export class PlanWork {
  constructor(
    private readonly db: Db,
    private readonly house: HouseService,
    private readonly releases: ListRelease,
    private readonly times: PlanTimes,
    private readonly walls: Walls,
    jobs: JobsService,
  ) {
    jobs.register<object>({ kind: PLAN_JOB, tryHours: TRY_HOURS, work: (job, turn) => this.work(job, turn) });
  }

  private async work(job: Job<object>, turn: JobTurn): Promise<void> {
    const id = job.subjectId!;
    const plan = await this.db.of(PickPlan).findOneBy({ id });
    if (plan?.state !== 'planning') return;
    const question = plan.question as PlanIn;
    const kept = await this.kept(this.db, question.keep);
    const orders = (await this.toPlan(this.db, question, plan.createdAt)).filter(
      o => !kept.some(k => k.orders.some(x => x.orderId === o.id)),
    );
    if (orders.length === 0) return this.end(turn, id, 'No Clear order is left that this asks for.');
    const layout = await this.house.layout(this.db);
    const cells = await this.walls.largest(this.db);
    const thread = new PlanThread({
      layout,
      orders: orders.map(o => ({ ...o, stops: o.spots.length, spots: located(o.spots, layout) })),
      methods: question.method === 'compare' ? (cells > 0 ? ALL_METHODS : NO_HEAPS) : [question.method],
      limits: carryLimits(question.trolley),
      cells,
      shifts: new Array(question.pickers).fill({
        until: question.until && (Date.parse(question.until) - plan.createdAt.getTime()) / 1000,
      }),
      times: (await this.times.now(this.db)).times,
      seed: SEED,
      steps: Math.min(STEPS.most, Math.max(STEPS.least, STEPS.each * orders.length)),
    });
    try {
      const found = await this.follow(thread, id, turn);
      if (found) await this.store(turn, id, orders, found, kept);
    } catch (error) {
      log.error({ err: error, plan: id }, 'a plan failed');
      return this.end(
        turn,
        id,
        'Planning ended in an error of Auk, which is in its log. Ask for the plan again.',
      );
    } finally {
      await thread.kill();
    }
    const { state } = await this.db.of(PickPlan).findOneByOrFail({ id });
    if (state === 'planning') turn.later();
  }

  /** Waits for the thread; meanwhile notes how far it is, and tells it when a person has had enough. Null when the server is to stop. */
  private async follow(thread: PlanThread, id: string, turn: JobTurn): Promise<Found | null> {
    for (;;) {
      const found = await Promise.race([thread.found, wait(LOOK_MS, null)]);
      if (found) return found;
      if (turn.stopped()) return null;
      await this.db.tx({ personId: null, at: new Date() }, async tx => {
        await turn.within(tx);
        await noteProgress(tx, thread.soFar && JSON.stringify(thread.soFar), id);
        await tx.tell('plans', id);
      });
      const plan = await this.db.of(PickPlan).findOneBy({ id });
      if (plan?.stopAsked) thread.stop();
    }
  }

  /** The orders that a question asks for, as the planner sees them; the oldest first. */
  private async toPlan(sql: Sql, question: PlanIn, now: Date): Promise<Task[]> {
    const orders = await clearOrders(sql, question.departures, question.tags);
    const parts = group(
      await this.releases.expected(
        sql,
        orders.map(o => o.id),
        now,
      ),
      p => p.orderId,
    );
    return orders.flatMap(({ id, cutOff }) => {
      const own = parts.get(id) ?? [];
      const areas = [...new Set(own.map(p => p.area))];
      const asked = question.areas.length === 0 || areas.some(a => question.areas.includes(a));
      if (own.length === 0 || !asked) return [];
      const due = cutOff && Math.max(0, (cutOff.getTime() - now.getTime()) / 1000 - PACK_SECONDS);
      const sum = (of: (p: PlacedPart) => number) => own.reduce((n, p) => n + of(p), 0);
      return [
        {
          id,
          spots: spotsOf(own),
          units: sum(p => p.quantity),
          totes: fillTotes(own, toteLimits(question.trolley)).length,
          volume: sum(p => p.quantity * (p.volume ?? 0)),
          weight: sum(p => p.quantity * (p.weight ?? 0)),
          due,
          apart: question.apart && areas.length === 1 ? areas[0]! : '',
        },
      ];
    });
  }

  /** The locked lists of the plan before, with their orders; those that were released meanwhile are done with. */
  private async kept(sql: Sql, planId: string | null): Promise<KeptList[]> {
    if (planId === null) return [];
    const lists = await sql.of(PlannedList).findBy({ planId, locked: true, pickListId: IsNull() });
    const orders = group(await sql.of(PlannedOrder).findBy({ planId }), o => o.plannedListId);
    return lists.map(list => ({ list, orders: orders.get(list.id) ?? [] }));
  }

  private async store(
    turn: JobTurn,
    id: string,
    orders: readonly Task[],
    found: Found,
    kept: readonly KeptList[],
  ): Promise<void> {
    const [best] = found.plans;
    const outcome: Outcome = {
      compared: found.plans.map(p => ({
        method: p.method,
        lists: p.lists.length,
        distance: p.distance,
        seconds: Math.round(p.seconds),
        late: p.late,
      })),
      bound: best!.bound,
      singly: best!.singly,
      firstCome: best!.firstCome,
      exact: found.exact,
    };
    const lists = best!.lists.map((l, i) => ({ ...l, id: newId(), seq: i + 1 }));
    await this.db.tx({ personId: null, at: new Date() }, async tx => {
      await turn.within(tx);
      await tx.insert(
        PlannedList,
        lists.map(l => ({
          id: l.id,
          planId: id,
          seq: l.seq,
          distance: Math.round(l.distance),
          seconds: Math.round(l.seconds),
          finish: l.turn && Math.round(l.turn.finish),
          picker: l.turn && l.turn.picker + 1,
          locked: false,
          tooLarge: l.tooLarge,
        })),
      );
      await tx.insert(
        PlannedOrder,
        lists.flatMap(l =>
          l.orders.map(i => ({
            id: newId(),
            planId: id,
            plannedListId: l.id,
            orderId: orders[i]!.id,
            spots: JSON.stringify(orders[i]!.spots),
            units: orders[i]!.units,
            totes: orders[i]!.totes,
            due: orders[i]!.due === null ? null : Math.round(orders[i]!.due),
          })),
        ),
      );
      for (const [i, { list, orders: own }] of kept.entries()) {
        const listId = newId();
        await tx.of(PlannedList).insert({ ...list, id: listId, planId: id, seq: lists.length + i + 1 });
        for (const o of own)
          await tx
            .of(PlannedOrder)
            .insert({ ...o, id: newId(), planId: id, plannedListId: listId, spots: o.spots as never });
      }
      await tx
        .of(PickPlan)
        .update(id, { state: 'ready', outcome: outcome as never, progress: null as never });
      await tx.tell('plans', id);
    });
  }

  /** Ends a plan that cannot be made, with why. */
  private async end(turn: JobTurn, id: string, says: string): Promise<void> {
    await this.db.tx({ personId: null, at: new Date() }, async tx => {
      await turn.within(tx);
      await tx.of(PickPlan).update(id, { state: 'failed', says });
      await tx.tell('plans', id);
    });
  }
}

/** The distinct places of an order's parts. */
function spotsOf(parts: readonly PlacedPart[]): PlannedSpot[] {
  const by = new Map(parts.map(({ code, aisle, along }) => [code, { code, aisle, along }]));
  return [...by.values()];
}

/** Spots of the floor among places: those whose coordinates the house knows, on an aisle that it still has. */
export const located = (spots: readonly PlannedSpot[], layout: Layout): Spot[] =>
  spots.flatMap(s =>
    s.aisle !== null && s.along !== null && layout.aisles[s.aisle]
      ? [{ aisle: s.aisle, along: s.along }]
      : [],
  );
