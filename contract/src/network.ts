import { DOORS, HANDINGS, PREPARATIONS } from '@auk/core';
import { z } from 'zod';

/** How a network of fulfillment centers speaks: its stock, and orders that it sends to buyers, by keys of whoever orders. */
export const NetworkStock = z.object({
  rows: z.array(z.object({ code: z.string().max(60), units: z.number().int().min(0) })).max(100_000),
});
export type NetworkStock = z.infer<typeof NetworkStock>;

export const NetworkOrderIn = z.object({
  number: z.string().max(48),
  lines: z.array(z.object({ code: z.string().max(60), quantity: z.number().int().min(1) })).min(1),
  shipTo: z.record(z.string(), z.string().nullable()),
});
export type NetworkOrderIn = z.infer<typeof NetworkOrderIn>;

export const NetworkOrder = z.object({
  state: z.enum(['taken', 'left', 'cancelled']),
  carrier: z.string().max(60).nullable(),
  tracking: z.string().max(40).nullable(),
});
export type NetworkOrder = z.infer<typeof NetworkOrder>;

/** Why something was not done there. */
export const NetworkRefusal = z.object({ why: z.string().max(300) });

/** A network whose centers send orders for the house. */
export const CenterIn = z.object({
  /** What it told is kept under its name, which must leave room for a word before it. */
  name: z.string().trim().min(2, 'is wanted').max(30),
  address: z.url({ protocol: /^https?$/ }).max(200),
  /** An empty key leaves the one that is there. */
  key: z.string().trim().max(200).default(''),
});
export type CenterIn = z.infer<typeof CenterIn>;
export const CenterView = CenterIn.omit({ key: true });
export type CenterView = z.infer<typeof CenterView>;

const Minor = z.number().int().min(0).max(1_000_000_00);
const Mg = z.number().int().min(1).max(2_000_000_000);
const Tenths = z.number().int().min(1).max(200_000);
const CenterCode = z.string().min(1).max(40);
const Sscc = z.string().regex(/^\d{18}$/, 'is 18 digits');

/** A center or dock of a network: where goods are brought. */
export const NetworkSite = z.object({
  center: CenterCode,
  address: z.object({
    name: z.string().max(80),
    company: z.string().max(80),
    line1: z.string().max(80),
    line2: z.string().max(80),
    city: z.string().max(60),
    region: z.string().max(40),
    postcode: z.string().max(20),
    country: z.string().length(2),
    phone: z.string().max(30),
  }),
});
export type NetworkSite = z.infer<typeof NetworkSite>;

/** A carrier that fetches for a network: a price a piece and a kilogram (minor units), and the business days it takes. */
export const NetworkFreight = z.object({
  name: z.string().min(1).max(60),
  form: z.enum(['parcels', 'pallets']),
  pieceMinor: Minor,
  kilogramMinor: Minor,
  days: z.number().int().min(0).max(60),
  /** Taken once for fetching goods, and besides from a home or a place that is hard to reach. */
  fetchMinor: Minor.default(0),
  homeMinor: Minor.default(0),
  hardMinor: Minor.default(0),
  /** Where goods may be brought instead; null where they are fetched only. */
  bringTo: z.string().max(80).nullable().default(null),
});
export type NetworkFreight = z.infer<typeof NetworkFreight>;

/** What a network wants, takes and charges; money in its own currency, lengths in tenths of a millimetre, weights in milligrams. */
export const NetworkRules = z.object({
  currency: z.string().length(3),
  units: z.enum(['imperial', 'metric']),
  /** Days that goods with an expiry must last when they arrive. */
  leastShelfDays: z.number().int().min(0).max(3_000),
  limits: z.object({ mostMg: Mg, mostSide: Tenths, heavyMg: Mg }),
  pallet: z.object({
    name: z.string().max(40),
    length: Tenths,
    width: Tenths,
    deck: Tenths,
    weightMg: Mg,
    mostHeight: Tenths,
    mostWeightMg: Mg,
  }),
  takes: z.array(z.enum(['parcels', 'pallets'])).min(1),
  /** A unit; null where it takes nothing so. */
  feeMinor: z.object({ 'one dock': Minor.nullable(), spread: Minor.nullable() }),
  daysToSale: z.object({ 'one dock': z.number().int().min(0), spread: z.number().int().min(0) }),
  /** A unit and month. */
  storageMinor: z.object({ near: Minor, deep: Minor }),
  /** From some day on a month costs so many times as much, the first step first. */
  storageSteps: z
    .array(z.object({ afterDays: z.number().int().min(1).max(3_650), times: z.number().min(1).max(100) }))
    .max(10)
    .default([]),
  dock: NetworkSite,
  centers: z
    .array(NetworkSite.extend({ share: z.number().min(0).max(1_000) }))
    .min(1)
    .max(40),
  preparation: z
    .array(
      z.object({
        needs: z.enum(PREPARATIONS),
        when: z.array(z.string().max(40)),
        feeMinor: Minor.nullable(),
        materialMinor: Minor,
        seconds: z.number().int().min(0).max(3_600),
      }),
    )
    .max(40),
  /** Facts of products that it does not take. */
  refuses: z.array(z.object({ fact: z.string().max(40), why: z.string().max(120) })),
  freight: z.array(NetworkFreight).max(20),
  /** A booking may be cancelled for nothing for so long. */
  freeHours: z.number().int().min(0).max(240),
});
export type NetworkRules = z.infer<typeof NetworkRules>;

/** The code that a network will scan for each product, and its own category; null where it knows none. */
export const NetworkCodesIn = z.object({ codes: z.array(z.string().max(60)).min(1).max(1_000) });
export const NetworkCodes = z.object({
  rows: z.array(
    z.object({
      code: z.string().max(60),
      scans: z.string().max(60).nullable(),
      category: z.string().max(60).nullable(),
    }),
  ),
});
export type NetworkCodes = z.infer<typeof NetworkCodes>;

/** What is to be sent: the network answers which center takes how many of each. */
export const NetworkPlanIn = z.object({
  placement: z.enum(['one dock', 'spread']),
  storage: z.enum(['near', 'deep']),
  lines: z
    .array(
      z.object({
        code: z.string().max(60),
        units: z.number().int().min(1),
        perCase: z.number().int().min(1),
      }),
    )
    .min(1)
    .max(1_000),
});
export type NetworkPlanIn = z.infer<typeof NetworkPlanIn>;
export const NetworkPlan = z.object({
  /** Under which it is kept there and can be asked for again; null where a network keeps none. */
  plan: z.string().max(40).nullable().default(null),
  placement: z.enum(['one dock', 'spread']),
  parts: z.array(
    z.object({
      site: NetworkSite,
      lines: z.array(z.object({ code: z.string().max(60), units: z.number().int().min(1) })).min(1),
    }),
  ),
  /** Lines that it does not take, with why. */
  refused: z.array(z.object({ code: z.string().max(60), why: z.string().max(200) })),
});
export type NetworkPlan = z.infer<typeof NetworkPlan>;

/** Boxes of one center with what is in each, and how they come. Asked for a price first, then booked at that price. */
export const NetworkBookingIn = z.object({
  /** The number of the shipment, such as IN-77. */
  number: z.string().max(40),
  /** The network's plan by which it was made ready. */
  plan: z.string().max(40).nullable().default(null),
  center: CenterCode,
  placement: z.enum(['one dock', 'spread']),
  form: z.enum(['parcels', 'pallets']),
  /** One of its own carriers; null when the house sends it by its own. */
  freight: z.string().max(60).nullable(),
  /** How it gets to that carrier, and what it finds where it fetches. */
  handing: z.enum(HANDINGS).default('fetched'),
  door: z.enum(DOORS).default('dock'),
  /** Loaded pallets with the boxes on each; none where it goes as parcels. Height and weight include the pallet. */
  pallets: z
    .array(z.object({ sscc: Sscc, height: Tenths, weightMg: Mg, boxes: z.array(Sscc).min(1) }))
    .max(200),
  boxes: z
    .array(
      z.object({
        sscc: Sscc,
        weightMg: Mg,
        lines: z.array(z.object({ code: z.string().max(60), units: z.number().int().min(1) })).min(1),
      }),
    )
    .min(1)
    .max(1_000),
});
export type NetworkBookingIn = z.infer<typeof NetworkBookingIn>;

export const NetworkPrice = z.object({
  feeMinor: Minor,
  freightMinor: Minor,
  currency: z.string().length(3),
});
export type NetworkPrice = z.infer<typeof NetworkPrice>;

/** A booking is asked at a price: the network charges that and no more, or refuses. */
export const NetworkBookIn = NetworkBookingIn.extend({ priceMinor: Minor });
export type NetworkBookIn = z.infer<typeof NetworkBookIn>;

export const NETWORK_STATES = [
  'booked',
  'travelling',
  'at dock',
  'counting',
  'counted',
  'cancelled',
] as const;
export const NetworkBooking = z.object({
  number: z.string().max(40),
  state: z.enum(NETWORK_STATES),
  priceMinor: Minor,
  currency: z.string().length(3),
  /** Until then it is cancelled for nothing. */
  freeUntil: z.iso.datetime(),
  /** Numbers of its own carrier, one for each box or pallet; empty when the house sends it by its own. */
  tracking: z.array(z.string().max(40)),
  /** What became of its boxes so far, oldest first. */
  events: z.array(
    z.object({
      id: z.string().max(60),
      at: z.iso.datetime(),
      sscc: Sscc.nullable(),
      says: z.string().max(200),
      /** ISO day on which it is expected instead, where it is late. */
      late: z.iso.date().nullable(),
    }),
  ),
  /** Units counted so far; told in parts or at once. */
  counted: z.array(z.object({ sscc: Sscc, code: z.string().max(60), units: z.number().int().min(0) })),
});
export type NetworkBooking = z.infer<typeof NetworkBooking>;
