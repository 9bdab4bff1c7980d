import { afterEach, expect, test, vi } from 'vitest';
import { z } from 'zod';
import { get, post, Refused, send, Unreached, wordsOf } from './api.js';

const Answer = z.object({ n: z.number() });
afterEach(() => vi.unstubAllGlobals());

/** A network that answers as it is told; gives what was asked. */
function network(answer: (request: Request) => Response | Promise<Response>) {
  const asked: Request[] = [];
  vi.stubGlobal('fetch', (path: string, init: RequestInit) => {
    const request = new Request(`http://auk.test${path}`, init);
    asked.push(request);
    return Promise.resolve(answer(request));
  });
  return asked;
}
const problem = (status: number, more: object = {}) =>
  new Response(
    JSON.stringify({
      type: '/problems/forbidden',
      title: 'Not now',
      status,
      detail: 'The list is closed.',
      cure: 'Take another.',
      retry: 'never',
      ...more,
    }),
    { status },
  );
const caught = (work: Promise<unknown>): Promise<unknown> =>
  work.then(
    () => null,
    (error: unknown) => error,
  );

test('what is asked goes to the first version, as JSON, or as a file', async () => {
  const asked = network(() => new Response('{"n":1}'));
  expect(await get(Answer, 'stock/7')).toEqual({ n: 1 });
  expect(await post(Answer, 'stock/7', { move: 2 })).toEqual({ n: 1 });
  await send('files', new Blob(['a,b']));
  expect(asked.map(r => [r.method, new URL(r.url).pathname, r.headers.get('content-type')])).toEqual([
    ['GET', '/api/v1/stock/7', null],
    ['POST', '/api/v1/stock/7', 'application/json'],
    ['POST', '/api/v1/files', 'application/octet-stream'],
  ]);
  expect(await asked[1]!.json()).toEqual({ move: 2 });
  expect(await asked[2]!.text()).toBe('a,b');
});

test('an answer that is none by the contract is named where answers are checked', async () => {
  network(() => new Response('{"n":"one"}'));
  expect(await caught(get(Answer, 'stock'))).toBeInstanceOf(z.ZodError);
});

test('a refusal is told in the server’s words', async () => {
  network(() => problem(422));
  const error = await caught(post(Answer, 'lists/7/close'));
  expect(error).toBeInstanceOf(Refused);
  expect(wordsOf(error)).toEqual({ says: 'The list is closed.', cure: 'Take another.' });
  expect((error as Refused).problem).toMatchObject({ status: 422, retry: 'never' });
});

test('what stands before the server and refuses in its own way is no refusal for ever', async () => {
  network(() => new Response('<h1>Bad gateway</h1>', { status: 502 }));
  const error = await caught(post(Answer, 'lists/7/close'));
  expect((error as Refused).problem).toMatchObject({ status: 502, retry: 'later' });
  network(() => problem(409, { retry: 'perhaps' }));
  expect(((await caught(get(Answer, 'x'))) as Refused).problem).toMatchObject({
    status: 409,
    retry: 'later',
  });
});

test('a network that is not there, breaks off in the middle of an answer, or answers itself is told as one', async () => {
  const broken = () =>
    new Response(
      new ReadableStream({
        start: c => {
          c.enqueue(new TextEncoder().encode('{"n":'));
          c.error(new TypeError('network error'));
        },
      }),
    );
  const answers: (() => Response | Promise<Response>)[] = [
    () => Promise.reject(new TypeError('Failed to fetch')),
    broken,
    () => new Response('<html>Sign in to the guest network</html>'),
    () => new Response('{"n":1'),
  ];
  for (const answer of answers) {
    network(answer);
    for (const work of [() => get(Answer, 'x'), () => post(Answer, 'x', {}), () => send('x', {})]) {
      const error = await caught(work());
      expect(error, answer.toString()).toBeInstanceOf(Unreached);
      expect(wordsOf(error).says).toMatch(/^[A-Z].*Auk.*\. Check .*\.$|kept\.$/);
    }
  }
});

test('a server that does not answer in time is given up', async () => {
  network(
    r =>
      new Promise((_, reject) => {
        r.signal.addEventListener('abort', () => reject(r.signal.reason));
      }),
  );
  expect(await caught(post(Answer, 'scans', {}, 5))).toBeInstanceOf(Unreached);
});

test('nothing is an answer where nothing is promised', async () => {
  network(() => new Response('', { status: 200 }));
  await send('orders/7/note', { text: 'x' });
});

test('any other error has words too', () => {
  expect(wordsOf(new Error('Out of paper.'))).toEqual({ says: 'Out of paper.', cure: 'Try again.' });
  expect(wordsOf('odd')).toEqual({ says: 'Something went wrong.', cure: 'Try again.' });
});
