import type { LiveMessage } from '@auk/contract';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { type House, openHouse } from './house.js';

let house: House;
let cookie = '';
beforeAll(async () => {
  house = await openHouse('small');
  const response = await fetch(`${house.url}/api/v1/people/sign-in`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ badge: 'AB-1001', pin: '2468' }),
  });
  cookie = response.headers.get('set-cookie')!.split(';')[0]!;
});
afterAll(() => house.close());

/** Listens to a server, from now or after a position, until enough was told. */
function listen(url: string, after: number | null) {
  const gone = new AbortController();
  const told: LiveMessage[] = [];
  const opened = fetch(`${url}/api/v1/live`, {
    headers: { cookie, ...(after === null ? {} : { 'last-event-id': String(after) }) },
    signal: gone.signal,
  });
  void (async () => {
    let text = '';
    try {
      for await (const chunk of (await opened).body!) {
        text += new TextDecoder().decode(chunk);
        const events = text.split('\n\n');
        text = events.pop()!;
        for (const e of events) {
          const data = /^data: (.*)$/m.exec(e)?.[1];
          if (data) told.push(JSON.parse(data) as LiveMessage);
        }
      }
    } catch {
      // Hung up.
    }
  })();
  return {
    opened,
    told,
    hangUp: () => gone.abort(),
    until: (n: number) => expect.poll(() => told.length, { timeout: 10_000 }).toBeGreaterThanOrEqual(n),
  };
}
const tell = (ref: string) => house.db.tx({ personId: null, at: new Date() }, tx => tx.tell('stock', ref));
const newest = async () =>
  (await house.db.one<{ n: number }>('SELECT COALESCE(MAX(position), 0) AS n FROM outbox'))!.n;
const settled = () =>
  expect
    .poll(
      async () =>
        (await house.db.one<{ n: number }>('SELECT COUNT(*) AS n FROM outbox WHERE position IS NULL'))!.n,
    )
    .toBe(0);

test('who comes back with the last position is told what was missed, in order and once', async () => {
  await settled();
  const first = listen(house.url, await newest());
  await first.opened;
  await tell('one');
  await first.until(1);
  expect(first.told.map(m => m.ref)).toEqual(['one']);
  const last = first.told.at(-1)!.id;
  first.hangUp();
  for (const ref of ['two', 'three', 'four']) await tell(ref);
  await settled();
  const again = listen(house.url, last);
  await again.until(3);
  await tell('five');
  await again.until(4);
  again.hangUp();
  expect(again.told.map(m => m.ref)).toEqual(['two', 'three', 'four', 'five']);
  expect(again.told.map(m => m.id)).toEqual([1, 2, 3, 4].map(n => last + n));
});

test('what commits late is told late, and never lost behind what was faster', async () => {
  await settled();
  const listener = listen(house.url, await newest());
  await listener.opened;
  let commit!: () => void;
  const held = new Promise<void>(resolve => {
    commit = resolve;
  });
  const slow = house.db.tx({ personId: null, at: new Date() }, async tx => {
    await tx.tell('stock', 'slow');
    await held;
  });
  await tell('fast');
  await listener.until(1);
  expect(listener.told.map(m => m.ref)).toEqual(['fast']);
  commit();
  await slow;
  await listener.until(2);
  listener.hangUp();
  expect(listener.told.map(m => m.ref)).toEqual(['fast', 'slow']);
  expect(listener.told[1]!.id).toBe(listener.told[0]!.id + 1);
});

test('who is too far behind, or ahead of a house put back from a backup, is told to ask everything anew', async () => {
  await tell('something');
  await settled();
  await house.db.run('DELETE FROM outbox WHERE position < ?', [await newest()]);
  const anew = [{ id: await newest(), topic: 'all', ref: '' }];
  for (const position of [1, (await newest()) + 5]) {
    const far = listen(house.url, position);
    await far.until(1);
    far.hangUp();
    expect(far.told).toEqual(anew);
  }
});

test('two servers tell the same positions; when the one that gives them ends, the other goes on', async () => {
  const other = await house.secondServer();
  await settled();
  const from = await newest();
  const [a, b] = [listen(house.url, from), listen(other.url, from)];
  await Promise.all([a.opened, b.opened]);
  for (let i = 0; i < 20; i++) await tell(`n${i}`);
  await Promise.all([a.until(20), b.until(20)]);
  expect(b.told).toEqual(a.told);
  // The lease of the first server is taken from it, as when it hangs.
  await house.db.run(
    "UPDATE lease SET owner = UUID(), until = NOW(3) - INTERVAL 1 SECOND WHERE name = 'live sequence'",
  );
  for (let i = 0; i < 20; i++) await tell(`m${i}`);
  await Promise.all([a.until(40), b.until(40)]);
  expect(b.told).toEqual(a.told);
  expect(a.told.map(m => m.id)).toEqual(a.told.map((_, i) => a.told[0]!.id + i));
  a.hangUp();
  b.hangUp();
  await other.close();
});
