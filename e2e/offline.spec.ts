import { expect, type Page, request, test } from '@playwright/test';
import { atBench, pickedOf } from './bench.js';
import { bringIn, codeOf, keptScans, look, part, says, scan, signIn } from './hands.js';
import { Wire } from './wire.js';

let wire: Wire;
test.use({
  serviceWorkers: 'allow',
  viewport: { width: 390, height: 844 },
  // biome-ignore lint/correctness/noEmptyPattern: a fixture names what it needs, and this needs nothing
  baseURL: async ({}, use) => {
    wire = await Wire.to(Number(process.env.AUK_PORT));
    await use(wire.url);
    wire.close();
  },
});
/** What the server has, asked past the wire. */
const server = () => request.newContext({ baseURL: `http://127.0.0.1:${process.env.AUK_PORT}` });

/** A list of one order of three jars, released by the lead. */
async function released(page: Page, number: string): Promise<string> {
  await bringIn(page, [[number, `Buyer ${number}`, 'JAR-HEX-12', 3, '9.00']]);
  const { rows } = await look(page.request, `orders?stage=Clear&words=${number}`);
  const orderIds = rows.map((r: { id: string }) => r.id);
  return (await (await page.request.post('/api/v1/picking/lists', { data: { orderIds } })).json()).no;
}

/** Waits until the pages of this browser start without a network. */
const kept = (page: Page) =>
  page.evaluate(async () => {
    await navigator.serviceWorker.ready;
    // Everything that is kept is there once the worker is at work.
    if (!navigator.serviceWorker.controller)
      await new Promise(resolve =>
        navigator.serviceWorker.addEventListener('controllerchange', resolve, { once: true }),
      );
  });

test('a taken list goes on without a network, through a reload and an empty battery, and nothing is lost or counted twice', async ({
  page,
}) => {
  await signIn(page, 'AB-1001');
  const no = await released(page, 'OFF-1');
  await page.goto(`/floor/${no}`);
  await expect(part(page, 'place')).toBeVisible();
  await kept(page);
  const opened = await (
    await page.request.post('/api/v1/picking/open', { data: { code: no, device: 'watching' } })
  ).json();
  const { stops } = opened.state;
  await scan(page, stops[0].placeCode);
  await expect(part(page, 'answer')).toContainText(`Right place, ${stops[0].placeCode}.`);
  await expect.poll(() => keptScans(page)).toBe(0);
  wire.cut();
  await page.reload();
  // The page comes from this device, and the walk stands where it stood.
  await expect(part(page, 'place')).toHaveText(stops[0].placeCode);
  await expect(page.getByText('✓ right place')).toBeVisible();
  await scan(page, stops[0].product.codes[0].code);
  await expect(part(page, 'answer')).toContainText('Right');
  await scan(page, 'WRONG-1');
  await expect(part(page, 'answer')).toContainText('Nothing on this list has the code WRONG-1.');
  await expect(page.getByRole('button', { name: '2 scans unsent' })).toBeVisible();
  // Another page load, still without a network: what is unsent counts on top of what the server said last.
  await page.reload();
  await expect(page.getByText('2 scans unsent')).toBeVisible();
  await expect(page.getByText('of 3 taken')).toBeVisible();
  await expect(page.getByRole('button', { name: 'All 2 more' })).toBeEnabled();
  const past = await server();
  await past.post('/api/v1/people/sign-in', { data: { badge: 'AB-1001', pin: '2468' } });
  expect((await look(past, `picking/lists/${no}`)).taken).toBe(0);
  wire.mend();
  await expect(page.getByText(/scans? unsent/)).toHaveCount(0);
  expect((await look(past, `picking/lists/${no}`)).taken).toBe(1);
});

test('without a network the Floor, the Dock and the Bench start by themselves, in the name of whoever was here last', async ({
  page,
}) => {
  await signIn(page, 'AB-1002');
  for (const path of ['/receiving', '/receiving/PO-1', '/floor', '/bench']) {
    await page.goto(path);
    await expect(page.getByRole('main')).toBeVisible();
  }
  await page.goto('/receiving/PO-1');
  await expect(part(page, 'answer')).toBeVisible();
  await kept(page);
  wire.cut();
  await page.goto('/receiving/PO-1');
  await expect(part(page, 'answer')).toContainText('Scan what comes.');
  await expect(page.getByRole('button', { name: 'Tomas Brandt packer' })).toBeVisible();
  await page.goto('/floor');
  await expect(page.getByText('Scan a pick list')).toBeVisible();
  await page.goto('/bench');
  await expect(page.getByText('Scan a slip or a tote')).toBeVisible();
  // What it does not hold it says in words.
  await page.goto('/floor/PL-999999');
  await expect(part(page, 'answer')).toContainText('Auk cannot be reached.');
});

test('who signs out leaves nothing that is held, and a taken list is not opened without a network any more', async ({
  page,
}) => {
  await signIn(page, 'AB-1001');
  const no = await released(page, 'OFF-2');
  await page.goto(`/floor/${no}`);
  await expect(part(page, 'place')).toBeVisible();
  await kept(page);
  await page.goto('/floor');
  await page.getByRole('button', { name: 'Ines Maddow lead' }).click();
  await page.getByRole('menuitem', { name: 'Sign out' }).click();
  await expect(page.getByRole('button', { name: 'Sign in' })).toBeVisible();
  wire.cut();
  await page.goto(`/floor/${no}`);
  await expect(page.getByRole('button', { name: 'Sign in' })).toBeVisible();
  await expect(page.getByText(no)).toHaveCount(0);
});

test('Auk can be installed: its manifest names it, its start and its mark', async ({ page }) => {
  const manifest = await (await page.request.get('/manifest.webmanifest')).json();
  expect(manifest).toMatchObject({ name: 'Auk', start_url: '/', display: 'standalone' });
  for (const icon of manifest.icons) expect((await page.request.get(icon.src)).status()).toBe(200);
  await page.goto('/');
  await expect(page.locator('link[rel="manifest"]')).toHaveAttribute('href', '/manifest.webmanifest');
});

test('a started order is finished at the bench without a network; its label waits, and all of it arrives once', async ({
  page,
}) => {
  await page.setViewportSize({ width: 1280, height: 800 });
  await signIn(page, 'AB-1001');
  const { id, no } = await pickedOf(page, 'OFF-PACK', 'Far Buyer', [['JAR-HEX-12', 2]]);
  const code = await codeOf(page.request, 'JAR-HEX-12');
  await atBench(page, no, 'Far Buyer');
  await kept(page);
  await scan(page, code);
  await expect(says(page)).toContainText('Right. 1 of 2');
  await expect.poll(() => keptScans(page)).toBe(0);
  wire.cut();
  await page.reload();
  await expect(page.getByText('Scan a slip or a tote')).toBeVisible();
  await scan(page, no);
  await expect(page.getByText('Far Buyer')).toBeVisible();
  await expect(part(page.locator('[data-part="line"]'), 'units')).toContainText('1 of 2');
  await scan(page, code);
  await expect(says(page)).toHaveText('Everything is in.');
  for (const text of ['BX-2', '2 lb', 'AUK-YES', 'AUK-CLOSE']) await scan(page, text);
  await expect(says(page)).toHaveText('Packed. The label waits.');
  wire.mend();
  await expect.poll(() => keptScans(page), { timeout: 60_000 }).toBe(0);
  await expect(part(page, 'offer').first()).toBeVisible();
  const order = await look(page.request, `orders/${id}`);
  expect(order.row.stage).toBe('Packed');
  expect(order.lines[0].parts[0].held.packed).toBe(2);
});
