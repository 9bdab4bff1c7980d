import { afterAll, beforeAll, expect, test } from 'vitest';
import { bringIn, idOfOrder, listAndPick, packAndLabel } from './drive.js';
import { type Caller, type House, openHouse } from './house.js';
import { pagesOf } from './pdf.js';

let house: House;
let lead: Caller;
beforeAll(async () => {
  house = await openHouse('small');
  lead = await house.signIn('AB-1001');
});
afterAll(() => house.close());

const CANADA = {
  name: 'Maud Alder',
  company: '',
  line1: '12 Quay Street',
  line2: '',
  city: 'Hamilton',
  region: 'ON',
  postcode: 'L8P 1A1',
  country: 'CA',
  phone: '905-555-0142',
};
/** An order of the web store to Canada, by number, with its lines. */
async function abroad(
  number: string,
  lines: [sku: string, quantity: number, price: string][],
): Promise<string> {
  await bringIn(
    lead,
    lines.map(([sku, quantity, price]) => [number, sku, quantity, price, 'Maud Alder']),
  );
  const id = await idOfOrder(lead, number);
  const { version } = (await lead.get(`orders/${id}`)).body;
  const edited = await lead.post(`orders/${id}/edit`, { version, shipTo: CANADA });
  if (edited.status !== 200) throw new Error(JSON.stringify(edited.body));
  return id;
}
const stopsOf = async (id: string) => (await lead.get(`orders/${id}`)).body.stops;
/** The papers of a parcel, page by page. */
async function papers(parcelNo: string): Promise<string[]> {
  const response = await fetch(`${house.url}/api/v1/parcels/${parcelNo}/customs.pdf`, {
    headers: { cookie: lead.cookie },
  });
  if (!response.ok) throw new Error(await response.text());
  return pagesOf(Buffer.from(await response.arrayBuffer()));
}

test('a light parcel of little value goes with a CN 22 that declares what was paid for it', async () => {
  const id = await abroad('AB-1', [['FRK-UNC', 2, '9.00']]);
  expect(await stopsOf(id)).toEqual([]);
  await listAndPick(lead, [id]);
  const { parcelNo, tracking } = await packAndLabel(lead, id);
  const pages = await papers(parcelNo);
  expect(pages).toHaveLength(1);
  for (const words of ['CN 22', 'Maud Alder', 'Uncapping fork', '442199', '$18.00', tracking, 'CANADA'])
    expect(pages[0]).toContain(words);
});

test('over 300 SDR it is a CN 23 with a commercial invoice; the day’s rate of the SDR decides', async () => {
  const id = await abroad('AB-2', [['FRK-UNC', 1, '410.00']]);
  await listAndPick(lead, [id]);
  const { parcelNo } = await packAndLabel(lead, id);
  const pages = await papers(parcelNo);
  expect(pages).toHaveLength(2);
  expect(pages[0]).toContain('CN 23');
  expect(pages[0]).toContain('308.27 SDR, over 300');
  expect(pages[1]).toContain('Commercial invoice');
  expect(pages[1]).toContain('$410.00');
  const { day } = (await lead.get('orders/strip').catch(() => ({ body: { day: '' } }))).body ?? { day: '' };
  expect(day ?? '').toBeDefined();
  await house.db.run(
    "INSERT INTO exchangeRate (currency, day, perHouse) VALUES ('XDR', UTC_DATE() - INTERVAL 1 DAY, 1.40)",
  );
  expect((await papers(parcelNo))[0]).toContain('CN 22');
  await house.db.run("DELETE FROM exchangeRate WHERE currency = 'XDR'");
  expect((await papers(parcelNo))[0]).toContain('No rate of the SDR is stored');
  await house.db.run("INSERT INTO exchangeRate (currency, day, perHouse) VALUES ('XDR', '2026-01-01', 1.33)");
});

test('hazardous goods have a note of their own, at home too; a parcel at home without them has none', async () => {
  await bringIn(lead, [['AB-3', 'WAX-MTH', 1, '12.00']]);
  const id = await idOfOrder(lead, 'AB-3');
  await listAndPick(lead, [id]);
  const { parcelNo } = await packAndLabel(lead, id);
  const [note, ...more] = await papers(parcelNo);
  expect(more).toEqual([]);
  for (const words of ['DANGEROUS GOODS NOTE', 'UN 3077', 'Class 9', 'Environmentally hazardous'])
    expect(note).toContain(words);
  const plain = await packAndLabel(lead);
  expect((await lead.get(`parcels/${plain.parcelNo}/customs.pdf`)).status).toBe(422);
  expect((await lead.get('parcels/PA-99999/customs.pdf')).status).toBe(404);
});

test('what customs would ask for stops the order before it is packed, by name, and is cured with the product', async () => {
  await lead.post('products/edit', { skus: ['WAX-MTH'], fields: { unNumber: null, origin: null } });
  const id = await abroad('AB-4', [['WAX-MTH', 1, '12.00']]);
  expect(await stopsOf(id)).toMatchObject([
    { code: 'no-customs', subject: 'WAX-MTH', cure: 'Add its country of origin, UN number.' },
  ]);
  expect(
    (await lead.post('products/edit', { skus: ['WAX-MTH'], fields: { unNumber: '77' } })).body[0] ?? {},
  ).not.toMatchObject({ done: true });
  await lead.post('products/edit', { skus: ['WAX-MTH'], fields: { origin: 'US' } });
  expect(await stopsOf(id)).toMatchObject([{ cure: 'Add its UN number.' }]);
  await lead.post('products/edit', { skus: ['WAX-MTH'], fields: { unNumber: 'UN 3077' } });
  expect(await stopsOf(id)).toEqual([]);
});

test('papers look as the template for their channel, destination or buyer says', async () => {
  const template = {
    kind: 'customs',
    name: 'Guild',
    position: 0,
    channel: '',
    country: 'abroad',
    buyer: '@guild.example',
    heading: '',
    message: 'For the guild.',
    prices: true,
    metric: true,
  };
  expect((await lead.post('printing/templates', template)).status).toBe(200);
  const id = await abroad('AB-5', [['FRK-UNC', 1, '9.00']]);
  await listAndPick(lead, [id]);
  const { parcelNo } = await packAndLabel(lead, id);
  expect((await papers(parcelNo))[0]).not.toContain('For the guild.');
  await house.db.run("UPDATE orders SET mail = 'maud@guild.example' WHERE id = ?", [id]);
  expect((await papers(parcelNo))[0]).toContain('For the guild.');
});
