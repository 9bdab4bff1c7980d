import { createHash } from 'node:crypto';
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

/** So many answers are kept: who looks at ways chooses one of them next, which asks the same again. */
const KEPT = 8;
const kept = new Map<string, Promise<WaysFound>>();

/** Plans in a thread of its own. The same question, asked again or by two at once, is worked out once. */
export function planAside(task: WaysTask): Promise<WaysFound> {
  const key = createHash('sha256').update(JSON.stringify(task)).digest('base64');
  const known = kept.get(key);
  if (known) return known;
  const found = inThread(task);
  kept.set(key, found);
  found.catch(() => kept.delete(key));
  if (kept.size > KEPT) kept.delete(kept.keys().next().value!);
  return found;
}

function inThread(task: WaysTask): Promise<WaysFound> {
  return new Promise<WaysFound>((resolve, reject) => {
    // Options of the process, such as those of a test runner, are not for the thread.
    const worker = new Worker(THREAD, { workerData: task, execArgv: [] });
    worker.on('message', resolve);
    worker.on('error', reject);
    worker.on('exit', code => reject(new Error(`The thread of ways ended with ${code} and found none.`)));
  });
}
