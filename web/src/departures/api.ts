import { Board, FollowsView, HandoverView, Strip } from '@auk/contract';
import { queryOptions } from '@tanstack/react-query';
import { get, post } from '../api.js';

/** What moves with the clock too is asked for so often. */
const EVERY_MS = 30_000;

export const boardQuery = queryOptions({
  queryKey: ['board'],
  queryFn: () => get(Board, 'departures/board'),
  refetchInterval: EVERY_MS,
});

/** The counts of the route of the work. */
export const stripQuery = queryOptions({
  queryKey: ['strip'],
  queryFn: () => get(Strip, 'departures/strip'),
  refetchInterval: EVERY_MS,
});

export const handoverQuery = (no: string) =>
  queryOptions({ queryKey: ['handover', no], queryFn: () => get(HandoverView, `departures/${no}`) });

/** Closes a departure; `leaveBehind` lets what is not on it, or must not go, wait for the next. */
export const closeDeparture = (no: string, leaveBehind: boolean) =>
  post(HandoverView, `departures/${no}/close`, { leaveBehind });

export const cancelDeparture = (no: string, reason: string) =>
  post(HandoverView, `departures/${no}/cancel`, { reason });
export const bookCollection = (no: string) => post(HandoverView, `departures/${no}/book`);
export const moveCutOff = (no: string, cutOff: string) =>
  post(HandoverView, `departures/${no}/cut-off`, { cutOff });

/** What would follow of a cut-off moved to a moment, or, without one, of a collection that does not come. */
export const followsQuery = (no: string, cutOff: string | null) =>
  queryOptions({
    queryKey: ['handover', no, 'follows', cutOff],
    queryFn: () =>
      get(FollowsView, `departures/${no}/follows${cutOff ? `?cutOff=${encodeURIComponent(cutOff)}` : ''}`),
  });

/** Where the scans of a handover go. */
export const handoverPath = (no: string): string => `departures/${no}/scans`;
