import { afterAll, beforeAll, expect, test } from 'vitest';
import { type LabelledParcel, letLeave, packAndLabel, wishOf } from './drive.js';
import { type Caller, type House, openHouse } from './house.js';

let house: House;
let lead: Caller;
let parcels: LabelledParcel[];
beforeAll(async () => {
  house = await openHouse();
  lead = await house.signIn('AB-1001');
  const heron = (offers: { carrier: string }[]) => offers.find(o => o.carrier === 'heron') as never;
  parcels = [];
  for (let i = 0; i < 4; i++) parcels.push(await packAndLabel(lead, undefined, heron));
});
afterAll(() => house.close());

const HEAD = 'Tracking number,Service,Weight,Amount,Fuel,Address correction';
const take = (number: string, rows: string[], more = '') =>
  lead.file(
    `costs/bills?carrier=heron&number=${number}&currency=USD&name=november.csv${more}`,
    [HEAD, ...rows].join('\n'),
  );
const agreed = async (p: LabelledParcel): Promise<number> =>
  (await lead.get(`parcels/${p.parcelNo}`)).body.label.minor;
const money = (minor: number) => (minor / 100).toFixed(2);

test('a bill is compared row by row with what was bought, and what differs can be claimed with a file', async () => {
  const [a, b, c, voided] = parcels as [LabelledParcel, LabelledParcel, LabelledParcel, LabelledParcel];
  await lead.post(`parcels/${voided.parcelNo}/void`);
  const prices = [await agreed(a), await agreed(b), await agreed(c)] as [number, number, number];
  const taken = await take('H-1', [
    `${a.tracking},Parcel,,${money(prices[0])},,`,
    `${b.tracking},Parcel,,${money(prices[1] + 500)},,5.00`,
    `${c.tracking},Parcel,40 lb,${money(prices[2] + 900)},,`,
    `${a.tracking},Parcel,,${money(prices[0])},,`,
    `HP999999999US,Parcel,,7.20,,`,
    `${voided.tracking},Parcel,,6.00,,`,
  ]);
  expect(taken.body).toMatchObject({ lines: 6, bad: [] });
  const bill = (await lead.get(`costs/bills/${taken.body.id}`)).body;
  const bySeq = [...bill.rows].sort((x, y) => x.seq - y.seq);
  expect(bySeq.map(r => r.verdict)).toEqual(['agrees', 'dearer', 'heavier', 'twice', 'unknown', 'voided']);
  expect(bySeq.map(r => r.claimMinor)).toEqual([0, 500, 900, prices[0], 720, 600]);
  expect(bySeq[1].says).toContain('Address correction $5.00 was not agreed');
  expect(bySeq[1]).toMatchObject({ parcel: b.parcelNo, order: b.number });
  expect(bill.claimMinor).toBe(500 + 900 + prices[0] + 720 + 600);
  expect((await lead.get('costs/bills')).body).toMatchObject([{ number: 'H-1', differ: 5, lines: 6 }]);
  const { body: file } = await lead.get(`costs/bills/${taken.body.id}/claim.csv`);
  expect(file.split('\n')).toHaveLength(8);
  expect(file).toContain(`HP999999999US,,Parcel,7.20,,7.20,No parcel of ours has this number.`);
});

test('what stood on one bill is found on the next, and a bill is taken once', async () => {
  const [a] = parcels as [LabelledParcel];
  const next = await take('H-2', [`${a.tracking},Parcel,,${money(await agreed(a))},,`]);
  const bill = (await lead.get(`costs/bills/${next.body.id}`)).body;
  expect(bill.rows[0]).toMatchObject({ verdict: 'twice', says: 'It stood on the bill H-1 already.' });
  const both = await Promise.all([1, 2].map(() => take('H-3', [`${a.tracking},Parcel,,1.00,,`])));
  expect(both.map(r => r.status).sort()).toEqual([200, 409]);
});

test('a bill with bad rows is not taken and names each; nonsense and strangers are refused', async () => {
  const bad = (await take('H-4', ['HP470000017US,Parcel,,much,,', 'x,Parcel,2 stone,1,dear,'])).body;
  expect(bad.id).toBeNull();
  expect(bad.bad.map((b: { row: number }) => b.row)).toEqual([2, 3]);
  expect(
    (await lead.file('costs/bills?carrier=heron&number=H-5&currency=USD&name=a.csv', 'nothing')).body.bad[0]
      .why,
  ).toContain('tracking');
  expect(
    (
      await lead.file(
        'costs/bills?carrier=none&number=H-5&currency=USD&name=a.csv',
        `${HEAD}\nHP470000017US,,,1,,`,
      )
    ).status,
  ).toBe(404);
  expect((await lead.file('costs/bills?carrier=heron&number=&currency=USD&name=a.csv', HEAD)).status).toBe(
    400,
  );
  const packer = await house.signIn('AB-1002');
  expect((await packer.get('costs/bills')).status).toBe(403);
  expect((await lead.get('costs/bills/0192f000-0000-7000-8000-000000000000')).status).toBe(404);
  expect((await lead.get('costs/bills')).body).toHaveLength(3);
});

test('what shipping cost adds up the same by week, carrier, service, zone and channel, and orders that lost say why', async () => {
  await letLeave(lead, parcels.slice(0, 1));
  const sums = await Promise.all(
    ['week', 'carrier', 'service', 'zone', 'channel'].map(async by => {
      const { groups } = (await lead.get(`costs?by=${by}`)).body;
      const sum = (of: string) => groups.reduce((n: number, g: Record<string, number>) => n + g[of]!, 0);
      return [sum('parcels'), sum('costMinor'), sum('paidMinor')];
    }),
  );
  for (const s of sums) expect(s).toEqual(sums[0]);
  const bought = await house.db.one<{ n: number }>(
    "SELECT COUNT(*) AS n FROM label WHERE state IN ('bought', 'void asked') AND answeredAt > NOW() - INTERVAL 84 DAY",
  );
  expect(sums[0]![0]).toBe(bought!.n);
  const { lost } = (await lead.get('costs?by=carrier')).body;
  expect(lost.length).toBeGreaterThan(0);
  for (const o of lost) expect(o.costMinor).toBeGreaterThan(o.paidMinor);
  const losses = lost.map((o: { costMinor: number; paidMinor: number }) => o.costMinor - o.paidMinor);
  expect(losses).toEqual([...losses].sort((a, b) => b - a));
  // Large and light, most of what lost was paid by its size.
  const why: string[] = lost.map((o: { why: string }) => o.why);
  expect(why.filter(w => w.includes('it was paid by volume')).length).toBeGreaterThan(0);
  expect((await lead.get('costs?from=2026-02-01&until=2026-01-01')).status).toBe(422);
  expect((await lead.get('costs?by=moon')).status).toBe(400);
});

test('a return label costs, and is no parcel more', async () => {
  const sums = async (): Promise<[parcels: number, costMinor: number]> => {
    const { groups } = (await lead.get('costs?by=carrier')).body;
    return groups.reduce(
      ([n, c]: [number, number], g: { parcels: number; costMinor: number }) => [
        n + g.parcels,
        c + g.costMinor,
      ],
      [0, 0],
    );
  };
  const [count, cost] = await sums();
  const { parcelNo } = parcels[1]!;
  const { offers } = (await lead.get(`parcels/${parcelNo}/return-offers`)).body;
  const offer = offers.find((o: { carrier: string }) => o.carrier === 'heron');
  expect((await lead.post(`parcels/${parcelNo}/return-label`, wishOf(offer))).body.state).toBe('bought');
  expect(await sums()).toEqual([count, cost + offer.minor]);
});
