import { HeapRow, OpenedHeap } from '@auk/contract';
import { queryOptions } from '@tanstack/react-query';
import { get, post } from '../api.js';
import { deviceId } from '../scans/device.js';

/** Heaps that wait to be sorted. */
export const heapsQuery = queryOptions({
  queryKey: ['heaps'],
  queryFn: () => get(HeapRow.array(), 'sorting/heaps'),
});

/** Opens a heap at a wall, by what it lies on or by its list; null: at the wall that it is begun at, or has room. */
export const openHeap = (code: string, wall: string | null) =>
  post(OpenedHeap, 'sorting/open', { code, wall, device: deviceId() });

/** Where the scans of sorting go. */
export const sortPath = (sessionId: string): string => `sorting/sessions/${sessionId}/scans`;
