// npm run screenshots: makes docs/screenshots anew from a running fresh demo (npm start -- --fresh), by walking one order through it.
import { chromium } from '@playwright/test';
import { CHROMIUM } from './chromium.mjs';

const BASE = process.argv[2] ?? 'http://localhost:7350';
const browser = await chromium.launch(CHROMIUM);

async function person(badge, viewport = { width: 1280, height: 800 }) {
  const page = await (await browser.newContext({ viewport })).newPage();
  await page.goto(BASE);
  await page.getByLabel('Badge').fill(badge);
  await page.getByLabel('PIN').fill('2468');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await page.getByRole('button', { name: 'Sign in' }).waitFor({ state: 'hidden' });
  return page;
}
const look = async (page, path) => (await page.request.get(`${BASE}/api/v1/${path}`)).json();
const codeOf = async (page, sku) => (await look(page, `products/${sku}`)).codes[0].code;
const shoot = (page, name) => page.screenshot({ path: `docs/screenshots/${name}.png` });
const settled = page => page.waitForLoadState('networkidle', { timeout: 2_000 }).catch(() => undefined);

async function scan(page, code) {
  await page.keyboard.type(code);
  await page.keyboard.press('Enter');
  await page.waitForTimeout(250);
}

async function visit(page, path, name) {
  await page.goto(BASE + path);
  await settled(page);
  if (name) await shoot(page, name);
}

const lead = await person('AB-1001');
await visit(lead, '/board', 'board');
await visit(lead, '/orders?stage=Stopped', null);
await lead.locator('tr', { hasText: 'FM-HVB-DEEP-2' }).first().locator('[data-column="what"]').click();
await lead.getByText('What stops it').waitFor();
await lead.getByRole('button', { name: 'Another product' }).waitFor();
await settled(lead);
await lead.evaluate(() => window.scrollTo(0, 0));
await shoot(lead, 'orders');
await visit(lead, '/rules', null);
await lead.getByRole('button', { name: /^Open rule \d+ Large orders go first/ }).click();
await lead.getByLabel('units compared with').fill('20');
await lead.getByRole('button', { name: 'Done', exact: true }).click();
await lead.getByRole('button', { name: 'Try it' }).click();
await lead.getByText('would change').waitFor();
await settled(lead);
await lead.evaluate(() => window.scrollTo(0, 0));
await shoot(lead, 'rules');
const lists = await look(lead, 'picking/lists');
const waiting = lists.filter(l => l.state === 'released').sort((a, b) => b.stops - a.stops)[0];
await visit(lead, '/pick/plan', null);
await lead.getByRole('button', { name: 'Plan', exact: true }).click();
await lead.getByRole('button', { name: /^Release/ }).waitFor();
await lead.getByRole('img', { name: /^The floor with [1-9]/ }).waitFor();
await shoot(lead, 'plan');
const build = await look(lead, 'builds/BU-1');
const parts = (
  await (
    await lead.request.post(`${BASE}/api/v1/picking/lists`, { data: { orderIds: [build.orderId] } })
  ).json()
).no;
const maker = await person('AB-1003', { width: 390, height: 844 });
await maker.getByRole('heading', { name: 'Scan a pick list' }).waitFor();
await scan(maker, parts);
for (const stop of (await look(maker, `picking/lists/${parts}`)).rows) {
  await scan(maker, stop.place);
  await scan(maker, await codeOf(maker, stop.sku));
  if (stop.quantity > 1) await scan(maker, 'AUK-ALL');
}
await visit(lead, '/builds/BU-1', null);
await lead.getByLabel('Made now').fill('4');
await lead.getByLabel('Put in').fill('B-11-1');
await lead.getByRole('button', { name: 'Into stock' }).click();
await lead.getByText('4 made, put in B-11-1').waitFor();
await settled(lead);
await visit(lead, '/stock?expiring=yes', 'stock');
const dock = await person('AB-1006');
await visit(dock, '/receiving/PO-1', null);
await scan(dock, await codeOf(dock, 'VEIL-SQF'));
await scan(dock, '4');
await settled(dock);
await shoot(dock, 'receiving');

const picker = await person('AB-1003', { width: 390, height: 844 });
await picker.getByRole('heading', { name: 'Scan a pick list' }).waitFor();
await scan(picker, waiting.no);
await settled(picker);
const stops = (await look(picker, `picking/lists/${waiting.no}`)).rows;
await scan(picker, stops[0].place);
await scan(picker, await codeOf(picker, stops[0].sku));
for (let i = 1; i < stops[0].quantity / 2; i++) await scan(picker, await codeOf(picker, stops[0].sku));
await shoot(picker, 'floor');

// A heap of some orders, picked onto a trolley and half sorted.
const clear = (await look(lead, 'orders?stage=Clear&size=9')).rows.map(r => r.id);
const heap = await (
  await lead.request.post(`${BASE}/api/v1/picking/lists`, { data: { orderIds: clear, method: 'batch' } })
).json();
await picker.goto(`${BASE}/floor/${heap.no}`);
await picker.getByText('Scan the trolley that you take.').waitFor();
await scan(picker, 'TR-002');
for (const stop of (await look(picker, `picking/lists/${heap.no}`)).rows) {
  const place = await picker.locator('[data-part="place"]').innerText();
  if (place === 'Done') break;
  if (await picker.getByText('scan the place', { exact: true }).isVisible()) await scan(picker, place);
  await scan(picker, await codeOf(picker, await picker.locator('[data-part="sku"]').innerText()));
  if (stop) await scan(picker, 'AUK-ALL');
}
await visit(lead, '/wall', null);
await scan(lead, 'TR-002');
await settled(lead);
const { rows: sorted } = await look(lead, `picking/lists/${heap.no}`);
for (const row of sorted.slice(0, 8)) {
  await scan(lead, await codeOf(lead, row.sku));
  if (row.quantity > 1) await scan(lead, 'AUK-ALL');
}
await scan(lead, await codeOf(lead, sorted[8].sku));
await shoot(lead, 'wall');

const packer = await person('AB-1002');
// The order with most to see that still fits the screen.
const picked = (await look(packer, 'orders?stage=Picked')).rows
  .filter(r => r.units <= 16)
  .sort((a, b) => b.lines - a.lines || b.units - a.units)[0];
await packer.getByText('Scan a slip or a tote').waitFor();
await scan(packer, 'BE-1');
await packer.getByRole('heading', { name: 'Bench 1' }).waitFor();
await scan(packer, picked.no);
await settled(packer);
await packer.locator('figure').waitFor();
let weightMg = 400_000;
for (let i = 0; i < 40 && (await packer.locator('[data-part="line"][data-now]').count()) > 0; i++) {
  const product = await look(
    packer,
    `products/${await packer.locator('[data-now] [data-part="sku"]').innerText()}`,
  );
  weightMg += product.weightMg;
  await scan(packer, product.codes[0].code);
  if (await packer.getByText('Scan the serial number').isVisible()) await scan(packer, 'HS-204117');
  if (i === 1) {
    await shoot(packer, 'bench');
  }
}
for (const text of ['AUK-YES', `${Math.round(weightMg / 1000)} g`, 'AUK-YES', 'AUK-LABEL'])
  await scan(packer, text);
await packer.locator('[data-part="offer"]').first().waitFor();
await packer.keyboard.press('Alt+1');
await packer.getByText('Label is bought').waitFor();
// An order of which rules decided something, one over another.
const decided = await Promise.all(
  (await look(lead, 'orders?stage=Clear&size=60')).rows.map(async ({ id }) => ({
    id,
    fields: (await look(lead, `rules/orders/${id}/why`)).fields,
  })),
);
const why = decided.find(d => d.fields.some(f => f.over.length > 0)) ?? decided[0];
await visit(lead, `/orders/${why.id}`, null);
await lead.getByRole('region', { name: 'What decided it' }).scrollIntoViewIfNeeded();
await shoot(lead, 'order');
// The order whose boxes and services save most when they are chosen together.
const savings = await Promise.all(
  (await look(lead, 'orders?stage=Clear&size=40')).rows.map(async ({ id }) => {
    const compared = await lead.request.post(`${BASE}/api/v1/rating/compare`, {
      data: { about: { kind: 'order', id } },
      headers: { origin: BASE },
    });
    const { together } = await compared.json();
    return { id, saves: together && together.parcels.length > 1 ? together.savesMinor : 0 };
  }),
);
await visit(lead, `/parcels/compare?order=${savings.sort((x, y) => y.saves - x.saves)[0].id}`, null);
await lead.getByRole('complementary').waitFor();
await shoot(lead, 'compare');
const labelled = (await look(lead, 'parcels')).find(p => p.state === 'labelled');
await visit(lead, `/parcels?look=${labelled.no}`, null);
await lead.getByRole('heading', { name: 'Label', exact: true }).waitFor();
await settled(lead);
await shoot(lead, 'parcels');

const departure = (await look(lead, 'departures/board')).departures.filter(
  d => d.state === 'open' && d.bar.labelled > 0,
)[0];
const onIt = (await look(lead, `departures/${departure.no}`)).parcels;
await visit(lead, `/departures/${departure.no}`, null);
for (const p of onIt.slice(0, 3)) await scan(lead, p.tracking);
await scan(lead, 'PA-1');
await shoot(lead, 'handover');

// What a buyer sees on a telephone, after having written.
const gone = (await look(lead, 'orders?stage=Departed&channel=web&size=1')).rows[0];
const { link } = await look(lead, `orders/${gone.id}/thread`);
const buyer = await (await browser.newContext({ viewport: { width: 390, height: 844 } })).newPage();
await buyer.goto(BASE + new URL(link).pathname);
await buyer.getByLabel('Your message').fill('Can it be left with the neighbour at 14?');
await buyer.getByRole('button', { name: 'Send' }).click();
await buyer.getByText('We have it').waitFor();
await shoot(buyer, 'buyer');
// Shipments to centers: a draft, its ways, pallets, boxes for several centers, and one that was counted short.
await visit(lead, '/inbound/IN-10', null);
await lead.getByRole('heading', { name: 'Ways to send it' }).waitFor();
await shoot(lead, 'draft');
const send = (path, data) =>
  lead.request.post(`${BASE}/api/v1/${path}`, { data, headers: { origin: BASE } }).then(r => r.json());
const { no } = await send('inbound', { key: crypto.randomUUID(), network: 'Fernway Centers' });
for (const [sku, units] of [
  ['BKT-5G', 24],
  ['STR-DBL', 20],
  ['BRS-BEE', 48],
  ['SMK-7-ST', 12],
])
  await lead.request.post(`${BASE}/api/v1/inbound/${no}/lines`, { data: { sku, units } });
await lead.request.post(`${BASE}/api/v1/inbound/${no}/codes`);
await visit(lead, `/inbound/${no}`, null);
await lead.getByRole('heading', { name: 'Ways to send it' }).waitFor();
await lead.getByRole('region', { name: 'What' }).getByRole('button').first().click();
await lead.getByRole('heading', { name: 'Ways to send it' }).scrollIntoViewIfNeeded();
await shoot(lead, 'ways');
await lead
  .getByRole('row', { name: /One dock.*pallets, Fernway Pallet/ })
  .getByRole('button', { name: 'Choose' })
  .click();
await lead.getByRole('figure', { name: 'Pallet 1' }).waitFor();
await lead.evaluate(() => window.scrollTo(0, 0));
await shoot(lead, 'pallet');
await visit(lead, '/inbound/IN-7', null);
await lead.getByRole('figure', { name: 'Boxes' }).waitFor();
await shoot(lead, 'boxes');
await visit(lead, '/inbound/IN-3', null);
await lead.getByRole('grid', { name: 'Counted otherwise at Columbus' }).waitFor();
await shoot(lead, 'follow');
await browser.close();
