import type { ZodType } from 'zod';
import { askOutside, LeadsInside } from '../http/outside.js';
import { readBounded, TooLarge } from '../http/readBounded.js';
import { type ChannelAdapter, type ChannelAddress, ChannelTrouble, type Unreadable } from './adapter.js';

const PATIENCE_MS = 8_000;
const MOST_BYTES = 20_000_000;
/** How long to wait when a channel says "too often" and not how long. */
const BUSY_MS = 30_000;
/** Longest wait that a channel may ask for. */
const LONGEST_MS = 3_600_000;

/** Asks a channel over HTTP with its key and reads the answer by a schema. Everything that goes wrong is a ChannelTrouble with a sentence. */
export async function askChannel<T>(
  at: ChannelAddress,
  path: string,
  schema: ZodType<T>,
  body?: unknown,
): Promise<T> {
  const text = await fetchText(at, path, body);
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch {
    throw new ChannelTrouble(`${at.name} sent an answer that is cut off or no JSON.`);
  }
  const read = schema.safeParse(json);
  if (!read.success)
    throw new ChannelTrouble(
      `${at.name} sent an answer of another form: ${read.error.issues[0]!.path.join('.')} ${read.error.issues[0]!.message}.`,
    );
  return read.data;
}

async function fetchText(at: ChannelAddress, path: string, body: unknown): Promise<string> {
  try {
    const response = await askOutside(`${at.address.replace(/\/$/, '')}/${path}`, {
      method: body === undefined ? 'GET' : 'POST',
      headers: {
        authorization: `Bearer ${at.key}`,
        ...(body === undefined ? {} : { 'content-type': 'application/json' }),
      },
      signal: AbortSignal.timeout(PATIENCE_MS),
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
    });
    const text = await readBounded(response, MOST_BYTES);
    refuse(at, response);
    return text;
  } catch (error) {
    if (error instanceof ChannelTrouble) throw error;
    if (error instanceof LeadsInside)
      throw new ChannelTrouble(`${at.name} cannot be asked: ${error.message}`);
    if (error instanceof TooLarge) throw new ChannelTrouble(`${at.name} sent an answer that is too large.`);
    const late = error instanceof Error && error.name === 'TimeoutError';
    throw new ChannelTrouble(
      late
        ? `${at.name} did not answer within ${PATIENCE_MS / 1000} seconds.`
        : `${at.name} cannot be reached at ${at.address}.`,
    );
  }
}

function refuse(at: ChannelAddress, response: Pick<Response, 'ok' | 'status' | 'headers'>): void {
  if (response.ok) return;
  if (response.status === 429 || response.status === 503)
    throw new ChannelTrouble(
      `${at.name} asks us to wait (${response.status}).`,
      retryAfter(response.headers.get('retry-after'), Date.now()),
    );
  if (response.status === 401 || response.status === 403)
    throw new ChannelTrouble(`${at.name} refuses the key (${response.status}). Correct it in Setup.`);
  throw new ChannelTrouble(`${at.name} answered ${response.status}.`);
}

/** Milliseconds that a Retry-After header asks for: seconds, or a date (RFC 9110, 10.2.3). */
export function retryAfter(header: string | null, now: number): number {
  const ms =
    header === null
      ? Number.NaN
      : /^\d+$/.test(header.trim())
        ? Number(header) * 1000
        : Date.parse(header) - now;
  return Number.isFinite(ms) ? Math.min(LONGEST_MS, Math.max(0, ms)) : BUSY_MS;
}

/** Reads entries one by one, so that one of another form is named and the others go on. */
export function readEach<W, T>(
  entries: readonly unknown[],
  schema: ZodType<W>,
  numberOf: (raw: unknown) => string,
  translate: (wire: W) => T,
): { items: T[]; unreadable: Unreadable[] } {
  const items: T[] = [];
  const unreadable: Unreadable[] = [];
  for (const raw of entries) {
    const read = schema.safeParse(raw);
    try {
      if (!read.success)
        throw new Error(`${read.error.issues[0]!.path.join('.')}: ${read.error.issues[0]!.message}`);
      items.push(translate(read.data));
    } catch (error) {
      unreadable.push({
        number: numberOf(raw).slice(0, 60) || 'without a number',
        why: (error as Error).message.slice(0, 400),
        body: raw,
      });
    }
  }
  return { items, unreadable };
}

/** How all stand-ins take it when a parcel left or came back. */
export const tellings = (
  at: ChannelAddress,
  schema: ZodType<unknown>,
): Pick<ChannelAdapter, 'tellTracking' | 'tellReturn'> => ({
  async tellTracking(told) {
    await askChannel(at, 'tracking', schema, told);
  },
  async tellReturn(told) {
    await askChannel(at, 'returned', schema, told);
  },
});
