import type { Answer, Timeliness } from '@auk/core';
import { z } from 'zod';

/** Parcels of one departure by where they stand. */
export interface StageBar {
  clear: number;
  listed: number;
  picked: number;
  packed: number;
  labelled: number;
}

export interface BoardDeparture {
  id: string;
  no: string;
  carrier: string;
  carrierName: string;
  name: string;
  cutOff: string;
  state: 'open' | 'closed' | 'cancelled';
  freight: boolean;
  bar: StageBar;
  handedOver: number;
  total: number;
  readyAt: string | null;
  spare: number | null;
  miss: number;
  word: Timeliness;
}

export interface NeedsPerson {
  code: string;
  subject: string;
  says: string;
  detail: string;
  cure: string;
  orders: number;
  /** The job to try again, where that is the cure. */
  job: string | null;
}

export interface Board {
  now: string;
  zone: string;
  toLeave: number;
  gone: number;
  perHour: number;
  departures: BoardDeparture[];
  needs: NeedsPerson[];
  labelledByHour: { at: string; labelled: number; due: number }[];
}

/** Counts of the route strip. */
export interface Strip {
  orders: number;
  stopped: number;
  pick: number;
  bench: number;
  parcels: number;
  unanswered: number;
  departed: number;
  next: { carrierName: string; cutOff: string } | null;
}

export interface HandoverParcel {
  no: string;
  order: string;
  buyer: string;
  tracking: string;
  service: string;
  scanned: boolean;
  /** Why it must not go, and what to do; null when it may. */
  held: string | null;
}

export interface HandoverView {
  id: string;
  no: string;
  carrierName: string;
  name: string;
  cutOff: string;
  state: 'open' | 'closed' | 'cancelled';
  /** Why it was called off. */
  reason: string;
  parcels: HandoverParcel[];
}

export interface HandoverAnswer {
  answer: Answer;
  view: HandoverView;
}

export const CloseDeparture = z.object({ leaveBehind: z.boolean().default(false) });
export const CancelDeparture = z.object({
  reason: z.string().trim().min(3, 'say why, in three letters at least').max(200),
});
