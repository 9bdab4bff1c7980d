import type { Role } from '@auk/contract';
import { seeded } from '@auk/core';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { Tx } from '../src/database/db.js';
import { InboundDemo } from '../src/demo/inbound.js';
import { Labels } from '../src/labels/labels.service.js';
import { Strays } from '../src/labels/strays.service.js';
import { Voiding } from '../src/labels/voiding.service.js';
import { ACTS, DRAWN, Hands } from './acts.js';
import { type Caller, differences, type House, openHouse } from './house.js';

/** So many acts are done; `npm run check:long` does 2,000. */
const MANY = Number(process.env.AUK_ACTS ?? 100);
const WRITERS = 8;
/** After so many, everything is looked at. */
const BETWEEN = 100;
const SEED = Number(process.env.AUK_SEED ?? 15);

let house: House;
let people: Record<Role, Caller>;
const faults: string[] = [];
const outOfOrder = new Set<string>();
beforeAll(async () => {
  house = await openHouse();
  const late = new Date(Date.now() + 3 * 86_400_000).toISOString().slice(0, 10);
  await house.app
    .get(InboundDemo)
    .load(`http://127.0.0.1:${house.standinsPort}`, { personId: null, at: new Date() }, late);
  const [lead, packer, picker, office, admin] = [
    await house.signIn('AB-1001'),
    await house.signIn('AB-1002'),
    await house.signIn('AB-1003'),
    await house.signIn('AB-1004'),
    await house.signIn('AB-1005'),
  ];
  people = { lead, packer, picker, office, admin };
  Tx.onOutOfOrder = o =>
    outOfOrder.add(`${o.table} after ${o.held}: ${o.sql.trim().slice(0, 160)} ${calledBy()}`);
});
afterAll(() => {
  Tx.onOutOfOrder = null;
  return house.close();
});

/** The functions of the server that led here, the nearest first. */
const calledBy = (): string =>
  [...(new Error().stack ?? '').matchAll(/at (?:async )?(\S+) \(\S*\/server\/src\/(?!database)/g)]
    .map(m => m[1])
    .join(' < ');

/** Everybody behaves, a minute passes for all that waits, and all work that is due is done. */
async function settle(hands: Hands): Promise<void> {
  house.standins.behave();
  for (let i = 0; i < 3; i++) {
    await house.db.run(
      'UPDATE label SET askedAt = askedAt - INTERVAL 60 SECOND, checkAt = checkAt - INTERVAL 60 SECOND',
    );
    await house.db.run('UPDATE lease SET until = until - INTERVAL 60 SECOND');
    await house.db.run("UPDATE job SET runAt = NOW(3) WHERE state IN ('waiting', 'taken')");
    await house.app.get(Labels).recover();
    await house.app.get(Voiding).recover();
    await house.app.get(Strays).look();
    await hands.round();
  }
}

/** Quantities: nothing below nothing, nothing promised twice, and all places of a product sum up to nothing. */
const quantities = async (): Promise<unknown[]> => [
  ...(await house.db.rows('SELECT * FROM productStock WHERE reserved > onHand OR onHand < 0')),
  ...(await house.db.rows('SELECT productId FROM stockBalance GROUP BY productId HAVING SUM(onHand) <> 0')),
];

interface LabelRow {
  id: string;
  state: string;
  carrier: string;
  tracking: string | null;
  claims: number;
}

/** What carriers sold and did not take back is a label that lives, or is claimed or still open; and every label that lives was sold. */
async function carriersBooks(): Promise<string[]> {
  const labels = await house.db.rows<LabelRow>(
    'SELECT b.id, b.state, b.carrier, b.tracking, (SELECT COUNT(*) FROM refundClaim r WHERE r.labelId = b.id) AS claims FROM label b',
  );
  const byId = new Map(labels.map(l => [l.id, l]));
  const wrong: string[] = [];
  const live = new Map<string, string>();
  for (const [code, desk] of house.standins.desks)
    for (const charge of desk.books.all().filter(c => !desk.voids.find(c.key))) {
      const id = charge.ours ?? charge.key;
      const label = byId.get(id);
      if (!label) continue; // What the demo's past bought is older than the carriers' books.
      const known = ['bought', 'doubtful', 'unknown', 'void asked'].includes(label.state) || label.claims > 0;
      if (!known) wrong.push(`${code} sold ${id} for ${charge.reference}, and it is ${label.state}`);
      if (label.state === 'bought' && label.tracking === charge.tracking) live.set(id, charge.tracking);
    }
  const sold = new Set(
    [...house.standins.desks.values()].flatMap(d => d.books.all().map(c => c.ours ?? c.key)),
  );
  for (const l of labels)
    if (l.state === 'bought' && sold.has(l.id) && !live.has(l.id))
      wrong.push(`the label ${l.id} of ${l.carrier} lives, and the carrier took ${l.tracking} back`);
  return wrong;
}

/** Every order that a channel sold and that was asked for is here once, and nothing is told of parcels that did not leave. */
async function channelsBooks(): Promise<string[]> {
  const wrong: string[] = [];
  const twice = await house.db.rows<{ n: string }>(
    'SELECT CONCAT(channelId, channelNumber) AS n FROM orders GROUP BY channelId, channelNumber HAVING COUNT(*) > 1',
  );
  wrong.push(...twice.map(t => `the order ${t.n} is here twice`));
  const gone = new Set(
    (
      await house.db.rows<{ tracking: string }>(
        'SELECT b.tracking FROM label b JOIN parcel p ON p.id = b.parcelId WHERE p.departedAt IS NOT NULL',
      )
    ).map(r => r.tracking),
  );
  for (const t of house.standins.told.all())
    if (!gone.has(t.tracking)) wrong.push(`${t.channel} was told of ${t.tracking}, which did not leave`);
  return wrong;
}

/** Every booking that lives at a network is one of ours that stands, and the other way round. */
async function networksBooks(): Promise<string[]> {
  const parts = await house.db.rows<{ bookKey: string; bookState: string }>(
    'SELECT bookKey, bookState FROM inboundPart WHERE bookKey IS NOT NULL',
  );
  const byKey = new Map(parts.map(p => [p.bookKey, p.bookState]));
  const wrong: string[] = [];
  const stands = new Set<string>();
  for (const { inbound } of house.standins.networks.values())
    for (const b of inbound.bookings.all()) {
      if (inbound.stateOf(b.key) === 'cancelled') continue;
      stands.add(b.key);
      if (!['booked', 'unknown', 'asked'].includes(byKey.get(b.key) ?? ''))
        wrong.push(`${b.number} is booked under ${b.key}, and here it is ${byKey.get(b.key)}`);
    }
  for (const p of parts)
    if (p.bookState === 'booked' && !stands.has(p.bookKey))
      wrong.push(`${p.bookKey} is booked here, and not at its network`);
  return wrong;
}

test(`${MANY} random acts of all roles by ${WRITERS} writers, carriers and channels at their worst: no fault, and every book agrees with every other`, async () => {
  const hands = Array.from(
    { length: WRITERS },
    (_, i) => new Hands(house, people, `device-${i}`, seeded(SEED * 100 + i), faults),
  );
  const log: string[] = [];
  for (let done = 0; done < MANY; done += BETWEEN) {
    let left = Math.min(BETWEEN, MANY - done);
    await Promise.all(
      hands.map(async h => {
        while (left > 0) {
          left--;
          const name = h.any(DRAWN)!;
          log.push(name);
          await ACTS[name]!(h).catch(e => faults.push(`${name}: ${(e as Error).stack}`));
        }
      }),
    );
    await settle(hands[0]!);
    const told = `after ${done + BETWEEN} acts; the last: ${log.slice(-BETWEEN).join(', ')}`;
    expect(faults, told).toEqual([]);
    expect(await differences(house), told).toEqual([]);
    expect(await quantities(), told).toEqual([]);
    expect(await carriersBooks(), told).toEqual([]);
    expect(await channelsBooks(), told).toEqual([]);
    expect(await networksBooks(), told).toEqual([]);
  }
  expect([...outOfOrder].sort()).toEqual([]);
  // Most of what was tried was done.
  const posts = hands.map(h => h.posts);
  const [all, refused] = [
    posts.reduce((n, p) => n + p.done + p.refused, 0),
    posts.reduce((n, p) => n + p.refused, 0),
  ];
  expect(refused / all).toBeLessThan(0.4);
}, 7_200_000);
