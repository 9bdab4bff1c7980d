import { TRACK_KINDS } from '@auk/core';
import { z } from 'zod';

/** What may be asked of a service beside carrying; money in minor units of the account's currency. */
export const ServiceOptions = z.object({
  signature: z.boolean().optional(),
  saturday: z.boolean().optional(),
  dropOff: z.boolean().optional(),
  toPoint: z.boolean().optional(),
  cashMinor: z.number().int().min(0).max(1e9).optional(),
  valueMinor: z.number().int().min(0).max(1e9).optional(),
  /** Each parcel is declared at what the products in it are worth to the house; carriers are told the amount. */
  insured: z.boolean().optional(),
});
export type ServiceOptions = z.infer<typeof ServiceOptions>;

/** What carriers are told of a parcel. The stand-ins of the plain kind speak this as it is; adapters translate it for the others. */
export const CarrierParcel = z.object({
  from: z.object({ postcode: z.string(), country: z.string() }),
  to: z.object({
    postcode: z.string(),
    country: z.string(),
    residential: z.boolean(),
    /** Name and address as they stand on a label. */
    lines: z.array(z.string()).default([]),
  }),
  size: z.object({
    length: z.number().int().positive(),
    width: z.number().int().positive(),
    height: z.number().int().positive(),
  }),
  weightMg: z.number().int().positive(),
  shipDay: z.iso.date(),
  /** The number of the account that pays; empty for the house account. */
  account: z.string().default(''),
  options: ServiceOptions.default({}),
});
export type CarrierParcel = z.infer<typeof CarrierParcel>;

export const Charge = z.object({ name: z.string(), minor: z.number().int() });
export type Charge = z.infer<typeof Charge>;

export const CarrierQuote = z.object({
  quoteId: z.string().min(1).max(80),
  service: z.string().min(1).max(40),
  name: z.string().min(1).max(80),
  minor: z.number().int().min(0),
  currency: z.string().regex(/^[A-Z]{3}$/),
  charges: z.array(Charge),
  /** What weight was paid for, in words, and why. */
  billable: z.object({
    mg: z.number(),
    says: z.string(),
    why: z.enum(['weight', 'volume', 'cubic']),
  }),
  zone: z.string().max(10),
  days: z.number().int().min(0).max(60),
  arrives: z.iso.date(),
});
export type CarrierQuote = z.infer<typeof CarrierQuote>;
export const CarrierQuotes = z.object({ quotes: z.array(CarrierQuote) });

export const CarrierBuy = z.object({
  key: z.string().min(1),
  quoteId: z.string(),
  minor: z.number().int(),
  /** What `minor` is in; purchases of before this was told have none. */
  currency: z.string().optional(),
  service: z.string(),
  parcel: CarrierParcel,
  reference: z.string(),
});
export type CarrierBuy = z.infer<typeof CarrierBuy>;

/** A purchase in the carrier's books. */
export const CarrierBought = z.object({
  key: z.string(),
  tracking: z.string().min(5).max(40),
  minor: z.number().int().min(0),
  currency: z.string().regex(/^[A-Z]{3}$/),
  service: z.string(),
  routing: z.string().max(40),
  /** The label as the carrier draws it: a PDF of one page in base64. Auk draws it when there is none. */
  picture: z.string().max(400_000).optional(),
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

/** What carriers tell of a parcel on its way. The words are ours; each adapter translates its carrier's. */
export const TrackedEvent = z.object({
  /** The carrier's own name for the event: the same again is the same. */
  id: z.string().min(1).max(60),
  at: z.iso.datetime(),
  kind: z.enum(TRACK_KINDS),
  says: z.string().max(200),
  place: z.string().max(80),
});
export type TrackedEvent = z.infer<typeof TrackedEvent>;

/** All that a carrier knows of one parcel; `expected` is the day on which it means to deliver it now. */
export const CarrierTracked = z.object({
  tracking: z.string().min(5).max(40),
  expected: z.iso.date().nullable(),
  events: z.array(TrackedEvent).max(200),
});
export type CarrierTracked = z.infer<typeof CarrierTracked>;

/** A collection that is booked; asking twice with one key books it once. Times are UTC. */
export const CarrierCollect = z.object({
  key: z.string().min(1),
  account: z.string().default(''),
  postcode: z.string(),
  country: z.string(),
  readyBy: z.iso.datetime(),
  parcels: z.number().int().min(0),
  weightMg: z.number().int().min(0),
});
export type CarrierCollect = z.infer<typeof CarrierCollect>;
export const CarrierCollected = z.object({ key: z.string(), reference: z.string().min(1).max(40) });
export type CarrierCollected = z.infer<typeof CarrierCollected>;

/** The end of a day: what was handed over, told to the carrier once under a key. */
export const CarrierDayEnd = z.object({
  key: z.string().min(1),
  at: z.iso.datetime(),
  trackings: z.array(z.string()).max(5000),
});
export type CarrierDayEnd = z.infer<typeof CarrierDayEnd>;
/** What it says of it: its manifest's number, and numbers that it never sold. */
export const CarrierManifest = z.object({
  key: z.string(),
  manifest: z.string().min(1).max(40),
  unknown: z.array(z.string()),
});
export type CarrierManifest = z.infer<typeof CarrierManifest>;

/** A refusal in the carrier's words. */
export const CarrierRefused = z.object({ refused: z.string() });

/** How a stand-in is told to misbehave; each counts down its `times`. */
export const Mischief = z.object({
  on: z.enum(['quote', 'buy', 'find', 'void', 'track', 'collect', 'day end', 'pull', 'push']),
  how: z.enum([
    'late',
    'fail after',
    'fail before',
    'nonsense',
    'dearer',
    'refuse',
    'refuse after',
    'charge more',
    'wrong tracking',
    'other currency',
    'no picture',
    'not found',
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
export type MischiefIn = z.input<typeof Mischief>;

/** What a visitor of a stand-in makes happen to a parcel on its way. */
export const Happens = TrackedEvent.extend({ tracking: z.string() });

/** What a channel is told of a departed parcel. The key makes a repeat harmless. */
export const ToldTracking = z.object({
  key: z.string(),
  channel: z.string(),
  channelNumber: z.string(),
  carrier: z.string(),
  tracking: z.string(),
});
export type ToldTracking = z.infer<typeof ToldTracking>;

/** What a channel is told of a parcel that came back, once all in it was judged. The key makes a repeat harmless. */
export const ToldReturn = z.object({
  key: z.string(),
  channel: z.string(),
  channelNumber: z.string(),
  tracking: z.string(),
  /** What came back, by the line it was sold in; the parts of a bundle one by one. */
  pieces: z.array(
    z.object({ channelSku: z.string(), sku: z.string(), quantity: z.number(), resold: z.boolean() }),
  ),
});
export type ToldReturn = z.infer<typeof ToldReturn>;

/** A carrier as Setup shows it. */
export const CarrierView = z.object({
  code: z.string(),
  name: z.string(),
  kind: z.string(),
  address: z.string(),
  inUse: z.boolean(),
  /** It takes addresses in Latin letters only. */
  latin: z.boolean(),
  planUpToMg: z.number().nullable(),
  accounts: z.array(
    z.object({
      id: z.string(),
      name: z.string(),
      number: z.string(),
      rates: z.enum(['asked', 'sheet']),
      inUse: z.boolean(),
      /** The sheets that it was given, the latest first; which counts today is marked. */
      sheets: z.array(
        z.object({
          id: z.string(),
          name: z.string(),
          currency: z.string(),
          from: z.string(),
          services: z.number(),
          counts: z.boolean(),
        }),
      ),
    }),
  ),
  services: z.array(z.object({ service: z.string(), name: z.string(), inUse: z.boolean() })),
  collections: z.array(
    z.object({
      id: z.string(),
      name: z.string(),
      weekdays: z.array(z.number()),
      cutOff: z.string(),
      freight: z.boolean(),
    }),
  ),
});
export type CarrierView = z.infer<typeof CarrierView>;

/** The kinds of carriers that Auk can speak with. */
export const CarrierKind = z.object({ kind: z.string(), name: z.string(), about: z.string() });
export type CarrierKind = z.infer<typeof CarrierKind>;

const Code = z.string().regex(/^[a-z][a-z0-9-]{1,29}$/, 'is a word of small letters, digits and dashes');

/** A carrier that is connected, or changed: an empty key keeps the one that is there. */
export const ConnectCarrier = z.object({
  code: Code,
  name: z.string().trim().min(1).max(60),
  kind: z.string().min(1).max(20),
  address: z.url().max(200),
  key: z.string().max(200).default(''),
  inUse: z.boolean().default(true),
  latin: z.boolean().default(false),
  planUpToMg: z.number().int().min(0).max(1e12).nullable().default(null),
});
export type ConnectCarrier = z.infer<typeof ConnectCarrier>;

export const CarrierAccountIn = z.object({
  name: z.string().trim().min(1).max(60),
  number: z
    .string()
    .trim()
    .regex(/^[A-Za-z0-9-]{0,40}$/, 'has letters, digits and dashes alone'),
  rates: z.enum(['asked', 'sheet']),
  inUse: z.boolean().default(true),
});
export type CarrierAccountIn = z.infer<typeof CarrierAccountIn>;

/** What became of a rate sheet: taken, or the rows that are wrong. */
export const SheetTaken = z.object({
  taken: z.boolean(),
  name: z.string(),
  services: z.number(),
  bad: z.array(z.object({ row: z.number(), why: z.string() })),
});
export type SheetTaken = z.infer<typeof SheetTaken>;

/** The collections of a carrier by the week. */
export const CollectionIn = z.object({
  name: z.string().trim().min(1).max(80),
  weekdays: z.array(z.number().int().min(1).max(7)).min(1).max(7),
  cutOff: z.string().regex(/^([01]\d|2[0-3]):[0-5]\d$/, 'is a time such as 17:30'),
});
export type CollectionIn = z.infer<typeof CollectionIn>;

/** Days on which carriers neither collect nor deliver. */
export const ClosedDay = z.object({ day: z.iso.date(), name: z.string().trim().min(1).max(60) });
export type ClosedDay = z.infer<typeof ClosedDay>;

/** Dollars and cents of the house for one unit of another currency, from a day on. */
export const ExchangeRateView = z.object({
  currency: z.string().regex(/^[A-Z]{3}$/, 'is three capital letters'),
  day: z.iso.date(),
  perHouse: z.number().positive().max(1e6),
});
export type ExchangeRateView = z.infer<typeof ExchangeRateView>;
