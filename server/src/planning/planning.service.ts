import type { PlanChoices, PlanIn, PlanRow, PlanView, Released, WalkView } from '@auk/contract';
import { FIRST_TROLLEY } from '@auk/contract';
import { batchLoad, carries, giveOut, group, pointOf, walkSeconds, walksOf } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { Db, type Doer, fromJson, newId, type Sql, type Tx } from '../database/db.js';
import { HouseService } from '../house/house.module.js';
import { Forbidden, NotHere, TooLate, Trouble } from '../http/problem.js';
import { JobsService } from '../jobs/jobs.module.js';
import { ListRelease } from '../picking/picking.module.js';
import { Walls } from '../stock/stock.module.js';
import { PickPlan } from './pickPlan.entity.js';
import { PlannedList } from './plannedList.entity.js';
import { PlannedOrder } from './plannedOrder.entity.js';
import {
  clearByArea,
  clearByDeparture,
  clearByTag,
  clearCount,
  forgetPlans,
  listsOfPlan,
  lockPlan,
  ordersOfPlan,
  plansNewestFirst,
  shortCount,
  waitingForGoods,
} from './planning.queries.js';
import { PlanTimes } from './planTimes.service.js';
import { distinct, inMetres, viewOf } from './planViews.js';
import { located, type Outcome, PLAN_JOB, type PlannedSpot } from './planWork.service.js';
import { carryLimits, toteLimits } from './trolley.js';

const SHOWN_PLANS = 12;
const SHOWN_WAITING = 30;
const TROLLEY_SETTING = 'trolley';

/** Plans of pick lists: asked for, looked at, changed by hand, released. */
@Injectable()
export class PlanningService {
  constructor(
    private readonly db: Db,
    private readonly house: HouseService,
    private readonly jobs: JobsService,
    private readonly releases: ListRelease,
    private readonly times: PlanTimes,
    private readonly walls: Walls,
  ) {}

  async choices(): Promise<PlanChoices> {
    const sql = this.db;
    const [clear, departures, tags, areas, waiting, short, trolley, { from }, cells] = await Promise.all([
      clearCount(sql),
      clearByDeparture(sql),
      clearByTag(sql),
      clearByArea(sql),
      waitingForGoods(sql, SHOWN_WAITING),
      shortCount(sql),
      this.house.setting(sql, TROLLEY_SETTING, FIRST_TROLLEY),
      this.times.now(sql),
      this.walls.largest(sql),
    ]);
    return {
      clear: clear!.n,
      departures: departures.map(d => ({ ...d, cutOff: d.cutOff.toISOString() })),
      tags,
      areas,
      waiting: waiting.map(w => ({
        no: `OR-${w.no}`,
        lacks: w.lacks,
        expected: w.unknown > 0 ? null : w.expected,
      })),
      waitingOrders: short!.n,
      trolley,
      cells,
      timesFrom: from,
    };
  }

  /** Has a plan made. Asked twice under one id, it is one plan. */
  async ask(question: PlanIn, doer: Doer): Promise<PlanView> {
    if (question.method === 'batch' && (await this.walls.largest(this.db)) === 0)
      throw new Forbidden(
        'A heap is sorted at a put wall, and the house has none.',
        'Set one up under Stock > Put walls, or pick with totes.',
      );
    await this.db.tx(doer, async tx => {
      const house = await this.house.warehouse(tx);
      const made = await tx
        .of(PickPlan)
        .createQueryBuilder()
        .insert()
        .orIgnore()
        .values({
          id: question.id,
          warehouseId: house.id,
          createdAt: tx.at,
          createdBy: tx.personId,
          question: question as never,
        })
        .execute();
      if (made.raw.affectedRows === 0) return;
      await this.house.set(tx, TROLLEY_SETTING, question.trolley);
      await this.jobs.add(tx, [
        { kind: PLAN_JOB, lane: `plan ${house.id}`, payload: {}, subjectId: question.id },
      ]);
    });
    this.jobs.soon();
    return this.view(question.id);
  }

  async recent(): Promise<PlanRow[]> {
    const rows = await plansNewestFirst(this.db, SHOWN_PLANS);
    return rows.map(r => ({ ...r, createdAt: r.createdAt.toISOString() }));
  }

  /** Ends planning with the best plan so far. One that is ready stays as it is. */
  async stop(id: string, doer: Doer): Promise<PlanView> {
    await this.db.tx(doer, async tx => {
      await this.locked(tx, id);
      await tx.of(PickPlan).update({ id, state: 'planning' }, { stopAsked: true });
    });
    return this.view(id);
  }

  async view(id: string): Promise<PlanView> {
    const plan = await this.plan(this.db, id);
    return viewOf(plan, await listsOfPlan(this.db, id), await ordersOfPlan(this.db, id));
  }

  /** The walk of one list of a plan, as it is drawn. */
  async walk(id: string, listId: string): Promise<WalkView> {
    const orders = (await ordersOfPlan(this.db, id)).filter(o => o.plannedListId === listId);
    if (orders.length === 0) throw new NotHere('That list of the plan');
    const layout = await this.house.layout(this.db);
    const places = distinct(orders.flatMap(o => fromJson<PlannedSpot[]>(o.spots)));
    const known = places.filter(p => located([p], layout).length > 0);
    const spots = located(known, layout);
    const { order, path } = walksOf(layout).walk(spots);
    return {
      path: path.map(inMetres),
      stops: order.map(i => ({ code: known[i]!.code, ...inMetres(pointOf(layout, spots[i]!)) })),
    };
  }

  /** Moves an order to another list of its plan, or to a new one. Refused when the trolley would carry too much. */
  async move(
    id: string,
    act: { version: number; orderId: string; to: string | null },
    doer: Doer,
  ): Promise<PlanView> {
    await this.change(id, act.version, doer, async (tx, plan) => {
      const lists = await listsOfPlan(tx, id);
      const orders = await ordersOfPlan(tx, id);
      const moved = orders.find(o => o.orderId === act.orderId);
      const from = lists.find(l => l.id === moved?.plannedListId);
      const to = act.to === null ? null : lists.find(l => l.id === act.to);
      if (!moved || !from || to === undefined) throw new NotHere('That order or list of the plan');
      for (const list of [from, to]) {
        if (list?.pickListId)
          throw new TooLate(
            `PL-${list.no} is released already.`,
            'Choose a list that still stands in the plan.',
          );
        if (list?.locked)
          throw new TooLate(`List ${list.seq} is locked.`, 'Unlock it first, or choose another list.');
      }
      if (to && to.id !== from.id) {
        const there = orders.filter(o => o.plannedListId === to.id);
        await this.refuseTooMuch(tx, plan, to.seq, [...there, moved]);
      }
      const target = to ?? { id: newId(), seq: Math.max(...lists.map(l => l.seq)) + 1 };
      if (!to)
        await tx.insert(PlannedList, [
          {
            id: target.id,
            planId: id,
            seq: target.seq,
            distance: 0,
            seconds: 0,
            locked: false,
            tooLarge: false,
          },
        ]);
      await tx.of(PlannedOrder).update({ planId: id, orderId: act.orderId }, { plannedListId: target.id });
      await this.retime(tx, plan);
    });
    return this.view(id);
  }

  /** A list carries no more than a trolley does, and a heap has no more orders than the wall has cells. */
  private async refuseTooMuch(
    tx: Tx,
    plan: PickPlan,
    list: number,
    orders: readonly { totes: number }[],
  ): Promise<void> {
    const { trolley } = plan.question as PlanIn;
    const load = batchLoad(orders.map(o => ({ totes: o.totes, volume: 0, weight: 0 })));
    const heap = methodOf(plan) === 'batch';
    const cells = heap ? await this.walls.largest(tx) : 0;
    if (heap ? load.orders <= cells : carries(carryLimits(trolley), load)) return;
    throw new Forbidden(
      heap
        ? `List ${list} would have ${load.orders} orders, and a wall has ${cells} cells.`
        : `List ${list} would fill ${load.totes} totes, and a trolley carries ${trolley.totes}.`,
      'Move another order off that list first, or put this one on a new list.',
    );
  }

  /** A locked list keeps its orders: nothing is dragged onto it or off it. */
  async lock(
    id: string,
    act: { version: number; listId: string; locked: boolean },
    doer: Doer,
  ): Promise<PlanView> {
    await this.change(id, act.version, doer, async tx => {
      await tx.of(PlannedList).update({ id: act.listId, planId: id }, { locked: act.locked });
    });
    return this.view(id);
  }

  /**
   * Releases lists of a plan, each in one act: places are decided and held now. Orders that are not Clear any more stay behind and are
   * named. A list that was released already answers with its number; one that cannot go says why, and the others go.
   */
  async release(id: string, listIds: readonly string[], doer: Doer): Promise<Released> {
    await this.plan(this.db, id);
    const lists: Released['lists'] = [];
    for (const listId of new Set(listIds)) {
      try {
        lists.push(await this.db.tx(doer, tx => this.releaseOne(tx, id, listId)));
      } catch (error) {
        if (!(error instanceof Trouble)) throw error;
        lists.push({ listId, no: null, left: [], says: `${error.problem.detail} ${error.problem.cure}` });
      }
    }
    return { lists };
  }

  private async releaseOne(tx: Tx, id: string, listId: string): Promise<Released['lists'][number]> {
    await this.locked(tx, id);
    const plan = await this.plan(tx, id);
    const list = (await listsOfPlan(tx, id)).find(l => l.id === listId);
    if (!list) throw new NotHere('That list of the plan');
    if (list.no !== null) return { listId, no: `PL-${list.no}`, left: [], says: null };
    const orders = (await ordersOfPlan(tx, id)).filter(o => o.plannedListId === listId);
    const left = orders.filter(o => o.stage !== 'Clear');
    const go = orders.filter(o => o.stage === 'Clear');
    if (go.length === 0)
      throw new TooLate(`No order of list ${list.seq} is Clear any more.`, 'Make a new plan of what is.');
    const made = await this.releases.release(
      tx,
      go.map(o => o.orderId),
      { method: methodOf(plan), tote: toteLimits((plan.question as PlanIn).trolley) },
    );
    await tx.of(PlannedList).update(listId, { pickListId: made.id });
    for (const o of left) await tx.of(PlannedOrder).delete({ planId: id, orderId: o.orderId });
    await tx.of(PickPlan).increment({ id }, 'version', 1);
    await tx.tell('plans', id);
    return { listId, no: `PL-${made.no}`, left: left.map(o => `OR-${o.no} is ${o.stage}`), says: null };
  }

  /** Forgets plans that were made so many days ago. */
  forget(days: number): Promise<void> {
    return forgetPlans(this.db, days);
  }

  /** One change of a plan that is ready, by somebody who has seen its newest state. */
  private async change(
    id: string,
    version: number,
    doer: Doer,
    act: (tx: Tx, plan: PickPlan) => Promise<void>,
  ): Promise<void> {
    await this.db.tx(doer, async tx => {
      const seen = await this.locked(tx, id);
      if (seen.state !== 'ready')
        throw new TooLate(
          'The plan is still being made.',
          'Wait until it is ready, or stop it with what there is.',
        );
      if (seen.version !== version)
        throw new TooLate(
          'Somebody changed this plan a moment ago.',
          'Look at it again, then repeat the change.',
        );
      await act(tx, await this.plan(tx, id));
      await tx.of(PickPlan).increment({ id }, 'version', 1);
      await tx.tell('plans', id);
    });
  }

  /** Measures the lists anew, and when each will be finished. Lists without orders disappear. */
  private async retime(tx: Tx, plan: PickPlan): Promise<void> {
    const question = plan.question as PlanIn;
    const [lists, orders, layout, { times }] = await Promise.all([
      listsOfPlan(tx, plan.id),
      ordersOfPlan(tx, plan.id),
      this.house.layout(tx),
      this.times.now(tx),
    ]);
    const by = group(orders, o => o.plannedListId);
    const walks = walksOf(layout);
    const open = lists.filter(l => !l.pickListId && by.has(l.id));
    const measured = open.map(l => {
      const own = by.get(l.id)!;
      const spots = distinct(own.flatMap(o => fromJson<PlannedSpot[]>(o.spots)));
      const distance = walks.distance(walks.visit(located(spots, layout)));
      const units = own.reduce((n, o) => n + o.units, 0);
      const due = Math.min(...own.map(o => o.due ?? Infinity));
      return {
        id: l.id,
        distance,
        due,
        seconds: walkSeconds(times, { distance, stops: spots.length, units }),
      };
    });
    const until = question.until && (Date.parse(question.until) - plan.createdAt.getTime()) / 1000;
    const turns = giveOut(measured, new Array(question.pickers).fill({ until: until || null }));
    for (const [i, m] of measured.entries())
      await tx.of(PlannedList).update(m.id, {
        distance: Math.round(m.distance),
        seconds: Math.round(m.seconds),
        finish: turns[i] ? Math.round(turns[i].finish) : null,
        picker: turns[i] ? turns[i].picker + 1 : null,
        tooLarge: false,
      });
    for (const l of lists) if (!by.has(l.id)) await tx.of(PlannedList).delete(l.id);
  }

  private async plan(sql: Sql, id: string): Promise<PickPlan> {
    const plan = await sql.of(PickPlan).findOneBy({ id });
    if (!plan) throw new NotHere('That plan', 'It may have been forgotten meanwhile; make a new one.');
    return plan;
  }

  private async locked(tx: Tx, id: string): Promise<{ version: number; state: PickPlan['state'] }> {
    const plan = await lockPlan(tx, id);
    if (!plan) throw new NotHere('That plan', 'It may have been forgotten meanwhile; make a new one.');
    return plan;
  }
}

/** How the lists of a plan that is ready are picked. */
const methodOf = (plan: PickPlan) => (plan.outcome as Outcome).compared[0]!.method;
