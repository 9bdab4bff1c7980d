import { z } from 'zod';

/** Topics of the live stream; each message says what changed, never the data. With `all` too much was missed: everything is asked anew. */
export const LiveTopic = z.enum([
  'orders',
  'lists',
  'plans',
  'parcels',
  'prints',
  'boxes',
  'carriers',
  'claims',
  'departures',
  'tracking',
  'mails',
  'rules',
  'messages',
  'bills',
  'stock',
  'catalog',
  'channels',
  'builds',
  'purchases',
  'people',
  'imports',
  'inbound',
  'all',
]);
export type LiveTopic = z.infer<typeof LiveTopic>;

/** One change, under its position in the stream. */
export const LiveMessage = z.object({ id: z.number(), topic: LiveTopic, ref: z.string() });
export type LiveMessage = z.infer<typeof LiveMessage>;
