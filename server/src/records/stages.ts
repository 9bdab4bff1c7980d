import { HOLDS, type Hold, orderStage, type Stage, type StageFacts } from '@auk/core';
import { In } from 'typeorm';
import { type Sql, type Tx } from '../database/db.js';
import { lockAll } from '../database/locks.js';
import { Order } from './order.entity.js';
import { StageCount } from './stageCount.entity.js';
import { StagePassed } from './stagePassed.entity.js';
import { heldByStage, stageRows, stageSums } from './stages.queries.js';

const ROWS = 1000;

/** Reads the facts from which stages follow. Shared by the writer of stages and by check:data. */
export async function stageFacts(
  sql: Sql,
  orderIds: readonly string[],
): Promise<Map<string, StageFacts & { stage: Stage }>> {
  const facts = new Map<string, StageFacts & { stage: Stage }>();
  for (let i = 0; i < orderIds.length; i += ROWS) {
    const ids = orderIds.slice(i, i + ROWS);
    const orders = await stageRows(sql, ids);
    for (const o of orders)
      facts.set(o.id, {
        stage: o.stage,
        checked: !!o.checked,
        cancelled: !!o.cancelled,
        parked: !!o.parked,
        elsewhere: o.elsewhere,
        stopReasons: o.stops,
        wanted: o.wanted,
        held: emptyHolds(),
        closed: 0,
        labelled: 0,
      });
    const held = await heldByStage(sql, ids);
    for (const h of held) {
      const f = facts.get(h.orderId)!;
      f.held[h.hold] = h.n;
      if (h.hold === 'packed') Object.assign(f, { closed: h.closed, labelled: h.labelled });
    }
  }
  return facts;
}

/** No units in any hold. */
export const emptyHolds = (): Record<Hold, number> =>
  Object.fromEntries(HOLDS.map(h => [h, 0])) as Record<Hold, number>;

/** Locks orders in the order of their ids, as everybody does, before their goods. */
export const lockOrders = (tx: Tx, ids: readonly string[]): Promise<void> => lockAll(tx, { orders: ids });

/** The one writer of stages of orders that exist: derives them anew and stores what changed. Tells the live stream once. */
export async function refreshStages(tx: Tx, orderIds: readonly string[]): Promise<Map<string, Stage>> {
  const after = new Map<string, Stage>();
  const changed = new Map<Stage, string[]>();
  const counts = new Map<Stage, number>();
  for (const [id, f] of await stageFacts(tx, [...new Set(orderIds)])) {
    const stage = orderStage(f);
    after.set(id, stage);
    if (stage === f.stage) continue;
    changed.set(stage, [...(changed.get(stage) ?? []), id]);
    counts.set(stage, (counts.get(stage) ?? 0) + 1);
    counts.set(f.stage, (counts.get(f.stage) ?? 0) - 1);
  }
  for (const [stage, ids] of changed) await tx.of(Order).update({ id: In(ids) }, { stage });
  await countStages(tx, counts);
  await passed(tx, changed);
  if (changed.size > 0) await tx.tell('orders', orderIds.length === 1 ? orderIds[0]! : '');
  return after;
}

/** The round that tells which stages orders came to. */
export const STAGES_PASSED = 'stages passed';

/** Notes which stages orders came to, for those who tell others of it; they take the notes away. */
export function passed(tx: Tx, changed: ReadonlyMap<Stage, readonly string[]>): Promise<void> {
  const rows = [...changed].flatMap(([stage, ids]) => ids.map(orderId => ({ orderId, stage, at: tx.at })));
  if (rows.length > 0) tx.hurry(STAGES_PASSED);
  return tx.insert(StagePassed, rows);
}

/** Takes the oldest notes of stages away, which others are not at, and gives them. */
export async function takePassed(tx: Tx, most: number): Promise<StagePassed[]> {
  const rows = await tx.of(StagePassed).find({
    order: { id: 'ASC' },
    take: most,
    lock: { mode: 'pessimistic_write', onLocked: 'skip_locked' },
  });
  if (rows.length > 0) await tx.of(StagePassed).delete({ id: In(rows.map(r => r.id)) });
  return rows;
}

/** Appends to the counters of stages how many orders came to and left each. Appending waits for nobody; see StageCounts. */
export function countStages(tx: Tx, changes: ReadonlyMap<Stage, number>): Promise<void> {
  return tx.insert(
    StageCount,
    [...changes].filter(([, n]) => n !== 0).map(([stage, n]) => ({ stage, n })),
  );
}

/** Folds the counters' appended rows into one a stage, so that reading them stays short. Rows that others are writing are passed over. */
export async function foldStageCounts(tx: Tx): Promise<void> {
  const rows = await tx.of(StageCount).find({
    select: { id: true, stage: true, n: true },
    order: { id: 'ASC' },
    take: 10_000,
    lock: { mode: 'pessimistic_write', onLocked: 'skip_locked' },
  });
  if (rows.length <= 32) return;
  const sums = new Map<Stage, number>();
  for (const r of rows) sums.set(r.stage, (sums.get(r.stage) ?? 0) + r.n);
  await tx.of(StageCount).delete({ id: In(rows.map(r => r.id)) });
  await countStages(tx, sums);
}

/** How many orders stand in each stage, from the counters. */
export async function stageCounts(sql: Sql): Promise<Map<Stage, number>> {
  const rows = await stageSums(sql);
  return new Map(rows.map(r => [r.stage, r.n]));
}
