import { expect, type Page } from '@playwright/test';
import { codeOf, look, part, scan, signIn } from './hands.js';
import { test } from './journey.js';

/** The next answer of a path never reaches the page, though the server did what was asked. */
async function loseAnswer(page: Page, path: string): Promise<{ lost: () => number }> {
  let lost = 0;
  await page.route(path, async route => {
    if (lost > 0) return route.continue();
    lost++;
    await route.fetch();
    await route.abort();
  });
  return { lost: () => lost };
}

test('a scan into a draft whose answer is lost is sent again, and counts once', async ({ page }) => {
  await signIn(page, 'AB-1004');
  await page.goto('/orders');
  await page.getByRole('button', { name: 'New order' }).click();
  await expect(page).toHaveURL(/\/orders\/[0-9a-f-]{36}/);
  const id = page.url().split('/').pop()!;
  const says = part(page, 'answer');
  await expect(says).toContainText('Scan products');
  const loss = await loseAnswer(page, '**/api/v1/orders/*/scans');
  const code = await codeOf(page.request, 'JAR-HEX-12');
  await scan(page, code);
  await expect(says).toContainText('1 × Honey jar');
  expect(loss.lost()).toBe(1);
  await scan(page, code);
  await expect(says).toContainText('2 × Honey jar');
  expect((await look(page.request, `orders/${id}`)).lines).toMatchObject([{ quantity: 2 }]);
});

test('a count goes on after a reload with what was scanned and what was typed, and a lost answer counts once', async ({
  page,
}) => {
  await signIn(page, 'AB-1001');
  const { rows } = await look(page.request, 'stock?words=BOOK-1ST&kind=bin&size=5');
  const [lies] = rows;
  await page.goto(`/stock/counts/${lies.place}`);
  const counted = page.getByLabel(`Counted ${lies.sku}${lies.lot ? ` lot ${lies.lot}` : ''}`);
  await expect(counted).toBeVisible();
  await loseAnswer(page, '**/api/v1/stock/counts/sessions/*/scans');
  const code = await codeOf(page.request, lies.sku);
  await scan(page, code);
  await expect(counted).toHaveValue('1');
  await scan(page, code);
  await expect(counted).toHaveValue('2');
  await counted.fill('40');
  await page.locator('h1').click();
  await scan(page, code);
  await expect(counted).toHaveValue('41');
  await page.reload();
  await expect(counted).toHaveValue('41');
  await scan(page, 'NO-SUCH-CODE');
  await expect(page.getByRole('status').filter({ hasText: 'Nothing has the code' })).toBeVisible();
  await expect(counted).toHaveValue('41');
});

test('a file is taken in while nobody looks: its page can be left and found again', async ({ page }) => {
  await signIn(page, 'AB-1001');
  await page.goto('/bring-in');
  await page.getByLabel('Channel').selectOption('web');
  const rows = Array.from(
    { length: 1_500 },
    (_, i) => `LEFT-${i},Ruth Left ${i},${i} Road,Boise,ID,83702,NO-SUCH-LEFT,Thing,1,5.00`,
  );
  await page.getByLabel('File', { exact: true }).setInputFiles({
    name: 'left.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(
      `Order number,Buyer name,Address 1,City,State,Zip,SKU,Item title,Qty,Unit price\n${rows.join('\n')}`,
    ),
  });
  await page.getByRole('button', { name: 'Bring in 1500 orders' }).click();
  await expect(page).toHaveURL(/run=/);
  await page.goto('/board');
  await expect(page.getByText('Needs a person')).toBeVisible();
  await page.goto('/bring-in');
  await page.getByRole('button', { name: 'left.csv' }).first().click();
  await expect(page.getByRole('status')).toContainText('1500 new', { timeout: 30_000 });
  await expect(page.getByRole('status')).toContainText('1500 Stopped');
});

test('how long what is done is kept is set in Setup, and too short is refused in its field', async ({
  page,
}) => {
  await signIn(page, 'AB-1001');
  await page.goto('/setup/upkeep');
  const scans = page.getByLabel('Scans and acts, in days');
  await expect(scans).toHaveValue('800');
  await scans.fill('400');
  await expect(page.getByRole('button', { name: 'Save' })).toBeDisabled();
  await expect(scans).toHaveAttribute('aria-invalid', 'true');
  await scans.fill('900');
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText('Kept so from now on.')).toBeVisible();
  await page.reload();
  await expect(scans).toHaveValue('900');
  await scans.fill('800');
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText('Kept so from now on.')).toBeVisible();
});

test('the page itself has no script but its own files, and lets none be put into it', async ({ page }) => {
  const answer = await page.goto('/');
  const policy = answer!.headers()['content-security-policy'] ?? '';
  expect(policy).toContain("script-src 'self' 'wasm-unsafe-eval'");
  expect(policy).not.toMatch(/script-src[^;]*unsafe-inline/);
  const scripts = await page.locator('script').evaluateAll(all => all.map(s => (s as HTMLScriptElement).src));
  expect(scripts.length).toBeGreaterThan(0);
  for (const src of scripts) expect(new URL(src).origin).toBe(new URL(page.url()).origin);
  // What is put in all the same does not run.
  await page.evaluate(() => {
    const script = document.createElement('script');
    script.textContent = 'document.title = "put in"';
    document.head.append(script);
    document.body.insertAdjacentHTML('beforeend', '<img src="x:" onerror="document.title = \'put in\'">');
  });
  await expect(page.locator('img[src="x:"]')).toHaveCount(1);
  expect(await page.title()).not.toBe('put in');
});
