import { Worker } from 'node:worker_threads';
import type {
  Box,
  BoxLimits,
  InboundBoxes,
  LineToBox,
  PlannedWays,
  SaleFacts,
  WayAsk,
  WaysTable,
} from '@auk/core';

/** What the thread computes: the ways of a shipment where they are asked for, and boxes for some lines. */
export interface WaysTask {
  ways: { ask: WayAsk; sales: SaleFacts[] } | null;
  boxes: { kinds: Box[]; lines: LineToBox[]; limits: BoxLimits }[];
}

export interface WaysFound {
  ways: { planned: PlannedWays; table: WaysTable } | null;
  boxes: InboundBoxes[];
}

// From its source (in tests) the thread is taken from where it was built to: threads run plain JavaScript.
const THREAD = new URL(
  import.meta.url.endsWith('.ts') ? '../../dist/inbound/waysWorker.js' : './waysWorker.js',
  import.meta.url,
);

/** Plans in a thread of its own. */
export function planAside(task: WaysTask): Promise<WaysFound> {
  return new Promise<WaysFound>((resolve, reject) => {
    // Options of the process, such as those of a test runner, are not for the thread.
    const worker = new Worker(THREAD, { workerData: task, execArgv: [] });
    worker.on('message', resolve);
    worker.on('error', reject);
    worker.on('exit', code => reject(new Error(`The thread of ways ended with ${code} and found none.`)));
  });
}
