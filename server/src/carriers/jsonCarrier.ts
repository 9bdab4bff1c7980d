import type { ZodType } from 'zod';
import {
  answered,
  askCarrier,
  type CarrierQuestion,
  isSilence,
  jsonOf,
  refusedBy,
  senseless,
} from './askCarrier.js';
import type { Asked, CarrierAddress } from './carrier.js';

/** How a carrier that speaks JSON says no: with which status, and where its words stand. */
export interface Refusals {
  status: number;
  words: string;
}

/** Asks a carrier that speaks JSON and reads the answer by a form; `missing` is what its 404 means, where that means something. */
export async function askJson<T>(
  at: CarrierAddress,
  question: Omit<CarrierQuestion, 'body' | 'type'> & { body?: unknown },
  form: ZodType<T>,
  refusals: Refusals,
  missing?: () => T,
): Promise<Asked<T>> {
  const { body, ...rest } = question;
  const raw = await askCarrier(at, { ...rest, ...(body !== undefined && { body: JSON.stringify(body) }) });
  if (isSilence(raw)) return raw;
  if (raw.status === 404 && missing) return answered(missing());
  const json = jsonOf(raw) as Record<string, unknown> | null;
  const words = json?.[refusals.words];
  if (raw.status === refusals.status && typeof words === 'string') return refusedBy(at, words);
  const good = raw.status < 300 ? form.safeParse(json) : null;
  return good?.success ? answered(good.data) : senseless(at, raw);
}
