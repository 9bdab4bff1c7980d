import type { Layout } from '../picking/layout.js';
import { plainWalks } from '../picking/plainWalks.js';
import type { Walks } from '../picking/walks.js';
import { distanceBound } from './distanceBound.js';
import { improveBatches } from './improveBatches.js';
import { type Batch, batchLoad, batchOf, type CarryLimits, carries, type OrderToPick } from './orderBatch.js';
import { type PickTimes, walkSeconds } from './pickTimes.js';
import { savingsBatches } from './savings.js';
import { giveOut, type Shift, type Turn } from './shifts.js';

/** How orders are picked: one a walk; several on a trolley, a tote or more for each; or as one heap that is sorted later. */
export type PickMethod = 'single' | 'cluster' | 'batch';

/** What is to be planned. `limits` are the trolley's; a batch holds no more orders than the wall has `cells`. */
export interface PlanQuestion {
  layout: Layout;
  walks: Walks;
  orders: readonly OrderToPick[];
  method: PickMethod;
  limits: CarryLimits;
  cells: number;
  shifts: readonly Shift[];
  times: PickTimes;
  seed: number;
  /** Walks that may be measured while improving; more give shorter plans. */
  steps: number;
}

/** One list of a plan. */
export interface PlannedList extends Batch {
  seconds: number;
  turn: Turn | null;
  /** Its only order is more than one walk can carry. */
  tooLarge: boolean;
}

/** A plan: its lists, what they come to, and what they are measured by. Lengths in tenths of a millimetre, times in seconds. */
export interface Plan {
  method: PickMethod;
  lists: PlannedList[];
  distance: number;
  seconds: number;
  /** Orders that will not be picked when they are due. */
  late: number;
  /** No plan can be shorter. */
  bound: number;
  /** The same orders one by one, and as they came, by S-shape walks; null where the layout has no such walk. */
  singly: number | null;
  firstCome: number | null;
}

/**
 * A plan of pick lists: batches by savings, then improved until nothing helps, the steps are used, or `shouldStop` says so; whatever
 * stands then is a whole plan. Orders due at different times are put together only where that makes none late. An order that is too
 * large for a trolley is a list of its own. In a batch, orders of a single piece are kept apart: they need no sorting.
 *
 * @example
 * planLists({ ...question, method: 'cluster' }, () => false).lists.map(l => l.orders); // [[0, 3, 4], [1, 2]]
 */
export function planLists(
  question: PlanQuestion,
  shouldStop: () => boolean,
  progress: (lists: readonly Batch[]) => void = () => undefined,
): Plan {
  const { walks, shifts, times, method } = question;
  const orders = question.orders.map(o => asPicked(o, method));
  const limits = limitsOf(question);
  const fits = (o: OrderToPick) =>
    carries(limits, { orders: 1, totes: o.totes, volume: o.volume, weight: o.weight });
  const small = orders.flatMap((o, i) => (fits(o) ? [i] : []));
  const large = orders.flatMap((o, i) => (fits(o) ? [] : [batchOf(walks, orders, [i])]));
  const secondsOf = (b: Batch) =>
    walkSeconds(times, b) + (needsSorting(b, method) ? b.units * times.sort : 0);
  const late = (batches: readonly Batch[]) => lateOrders([...large, ...batches], orders, secondsOf, shifts);
  const perWalk = times.setUp * times.speed;
  let batches = savingsBatches(walks, orders, small, limits, perWalk, shouldStop);
  progress(batches);
  if (method !== 'single')
    batches = improveBatches(walks, orders, limits, batches, {
      seed: question.seed,
      steps: question.steps,
      perWalk,
      late,
      shouldStop,
      progress,
    });
  const all = inOrder([...large, ...batches], orders, secondsOf, shifts);
  const lists = all.lists.map(l => ({ ...l, tooLarge: large.some(b => b.orders[0] === l.orders[0]) }));
  return { ...all, lists, method, ...measures(question, orders, limits) };
}

/** Plans by some methods; the first is the one that makes the fewest orders late, then takes the least time. */
export function comparePlans(
  question: Omit<PlanQuestion, 'method'>,
  methods: readonly PickMethod[],
  shouldStop: () => boolean,
  progress?: (lists: readonly Batch[]) => void,
): Plan[] {
  return methods
    .map(method => planLists({ ...question, method }, shouldStop, progress))
    .sort((a, b) => a.late - b.late || a.seconds - b.seconds);
}

/** What one walk carries, by its method. */
function limitsOf({ limits, method, cells }: PlanQuestion): CarryLimits {
  if (method === 'single') return { ...limits, orders: 1 };
  return method === 'batch' ? { ...limits, orders: cells } : limits;
}

function asPicked(o: OrderToPick, method: PickMethod): OrderToPick {
  if (method !== 'batch') return o;
  return { ...o, totes: 0, apart: `${o.apart} ${o.units === 1 ? 'of one piece' : 'of several'}` };
}

/** A heap of orders of one piece each is as good as sorted. */
const needsSorting = (b: Batch, method: PickMethod): boolean =>
  method === 'batch' && b.orders.length > 1 && b.units > b.orders.length;

function lateOrders(
  batches: readonly Batch[],
  orders: readonly OrderToPick[],
  secondsOf: (b: Batch) => number,
  shifts: readonly Shift[],
): number {
  if (batches.every(b => b.due === Infinity)) return 0;
  const turns = giveOut(
    batches.map(b => ({ seconds: secondsOf(b), due: b.due })),
    shifts,
  );
  return batches.reduce((n, b, i) => {
    const finish = turns[i]?.finish ?? Infinity;
    return n + b.orders.filter(o => orders[o]!.due !== null && finish > orders[o]!.due!).length;
  }, 0);
}

/** The lists as they will be taken, and what they come to. */
function inOrder(
  batches: readonly Batch[],
  orders: readonly OrderToPick[],
  secondsOf: (b: Batch) => number,
  shifts: readonly Shift[],
): Omit<Plan, 'method' | 'bound' | 'singly' | 'firstCome'> {
  const timed = batches.map(b => ({ ...b, seconds: secondsOf(b) }));
  const turns = giveOut(timed, shifts);
  const lists = timed.map((b, i) => ({ ...b, turn: turns[i]!, tooLarge: false }));
  lists.sort(
    (a, b) => (a.turn?.finish ?? Infinity) - (b.turn?.finish ?? Infinity) || a.orders[0]! - b.orders[0]!,
  );
  return {
    lists,
    distance: lists.reduce((n, l) => n + l.distance, 0),
    seconds: lists.reduce((n, l) => n + l.seconds, 0),
    late: lateOrders(batches, orders, secondsOf, shifts),
  };
}

function measures(
  { layout, walks, orders }: PlanQuestion,
  asPlanned: readonly OrderToPick[],
  limits: CarryLimits,
): Pick<Plan, 'bound' | 'singly' | 'firstCome'> {
  const plain = plainWalks(layout);
  const sShape = (batches: readonly Batch[]) =>
    plain ? batches.reduce((n, b) => n + plain(b.visit, 'S-shape'), 0) : null;
  return {
    bound: distanceBound(walks, layout, asPlanned, limits),
    singly: sShape(orders.map((_, i) => batchOf(walks, orders, [i]))),
    firstCome: sShape(firstCome(walks, asPlanned, limits)),
  };
}

/** Trolleys filled with orders as they came. */
function firstCome(walks: Walks, orders: readonly OrderToPick[], limits: CarryLimits): Batch[] {
  const full: number[][] = [];
  const open = new Map<string, number[]>();
  orders.forEach((o, i) => {
    const own = [...(open.get(o.apart) ?? []), i];
    const load = batchLoad(own.map(x => orders[x]!));
    if (carries(limits, load) || own.length === 1) open.set(o.apart, own);
    else {
      full.push(open.get(o.apart)!);
      open.set(o.apart, [i]);
    }
  });
  return [...full, ...open.values()].map(own => batchOf(walks, orders, own));
}
