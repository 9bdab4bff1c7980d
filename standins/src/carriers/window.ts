import type { IncomingMessage, ServerResponse } from 'node:http';
import type { Mischief } from '@auk/contract';
import type { CarrierHabit } from '@auk/demo';
import type { Counter, CounterAnswer, Deed } from './counter.js';
import type { BuyTrick, CarrierDesk } from './desk.js';
import { freightCounter } from './freight.js';
import { keylessCounter } from './keyless.js';
import { plainCounter } from './plain.js';
import { xmlCounter } from './xml.js';

const COUNTERS: Record<CarrierHabit, Counter> = {
  plain: plainCounter,
  xml: xmlCounter,
  keyless: keylessCounter,
  freight: freightCounter,
};

const BUY_TRICKS: readonly string[] = [
  'dearer',
  'charge more',
  'wrong tracking',
  'other currency',
  'no picture',
] satisfies BuyTrick[];

/** Serves one question to a carrier in its own way of speaking, with what it was told to do wrong. */
export async function serveCarrier(
  desk: CarrierDesk,
  request: IncomingMessage,
  body: string,
  trickOf: (on: Mischief['on']) => Mischief | null,
  response: ServerResponse,
): Promise<void> {
  const url = new URL(request.url ?? '', 'http://standins.example');
  const path = url.pathname.split('/').slice(2).join('/');
  const ask = { method: request.method ?? 'GET', path, query: url.searchParams, body };
  const deed = COUNTERS[desk.carrier.habit](desk, ask);
  if (!deed) return void response.writeHead(400).end('that cannot be read here');
  const trick = trickOf(deed.on);
  if (trick?.how === 'fail before') return void response.destroy();
  if (trick?.how === 'refuse') return send(response, deed.refuse('the desk is closed today'));
  if (trick?.how === 'not found') return void response.writeHead(404).end('{}');
  const answer = await done(deed, trick);
  if (trick?.how === 'late') await new Promise(resolve => setTimeout(resolve, trick.ms));
  if (trick?.how === 'fail after') return void response.destroy();
  if (trick?.how === 'nonsense') return void response.writeHead(200).end('<<< the moon is {');
  send(response, answer);
}

/** Acts; who is told to, does it and says that it did not. */
async function done(deed: Deed, trick: Mischief | null): Promise<CounterAnswer> {
  const how = trick && BUY_TRICKS.includes(trick.how) ? (trick.how as BuyTrick) : null;
  const answer = await deed.act(how);
  return trick?.how === 'refuse after' ? deed.refuse('the desk is closed today') : answer;
}

function send(response: ServerResponse, { status, type, body }: CounterAnswer): void {
  response.writeHead(status, { 'content-type': type }).end(body);
}
