import { z } from 'zod';

/** What may be asked of a service beside carrying; money in minor units of the account's currency. */
export const ServiceOptions = z.object({
  signature: z.boolean().optional(),
  saturday: z.boolean().optional(),
  dropOff: z.boolean().optional(),
  toPoint: z.boolean().optional(),
  cashMinor: z.number().int().min(0).max(1e9).optional(),
  valueMinor: z.number().int().min(0).max(1e9).optional(),
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

/** What a channel is told of a departed parcel. The key makes a repeat harmless. */
export const ToldTracking = z.object({
  key: z.string(),
  channel: z.string(),
  channelNumber: z.string(),
  carrier: z.string(),
  tracking: z.string(),
});
export type ToldTracking = z.infer<typeof ToldTracking>;

/** A carrier as Setup shows it. */
export const CarrierView = z.object({
  code: z.string(),
  name: z.string(),
  kind: z.string(),
  address: z.string(),
  inUse: z.boolean(),
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
