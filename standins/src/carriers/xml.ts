import {
  type CarrierBought,
  CarrierBuy,
  CarrierCollect,
  type CarrierCollected,
  CarrierDayEnd,
  type CarrierManifest,
  CarrierParcel,
  type CarrierQuote,
  type CarrierTracked,
} from '@auk/contract';
import { XMLBuilder, XMLParser } from 'fast-xml-parser';
import { type Counter, type CounterAnswer, isRefused, sold, tracked } from './counter.js';
import type { Refused } from './desk.js';

const parser = new XMLParser({
  ignoreAttributes: false,
  attributeNamePrefix: '',
  parseTagValue: false,
  parseAttributeValue: false,
  isArray: name => name === 'Line' || name === 'Number',
});
const builder = new XMLBuilder({
  ignoreAttributes: false,
  attributeNamePrefix: '@',
  suppressEmptyNode: true,
});
const xml = (status: number, root: object): CounterAnswer => ({
  status,
  type: 'application/xml',
  body: `<?xml version="1.0" encoding="UTF-8"?>${builder.build(root)}`,
});
const fault = (why: string) => xml(422, { Fault: { Reason: why } });

interface PackageXml {
  shipDay: string;
  account?: string;
  From: { postcode: string; country: string };
  To: { postcode: string; country: string; residential: string; Line?: string[] };
  Size: { length: string; width: string; height: string };
  Weight: { mg: string };
  Extras?: Record<string, string>;
}

/** Lengths are tenths of a millimetre, weights milligrams, money minor units, as text. */
function packageOf(p: PackageXml) {
  const { signature, saturday, dropOff, toPoint, cashMinor, valueMinor } = p.Extras ?? {};
  return CarrierParcel.parse({
    from: p.From,
    to: {
      postcode: p.To.postcode,
      country: p.To.country,
      residential: p.To.residential === 'yes',
      lines: p.To.Line ?? [],
    },
    size: { length: +p.Size.length, width: +p.Size.width, height: +p.Size.height },
    weightMg: +p.Weight.mg,
    shipDay: p.shipDay,
    account: p.account ?? '',
    options: {
      ...(signature && { signature: true }),
      ...(saturday && { saturday: true }),
      ...(dropOff && { dropOff: true }),
      ...(toPoint && { toPoint: true }),
      ...(cashMinor && { cashMinor: +cashMinor }),
      ...(valueMinor && { valueMinor: +valueMinor }),
    },
  });
}

function boughtXml(got: CarrierBought | Refused): CounterAnswer {
  if (isRefused(got)) return fault(got.refused);
  const { picture, refundMinor, ...bought } = got;
  const attributes = Object.fromEntries(Object.entries(bought).map(([k, v]) => [`@${k}`, String(v)]));
  return xml(200, {
    Shipped: {
      ...attributes,
      ...(refundMinor !== undefined && { '@refundMinor': String(refundMinor) }),
      ...(picture && { Picture: picture }),
    },
  });
}

function ratesXml(got: CarrierQuote[] | Refused): CounterAnswer {
  if (isRefused(got)) return fault(got.refused);
  const service = (q: CarrierQuote) => ({
    '@code': q.service,
    '@name': q.name,
    '@quote': q.quoteId,
    '@minor': q.minor,
    '@currency': q.currency,
    '@zone': q.zone,
    '@days': q.days,
    '@arrives': q.arrives,
    Billed: { '@mg': q.billable.mg, '@as': q.billable.says, '@by': q.billable.why },
    Charge: q.charges.map(c => ({ '@minor': c.minor, '@name': c.name })),
  });
  return xml(200, { Rates: { Service: got.map(service) } });
}

function trackXml({ tracking, expected, events }: CarrierTracked): object {
  const event = (e: object) => Object.fromEntries(Object.entries(e).map(([k, v]) => [`@${k}`, v as string]));
  return { '@number': tracking, ...(expected && { '@expected': expected }), Event: events.map(event) };
}

/** Speaks XML: `rate`, `ship`, `ship/KEY`, `void`. A shipment has a key, and it draws its labels itself. */
export const xmlCounter: Counter = (desk, { method, path, body }) => {
  const [what, key = ''] = path.split('/');
  if (method === 'GET' && what === 'ship')
    return {
      on: 'find',
      refuse: fault,
      act: () => {
        const found = desk.find(key);
        return found ? boughtXml(found) : xml(404, { Unknown: '' });
      },
    };
  if (method !== 'POST') return null;
  const root = parser.parse(body) as {
    Rate?: { Package: PackageXml };
    Ship?: Record<string, string> & { Package: PackageXml };
    Void?: { key: string };
    Track?: { Number?: string[] };
    Collect?: Record<string, string>;
    Close?: { key: string; at: string; Number?: string[] };
  };
  if (what === 'rate' && root.Rate) {
    const asked = packageOf(root.Rate.Package);
    return { on: 'quote', refuse: fault, act: () => ratesXml(desk.quotes(asked)) };
  }
  if (what === 'ship' && root.Ship) {
    const { Package, ...ship } = root.Ship;
    const order = CarrierBuy.parse({
      key: ship.key,
      quoteId: ship.quote ?? '',
      minor: Number(ship.minor),
      service: ship.service,
      reference: ship.reference,
      parcel: packageOf(Package),
    });
    return { on: 'buy', refuse: fault, act: async trick => boughtXml(await sold(desk, order, trick)) };
  }
  const { Track, Collect, Close } = root;
  if (what === 'track' && Track) {
    return {
      on: 'track',
      refuse: fault,
      act: () => xml(200, { Tracks: { Track: tracked(desk, Track.Number ?? []).map(trackXml) } }),
    };
  }
  if (what === 'collect' && Collect) {
    const { parcels, weightMg, ...rest } = Collect;
    const wish = CarrierCollect.parse({ ...rest, parcels: Number(parcels), weightMg: Number(weightMg) });
    const booked = (b: CarrierCollected) => ({ Collection: { '@key': b.key, '@reference': b.reference } });
    return { on: 'collect', refuse: fault, act: () => xml(200, booked(desk.collect(wish))) };
  }
  if (what === 'close' && Close) {
    const day = CarrierDayEnd.parse({ key: Close.key, at: Close.at, trackings: Close.Number ?? [] });
    const ended = ({ key, manifest, unknown }: CarrierManifest) => ({
      Manifest: { '@key': key, '@number': manifest, Strange: unknown },
    });
    return { on: 'day end', refuse: fault, act: () => xml(200, ended(desk.endDay(day))) };
  }
  if (what === 'void' && root.Void) {
    const { key } = root.Void;
    return {
      on: 'void',
      refuse: fault,
      act: () => {
        const got = desk.takeBack(key);
        return isRefused(got)
          ? fault(got.refused)
          : xml(200, { Voided: { '@refundMinor': got.refundMinor } });
      },
    };
  }
  return null;
};
