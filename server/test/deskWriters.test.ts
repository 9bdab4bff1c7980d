import { seeded } from '@auk/core';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { bringIn, listAndPick } from './drive.js';
import { type Caller, differences, type House, openHouse } from './house.js';

let house: House;
let people: Caller[];
beforeAll(async () => {
  house = await openHouse('small');
  people = await Promise.all(['AB-1001', 'AB-1004', 'AB-1005', 'AB-1001'].map(b => house.signIn(b)));
});
afterAll(() => house.close());

const WRITERS = 8;
const ACTS = 25;
const SKUS = ['BOOK-1ST', 'JAR-HEX-12', 'SET-SMKHTL', 'SMK-4-ST', 'SED-CLO', 'SET-READ'];

/** One random act at the desk; answers of refusal are fine, faults of the server are not. */
async function act(who: Caller, random: () => number, numbers: string[]): Promise<number> {
  const any = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)]!;
  const { rows } = (await who.get('orders?words=busy&stage=all&size=200')).body;
  const row = any(rows as { id: string; channelNumber: string }[]);
  const { body: order } = await who.get(`orders/${row.id}`);
  const line = any(order.lines as { key: string; quantity: number }[]);
  const edit = (change: object) =>
    who.post(`orders/${row.id}/edit`, { version: order.version, undo: true, ...change });
  const answer = await any([
    () => edit({ lines: line ? [{ key: line.key, quantity: 1 + Math.floor(random() * 9) }] : [] }),
    () => edit({ lines: [{ sku: any(SKUS), quantity: 1 + Math.floor(random() * 3) }] }),
    () => edit({ lines: line ? [{ key: line.key, remove: true }] : [] }),
    () => edit({ all: { type: 'percent', ppm: -50_000 } }),
    () => edit({ shipTo: { ...order.shipTo, line1: `${Math.floor(random() * 90)} Road` } }),
    () => who.post(`orders/${row.id}/park`, { reason: 'r' }),
    () => who.post(`orders/${row.id}/unpark`, {}),
    () => who.post(`orders/${row.id}/cancel`, { reason: 'r' }),
    () => who.post('picking/lists', { orderIds: [row.id] }),
    () =>
      who.post(`orders/${row.id}/split`, {
        version: order.version,
        lines: line ? [{ key: line.key, quantity: 1 }] : [],
      }),
    () => who.post('orders/merge', { ids: [row.id, any(rows as { id: string }[]).id] }),
    () =>
      who.takeIn('orders', 'channel=web&name=x', news(any(numbers), any(SKUS), 1 + Math.floor(random() * 6))),
    () =>
      who.takeIn(
        'stock',
        'name=x',
        `SKU,Bin,Counted\n${any(['BOOK-1ST', 'JAR-HEX-12'])},H-12-3,${Math.floor(random() * 40)}\n`,
      ),
  ])();
  return answer.status;
}

const news = (number: string, sku: string, quantity: number): string =>
  `Order number,Buyer name,Address 1,City,State,Zip,SKU,Qty,Unit price\n${number},Busy Buyer,1 Road,Boise,ID,83702,${sku},${quantity},2.50\n`;

test('eight people at the desk at once: no fault, and every quantity, stage and sum follows from the facts', async () => {
  const numbers = Array.from({ length: 24 }, (_, i) => `BUSY-${i}`);
  await bringIn(
    people[0]!,
    numbers.map((n, i) => [n, SKUS[i % SKUS.length]!, 1 + (i % 5), '5.00', `Busy Buyer ${i % 6}`]),
  );
  const statuses = (
    await Promise.all(
      Array.from({ length: WRITERS }, async (_, i) => {
        const random = seeded(1_000 + i);
        const own: number[] = [];
        for (let n = 0; n < ACTS; n++) own.push(await act(people[i % people.length]!, random, numbers));
        return own;
      }),
    )
  ).flat();
  expect(statuses.filter(s => s >= 500)).toEqual([]);
  expect(statuses.filter(s => s === 200).length).toBeGreaterThan(WRITERS * ACTS * 0.3);
  expect(await differences(house)).toEqual([]);
}, 60_000);

test('after all of it the floor still works: what is Clear is listed, picked, and whole', async () => {
  const clear = (await people[0]!.get('orders?stage=Clear&size=8')).body.rows.map(
    (r: { id: string }) => r.id,
  );
  expect(clear.length).toBeGreaterThan(0);
  await listAndPick(people[0]!, clear);
  expect(await differences(house)).toEqual([]);
}, 30_000);

test('two people save the same version at the same moment: one of them is told', async () => {
  await bringIn(people[0]!, [['RACE-1', 'BOOK-1ST', 1, '5.00', 'Race Buyer']]);
  const [row] = (await people[0]!.get('orders?words=RACE-1')).body.rows;
  const { version } = (await people[0]!.get(`orders/${row.id}`)).body;
  const both = await Promise.all(
    ['first', 'second'].map((note, i) => people[i]!.post(`orders/${row.id}/edit`, { version, note })),
  );
  expect(both.map(b => b.status).sort()).toEqual([200, 409]);
});

test('an order that comes in while its listing is linked is never left behind', async () => {
  await bringIn(people[0]!, [['LATE-0', 'LATE-SKU', 1, '5.00', 'Late 0']]);
  const [listing] = (await people[0]!.get('listings?words=LATE-SKU')).body.rows;
  await Promise.all([
    people[0]!.post('listings/link', { links: [{ listingId: listing.id, sku: 'BOOK-1ST' }] }),
    ...[1, 2, 3, 4, 5].map(i => bringIn(people[i % 4]!, [[`LATE-${i}`, 'LATE-SKU', 1, '5.00', `Late ${i}`]])),
  ]);
  const { rows } = (await people[0]!.get('orders?words=LATE-&stage=all')).body;
  expect(rows).toHaveLength(6);
  expect(rows.filter((r: { stage: string }) => r.stage === 'Stopped')).toEqual([]);
});
