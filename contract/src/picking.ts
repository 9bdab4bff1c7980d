import type { PickState } from '@auk/core';
import { z } from 'zod';
import { fromCore } from './common.js';

/** Orders for one list; a batch is picked as one heap and sorted later. */
export const PlanList = z.object({
  orderIds: z.array(z.uuid()).min(1).max(200),
  method: z.enum(['cluster', 'batch']).default('cluster'),
});
export type PlanList = z.infer<typeof PlanList>;

export const ListRow = z.object({
  id: z.string(),
  no: z.string(),
  state: z.enum(['released', 'picking', 'done']),
  orders: z.number(),
  stops: z.number(),
  units: z.number(),
  taken: z.number(),
  missing: z.number(),
  metres: z.number(),
  picker: z.string().nullable(),
  /** For whom the lead has set it aside. */
  for: z.string().nullable(),
  /** When the first of its orders leaves. */
  cutOff: z.string().nullable(),
  createdAt: z.string(),
});
export type ListRow = z.infer<typeof ListRow>;

export const ListStop = z.object({
  seq: z.number(),
  place: z.string(),
  aisle: z.number().nullable(),
  along: z.number().nullable(),
  sku: z.string(),
  name: z.string(),
  quantity: z.number(),
  taken: z.number(),
  tote: z.string().nullable(),
  order: z.string(),
});
export type ListStop = z.infer<typeof ListStop>;

/** A list with its stops, and who scanned how much of it on how many devices. */
export const ListView = ListRow.extend(
  z.object({
    rows: z.array(ListStop),
    by: z.array(z.object({ name: z.string(), scans: z.number(), devices: z.number() })),
  }).shape,
);
export type ListView = z.infer<typeof ListView>;

/** What a picker may be shown of a stop beside place, name and count. */
export const FLOOR_SHOWS = ['picture', 'codes', 'size', 'lot', 'buyer note', 'staff note'] as const;

/** What the lead chooses for all walks. */
export const FloorChoices = z.object({
  show: z.array(z.enum(FLOOR_SHOWS)),
  /** In which order the stops of a list are taken. */
  sorting: z.enum(['walk', 'place', 'SKU', 'name']),
  /** Totes are scanned onto a list when it is taken. */
  bringTotes: z.boolean(),
  /** The tote is scanned after each stop, where more than one is out. */
  confirmTote: z.boolean(),
  afterOrder: z.enum(['go on', 'choose', 'stop']),
  /** After a list the next one is opened, or the picker chooses, or all stays as it is. */
  afterList: z.enum(['go on', 'choose', 'stop']),
  /** Stops that are done are left out of the overview. */
  doneAside: z.boolean(),
});
export type FloorChoices = z.infer<typeof FloorChoices>;

export const FIRST_FLOOR_CHOICES: FloorChoices = {
  show: ['picture', 'lot', 'staff note'],
  sorting: 'walk',
  bringTotes: false,
  confirmTote: false,
  afterOrder: 'go on',
  afterList: 'choose',
  doneAside: true,
};

/** A pick list opened by a picker: its session and where it stands. */
export const OpenedList = z.object({
  sessionId: z.string(),
  listId: z.string(),
  choices: FloorChoices,
  state: fromCore<PickState>(),
});
export type OpenedList = z.infer<typeof OpenedList>;

/** What is printed of lists. */
export const LIST_PAPERS = ['lists', 'slips', 'labels'] as const;
export type ListPaper = (typeof LIST_PAPERS)[number];
/** Papers of some lists in one document: their numbers, and what of them, each joined by commas. */
export const ListPapersQuery = z.object({
  lists: z
    .string()
    .regex(/^PL-\d{1,9}(,PL-\d{1,9}){0,59}$/i, 'must be the codes of up to 60 pick lists')
    .transform(s => s.split(',').map(code => Number(code.slice(3)))),
  papers: z
    .string()
    .default(LIST_PAPERS.join(','))
    .transform(s => s.split(','))
    .pipe(z.array(z.enum(LIST_PAPERS)).min(1)),
});

/** The next list is taken on a device. */
export const TakeNext = z.object({ device: z.string().min(1).max(60) });
/** A list is set aside for a person, or for anybody again. */
export const HandList = z.object({ personId: z.uuid().nullable() });
/** Who may be handed a list. */
export const Picker = z.object({ id: z.string(), name: z.string() });
export type Picker = z.infer<typeof Picker>;

/** A product of a pair that is mixed up, and where it lies. */
const MixedUp = z.object({ sku: z.string(), name: z.string(), places: z.array(z.string()) });
/** Two products that were taken for each other: `scanned` was scanned where `wanted` was to be taken. */
export const MixUpRow = z.object({
  wanted: MixedUp,
  scanned: MixedUp,
  times: z.number(),
  last: z.string(),
  /** On foot between their places; null where nobody knows. */
  metres: z.number().nullable(),
  /** What would keep them apart. */
  move: z.object({ sku: z.string(), from: z.string(), to: z.string(), metres: z.number() }).nullable(),
});
export type MixUpRow = z.infer<typeof MixUpRow>;

/** A code that was typed or pressed, as its label could not be scanned. */
export const ByHandRow = z.object({
  said: z.string(),
  what: z.string(),
  times: z.number(),
  last: z.string(),
  people: z.string(),
});
export type ByHandRow = z.infer<typeof ByHandRow>;

/** What went wrong at the shelves of late. */
export const FloorTroubles = z.object({
  days: z.number(),
  mixUps: z.array(MixUpRow),
  byHand: z.array(ByHandRow),
});
export type FloorTroubles = z.infer<typeof FloorTroubles>;
