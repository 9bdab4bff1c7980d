import { askOutside, LeadsInside } from '../http/outside.js';
import { readBounded, TooLarge } from '../http/readBounded.js';
import type { Asked, CarrierAddress } from './carrier.js';

/** Longest wait for prices and questions, and for a purchase. */
export const QUESTION_MS = 2_500;
export const PURCHASE_MS = 4_000;
/** Longest answer that is read, in bytes. */
const MOST_BYTES = 1_000_000;

export interface CarrierQuestion {
  method: string;
  path: string;
  ms: number;
  type?: string;
  body?: string;
}

/** An answer as it came, not yet understood. */
export interface RawAnswer {
  status: number;
  text: string;
}

/** Asks a carrier over HTTP; what is late, broken or too long is silence with a sentence. */
export async function askCarrier(
  at: CarrierAddress,
  question: CarrierQuestion,
): Promise<RawAnswer | Silence> {
  const { method, path, ms, type = 'application/json', body } = question;
  try {
    const response = await askOutside(`${at.address}/${path}`, {
      method,
      headers: { 'content-type': type, ...(at.key && { authorization: `Bearer ${at.key}` }) },
      signal: AbortSignal.timeout(ms),
      ...(body !== undefined && { body }),
    });
    return { status: response.status, text: await readBounded(response, MOST_BYTES) };
  } catch (error) {
    if (error instanceof LeadsInside) return silent(`${at.name} cannot be asked: ${error.message}`);
    if (error instanceof TooLarge) return silent(`${at.name} answered more than can be read.`);
    return silent(
      (error as Error).name === 'TimeoutError'
        ? `${at.name} did not answer within ${ms / 1000} s.`
        : `${at.name} cannot be reached.`,
    );
  }
}

export type Silence = Extract<Asked<never>, { kind: 'silent' }>;

export const silent = (why: string): Silence => ({ kind: 'silent', why });
export const answered = <T>(value: T): Asked<T> => ({ kind: 'answered', value });
export const refusedBy = (at: CarrierAddress, words: string): Asked<never> => ({
  kind: 'refused',
  why: `${at.name} says: ${words.slice(0, 200)}`,
});
export const senseless = (at: CarrierAddress, { status }: RawAnswer): Silence =>
  silent(`${at.name} answered something that makes no sense (${status}).`);
export const isSilence = (raw: RawAnswer | Silence): raw is Silence => 'kind' in raw;

/** JSON of an answer; null when it is none. */
export function jsonOf({ text }: RawAnswer): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
}
