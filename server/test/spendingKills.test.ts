import type { CarrierBought } from '@auk/contract';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { Labels } from '../src/labels/labels.service.js';
import { Rounds } from '../src/leases/rounds.service.js';
import { bringIn, idOfOrder, listAndPick, packAndClose } from './drive.js';
import { type Caller, differences, type House, openHouse } from './house.js';
import { serveProcess } from './processes.js';
import { bookOf, saveBook } from './ruleBooks.js';

/** So many servers are killed while they buy unattended; `npm run check:long` kills 200. */
const KILLS = Number(process.env.AUK_KILLS ?? 6);
/** Where a server dies at the carrier's counter. */
const MOMENTS = ['before it is sold', 'sold', 'answered'] as const;

let house: House;
let lead: Caller;
beforeAll(async () => {
  house = await openHouse('small');
  lead = await house.signIn('AB-1001');
  await saveBook(
    lead,
    bookOf(
      'By ground | at arrival, always do send by "redfen ground"',
      'Alone | at packed, always do buy its label unattended',
    ),
  );
});
afterAll(() => house.close());

const desk = () => house.standins.desks.get('redfen')!;
const sold = () => desk().books.all();

let count = 0;
/** Parcels that are packed, each of an order of its own; gives what a label of one costs. */
async function packed(n: number): Promise<{ no: string; minor: number }[]> {
  const numbers = Array.from({ length: n }, () => `SK-${++count}`);
  await bringIn(
    lead,
    numbers.map(x => [x, 'FRK-UNC', 1, '9.00']),
  );
  const ids = await Promise.all(numbers.map(x => idOfOrder(lead, x)));
  await listAndPick(lead, ids);
  const parcels = [];
  for (const id of ids) {
    const { parcelNo } = await packAndClose(lead, (await lead.get(`orders/${id}`)).body.row.no);
    const { offers } = (await lead.get(`parcels/${parcelNo}/offers`)).body;
    parcels.push({ no: parcelNo, minor: offers[0].houseMinor });
  }
  return parcels;
}

/** Kills the server at the counter, once; resolves when it did. */
function killedAt(moment: (typeof MOMENTS)[number], kill: () => void) {
  const { buy } = desk();
  let died = () => {};
  const dead = new Promise<void>(resolve => {
    died = resolve;
  });
  const end = () => {
    kill();
    died();
  };
  desk().buy = (order, trick, again) => {
    if (moment === 'before it is sold') {
      end();
      return { refused: 'nobody is there any more' };
    }
    const got = buy.call(desk(), order, trick, again) as CarrierBought;
    if (moment === 'sold') end();
    else setTimeout(end, 15);
    return got;
  };
  return { dead, restore: () => Object.assign(desk(), { buy }) };
}

/** What a server left behind when it died is taken up at once. */
async function later(): Promise<void> {
  await house.db.run(
    'UPDATE label SET askedAt = askedAt - INTERVAL 60 SECOND, checkAt = checkAt - INTERVAL 60 SECOND',
  );
  await house.db.run('UPDATE lease SET until = until - INTERVAL 60 SECOND');
  await house.db.run("UPDATE job SET runAt = NOW(3) WHERE state IN ('waiting', 'taken')");
  await house.app.get(Rounds).once('stages passed');
  await house.app.get(Rounds).once('jobs');
  await house.app.get(Labels).recover();
  await house.app.get(Rounds).once('jobs');
}

test(`${KILLS} servers are killed while they buy unattended: no cap is exceeded, no parcel has two labels, and what is held is what was sold`, async () => {
  const caps = (day: number) =>
    lead.post('rules/spending/caps', { labelMinor: 5_000, dayMinor: day, rules: { 'r-2': day } });
  let allowed = 0;
  for (let i = 0; i < KILLS; i++) {
    const moment = MOMENTS[i % MOMENTS.length]!;
    await caps(0);
    const parcels = await packed(2);
    // One more of the two is within the cap of the day.
    allowed += parcels[0]!.minor;
    await caps(allowed);
    const server = await serveProcess(house);
    const at = killedAt(moment, server.killNow);
    await at.dead;
    await server.kill();
    at.restore();
    await later();
    await later();
    const told = `${i}: ${moment}`;
    const spent = sold().reduce((n, s) => n + s.minor, 0);
    expect(spent, told).toBeLessThanOrEqual(allowed);
    for (const p of parcels)
      expect(sold().filter(s => s.reference === p.no).length, told).toBeLessThanOrEqual(1);
    // A carrier that refused sold nothing, and its share of the cap is free again.
    const { minor, rows } = (await lead.get('rules/spending')).body;
    expect(minor, told).toBe(spent);
    expect(
      rows.filter((r: { state: string }) => r.state === 'under way'),
      told,
    ).toEqual([]);
    allowed = spent;
  }
  expect(await differences(house)).toEqual([]);
}, 3_600_000);
