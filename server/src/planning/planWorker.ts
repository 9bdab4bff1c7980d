// The thread in which a plan is computed, so that scans are answered meanwhile. Its data is a PlanTask; it posts PlanNews.
import { parentPort, workerData } from 'node:worker_threads';
import { comparePlans, walksOf } from '@auk/core';
import type { PlanNews, PlanTask } from './planThread.js';

const task = workerData as PlanTask;
const stop = new Int32Array(task.stop);
const walks = walksOf(
  task.layout,
  task.orders.flatMap(o => o.spots.filter(s => 'cross' in s)),
);
const orders = task.orders.map(({ spots, ...o }) => ({ ...o, visit: walks.visit(spots) }));
const tell = (news: PlanNews) => parentPort!.postMessage(news);
const plans = comparePlans(
  { ...task, walks, orders },
  task.methods,
  () => Atomics.load(stop, 0) === 1,
  lists => tell({ lists: lists.length, distance: lists.reduce((n, l) => n + l.distance, 0) }),
);
tell({
  plans: plans.map(p => ({ ...p, lists: p.lists.map(({ visit: _, ...l }) => l) })),
  exact: walks.exact,
});
