import type { SortState } from '@auk/core';
import { z } from 'zod';
import { fromCore } from './common.js';

/** A heap is opened for sorting by the code of what it lies on, or of its list. */
export const OpenHeap = z.object({
  code: z.string().trim().min(1).max(60),
  /** The wall to sort at; null: the one that it is begun at, else the first with free cells. */
  wall: z.string().trim().toUpperCase().max(2).nullable(),
  device: z.string().min(1).max(60),
});
export type OpenHeap = z.infer<typeof OpenHeap>;

/** A heap opened at a wall: its session and where it stands. */
export const OpenedHeap = z.object({
  sessionId: z.string(),
  listNo: z.string(),
  /** Columns of the wall, for drawing it as it stands. */
  columns: z.number(),
  state: fromCore<SortState>(),
});
export type OpenedHeap = z.infer<typeof OpenedHeap>;

/** A heap that waits to be sorted. */
export const HeapRow = z.object({
  code: z.string(),
  mark: z.string(),
  list: z.string(),
  orders: z.number(),
  units: z.number(),
  /** Units of it that lie in cells already. */
  sorted: z.number(),
  /** The staging place at which it stands. */
  stands: z.string().nullable(),
  cutOff: z.string().nullable(),
});
export type HeapRow = z.infer<typeof HeapRow>;
