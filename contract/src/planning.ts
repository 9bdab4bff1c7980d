import type { PickMethod } from '@auk/core';
import { z } from 'zod';
import { fromCore } from './common.js';

/** How a plan may pick: one way, or whichever of them takes the least time. */
export const PLAN_METHODS = ['cluster', 'batch', 'single', 'compare'] as const;

/** What one walk carries: a trolley's totes, and what a tote holds. */
export const Trolley = z.object({
  totes: z.number().int().min(1).max(60),
  toteLitres: z.number().min(1).max(500),
  toteKg: z.number().min(0.5).max(200),
  trolleyKg: z.number().min(1).max(2_000),
});
export type Trolley = z.infer<typeof Trolley>;
/** What is taken while nobody has said otherwise: twelve totes of 40 litres and 15 kg, 150 kg in all. */
export const FIRST_TROLLEY: Trolley = { totes: 12, toteLitres: 40, toteKg: 15, trolleyKg: 150 };

/** Which Clear orders are planned (empty lists: all), for whom, and how. `until` is when the shift ends. */
export const PlanIn = z.object({
  id: z.uuid(),
  departures: z.array(z.uuid()).max(100),
  tags: z.array(z.string().min(1).max(40)).max(50),
  areas: z.array(z.string().min(1).max(20)).max(50),
  /** Orders of one area alone are not put together with others. */
  apart: z.boolean(),
  pickers: z.number().int().min(1).max(60),
  until: z.iso.datetime().nullable(),
  method: z.enum(PLAN_METHODS),
  trolley: Trolley,
  /** A plan before this one, whose locked lists stay as they are. */
  keep: z.uuid().nullable(),
});
export type PlanIn = z.infer<typeof PlanIn>;

/** What Clear orders there are to plan: by departure, tag and area, and the day's last question. */
export const PlanChoices = z.object({
  clear: z.number(),
  departures: z.array(
    z.object({
      id: z.string(),
      carrier: z.string(),
      name: z.string(),
      cutOff: z.string(),
      orders: z.number(),
    }),
  ),
  tags: z.array(z.object({ tag: z.string(), orders: z.number() })),
  areas: z.array(z.object({ area: z.string(), orders: z.number() })),
  waiting: z.array(z.object({ no: z.string(), lacks: z.string(), expected: z.string().nullable() })),
  waitingOrders: z.number(),
  trolley: Trolley,
  /** Cells of the largest put wall; 0 in a house that has none, where nothing can be picked as a heap. */
  cells: z.number(),
  /** How the times came about, in a sentence. */
  timesFrom: z.string(),
});
export type PlanChoices = z.infer<typeof PlanChoices>;

export const PlannedOrderView = z.object({
  id: z.string(),
  no: z.string(),
  buyer: z.string(),
  stops: z.number(),
  units: z.number(),
  totes: z.number(),
  cutOff: z.string().nullable(),
  /** Whether it will be picked too late to be packed; `already`: whatever is done. */
  late: z.enum(['no', 'yes', 'already']),
});
export type PlannedOrderView = z.infer<typeof PlannedOrderView>;

/** One list of a plan; `finish` is when it will be picked, by which of the pickers. */
export const PlannedListView = z.object({
  id: z.string(),
  seq: z.number(),
  orders: z.array(PlannedOrderView),
  stops: z.number(),
  units: z.number(),
  totes: z.number(),
  metres: z.number(),
  minutes: z.number(),
  picker: z.number().nullable(),
  finish: z.string().nullable(),
  late: z.number(),
  locked: z.boolean(),
  tooLarge: z.boolean(),
  released: z.string().nullable(),
});
export type PlannedListView = z.infer<typeof PlannedListView>;

const Metres = z.object({ x: z.number(), y: z.number() });

/** A walk over the floor: its corners, and its stops in walking order, in metres. */
export const WalkView = z.object({
  path: z.array(Metres),
  stops: z.array(Metres.extend(z.object({ code: z.string() }).shape)),
});
export type WalkView = z.infer<typeof WalkView>;

/** What each method comes to. */
export const PlanFigures = z.object({
  method: fromCore<PickMethod>(),
  lists: z.number(),
  metres: z.number(),
  minutes: z.number(),
  late: z.number(),
});
export type PlanFigures = z.infer<typeof PlanFigures>;

export const PlanView = z.object({
  id: z.string(),
  version: z.number(),
  state: z.enum(['planning', 'ready', 'failed']),
  says: z.string().nullable(),
  question: PlanIn,
  createdAt: z.string(),
  /** How far planning is: lists and metres of the best plan so far. */
  progress: z.object({ lists: z.number(), metres: z.number() }).nullable(),
  method: fromCore<PickMethod>().nullable(),
  compared: z.array(PlanFigures),
  metres: z.number(),
  minutes: z.number(),
  late: z.number(),
  /** Of the late ones, those that were too late when it was planned. */
  lateAlready: z.number(),
  boundMetres: z.number(),
  singlyMetres: z.number().nullable(),
  firstComeMetres: z.number().nullable(),
  exact: z.boolean(),
  lists: z.array(PlannedListView),
});
export type PlanView = z.infer<typeof PlanView>;

export const PlanRow = z.object({
  id: z.string(),
  createdAt: z.string(),
  state: z.enum(['planning', 'ready', 'failed']),
  lists: z.number(),
  released: z.number(),
  orders: z.number(),
  by: z.string().nullable(),
});
export type PlanRow = z.infer<typeof PlanRow>;

/** Moves an order of a plan to another of its lists, or to a new one. */
export const PlanMove = z.object({
  version: z.number().int(),
  orderId: z.uuid(),
  to: z.uuid().nullable(),
});
export const PlanLock = z.object({ version: z.number().int(), listId: z.uuid(), locked: z.boolean() });
export const PlanRelease = z.object({ listIds: z.array(z.uuid()).min(1).max(200) });
/** What became of each list: its number, the orders that could not go with it, or why nothing went. */
export const Released = z.object({
  lists: z.array(
    z.object({
      listId: z.string(),
      no: z.string().nullable(),
      left: z.array(z.string()),
      says: z.string().nullable(),
    }),
  ),
});
export type Released = z.infer<typeof Released>;
