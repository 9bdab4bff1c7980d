import { TRACK_KINDS } from '@auk/core';
import { z } from 'zod';

const Said = z.string().trim().min(1, 'is empty').max(2000);

/** A message that is written on a buyer's page, or to a buyer. The key makes a repeat harmless. */
export const MessageIn = z.object({ key: z.uuid(), text: Said });
export type MessageIn = z.infer<typeof MessageIn>;

/** A thread as one of both sides sees it. */
const Said1 = z.object({
  id: z.string(),
  sender: z.enum(['buyer', 'house']),
  text: z.string(),
  at: z.string(),
});

/** What a buyer sees behind the link of the order. */
export const BuyerPage = z.object({
  brand: z.string(),
  colour: z.string(),
  hasLogo: z.boolean(),
  number: z.string(),
  /** The zone in which its times are told. */
  zone: z.string(),
  stage: z.enum(['taken', 'prepared', 'packed', 'left', 'arrived', 'cancelled', 'coming back']),
  promised: z.string().nullable(),
  lines: z.array(z.object({ title: z.string(), quantity: z.number() })),
  parcels: z.array(
    z.object({
      carrier: z.string().nullable(),
      tracking: z.string().nullable(),
      left: z.string().nullable(),
      arrives: z.string().nullable(),
      state: z.enum(TRACK_KINDS).nullable(),
      contents: z.array(z.object({ title: z.string(), quantity: z.number() })),
      /** A label for the way back can be printed. */
      returns: z.boolean(),
      events: z.array(
        z.object({ at: z.string(), kind: z.enum(TRACK_KINDS), says: z.string(), place: z.string() }),
      ),
    }),
  ),
  messages: z.array(Said1),
  /** The last day on which this page can be opened; null while the order is on its way. */
  until: z.string().nullable(),
});
export type BuyerPage = z.infer<typeof BuyerPage>;

/** All that was said about an order, with the buyer and among the house, as one thread. */
export const ThreadRow = z.object({
  id: z.string(),
  at: z.string(),
  kind: z.enum(['buyer', 'house', 'note', 'mail']),
  text: z.string(),
  /** The person of the house, or what became of a mail. */
  by: z.string().nullable(),
  state: z.enum(['new', 'waiting', 'sent', 'bounced']).nullable(),
});
export type ThreadRow = z.infer<typeof ThreadRow>;

export const ThreadView = z.object({
  rows: z.array(ThreadRow),
  link: z.string(),
  /** Where a message goes; empty where the order has no mail address. */
  mail: z.string(),
  unread: z.number(),
});
export type ThreadView = z.infer<typeof ThreadView>;
