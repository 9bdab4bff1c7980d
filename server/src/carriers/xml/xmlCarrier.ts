import {
  CarrierBought,
  type CarrierBuy,
  type CarrierCollect,
  CarrierCollected,
  type CarrierDayEnd,
  CarrierManifest,
  type CarrierParcel,
  CarrierQuote,
  CarrierTracked,
  CarrierVoided,
} from '@auk/contract';
import { XMLBuilder, XMLParser } from 'fast-xml-parser';
import type { ZodType } from 'zod';
import {
  answered,
  askCarrier,
  isSilence,
  PURCHASE_MS,
  QUESTION_MS,
  refusedBy,
  senseless,
} from '../askCarrier.js';
import type { Asked, CarrierKindEntry } from '../carrier.js';
import { HttpCarrier } from '../httpCarrier.js';

const parser = new XMLParser({
  ignoreAttributes: false,
  attributeNamePrefix: '',
  parseTagValue: false,
  parseAttributeValue: false,
  isArray: name => ['Service', 'Charge', 'Track', 'Event', 'Strange'].includes(name),
});
const builder = new XMLBuilder({
  ignoreAttributes: false,
  attributeNamePrefix: '@',
  suppressEmptyNode: true,
});

interface ServiceXml {
  code: string;
  name: string;
  quote: string;
  minor: string;
  currency: string;
  zone: string;
  days: string;
  arrives: string;
  Billed: { mg: string; as: string; by: string };
  Charge: { minor: string; name: string }[];
}
type Root = Partial<{
  Fault: { Reason: string };
  Unknown: unknown;
  Rates: { Service: ServiceXml[] };
  Shipped: Record<string, string> & { Picture?: string };
  Voided: { refundMinor: string };
  Tracks: { Track?: { number: string; expected?: string; Event?: Record<string, string>[] }[] } | '';
  Collection: Record<string, string>;
  Manifest: { key: string; number: string; Strange?: string[] };
}>;

/** A carrier that speaks XML: rates, shipments with a key, voids. It sends labels that it has drawn. */
class XmlCarrier extends HttpCarrier {
  readonly keyed = true;

  quote(parcel: CarrierParcel): Promise<Asked<CarrierQuote[]>> {
    return this.ask(
      'POST',
      'rate',
      QUESTION_MS,
      CarrierQuote.array(),
      root => root.Rates?.Service.map(quoteOf),
      {
        Rate: { Package: packageOf(parcel) },
      },
    );
  }

  buy({ key, minor, service, reference, quoteId, parcel }: CarrierBuy): Promise<Asked<CarrierBought>> {
    const ship = {
      '@key': key,
      '@minor': minor,
      '@service': service,
      '@reference': reference,
      '@quote': quoteId,
    };
    return this.ask('POST', 'ship', PURCHASE_MS, CarrierBought, boughtOf, {
      Ship: { ...ship, Package: packageOf(parcel) },
    });
  }

  takeBack(key: string): Promise<Asked<CarrierVoided>> {
    const read = (root: Root) => root.Voided && { key, refundMinor: Number(root.Voided.refundMinor) };
    return this.ask('POST', 'void', PURCHASE_MS, CarrierVoided, read, { Void: { '@key': key } });
  }

  find(key: string): Promise<Asked<CarrierBought | null>> {
    const read = (root: Root) => ('Unknown' in root ? null : boughtOf(root));
    return this.ask('GET', `ship/${key}`, QUESTION_MS, CarrierBought.nullable(), read);
  }

  track(trackings: readonly string[]): Promise<Asked<CarrierTracked[]>> {
    const read = ({ Tracks }: Root) => (Tracks === undefined ? undefined : tracksOf(Tracks));
    return this.ask('POST', 'track', QUESTION_MS, CarrierTracked.array(), read, {
      Track: { Number: trackings },
    });
  }

  collect(collection: CarrierCollect): Promise<Asked<CarrierCollected>> {
    const wish = Object.fromEntries(Object.entries(collection).map(([k, v]) => [`@${k}`, String(v)]));
    const read = ({ Collection }: Root) => Collection;
    return this.ask('POST', 'collect', PURCHASE_MS, CarrierCollected, read, { Collect: wish });
  }

  endDay({ key, at, trackings }: CarrierDayEnd): Promise<Asked<CarrierManifest>> {
    const read = ({ Manifest }: Root) =>
      Manifest && { key: Manifest.key, manifest: Manifest.number, unknown: Manifest.Strange ?? [] };
    return this.ask('POST', 'close', PURCHASE_MS, CarrierManifest, read, {
      Close: { '@key': key, '@at': at, Number: trackings },
    });
  }

  private async ask<T>(
    method: string,
    path: string,
    ms: number,
    form: ZodType<T>,
    read: (root: Root) => unknown,
    document?: object,
  ): Promise<Asked<T>> {
    const body = document && { body: builder.build(document), type: 'application/xml' };
    const raw = await askCarrier(this.at, { method, path, ms, ...body });
    if (isSilence(raw)) return raw;
    let root: Root;
    // Entities of its own would let an answer grow in the reading.
    if (raw.text.includes('<!DOCTYPE')) return senseless(this.at, raw);
    try {
      root = parser.parse(raw.text, true) as Root;
      if (typeof root.Fault?.Reason === 'string' && raw.status === 422)
        return refusedBy(this.at, root.Fault.Reason);
      const good = form.safeParse(read(root));
      return good.success ? answered(good.data) : senseless(this.at, raw);
    } catch {
      return senseless(this.at, raw);
    }
  }
}

function packageOf({ from, to, size, weightMg, shipDay, account, options }: CarrierParcel): object {
  const attributes = (o: object) =>
    Object.fromEntries(
      Object.entries(o)
        .filter(([, v]) => v !== undefined && v !== false)
        .map(([k, v]) => [`@${k}`, v === true ? 'yes' : String(v)]),
    );
  const { lines, residential, ...whereto } = to;
  return {
    '@shipDay': shipDay,
    '@account': account,
    From: attributes(from),
    To: { ...attributes({ ...whereto, residential: residential ? 'yes' : 'no' }), Line: lines },
    Size: attributes(size),
    Weight: { '@mg': weightMg },
    Extras: attributes(options),
  };
}

const quoteOf = (s: ServiceXml): unknown => ({
  quoteId: s.quote,
  service: s.code,
  name: s.name,
  minor: Number(s.minor),
  currency: s.currency,
  charges: s.Charge.map(c => ({ name: c.name, minor: Number(c.minor) })),
  billable: { mg: Number(s.Billed.mg), says: s.Billed.as, why: s.Billed.by },
  zone: s.zone,
  days: Number(s.days),
  arrives: s.arrives,
});

function boughtOf({ Shipped }: Root): unknown {
  if (!Shipped) return undefined;
  const { Picture, minor, refundMinor, ...bought } = Shipped;
  return {
    ...bought,
    minor: Number(minor),
    ...(refundMinor !== undefined && { refundMinor: Number(refundMinor) }),
    ...(Picture && { picture: Picture }),
  };
}

const tracksOf = (tracks: NonNullable<Root['Tracks']>): unknown =>
  (tracks === '' ? [] : (tracks.Track ?? [])).map(t => ({
    tracking: t.number,
    expected: t.expected ?? null,
    events: t.Event ?? [],
  }));

export const XML_CARRIER: CarrierKindEntry = {
  kind: 'xml',
  name: 'XML with keys',
  about: 'Speaks XML; a shipment has a key of ours. It draws its own labels.',
  open: at => new XmlCarrier(at),
};
