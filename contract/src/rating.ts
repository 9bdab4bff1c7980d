import { billedAs } from '@auk/core';
import { z } from 'zod';
import { CarrierQuote, Charge, ServiceOptions } from './carriers.js';
import { Id } from './common.js';

const Account = z.object({ number: z.string(), name: z.string() });

/** One service on offer for a parcel: the price in the account's currency, and in the house's where a rate is known. */
export const OfferView = CarrierQuote.extend({
  carrier: z.string(),
  carrierName: z.string(),
  account: Account,
  houseMinor: z.number().nullable(),
  /** The day it is collected, by the next departure of its carrier. */
  departure: z.object({ id: z.string(), cutOff: z.string() }).nullable(),
  keeps: z.boolean(),
  cheapest: z.boolean(),
  fastest: z.boolean(),
  /** A person or a rule chose it for the order. */
  chosen: z.boolean(),
  /** The products in the parcel prefer it. */
  preferred: z.boolean(),
});
export type OfferView = z.infer<typeof OfferView>;

const Silent = z.object({ carrierName: z.string(), why: z.string() });
const Dropped = z.object({ carrierName: z.string(), name: z.string(), why: z.string() });

/** Offers of all carriers, the one to take first; carriers that did not answer are named with why. `paidMinor` is in `currency`, the order's. */
export const OffersView = z.object({
  offers: z.array(OfferView),
  silent: z.array(Silent),
  /** The rule that chose the service, box or what is asked; null where a person did, or nobody. */
  chosenBy: z.string().nullable(),
  promised: z.string().nullable(),
  paidMinor: z.number(),
  currency: z.string(),
  houseCurrency: z.string(),
  /** The same in house money; null where no rate is known. */
  paidHouseMinor: z.number().nullable(),
});
export type OffersView = z.infer<typeof OffersView>;

/** A purchase as it was chosen: the price that was shown must be the price that is charged. */
export const BuyLabel = z.object({
  carrier: z.string().max(30),
  account: z.string().max(40).default(''),
  service: z.string().max(40),
  quoteId: z.string().max(80),
  minor: z.number().int().min(0),
  currency: z.string().regex(/^[A-Z]{3}$/),
  key: z.uuid(),
  name: z.string().min(1).max(80),
  arrives: z.iso.date(),
  zone: z.string().max(10).default(''),
  billable: z.string().max(40).default(''),
  charges: z.array(Charge).max(30).default([]),
  options: ServiceOptions.default({}),
});
export type BuyLabel = z.infer<typeof BuyLabel>;

/** A purchase of what was offered. */
export const wishOf = (offer: OfferView): Omit<BuyLabel, 'key' | 'options'> => ({
  carrier: offer.carrier,
  account: offer.account.number,
  service: offer.service,
  quoteId: offer.quoteId,
  minor: offer.minor,
  currency: offer.currency,
  name: offer.name,
  arrives: offer.arrives,
  zone: offer.zone,
  billable: billedAs(offer.billable),
  charges: offer.charges,
});

/** What is to be compared: a parcel that is closed, an order whose boxes are chosen with the service, or a parcel without an order. */
export const CompareAsk = z.object({
  about: z.discriminatedUnion('kind', [
    z.object({
      kind: z.literal('parcel'),
      no: z.string().regex(/^PA-\d{1,9}$/i, 'is not the code of a parcel'),
    }),
    z.object({ kind: z.literal('order'), id: Id }),
    z.object({
      kind: z.literal('quote'),
      postcode: z.string().trim().max(12),
      country: z.string().regex(/^[A-Z]{2}$/, 'is written with two letters'),
      residential: z.boolean(),
      size: z.object({
        length: z.number().int().min(10).max(60_000),
        width: z.number().int().min(10).max(60_000),
        height: z.number().int().min(10).max(60_000),
      }),
      weightMg: z.number().int().min(1).max(1e9),
    }),
  ]),
  /** Money of the house. */
  options: ServiceOptions.default({}),
});
export type CompareAsk = z.infer<typeof CompareAsk>;

const Contents = z.array(z.object({ sku: z.string(), name: z.string(), quantity: z.number() }));

/** A parcel that is compared: its box where there is one, and products whose size or weight is a guess. */
export const ComparedParcel = z.object({
  box: z.string().nullable(),
  /** Its code, where it is one of the house. */
  boxCode: z.string().nullable(),
  boxMinor: z.number(),
  size: z.object({ length: z.number(), width: z.number(), height: z.number() }),
  weightMg: z.number(),
  contents: Contents,
  /** What is in it by the products' own values, in house money; null where one of them has none. */
  worthMinor: z.number().nullable(),
  /** How the pieces lie, in tenths of a millimetre. */
  placed: z.array(
    z.object({
      sku: z.string(),
      x: z.number(),
      y: z.number(),
      z: z.number(),
      size: z.object({ length: z.number(), width: z.number(), height: z.number() }),
    }),
  ),
});
export type ComparedParcel = z.infer<typeof ComparedParcel>;

/** A service with its own best boxes. Sums in house money; `labelMinor` is in the account's currency. */
export const ComparedService = z.object({
  carrier: z.string(),
  carrierName: z.string(),
  account: Account,
  service: z.string(),
  name: z.string(),
  /** Indexes into the parcels of the comparison, each with what it costs. */
  parcels: z.array(z.object({ parcel: z.number(), quote: CarrierQuote })),
  labelMinor: z.number(),
  currency: z.string(),
  houseMinor: z.number().nullable(),
  boxesMinor: z.number(),
  /** Labels and boxes. */
  minor: z.number(),
  marginMinor: z.number().nullable(),
  collected: z.string().nullable(),
  arrives: z.string(),
  days: z.number(),
  keeps: z.boolean(),
  cheapest: z.boolean(),
  fastest: z.boolean(),
  /** What is taken when nobody chooses. */
  usual: z.boolean(),
});
export type ComparedService = z.infer<typeof ComparedService>;

export const CompareView = z.object({
  title: z.string(),
  order: z.object({ id: z.string(), no: z.string(), chosen: z.string().nullable() }).nullable(),
  parcel: z.string().nullable(),
  to: z.string(),
  /** What the order itself asks of any service. */
  asks: ServiceOptions,
  currency: z.string(),
  promised: z.string().nullable(),
  /** What the buyer paid for shipping, in house money; null where no rate is known. */
  paidMinor: z.number().nullable(),
  /** All parcels that a row or the choice together is made of. */
  parcels: z.array(ComparedParcel),
  guessed: z.array(z.string()),
  rows: z.array(ComparedService),
  /** Boxes and services chosen together, where that is cheaper than the usual. */
  together: z
    .object({
      parcels: z.array(
        z.object({ parcel: z.number(), carrierName: z.string(), name: z.string(), minor: z.number() }),
      ),
      minor: z.number(),
      savesMinor: z.number(),
      proven: z.boolean(),
    })
    .nullable(),
  dropped: z.array(Dropped),
  silent: z.array(Silent),
});
export type CompareView = z.infer<typeof CompareView>;

/** The service that a person chose for an order before its label is bought, with the boxes that go with it. */
export const ChosenService = z.object({
  carrier: z.string().max(30),
  account: z.string().max(40),
  service: z.string().max(40),
  name: z.string().min(1).max(80),
  /** Codes of the boxes that it was compared with, one for each parcel: the bench proposes them. */
  boxes: z.array(z.string().min(1).max(20)).max(50).default([]),
  /** What was asked of it beside carrying, in house money. */
  options: ServiceOptions.default({}),
});
export type ChosenService = z.infer<typeof ChosenService>;

export const ChooseService = z.object({ chosen: ChosenService.nullable() });

/** A parcel template: a named service, with its box and what is asked beside carrying. */
export const ParcelTemplateIn = z.object({
  id: Id.optional(),
  name: z.string().trim().min(1, 'is wanted').max(60),
  carrier: z.string().min(1).max(30),
  account: z.string().max(40).default(''),
  service: z.string().min(1).max(40),
  serviceName: z.string().min(1).max(80),
  box: z.string().max(20).nullable().default(null),
  options: ServiceOptions.default({}),
});
export type ParcelTemplateIn = z.infer<typeof ParcelTemplateIn>;
export const ParcelTemplateView = ParcelTemplateIn.extend({ id: z.string(), carrierName: z.string() });
export type ParcelTemplateView = z.infer<typeof ParcelTemplateView>;

/** Orders that are to leave as a template says. */
export const UseTemplate = z.object({ ids: z.array(Id).min(1).max(500) });
