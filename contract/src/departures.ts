import type { Timeliness } from '@auk/core';
import { z } from 'zod';
import { fromCore } from './common.js';
import { judgedOf } from './scans.js';

/** Parcels of one departure by where they stand. */
export const StageBar = z.object({
  clear: z.number(),
  listed: z.number(),
  picked: z.number(),
  packed: z.number(),
  labelled: z.number(),
});
export type StageBar = z.infer<typeof StageBar>;

export const BoardDeparture = z.object({
  id: z.string(),
  no: z.string(),
  carrier: z.string(),
  carrierName: z.string(),
  name: z.string(),
  cutOff: z.string(),
  state: z.enum(['open', 'closed', 'cancelled']),
  freight: z.boolean(),
  bar: StageBar,
  handedOver: z.number(),
  total: z.number(),
  readyAt: z.string().nullable(),
  spare: z.number().nullable(),
  miss: z.number(),
  word: fromCore<Timeliness>(),
  /** Pickers it takes to have it picked in time, with all that leaves before; null where nothing is to be picked, or the time is over. */
  pickers: z.number().nullable(),
});
export type BoardDeparture = z.infer<typeof BoardDeparture>;

export const NeedsPerson = z.object({
  code: z.string(),
  subject: z.string(),
  says: z.string(),
  detail: z.string(),
  cure: z.string(),
  orders: z.number(),
  /** The job to try again, where that is the cure. */
  job: z.string().nullable(),
});
export type NeedsPerson = z.infer<typeof NeedsPerson>;

export const Board = z.object({
  now: z.string(),
  zone: z.string(),
  toLeave: z.number(),
  gone: z.number(),
  perHour: z.number(),
  /** People who are picking. */
  picking: z.number(),
  departures: z.array(BoardDeparture),
  needs: z.array(NeedsPerson),
  labelledByHour: z.array(z.object({ at: z.string(), labelled: z.number(), due: z.number() })),
});
export type Board = z.infer<typeof Board>;

/** Counts of the route strip. */
export const Strip = z.object({
  orders: z.number(),
  stopped: z.number(),
  pick: z.number(),
  bench: z.number(),
  parcels: z.number(),
  /** Labels of which the carrier has not said yet whether they are bought. */
  unanswered: z.number(),
  /** Orders whose buyers wrote and wait for an answer. */
  wrote: z.number(),
  departed: z.number(),
  next: z.object({ carrierName: z.string(), cutOff: z.string() }).nullable(),
});
export type Strip = z.infer<typeof Strip>;

export const HandoverParcel = z.object({
  no: z.string(),
  order: z.string(),
  buyer: z.string(),
  tracking: z.string(),
  service: z.string(),
  scanned: z.boolean(),
  /** Why it must not go, and what to do; null when it may. */
  held: z.string().nullable(),
  weightMg: z.number().nullable(),
});
export type HandoverParcel = z.infer<typeof HandoverParcel>;

export const HandoverView = z.object({
  id: z.string(),
  no: z.string(),
  carrierName: z.string(),
  name: z.string(),
  cutOff: z.string(),
  state: z.enum(['open', 'closed', 'cancelled']),
  /** Why it was called off. */
  reason: z.string(),
  parcels: z.array(HandoverParcel),
  /** What was scanned here and is not expected, with the last that was said of it. */
  strange: z.array(z.object({ what: z.string(), says: z.string() })),
  /** What the carrier calls the booked collection, and its list of what was handed over. */
  bookedAs: z.string().nullable(),
  manifest: z.string().nullable(),
});
export type HandoverView = z.infer<typeof HandoverView>;

/** The answer to a scan at the handover, and how the departure stands after it. */
export const HandoverJudged = judgedOf(HandoverView);

export const CloseDeparture = z.object({ leaveBehind: z.boolean().default(false) });

/** A cut-off that is moved. */
export const MoveCutOff = z.object({ cutOff: z.iso.datetime() });

/** What would follow, asked before it is done: the cut-off moved to a moment, or the collection called off. */
export const FollowsQuery = z.object({ cutOff: z.iso.datetime().optional() });

export const FollowsView = z.object({
  /** When they would leave; null when no further departure of the carrier is known. */
  leaves: z.string().nullable(),
  orders: z.array(
    z.object({
      id: z.string(),
      channelNumber: z.string(),
      stage: z.string(),
      labelled: z.boolean(),
      promised: z.string().nullable(),
      /** The day of arrival now and then, where a label tells it. */
      arrives: z.string().nullable(),
      wouldArrive: z.string().nullable(),
      late: z.boolean(),
    }),
  ),
});
export type FollowsView = z.infer<typeof FollowsView>;

export const CancelDeparture = z.object({
  reason: z.string().trim().min(3, 'say why, in three letters at least').max(200),
});
