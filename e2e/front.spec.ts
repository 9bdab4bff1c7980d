import { expect, type Page, test } from '@playwright/test';
import { atBench, packed, picked, problem } from './bench.js';
import { bringIn, codeOf, enter, look, openOrder, packAll, part, says, scan, signIn } from './hands.js';

/** Holds every answer of an address back until it is let go. */
async function hold(page: Page, address: string): Promise<() => void> {
  let free = () => {};
  const waiting = new Promise<void>(resolve => {
    free = resolve;
  });
  await page.route(address, async route => {
    await waiting;
    await route.continue().catch(() => undefined);
  });
  return free;
}

test('two equal answers in a row are said as two', async ({ page }) => {
  await signIn(page, 'AB-1001');
  const { no } = await picked(page, 'FR-1', 'Twice Told');
  await atBench(page, no, 'Twice Told');
  const wrong = await codeOf(page.request, 'SMK-4-ST');
  await scan(page, wrong);
  await expect(part(page, 'answer')).toHaveAttribute('data-tone', 'wrong');
  await expect(part(page, 'answer')).not.toContainText('in a row');
  await scan(page, wrong);
  await expect(part(page, 'answer')).toContainText('Said 2 times in a row.');
});

test('an answer that comes late leads nowhere', async ({ page }) => {
  await signIn(page, 'AB-1001');
  await page.goto('/orders');
  const letGo = await hold(page, '**/api/v1/find?*');
  const asked = page.waitForRequest('**/api/v1/find?*');
  await scan(page, 'BOOK-1ST');
  await asked;
  await page.getByRole('link', { name: 'Stock', exact: true }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Stock' })).toBeVisible();
  const answered = page.waitForResponse('**/api/v1/find?*');
  letGo();
  await answered;
  await expect(page.getByRole('grid', { name: 'Stock' })).toBeVisible();
  expect(new URL(page.url()).pathname).toBe('/stock');
});

test('the bench asks again for prices that could not be had', async ({ page }) => {
  await signIn(page, 'AB-1001');
  const { no } = await picked(page, 'FR-2', 'No Prices');
  await atBench(page, no, 'No Prices');
  await page.route('**/api/v1/parcels/*/offers', route => route.fulfill(problem(503, 'later')));
  await packAll(page);
  for (const text of ['BX-3', '3 lb', 'AUK-YES', 'AUK-CLOSE']) await scan(page, text);
  await expect(page.getByRole('heading', { name: 'No prices' })).toBeVisible();
  await page.unroute('**/api/v1/parcels/*/offers');
  await page.keyboard.press('Alt+1');
  await expect(part(page, 'offer').first()).toBeVisible();
});

test('the handover never leaves an old “right” over an error', async ({ page }) => {
  await signIn(page, 'AB-1001');
  const { departures } = await look(page.request, 'departures/board');
  const { no } = departures.find(
    (d: { state: string; bar: { labelled: number } }) => d.state === 'open' && d.bar.labelled > 0,
  );
  const view = await look(page.request, `departures/${no}`);
  await page.goto(`/departures/${no}`);
  await expect(says(page)).toHaveText('Scan the parcels');
  await scan(page, view.parcels[0].no);
  await expect(part(page, 'answer')).toHaveAttribute('data-tone', /right|info/);
  await expect(part(page, 'answer')).toContainText(view.parcels[0].no);
  await scan(page, 'PA-999999');
  await expect(part(page, 'answer')).toHaveAttribute('data-tone', 'wrong');
  await expect(part(page, 'answer')).toContainText('PA-999999');
  await expect(part(page, 'answer')).not.toContainText(view.parcels[0].no);
});

test('two fields changed one after the other by Tab are both saved, in order, with nobody in the way', async ({
  page,
}) => {
  await signIn(page, 'AB-1004');
  await bringIn(page, [['FR-3', 'Quick Hands', 'BOOK-1ST', 1, '5.00']]);
  await openOrder(page, 'FR-3');
  const letGo = await hold(page, '**/api/v1/orders/*/edit');
  const street = page.getByLabel('Ship to: street');
  await street.fill('7 Quick Road');
  await page.keyboard.press('Tab');
  await page.getByLabel('Ship to: town').fill('Nampa');
  await page.keyboard.press('Tab');
  letGo();
  const id = page.url().split('/').at(-1)!.split('?')[0];
  await expect
    .poll(async () => {
      const { shipTo } = await look(page.request, `orders/${id}`);
      return [shipTo.line1, shipTo.city];
    })
    .toEqual(['7 Quick Road', 'Nampa']);
  await expect(page.getByRole('alert')).toBeHidden();
});

test('text that cannot be read stays as typed, marked, with what is accepted', async ({ page }) => {
  await signIn(page, 'AB-1004');
  await bringIn(page, [['FR-4', 'Odd Words', 'BOOK-1ST', 1, '5.00']]);
  await openOrder(page, 'FR-4');
  const shipping = page.getByLabel('Shipping', { exact: true });
  await shipping.fill('abc');
  await page.keyboard.press('Tab');
  await expect(shipping).toHaveValue('abc');
  await expect(shipping).toHaveAttribute('aria-invalid', 'true');
  await expect(page.getByRole('alert')).toContainText('abc');
  await shipping.fill('4.50');
  await page.keyboard.press('Tab');
  await expect(shipping).toHaveValue('$4.50');
  await expect(page.getByRole('alert')).toBeHidden();
});

test('an act on many goes on in portions, says how far it is, and can be stopped between two', async ({
  page,
}) => {
  await signIn(page, 'AB-1004');
  const many = Array.from(
    { length: 60 },
    (_, i) => [`MANY-${i}`, 'Many Hands', 'NOT-SOLD', 1, '5.00'] as [string, string, string, number, string],
  );
  await bringIn(page, many);
  await page.goto('/orders?words=MANY-');
  await expect(part(page, 'sentence')).toContainText('60 orders');
  // All of them, also those that are not drawn yet.
  await page.getByRole('treegrid', { name: 'Orders' }).focus();
  await page.keyboard.press('End');
  await page.getByLabel('Choose all that are shown').check();
  await expect(page.getByText('60 orders chosen')).toBeVisible();
  const letGo = await hold(page, '**/api/v1/orders/bulk');
  await page.getByRole('button', { name: 'Tag', exact: true }).click();
  await expect(page.getByLabel('Tag', { exact: true })).toHaveValue('');
  await page.getByLabel('Tag', { exact: true }).fill('many');
  await page.keyboard.press('Enter');
  await expect(page.getByText('0 of 60 orders')).toBeVisible();
  await page.getByRole('button', { name: 'Stop here' }).click();
  letGo();
  await expect(page.getByText(/50 of 60 orders/)).toBeVisible();
  expect((await look(page.request, 'orders?tag=many&count=yes')).total ?? 50).toBe(50);
});

test('a failing question of who is signed in throws nobody out', async ({ page }) => {
  await signIn(page, 'AB-1001');
  await page.goto('/board');
  await expect(page.getByRole('heading', { name: 'Needs a person' })).toBeVisible();
  await page.route('**/api/v1/people/me', route => route.fulfill(problem(500, 'later')));
  const asked = page.waitForRequest('**/api/v1/people/me');
  // Something about people changes elsewhere: who is signed in is asked anew.
  const admin = await page
    .context()
    .browser()!
    .newContext({ baseURL: new URL(page.url()).origin });
  await admin.request.post('/api/v1/people/sign-in', { data: { badge: 'AB-1005', pin: '2468' } });
  for (const on of [false, true])
    await admin.request.post('/api/v1/people/rights', {
      data: { right: 'papers.change', role: 'packer', on: !on },
    });
  await asked;
  await page.getByRole('link', { name: 'Products', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'Products' })).toBeVisible();
  await admin.close();
});

test('who signs out at the bench leaves nothing but unsent scans, which the next one sends', async ({
  page,
}) => {
  await signIn(page, 'AB-1001');
  const { id, no, code } = await picked(page, 'FR-5', 'Left Behind');
  await page.request.post('/api/v1/people/sign-out');
  await signIn(page, 'AB-1002');
  await atBench(page, no, 'Left Behind');
  await page.route('**/api/v1/packing/sessions/*/scans', route => route.fulfill(problem(503, 'later')));
  await scan(page, code);
  await expect(says(page)).toContainText('1 of 3');
  await scan(page, 'AUK-ASIDE');
  await page.getByRole('button', { name: /packer$/ }).click();
  await page.getByRole('menuitem', { name: 'Sign out' }).click();
  await expect(page.getByRole('button', { name: 'Sign in' })).toBeVisible();
  expect(await page.evaluate(() => Object.keys(sessionStorage).filter(k => k.startsWith('auk')))).toEqual([]);
  expect(await packed(page, id).catch(() => null)).toBeNull();
  await page.unroute('**/api/v1/packing/sessions/*/scans');
  await enter(page, 'AB-1006');
  await expect.poll(() => packed(page, id), { timeout: 60_000 }).toBe(1);
});

test('a page whose code is gone after an update is loaded anew once, then says so', async ({ page }) => {
  await signIn(page, 'AB-1001');
  await page.goto('/board');
  await expect(page.getByRole('heading', { name: 'Needs a person' })).toBeVisible();
  await page.route('**/assets/StockPage-*.js', route => route.fulfill({ status: 404, body: '' }));
  let loads = 0;
  page.on('load', () => loads++);
  await page.getByRole('link', { name: 'Stock', exact: true }).click();
  await expect(page.getByRole('alert')).toContainText('This page could not be loaded.');
  expect(loads).toBe(1);
  await page.getByRole('link', { name: 'Products', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'Products' })).toBeVisible();
});

test('how it looks is kept for each person on this device: text, contrast, units', async ({ page }) => {
  const html = page.locator('html');
  const weight = page.getByLabel('Weight', { exact: true });
  await signIn(page, 'AB-1001');
  await page.goto('/products/SMK-4-ST');
  await expect(weight).toHaveValue(/ lb /);
  await page.getByRole('button', { name: /lead$/ }).click();
  await page.getByRole('menuitem', { name: 'How it looks' }).click();
  await page.getByLabel('Size of all text').selectOption('150 %');
  await page.getByLabel('Weights and sizes').selectOption({ label: 'kilograms and centimetres' });
  await page.getByLabel('High contrast').check();
  await page.getByRole('button', { name: 'Done' }).click();
  const worn = async () => {
    await expect(html).toHaveCSS('font-size', '24px');
    await expect(page.locator('body')).toHaveCSS('color', 'rgb(0, 0, 0)');
    await expect(weight).toHaveValue(/ k?g$/);
  };
  await worn();
  await page.reload();
  await worn();
  // Fields take both, whatever is shown.
  await weight.fill('2 lb');
  await page.keyboard.press('Enter');
  await expect(weight).toHaveValue('907 g');
  // Another person of the same device has a look of their own.
  await page.request.post('/api/v1/people/sign-out');
  await signIn(page, 'AB-1004');
  await page.goto('/products/SMK-4-ST');
  await expect(html).toHaveCSS('font-size', '16px');
  await expect(weight).toHaveValue('2 lb');
});

test('each page has its title; going to another stands at its beginning; the frame can be skipped', async ({
  page,
}) => {
  await signIn(page, 'AB-1001');
  await page.goto('/board');
  await expect(page).toHaveTitle('Board · Auk');
  await page.getByRole('link', { name: 'Stock', exact: true }).click();
  await expect(page).toHaveTitle('Stock · Auk');
  await expect(page.getByRole('main')).toBeFocused();
  await page.goto('/orders');
  await expect(page.getByRole('treegrid', { name: 'Orders' })).toBeVisible();
  await page.keyboard.press('Tab');
  await expect(page.getByRole('link', { name: 'Go to the page' })).toBeFocused();
  await page.keyboard.press('Enter');
  await page.keyboard.press('Tab');
  expect(await page.evaluate(() => document.activeElement!.closest('main') !== null)).toBe(true);
  const row = (await look(page.request, 'orders?size=1')).rows[0];
  await page.goto(`/orders/${row.id}`);
  await expect(page).toHaveTitle(`${row.channelNumber} · Auk`);
});

test('coming back to a list stands where it was left', async ({ page }) => {
  await signIn(page, 'AB-1001');
  await page.goto('/products');
  const name = page.getByRole('link', { name: 'BKT-5G', exact: true });
  const grid = page.getByRole('grid', { name: 'Products' });
  await grid.focus();
  // End goes to the last row that is here, where the next rows are asked for: the end is reached when no more come.
  await expect
    .poll(async () => {
      await page.keyboard.press('End');
      return await grid.evaluate(
        table =>
          [...table.querySelectorAll('[aria-rowindex]')].at(-1)!.getAttribute('aria-rowindex') ===
          table.getAttribute('aria-rowcount'),
      );
    })
    .toBe(true);
  expect(await page.evaluate(() => window.scrollY)).toBeGreaterThan(500);
  const sku = await grid.getByRole('link').last().innerText();
  await grid.getByRole('link', { name: sku, exact: true }).click();
  await expect(page).toHaveTitle(`${sku} · Auk`);
  await page.goBack();
  await expect(page.getByRole('link', { name: sku, exact: true })).toBeInViewport();
  await expect(name).not.toBeInViewport();
});

test('Bench and Floor come with less than 300 KB of script, packed, in few files', async ({
  browser,
  page,
  baseURL,
}) => {
  await signIn(page, 'AB-1001');
  const state = await page.context().storageState();
  for (const [path, words] of [
    ['/bench', 'Scan a slip or a tote'],
    ['/floor', 'Scan a pick list'],
  ] as const) {
    const cold = await browser.newContext({ storageState: state, baseURL: baseURL! });
    const tab = await cold.newPage();
    await tab.goto(path);
    await expect(tab.getByText(words)).toBeVisible();
    const sizes = await tab.evaluate(() =>
      (performance.getEntriesByType('resource') as PerformanceResourceTiming[])
        .filter(r => r.name.endsWith('.js'))
        .map(r => r.encodedBodySize),
    );
    expect(sizes.length, path).toBeLessThan(35);
    const bytes = sizes.reduce((sum, n) => sum + n, 0);
    expect(bytes, path).toBeGreaterThan(50_000);
    expect(bytes, path).toBeLessThan(300 * 1024);
    await cold.close();
  }
});

test('columns have the widths of the list, and those that a person drags them to, on any machine', async ({
  page,
  browser,
}) => {
  await signIn(page, 'AB-1003');
  await page.goto('/orders');
  const head = (at: Page, name: string) => at.getByRole('columnheader', { name, exact: true });
  const widthOf = async (at: Page, name: string) => (await head(at, name).boundingBox())!.width;
  await expect(head(page, 'Buyer')).toBeVisible();
  expect(await widthOf(page, 'Starred')).toBeLessThan((await widthOf(page, 'Buyer')) / 2);
  const before = await widthOf(page, 'Buyer');
  const box = (await head(page, 'Buyer').boundingBox())!;
  await page.mouse.move(box.x + box.width - 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width + 58, box.y + box.height / 2, { steps: 5 });
  const kept = page.waitForResponse(
    r => r.url().includes('order-columns') && r.request().method() === 'POST',
  );
  await page.mouse.up();
  await kept;
  await expect.poll(() => widthOf(page, 'Buyer')).toBeGreaterThan(before + 40);
  const wide = await widthOf(page, 'Buyer');
  const other = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
  await signIn(other, 'AB-1003');
  await other.goto('/orders');
  await expect.poll(() => widthOf(other, 'Buyer')).toBeCloseTo(wide, 0);
  await other.getByRole('button', { name: 'Columns' }).click();
  await other.getByRole('button', { name: 'As they were at first' }).click();
  await other.keyboard.press('Escape');
  await expect.poll(() => widthOf(other, 'Buyer')).toBeCloseTo(before, 0);
});
