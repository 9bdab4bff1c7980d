import { PROBLEMS } from '@auk/contract';
import { seeded } from '@auk/core';
import { type Dispatcher, request } from 'undici';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { InboundDemo } from '../src/demo/inbound.js';
import { type JsonSchema, OpenApi, type Operation } from '../src/docs/docs.module.js';
import { differences, type House, openHouse } from './house.js';
import { MadeUp, poolsOf } from './madeUp.js';

/** So many requests are made up for each endpoint; `npm run check:long` makes 2,000. */
const REQUESTS = Number(process.env.AUK_REQUESTS ?? 100);
/** Longest that any of them may take, in milliseconds. */
const LONGEST = 2_000;
const SEED = Number(process.env.AUK_SEED ?? 15);
/** Of how many parts of the endpoints which one is asked, as "1/2": so that the long run may use several cores. */
const [PART, PARTS] = (process.env.AUK_PART ?? '1/1').split('/').map(Number) as [number, number];

let house: House;
let operations: Operation[];
let forms: Record<string, JsonSchema>;
let pinHash: string;
let cookie: string;
beforeAll(async () => {
  house = await openHouse('small');
  // Shipments in every stage, so that what is asked of them finds some.
  const late = new Date(Date.now() + 3 * 86_400_000).toISOString().slice(0, 10);
  await house.app
    .get(InboundDemo)
    .load(`http://127.0.0.1:${house.standinsPort}`, { personId: null, at: new Date() }, late);
  house.standins.scale.set(new URLSearchParams('weight=2&unit=lb&mood=still'));
  const api = house.app.get(OpenApi);
  operations = api.operations().filter(o => o.answer !== 'events' && !/PeopleController\.sign/.test(o.id));
  expect(operations.length).toBeGreaterThan(300);
  operations = operations.filter((_, at) => at % PARTS === PART - 1);
  const person = await house.db.one<{ pinHash: string }>(
    "SELECT pinHash FROM person WHERE badge = 'AB-1005'",
  );
  pinHash = person!.pinHash;
  cookie = await signIn();
  forms = (api.document() as { components: { schemas: typeof forms } }).components.schemas;
});
afterAll(() => house.close());

interface Made {
  operation: Operation;
  path: string;
  body: string | Uint8Array | undefined;
  type: string;
}

/** Files that are, or are not, what they say. */
const FILES: [type: string, bytes: string | Uint8Array][] = [
  ['text/csv', 'Order number,SKU,Qty\n1,2,3\n'],
  ['text/csv', 'a;b\n"'],
  ['text/csv', new Uint8Array([0xff, 0xfe, 0, 0x41])],
  ['image/png', new Uint8Array([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a, 1, 2, 3])],
  ['image/png', '<svg xmlns="http://www.w3.org/2000/svg"><script>1</script></svg>'],
  ['image/jpeg', new Uint8Array([0xff, 0xd8, 0xff, 0xe0, 9, 9])],
  ['application/zip', new Uint8Array([0x50, 0x4b, 3, 4, 0, 0, 0, 0, 8, 8])],
  ['application/pdf', '%PDF-1.7'],
  ['application/json', '{"a":'],
  ['application/json', '[]'],
  ['text/plain', ''],
];

function make(o: Operation, up: MadeUp): Made {
  const path = up.path(o);
  if (o.method === 'get') return { operation: o, path, body: undefined, type: 'application/json' };
  if (o.body && up.chance(0.97))
    return { operation: o, path, body: JSON.stringify(up.body(o.body)), type: 'application/json' };
  if (up.chance(0.6)) return { operation: o, path, body: up.table(path), type: 'text/csv' };
  const [type, bytes] = up.any(FILES);
  return { operation: o, path, body: bytes, type };
}

interface Answered extends Made {
  status: number;
  ms: number;
  text: string;
}

const told = (a: Answered) =>
  `${a.operation.method} ${a.path} ${String(a.body).slice(0, 600)} -> ${a.status} in ${Math.round(a.ms)} ms: ${a.text.slice(0, 300)}`;

async function ask(made: Made, cookie: string): Promise<Answered> {
  const began = performance.now();
  const { statusCode, body } = await request(house.url + made.path, {
    method: made.operation.method.toUpperCase() as Dispatcher.HttpMethod,
    headers: { cookie, 'content-type': made.type },
    ...(made.body !== undefined && { body: made.body }),
  });
  const text = await body.text();
  return { ...made, status: statusCode, ms: performance.now() - began, text };
}

/** A refusal is a problem with what, why and cure, of the status that its kind has. */
function isProblem({ status, text }: Answered): boolean {
  const { type, detail, cure } = JSON.parse(text);
  const kind = String(type).replace('/problems/', '') as keyof typeof PROBLEMS;
  return PROBLEMS[kind]?.status === status && detail.length > 5 && cure.length > 3;
}

/** Who may do everything. What is made up may retire them or give them another PIN: then they are let in again. */
async function signIn(): Promise<string> {
  await house.db.run("UPDATE person SET active = TRUE, role = 'admin', pinHash = ? WHERE badge = 'AB-1005'", [
    pinHash,
  ]);
  await house.db.run('DELETE FROM signInTry');
  return (await house.signIn('AB-1005')).cookie;
}

/** Asks four at once of what is made up; whoever was signed out by it signs in and asks again. */
async function askFour(four: readonly Made[]): Promise<Answered[]> {
  const answers = await Promise.all(four.map(m => ask(m, cookie)));
  if (answers.every(a => a.status !== 401)) return answers;
  cookie = await signIn();
  const left = answers.filter(a => a.status === 401);
  return [...answers.filter(a => a.status !== 401), ...(await Promise.all(left.map(a => ask(a, cookie))))];
}

test(`${REQUESTS} requests that are made up for every endpoint: none is the server's fault, none takes over two seconds, and the data is whole`, async () => {
  const up = new MadeUp(forms, await poolsOf(house), seeded(SEED));
  const faults: string[] = [];
  const slow: Answered[] = [];
  let done = 0;
  for (const [at, o] of operations.entries()) {
    if (at % 20 === 0) up.pools = await poolsOf(house);
    for (let i = 0; i < REQUESTS; i += 4) {
      for (const a of await askFour(Array.from({ length: Math.min(4, REQUESTS - i) }, () => make(o, up)))) {
        if (a.status >= 500 || (a.status >= 400 && !isProblem(a))) faults.push(told(a));
        if (a.status < 300) done++;
        if (a.ms > LONGEST) slow.push(a);
      }
    }
  }
  // A run may take an hour: all that it has to say is said.
  expect.soft(faults.join('\n')).toBe('');
  // Enough of them were understood and done for the rest to mean something.
  expect.soft(done).toBeGreaterThan(operations.length * REQUESTS * 0.25);
  expect.soft(await differences(house)).toEqual([]);
  // A machine may stand still for a while: what was slow among others is asked anew, alone, and its best of three counts.
  const again = [];
  for (const a of slow) {
    let best = await ask(a, cookie);
    for (let i = 0; i < 2 && best.ms > LONGEST; i++) best = await ask(a, cookie);
    again.push(best);
  }
  expect(
    again
      .filter(a => a.ms > LONGEST)
      .map(told)
      .join('\n'),
  ).toBe('');
}, 14_400_000);
