import type { CarrierBought } from '@auk/contract';
import { seeded } from '@auk/core';
import type { CarrierDesk } from '@auk/standins';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { Labels } from '../src/labels/labels.service.js';
import { Strays } from '../src/labels/strays.service.js';
import { Voiding } from '../src/labels/voiding.service.js';
import { ordersIn, packAndClose, wishOf } from './drive.js';
import { type Caller, differences, type House, openHouse } from './house.js';
import { type ServerProcess, serveProcess } from './processes.js';

/** So many servers are killed; `npm run check:long` kills 200. */
const KILLS = Number(process.env.AUK_KILLS ?? 20);
const CARRIERS = ['heron', 'redfen', 'coldharbour'];

let house: House;
let second: Awaited<ReturnType<House['secondServer']>>;
let lead: Caller;
let victim: Promise<ServerProcess>;
const parcels: string[] = [];
beforeAll(async () => {
  house = await openHouse();
  second = await house.secondServer();
  lead = await house.signIn('AB-1001');
  victim = serveProcess(house);
  for (const id of await ordersIn(lead, 'Picked', 24))
    parcels.push((await packAndClose(lead, (await lead.get(`orders/${id}`)).body.row.no)).parcelNo);
});
afterAll(async () => {
  await (await victim).kill();
  await second.close();
  await house.close();
});

const desk = (code: string): CarrierDesk => house.standins.desks.get(code)!;
const charges = (no: string) =>
  [...house.standins.desks.values()].flatMap(d =>
    d.books
      .all()
      .filter(c => c.reference === no)
      .map(c => ({ d, c })),
  );
/** What the carriers have sold for a parcel and not taken back. */
const kept = (no: string) =>
  charges(no)
    .filter(({ d, c }) => !d.voids.find(c.key))
    .map(({ c }) => c);
const labelsOf = (no: string) =>
  house.db.rows<{ id: string; state: string; tracking: string | null; claims: number }>(
    'SELECT b.id, b.state, b.tracking, (SELECT COUNT(*) FROM refundClaim r WHERE r.labelId = b.id) AS claims FROM label b JOIN parcel c ON c.id = b.parcelId WHERE c.no = ? ORDER BY b.id',
    [no.slice(3)],
  );

/** A minute passes for all that waits; two servers look after it at once. */
async function later(): Promise<void> {
  await house.db.run(
    'UPDATE label SET askedAt = askedAt - INTERVAL 60 SECOND, checkAt = checkAt - INTERVAL 60 SECOND',
  );
  await house.db.run('UPDATE lease SET until = until - INTERVAL 60 SECOND');
  for (const what of [Labels, Voiding] as const)
    await Promise.all([house.app, second.app].map(app => app.get<Labels | Voiding>(what).recover()));
  await Promise.all([house.app, second.app].map(app => app.get(Strays).look()));
}

/** The moments at which a server dies: on its way to the carrier, and at the carrier's counter. */
const MOMENTS = [
  'on the way',
  'asked, not sold',
  'asked, sold',
  'sold',
  'answered',
  'void asked',
  'voided',
] as const;

/** Has the carrier do something at its counter while it sells or takes back. */
function atCounter(code: string, moment: (typeof MOMENTS)[number], kill: () => void): () => void {
  const at = desk(code);
  const { buy, takeBack } = at;
  const restore = () => Object.assign(at, { buy, takeBack });
  at.buy = (order, trick, again) => {
    if (moment === 'asked, not sold') {
      kill();
      return { refused: 'nobody is there any more' };
    }
    if (moment === 'asked, sold') kill();
    const got = buy.call(at, order, trick, again) as CarrierBought;
    if (moment === 'sold') kill();
    if (moment === 'answered') setTimeout(kill, 15);
    return got;
  };
  at.takeBack = key => {
    if (moment === 'void asked') kill();
    const got = takeBack.call(at, key);
    if (moment === 'voided') kill();
    return got;
  };
  return restore;
}

test(`a server is killed ${KILLS} times at every step of buying and giving back: never two live labels, never money without a label or a claim`, async () => {
  const random = seeded(12);
  for (let i = 0; i < KILLS; i++) {
    const moment = MOMENTS[i % MOMENTS.length]!;
    const code = CARRIERS[i % CARRIERS.length]!;
    const no = parcels[i % parcels.length]!;
    const server = await victim;
    const caller = await server.signIn();
    const offers = (await caller.get(`parcels/${no}/offers`)).body.offers ?? [];
    const offer = offers.find((o: { carrier: string }) => o.carrier === code) ?? offers[0];
    if (!offer) throw new Error(`Nobody offers anything for ${no}.`);
    const voids = moment === 'void asked' || moment === 'voided';
    if (voids) await caller.post(`parcels/${no}/label`, wishOf(offer));
    const restore = atCounter(offer.carrier, moment, () => server.killNow());
    const done = voids
      ? caller.post(`parcels/${no}/void`).catch(() => null)
      : caller.post(`parcels/${no}/label`, wishOf(offer)).catch(() => null);
    if (moment === 'on the way') setTimeout(() => server.killNow(), random() * 40);
    await done;
    await server.kill();
    restore();
    victim = serveProcess(house);
    await later();
    await later();
    await later();
    const labels = await labelsOf(no);
    const live = labels.filter(l => l.state === 'bought');
    const told = `${i}: ${moment}, ${offer.carrier}, ${JSON.stringify(labels)}`;
    expect(
      labels.filter(l => ['intended', 'asked', 'unknown', 'void asked'].includes(l.state)),
      told,
    ).toEqual([]);
    expect(live.length, told).toBeLessThanOrEqual(1);
    const open = labels.some(l => l.state === 'doubtful');
    expect(kept(no).length, told).toBe(open ? kept(no).length : live.length);
    expect(kept(no).length, told).toBeLessThanOrEqual(1);
    if (live[0]) expect(kept(no)[0]?.tracking, told).toBe(live[0].tracking);
    // The next round finds the parcel without a label again.
    if (open) await lead.post(`parcels/${no}/decide`, { what: 'give up' });
    if (live.length > 0) expect((await lead.post(`parcels/${no}/void`)).status, told).toBe(200);
    await later();
    expect(kept(no), told).toEqual([]);
  }
  expect(await differences(house)).toEqual([]);
}, 3_600_000);
