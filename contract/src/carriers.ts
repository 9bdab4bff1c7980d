import { z } from 'zod';

/** What carriers are asked and answer over HTTP. The stand-ins speak it; a real carrier's adapter translates into it. */
export const CarrierParcel = z.object({
  from: z.object({ postcode: z.string(), country: z.string() }),
  to: z.object({ postcode: z.string(), country: z.string(), residential: z.boolean() }),
  size: z.object({
    length: z.number().int().positive(),
    width: z.number().int().positive(),
    height: z.number().int().positive(),
  }),
  weightMg: z.number().int().positive(),
  shipDay: z.iso.date(),
});
export type CarrierParcel = z.infer<typeof CarrierParcel>;

const Charge = z.object({ name: z.string(), minor: z.number().int() });

export const CarrierQuote = z.object({
  quoteId: z.string().min(1),
  service: z.string().min(1),
  name: z.string().min(1),
  minor: z.number().int().min(0),
  charges: z.array(Charge),
  billableSteps: z.number().int(),
  byVolume: z.boolean(),
  days: z.number().int().min(0),
  arrives: z.iso.date(),
});
export type CarrierQuote = z.infer<typeof CarrierQuote>;
export const CarrierQuotes = z.object({ quotes: z.array(CarrierQuote) });

export const CarrierBuy = z.object({
  key: z.string().min(1),
  quoteId: z.string().min(1),
  minor: z.number().int(),
  service: z.string(),
  parcel: CarrierParcel,
  reference: z.string(),
});
export type CarrierBuy = z.infer<typeof CarrierBuy>;

/** A purchase in the carrier's books. */
export const CarrierBought = z.object({
  key: z.string(),
  tracking: z.string().min(5).max(40),
  minor: z.number().int(),
  service: z.string(),
  routing: z.string(),
  /** What came back when it was taken back; nothing while it was not. */
  refundMinor: z.number().int().min(0).optional(),
});
export type CarrierBought = z.infer<typeof CarrierBought>;

/** A purchase that is to be taken back, by the key that it was bought under; asking twice takes it back once. */
export const CarrierVoid = z.object({ key: z.string().min(1) });
export type CarrierVoid = z.infer<typeof CarrierVoid>;

/** A purchase that was taken back, and what of its price comes back. */
export const CarrierVoided = z.object({ key: z.string(), refundMinor: z.number().int().min(0) });
export type CarrierVoided = z.infer<typeof CarrierVoided>;

/** A refusal in the carrier's words. */
export const CarrierRefused = z.object({ refused: z.string() });

/** How a stand-in is told to misbehave; each counts down its `times`. */
export const Mischief = z.object({
  on: z.enum(['quote', 'buy', 'find', 'void', 'pull', 'push']),
  how: z.enum([
    'late',
    'fail after',
    'fail before',
    'nonsense',
    'dearer',
    'refuse',
    'busy',
    'error',
    'cut',
    'repeat',
    'reorder',
    'future',
  ]),
  times: z.number().int().min(0).max(1000),
  ms: z.number().int().min(0).max(60_000).default(0),
});
export type Mischief = z.infer<typeof Mischief>;

/** What a channel is told of a departed parcel. The key makes a repeat harmless. */
export const ToldTracking = z.object({
  key: z.string(),
  channel: z.string(),
  channelNumber: z.string(),
  carrier: z.string(),
  tracking: z.string(),
});
export type ToldTracking = z.infer<typeof ToldTracking>;
