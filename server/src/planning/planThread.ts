import { Worker } from 'node:worker_threads';
import type {
  CarryLimits,
  Layout,
  OrderToPick,
  PickMethod,
  PickTimes,
  Plan,
  PlannedList,
  Shift,
  Spot,
} from '@auk/core';

/** What the thread computes: orders by their spots, and each method that is to be compared. `stop` becomes 1 when it shall end. */
export interface PlanTask {
  layout: Layout;
  orders: (Omit<OrderToPick, 'visit'> & { spots: Spot[] })[];
  methods: PickMethod[];
  limits: CarryLimits;
  cells: number;
  shifts: Shift[];
  times: PickTimes;
  seed: number;
  steps: number;
  stop: SharedArrayBuffer;
}

/** Plans as they come from the thread, the best first. */
export interface Found {
  plans: (Omit<Plan, 'lists'> & { lists: Omit<PlannedList, 'visit'>[] })[];
  exact: boolean;
}
export type PlanNews = { lists: number; distance: number } | Found;

// From its source (in tests) the thread is taken from where it was built to: threads run plain JavaScript.
const THREAD = new URL(
  import.meta.url.endsWith('.ts') ? '../../dist/planning/planWorker.js' : './planWorker.js',
  import.meta.url,
);

/** A plan that is being computed in a thread of its own. */
export class PlanThread {
  private readonly stopped: Int32Array;
  private readonly worker: Worker;
  /** The best plan so far; null before the first. */
  soFar: { lists: number; distance: number } | null = null;
  readonly found: Promise<Found>;

  constructor(task: Omit<PlanTask, 'stop'>) {
    const stop = new SharedArrayBuffer(4);
    this.stopped = new Int32Array(stop);
    // Options of the process, such as those of a test runner, are not for the thread.
    this.worker = new Worker(THREAD, { workerData: { ...task, stop } satisfies PlanTask, execArgv: [] });
    this.found = new Promise<Found>((resolve, reject) => {
      this.worker.on('message', (news: PlanNews) => {
        if ('plans' in news) resolve(news);
        else this.soFar = news;
      });
      this.worker.on('error', reject);
      this.worker.on('exit', code =>
        reject(new Error(`The planning thread ended with ${code} and no plan.`)),
      );
    });
  }

  /** Ends planning with the best plan so far. */
  stop(): void {
    Atomics.store(this.stopped, 0, 1);
  }

  /** Ends planning without a plan. */
  async kill(): Promise<void> {
    this.found.catch(() => undefined);
    await this.worker.terminate();
  }
}
