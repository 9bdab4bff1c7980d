import { type BrowserContext, expect } from '@playwright/test';
import { atBench, packed, picked, problem } from './bench.js';
import { bringIn, holdBack, look, packAll, part, says, scan, signIn } from './hands.js';
import { test } from './journey.js';

test('a scan made after the session ended is kept, a sign-in is asked for over the screen, and it goes on', async ({
  page,
}) => {
  await signIn(page, 'AB-1001');
  const { id, no, code } = await picked(page, 'UN-1', 'Una Session');
  await atBench(page, no, 'Una Session');
  await scan(page, code);
  await expect(says(page)).toContainText('1 of 3');
  await page.context().clearCookies();
  await scan(page, code);
  const dialog = page.getByRole('dialog', { name: 'Sign in to go on' });
  await expect(dialog).toBeVisible();
  // A piece scanned meanwhile is the order's, and who comes may be another.
  await scan(page, code);
  await expect(dialog.getByLabel('Badge')).toHaveValue('');
  await scan(page, 'AB-1002');
  await expect(dialog.getByLabel('Badge')).toHaveValue('AB-1002');
  await page.keyboard.type('2468', { delay: 80 });
  await page.keyboard.press('Enter');
  await expect(dialog).toBeHidden();
  await expect(says(page)).toHaveText('Everything is in.');
  await expect.poll(() => packed(page, id)).toBe(3);
});

for (const [status, retry] of [
  [409, 'now'],
  [429, 'later'],
  [500, 'later'],
  [503, 'later'],
] as const)
  test(`a scan that is answered ${status} stays and is sent again, and counts once`, async ({ page }) => {
    await signIn(page, 'AB-1001');
    const number = `UN-${status}`;
    const { id, no, code } = await picked(page, number, `Buyer of ${status}`);
    await atBench(page, no, `Buyer of ${status}`);
    let refused = 0;
    await page.route('**/packing/sessions/*/scans', async route => {
      if (refused++ > 0) return route.continue();
      return route.fulfill(problem(status, retry));
    });
    await scan(page, code);
    await scan(page, code);
    await expect(says(page)).toContainText('2 of 3');
    await expect.poll(() => packed(page, id), { timeout: 15_000 }).toBe(2);
    expect(refused).toBeGreaterThan(2);
  });

test('what was scanned on an order that was left is sent all the same, and what is unsent is seen and told', async ({
  page,
}) => {
  await signIn(page, 'AB-1001');
  const { id, no, code } = await picked(page, 'UN-2', 'Ulric Left');
  await atBench(page, no, 'Ulric Left');
  let tries = 0;
  await page.route('**/packing/sessions/*/scans', route => {
    tries++;
    return route.abort();
  });
  await scan(page, code);
  await scan(page, code);
  await expect(says(page)).toContainText('2 of 3');
  await scan(page, 'AUK-ASIDE');
  await expect(page.getByText('Scan a slip or a tote')).toBeVisible();
  const unsent = page.getByRole('button', { name: /2 scans unsent/ });
  await expect(unsent).toBeVisible();
  await unsent.click();
  await expect(page.getByRole('dialog')).toContainText(`into ${no}`);
  await expect(page.getByRole('dialog')).toContainText('cannot be reached');
  // Pressed while the network is still cut it is tried and stays; once it is back, it goes by itself.
  const before = tries;
  await page.getByRole('button', { name: 'Try now' }).click();
  await expect.poll(() => tries).toBeGreaterThan(before);
  await expect(page.getByRole('dialog')).toContainText('2 scans not sent yet');
  await page.unroute('**/packing/sessions/*/scans');
  await expect(page.getByRole('dialog')).toContainText('Everything is sent.');
  await page.getByRole('button', { name: 'Close' }).click();
  await expect(unsent).toBeHidden();
  expect(await packed(page, id)).toBe(2);
});

test('scans of a tab that was closed are sent by another', async ({ page, context }) => {
  await signIn(page, 'AB-1001');
  const { id, no, code } = await picked(page, 'UN-3', 'Tabitha Two');
  const other = await context.newPage();
  await atBench(other, no, 'Tabitha Two');
  await block(context);
  await scan(other, code);
  await expect(says(other)).toContainText('1 of 3');
  await other.close();
  await context.unroute('**/packing/sessions/*/scans');
  await page.goto('/board');
  await expect.poll(() => packed(page, id), { timeout: 20_000 }).toBe(1);
});

const block = (context: BrowserContext) =>
  context.route('**/packing/sessions/*/scans', route => route.abort());

test('a piece scanned before the answer to its slip is there waits for it', async ({ page }) => {
  await signIn(page, 'AB-1001');
  const { id, no, code } = await picked(page, 'UN-4', 'Early Piece');
  await page.goto('/bench');
  await expect(page.getByText('Scan a slip or a tote')).toBeVisible();
  const go = await holdBack(page, '**/packing/open');
  await scan(page, no);
  await scan(page, code);
  await scan(page, code);
  go();
  await expect(page.getByText('Early Piece')).toBeVisible();
  await expect(says(page)).toContainText('2 of 3');
  await expect.poll(() => packed(page, id)).toBe(2);
});

test('a scan made while the page is still loading keeps its head', async ({ page }) => {
  await signIn(page, 'AB-1001');
  const { no } = await picked(page, 'UN-5', 'Quick Hand');
  const go = await holdBack(page, '**/assets/BenchPage*.js');
  await page.goto('/bench', { waitUntil: 'commit' });
  await expect
    .poll(() => page.evaluate(() => document.querySelector('#root')?.innerHTML.length ?? -1))
    .toBe(0);
  await page.waitForFunction(
    () => performance.getEntriesByName(`${location.origin}/api/v1/people/me`).length > 0,
  );
  await scan(page, no);
  go();
  await expect(page.getByText('Quick Hand')).toBeVisible();
});

test('a label’s key pressed again after it is bought undoes nothing', async ({ page }) => {
  await signIn(page, 'AB-1001');
  const { id, no } = await picked(page, 'UN-6', 'Once Bought');
  await atBench(page, no, 'Once Bought');
  await packAll(page);
  for (const text of ['BX-3', '3 lb', 'AUK-YES', 'AUK-CLOSE']) await scan(page, text);
  await expect(part(page, 'offer').first()).toBeVisible();
  await page.keyboard.press('Alt+1');
  await expect(says(page)).toContainText('Label bought');
  for (let i = 0; i < 3; i++) await page.keyboard.press('Alt+1');
  await expect(says(page)).toContainText('Label bought');
  expect((await look(page.request, `orders/${id}`)).row.stage).toBe('Labelled');
});

test('the same refused code scanned twice is refused aloud twice', async ({ page }) => {
  await page.addInitScript(() => {
    const heard: number[] = [];
    Object.assign(window, { heard });
    const start = OscillatorNode.prototype.start;
    OscillatorNode.prototype.start = function (...args) {
      heard.push(this.frequency.value);
      return start.apply(this, args);
    };
  });
  await signIn(page, 'AB-1003');
  await page.goto('/floor');
  await expect(page.getByRole('heading', { name: 'Scan a pick list' })).toBeVisible();
  const heard = () => page.evaluate(() => (window as unknown as { heard: number[] }).heard.length);
  await scan(page, 'PL-999999');
  await expect(part(page, 'answer')).toContainText('PL-999999');
  const once = await heard();
  expect(once).toBeGreaterThan(0);
  await scan(page, 'PL-999999');
  await expect.poll(heard).toBe(2 * once);
  await expect(part(page, 'answer')).toContainText('PL-999999');
  await expect(part(page, 'answer')).toContainText('Said 2 times in a row.');
});

test('a search field never loses a letter, also on a slow page, and the list follows what was typed', async ({
  page,
}) => {
  await signIn(page, 'AB-1001');
  for (const [path, label, words, found] of [
    ['/orders?stage=all', 'Number, buyer, mail or title', 'first year with bees', 'First year with bees'],
    ['/products', 'Name, SKU or code', 'smoker, 4 in', 'SMK-4-ST'],
    ['/stock', 'SKU, name, place or lot', 'honey jar hex', 'JAR-HEX-12'],
    ['/stock/places', 'Place or zone', 'quarantine', 'QUARANTINE'],
    ['/kits', 'SKU or name', 'starter hive', 'KIT-START'],
  ] as const) {
    await page.goto(path);
    const field = page.getByLabel(label);
    await expect(field).toBeVisible();
    const devtools = await page.context().newCDPSession(page);
    await devtools.send('Emulation.setCPUThrottlingRate', { rate: 6 });
    await field.click();
    for (const letter of words) await page.keyboard.type(letter);
    await expect(field).toHaveValue(words);
    await devtools.send('Emulation.setCPUThrottlingRate', { rate: 1 });
    await expect(page.locator('tbody').getByText(found).first()).toBeVisible();
    await expect(field).toHaveValue(words);
    await expect.poll(() => new URL(page.url()).searchParams.get('words')).toBe(words);
    await expect(field).toHaveValue(words);
  }
});

test('one screen that goes wrong says so, and the others go on', async ({ page }) => {
  await signIn(page, 'AB-1001');
  await page.goto('/board');
  await expect(page.getByText('Needs a person')).toBeVisible();
  await page.route('**/api/v1/products?**', route =>
    route.fulfill({
      status: 200,
      contentType: 'application/json',
      body: '{"rows":[{"sku":"X"}],"next":null}',
    }),
  );
  await page.getByRole('link', { name: 'Products', exact: true }).click();
  await expect(page.getByRole('alert')).toContainText('This page went wrong.');
  await page.getByRole('link', { name: 'Board', exact: true }).click();
  await expect(page.getByText('Needs a person')).toBeVisible();
});

test('the live stream comes back after a failure, and what was missed is asked for', async ({
  page,
  context,
}) => {
  await signIn(page, 'AB-1001');
  await page.goto('/orders?words=LIVE-1&stage=all');
  await expect(page.getByLabel('Scan or type anything')).toBeVisible();
  let cut = 0;
  await context.route('**/api/v1/live**', route => {
    cut++;
    return route.abort();
  });
  await page.reload();
  await expect.poll(() => cut).toBeGreaterThan(1);
  const other = await context.newPage();
  await bringIn(other, [['LIVE-1', 'Liv Stream', 'BOOK-1ST', 1, '5.00']]);
  await other.close();
  await context.unroute('**/api/v1/live**');
  await expect(page.getByText('Liv Stream')).toBeVisible({ timeout: 30_000 });
});
