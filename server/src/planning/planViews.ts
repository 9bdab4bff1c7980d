import type { PlanIn, PlannedListView, PlanView } from '@auk/contract';
import { group } from '@auk/core';
import { fromJson } from '../database/db.js';
import type { PickPlan } from './pickPlan.entity.js';
import type { listsOfPlan, PlannedOrderRow } from './planning.queries.js';
import type { Outcome, PlannedSpot } from './planWork.service.js';

const METRE = 10_000;

type ListRecord = Awaited<ReturnType<typeof listsOfPlan>>[number];

/** A plan as it is shown: its figures, its lists in the order in which they are taken, and whose order will be late. */
export function viewOf(
  plan: PickPlan,
  lists: readonly ListRecord[],
  orders: readonly PlannedOrderRow[],
): PlanView {
  const by = group(orders, o => o.plannedListId);
  const outcome = plan.outcome as Outcome | null;
  const views = lists.map(l => toList(l, by.get(l.id) ?? [], plan.createdAt));
  const progress = plan.progress as { lists: number; distance: number } | null;
  const metres = (d: number) => Math.round(d / METRE);
  return {
    id: plan.id,
    version: plan.version,
    state: plan.state,
    says: plan.says,
    question: plan.question as PlanIn,
    createdAt: plan.createdAt.toISOString(),
    progress: progress && { lists: progress.lists, metres: metres(progress.distance) },
    method: outcome?.compared[0]?.method ?? null,
    compared: (outcome?.compared ?? []).map(c => ({
      method: c.method,
      lists: c.lists,
      metres: metres(c.distance),
      minutes: minutes(c.seconds),
      late: c.late,
    })),
    metres: metres(lists.reduce((n, l) => n + l.distance, 0)),
    minutes: minutes(lists.reduce((n, l) => n + l.seconds, 0)),
    late: views.reduce((n, l) => n + l.late, 0),
    lateAlready: views.flatMap(l => l.orders).filter(o => o.late === 'already').length,
    boundMetres: metres(outcome?.bound ?? 0),
    singlyMetres: outcome?.singly == null ? null : metres(outcome.singly),
    firstComeMetres: outcome?.firstCome == null ? null : metres(outcome.firstCome),
    exact: outcome?.exact ?? false,
    lists: views,
  };
}

const minutes = (seconds: number): number => Math.round(seconds / 60);
/** Tenths of a millimetre as metres. */
export const inMetres = ({ x, y }: { x: number; y: number }) => ({ x: x / METRE, y: y / METRE });
/** Places once each, by their codes. */
export const distinct = (spots: readonly PlannedSpot[]): PlannedSpot[] => [
  ...new Map(spots.map(s => [s.code, s])).values(),
];

function lateness(due: number | null, finish: number | null): 'no' | 'yes' | 'already' {
  if (due === null || (finish !== null && finish <= due)) return 'no';
  return due === 0 ? 'already' : 'yes';
}

function toList(l: ListRecord, orders: readonly PlannedOrderRow[], planned: Date): PlannedListView {
  const finish = l.finish === null ? null : new Date(planned.getTime() + l.finish * 1000);
  const views = orders.map(o => ({
    id: o.orderId,
    no: `OR-${o.no}`,
    buyer: o.buyer,
    stops: fromJson<PlannedSpot[]>(o.spots).length,
    units: o.units,
    totes: o.totes,
    cutOff: o.cutOff?.toISOString() ?? null,
    late: l.pickListId === null ? lateness(o.due, l.finish) : ('no' as const),
  }));
  const sum = (of: (o: (typeof views)[number]) => number) => views.reduce((n, o) => n + of(o), 0);
  return {
    id: l.id,
    seq: l.seq,
    orders: views,
    stops: distinct(orders.flatMap(o => fromJson<PlannedSpot[]>(o.spots))).length,
    units: sum(o => o.units),
    totes: sum(o => o.totes),
    metres: Math.round(l.distance / METRE),
    minutes: minutes(l.seconds),
    picker: l.picker,
    finish: finish?.toISOString() ?? null,
    late: views.filter(o => o.late !== 'no').length,
    locked: !!l.locked,
    tooLarge: !!l.tooLarge,
    released: l.no === null ? null : `PL-${l.no}`,
  };
}
