// The thread in which boxes and ways of a shipment are planned, so that scans are answered meanwhile. Its data is a WaysTask; it posts WaysFound.
import { parentPort, workerData } from 'node:worker_threads';
import { compareWays, planInboundBoxes, planWays } from '@auk/core';
import type { WaysFound, WaysTask } from './waysThread.js';

const { ways, boxes } = workerData as WaysTask;
const planned = ways && planWays(ways.ask);
const found: WaysFound = {
  ways: planned && { planned, table: compareWays(planned.ways, ways!.sales) },
  boxes: boxes.map(b => planInboundBoxes(b.kinds, b.lines, b.limits)),
};
parentPort!.postMessage(found);
