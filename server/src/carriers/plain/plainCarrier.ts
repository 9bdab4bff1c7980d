import {
  CarrierBought,
  type CarrierBuy,
  type CarrierParcel,
  type CarrierQuote,
  CarrierQuotes,
  CarrierRefused,
  CarrierVoided,
} from '@auk/contract';
import type { ZodType } from 'zod';
import { readBounded, TooLarge } from '../../http/readBounded.js';
import type { Asked, Carrier } from '../carrier.js';

/** Longest wait for prices, and for a purchase. */
const QUOTE_MS = 2_500;
const BUY_MS = 4_000;
/** A carrier that was asked to sell has done so, or never will, after this long. */
const LONGEST_MS = 30_000;
/** Longest answer that is read, in bytes. */
const MOST_BYTES = 1_000_000;

/** A carrier that speaks the plain JSON of contract/carriers over HTTP, as the stand-ins do. */
export class PlainCarrier implements Carrier {
  constructor(
    readonly code: string,
    readonly name: string,
    private readonly address: string,
    readonly longestMs = LONGEST_MS,
  ) {}

  async quote(parcel: CarrierParcel): Promise<Asked<CarrierQuote[]>> {
    const asked = await this.ask('POST', 'quotes', CarrierQuotes, QUOTE_MS, parcel);
    return asked.kind === 'answered' ? { kind: 'answered', value: asked.value.quotes } : asked;
  }

  buy(order: CarrierBuy): Promise<Asked<CarrierBought>> {
    return this.ask('POST', 'purchases', CarrierBought, BUY_MS, order);
  }

  takeBack(key: string): Promise<Asked<CarrierVoided>> {
    return this.ask('POST', 'voids', CarrierVoided, BUY_MS, { key });
  }

  async find(key: string): Promise<Asked<CarrierBought | null>> {
    return this.ask<CarrierBought | null>(
      'GET',
      `purchases/${key}`,
      CarrierBought,
      QUOTE_MS,
      undefined,
      () => null,
    );
  }

  private async ask<T>(
    method: string,
    path: string,
    schema: ZodType<T>,
    ms: number,
    body?: unknown,
    missing?: () => T,
  ): Promise<Asked<T>> {
    let status: number;
    let text: string;
    try {
      const response = await fetch(`${this.address}/${path}`, {
        method,
        headers: { 'content-type': 'application/json' },
        signal: AbortSignal.timeout(ms),
        ...(body === undefined ? {} : { body: JSON.stringify(body) }),
      });
      status = response.status;
      text = await readBounded(response, MOST_BYTES);
    } catch (error) {
      if (error instanceof TooLarge)
        return { kind: 'silent', why: `${this.name} answered more than can be read.` };
      const late = (error as Error).name === 'TimeoutError';
      return {
        kind: 'silent',
        why: late ? `${this.name} did not answer within ${ms / 1000} s.` : `${this.name} cannot be reached.`,
      };
    }
    if (status === 404 && missing) return { kind: 'answered', value: missing() };
    return read(this.name, status, text, schema);
  }
}

function read<T>(name: string, status: number, text: string, schema: ZodType<T>): Asked<T> {
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch {
    return { kind: 'silent', why: `${name} answered something that is not readable.` };
  }
  const refused = CarrierRefused.safeParse(json);
  if (status === 422 && refused.success)
    return { kind: 'refused', why: `${name} says: ${refused.data.refused.slice(0, 200)}` };
  const good = status < 300 ? schema.safeParse(json) : null;
  return good?.success
    ? { kind: 'answered', value: good.data }
    : { kind: 'silent', why: `${name} answered something that makes no sense (${status}).` };
}
