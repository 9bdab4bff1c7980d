import { canonicalCode, MOST_UNITS, PAYMENTS, parseAmount, type ReceivedOrder } from '@auk/core';
import { z } from 'zod';
import type { ReceivedListing } from './adapter.js';

const text = (most: number) => z.string().max(most).default('');

/** An answer that says nothing but that it was taken. */
export const Taken = z.looseObject({});

/** An address as the stand-ins write it. */
export const WireAddress = z.object({
  name: z.string().max(80),
  company: text(80),
  line1: text(120),
  line2: text(120),
  city: text(80),
  region: text(40),
  postcode: text(16),
  country: z.string().max(40),
  phone: text(40),
});

/** What all stand-ins tell of an order, whatever their habit; money differs and is `M`. */
export const wireOrder = <M extends z.ZodType>(money: M) =>
  z.object({
    number: z.string().min(1).max(40),
    placed: z.iso.datetime().nullable().default(null),
    mail: text(120),
    shipTo: WireAddress,
    billTo: WireAddress.nullable().default(null),
    payment: z.enum(PAYMENTS),
    currency: z.string().regex(/^[A-Z]{3}$/),
    shipping: money,
    discount: money.optional(),
    service: text(60),
    shipBy: z.iso.date().nullable().default(null),
    promised: z.iso.date().nullable().default(null),
    note: text(500),
    lines: z
      .array(
        z.object({
          sku: z.string().min(1).max(60),
          title: z.string().max(200),
          quantity: z.number().int().min(1).max(MOST_UNITS),
          price: money,
          tax: money.optional(),
        }),
      )
      .max(500),
  });

/** Money in minor units / as a decimal text. */
export const MinorMoney = z.number().int().min(0).max(1e11);
export const DecimalMoney = z.string().max(30);

type Order<M> = Omit<z.infer<ReturnType<typeof wireOrder>>, 'shipping' | 'discount' | 'lines'> & {
  shipping: M;
  discount?: M | undefined;
  lines: { sku: string; title: string; quantity: number; price: M; tax?: M | undefined }[];
};

/** An order of the wire as Auk's intake takes it; `minor` turns the channel's money into minor units. */
export function toReceived<M>(o: Order<M>, minor: (money: M) => number, revision?: number): ReceivedOrder {
  return {
    channelNumber: o.number,
    placedAt: o.placed,
    mail: o.mail,
    shipTo: { ...o.shipTo, country: o.shipTo.country.toUpperCase() },
    billTo: o.billTo,
    payment: o.payment,
    currency: o.currency,
    shippingMinor: minor(o.shipping),
    discountMinor: o.discount === undefined ? 0 : minor(o.discount),
    serviceAsked: o.service,
    shipBy: o.shipBy,
    promised: o.promised,
    note: o.note,
    lines: o.lines.map(l => ({
      channelSku: l.sku,
      title: l.title || l.sku,
      quantity: l.quantity,
      priceMinor: minor(l.price),
      ...(l.tax === undefined ? {} : { taxMinor: minor(l.tax) }),
    })),
    ...(revision === undefined ? {} : { revision }),
  };
}

/** Reads decimal money of a currency; throws its sentence, which names the order as unreadable. */
export const decimal =
  (currency: string) =>
  (money: string): number => {
    const read = parseAmount(money, currency);
    if (!read.ok) throw new Error(read.problem);
    return read.value;
  };

/** A listing of the wire. */
export const wireListing = <M extends z.ZodType>(money: M) =>
  z.object({
    sku: z.string().min(1).max(60),
    title: z.string().max(200),
    gtin: text(14),
    price: money.nullable().default(null as never),
  });

export function toListing<M>(
  l: { sku: string; title: string; gtin: string; price: M | null },
  minor: (money: M) => number,
): ReceivedListing {
  return {
    channelSku: l.sku,
    title: l.title || l.sku,
    gtin: l.gtin ? canonicalCode(l.gtin) : '',
    priceMinor: l.price === null ? null : minor(l.price),
  };
}

/** The number of an order that could not be read, if it has one. */
export const numberOf = (raw: unknown): string => {
  const number = (raw as { number?: unknown } | null)?.number;
  return typeof number === 'string' ? number : '';
};
/** The SKU of a listing that could not be read. */
export const skuOf = (raw: unknown): string => {
  const sku = (raw as { sku?: unknown } | null)?.sku;
  return typeof sku === 'string' ? sku : '';
};
