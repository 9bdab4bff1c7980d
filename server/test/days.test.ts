import { DataSource } from 'typeorm';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { openDataSource } from '../src/database/source.js';
import { daysAround } from '../src/house/days.js';
import { collectedOn, Prices } from '../src/rating/prices.service.js';
import { productOf } from './drive.js';
import { type Caller, type House, openHouse } from './house.js';

let house: House;
let lead: Caller;
beforeAll(async () => {
  house = await openHouse('small');
  lead = await house.signIn('AB-1001');
});
afterAll(() => house.close());

test('a day of the warehouse is its own: late in the evening, and on the days when clocks change', () => {
  const late = daysAround(new Date('2026-11-25T03:30:00Z'), 'America/New_York');
  expect([late.today, late.iso(1), late.iso(-1)]).toEqual(['2026-11-24', '2026-11-25', '2026-11-23']);
  const hours = ([from, to]: [Date, Date]) => (to.getTime() - from.getTime()) / 3_600_000;
  // Zone rules of 2026: clocks go forward on 8 March and back on 1 November in New York.
  const spring = daysAround(new Date('2026-03-08T18:00:00Z'), 'America/New_York');
  expect([spring.today, hours(spring.span(0, 1)), hours(spring.dated('2026-03-08'))]).toEqual([
    '2026-03-08',
    23,
    23,
  ]);
  const autumn = daysAround(new Date('2026-11-01T18:00:00Z'), 'America/New_York');
  expect([autumn.iso(0), autumn.iso(1), hours(autumn.span(0, 1))]).toEqual(['2026-11-01', '2026-11-02', 25]);
  const east = daysAround(new Date('2026-11-24T20:00:00Z'), 'Asia/Kathmandu');
  expect(east.today).toBe('2026-11-25');
});

test('sessions of the application count in UTC, whatever the server’s default is', async () => {
  const port = Number(process.env.AUK_TEST_DB_PORT);
  const root = await new DataSource({
    type: 'mariadb',
    host: '127.0.0.1',
    port,
    username: 'root',
  }).initialize();
  await root.query("SET GLOBAL time_zone = '+05:30'");
  try {
    const source = await openDataSource({ port, database: 'mysql' });
    const rows = await Promise.all(
      Array.from({ length: 8 }, () =>
        source.query(
          'SELECT @@session.time_zone AS zone, TIMESTAMPDIFF(MINUTE, UTC_TIMESTAMP(), NOW()) AS off, SLEEP(0.05) AS s',
        ),
      ),
    );
    expect(rows.flat().map((r: { zone: string; off: number }) => [r.zone, r.off])).toEqual(
      Array.from({ length: 8 }, () => ['+00:00', 0]),
    );
    await source.destroy();
  } finally {
    await root.query("SET GLOBAL time_zone = '+00:00'");
    await root.destroy();
  }
});

test('a carrier is told the warehouse’s day of shipping: of its next departure, today where none is planned', async () => {
  const prices = house.app.get(Prices);
  const at = async (iso: string, cutOff?: string) => {
    const ground = await prices.ground(house.db, new Date(iso));
    const open = cutOff ? [{ id: 'd', carrier: 'heron', cutOff, open: true, planUpToMg: null }] : [];
    return collectedOn({ ...ground, open }, 'heron');
  };
  expect(await at('2026-11-25T03:30:00Z')).toBe('2026-11-24');
  expect(await at('2026-11-25T05:30:00Z')).toBe('2026-11-25');
  expect(await at('2026-11-24T22:00:00Z', '2026-11-25T04:30:00Z')).toBe('2026-11-24');
  expect(await at('2026-11-24T22:00:00Z', '2026-11-25T18:30:00Z')).toBe('2026-11-25');
  await house.db.run("UPDATE warehouse SET zone = 'Pacific/Auckland'");
  expect(await at('2026-11-24T12:30:00Z')).toBe('2026-11-25');
  await house.db.run("UPDATE warehouse SET zone = 'America/New_York'");
});

test('the ledger’s days are the warehouse’s', async () => {
  const sku = 'SMK-4-ST';
  const { id } = await productOf(lead, sku);
  const at = (await lead.get(`stock/ledger/${sku}`)).body.days as { day: string; onHand: number }[];
  const [yesterday, today] = at.slice(-2) as [
    { day: string; onHand: number },
    { day: string; onHand: number },
  ];
  const moves = await house.db.rows<{ id: number }>(
    "SELECT m.id FROM stockMove m JOIN place f ON f.id = m.fromPlaceId WHERE m.productId = ? AND f.kind = 'outside' ORDER BY m.id LIMIT 1",
    [id],
  );
  const move = async (moment: Date) => {
    await house.db.run('UPDATE stockMove SET at = ? WHERE id = ?', [moment, moves[0]!.id]);
    return (await lead.get(`stock/ledger/${sku}`)).body.days as { day: string; onHand: number }[];
  };
  const begins = daysAround(new Date(), 'America/New_York').span(0, 1)[0];
  const justAfter = await move(new Date(begins.getTime() + 60_000));
  const justBefore = await move(new Date(begins.getTime() - 60_000));
  expect(justBefore.at(-1)!.onHand).toBe(today.onHand);
  expect(justAfter.at(-2)!.day).toBe(yesterday.day);
  expect(justBefore.at(-2)!.onHand - justAfter.at(-2)!.onHand).toBeGreaterThan(0);
});
