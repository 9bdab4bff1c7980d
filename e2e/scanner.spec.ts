import { expect, type Page } from '@playwright/test';
import { books, enter, look, packAll, part, says, scan, signIn, trick } from './hands.js';
import { test } from './journey.js';

test('a scan is caught before any widget: a focused button, an open dialog, a half-typed note', async ({
  page,
}) => {
  await signIn(page, 'AB-1001');
  const { rows } = await look(page.request, 'orders?stage=Clear&size=2');
  const [a, b] = rows;

  await page.goto(`/orders/${a.id}`);
  await page.getByRole('button', { name: 'Park' }).focus();
  await scan(page, b.no);
  await expect(page).toHaveURL(new RegExp(b.id));
  await expect(page.getByRole('dialog')).toBeHidden();

  await page.getByRole('button', { name: 'Park' }).click();
  const note = page.getByLabel('Why');
  await note.pressSequentially('half a no', { delay: 90 });
  await scan(page, a.no);
  await expect(page).toHaveURL(new RegExp(a.id));
  expect((await look(page.request, `orders/${b.id}`)).row.stage).toBe('Clear');

  await page.goto('/orders');
  const words = page.getByLabel('Number, buyer, mail or title');
  await words.click();
  await words.pressSequentially('Pen', { delay: 90 });
  await page.route('**/api/v1/find**', route => route.abort());
  await scan(page, 'PA-1');
  await expect(page.getByText(/cannot be reached/)).toBeVisible();
  await expect(words).toHaveValue('Pen');
});

test('two scans on their way are both kept, in order, and a lost network keeps them', async ({ page }) => {
  await enter(page, 'AB-1002');
  const rows = (await look(page.request, 'orders?stage=Picked')).rows;
  await expect(page.getByText('Scan a slip or a tote')).toBeVisible();
  let opened = null;
  for (const row of rows) {
    const view = await (
      await page.request.post('/api/v1/packing/open', { data: { code: row.no, device: 'look' } })
    ).json();
    if (view.state?.lines.some(isUntouched)) opened = { row, view };
    if (opened) break;
  }
  expect(opened, 'the demo has a picked order with four of a thing, none of them in').not.toBeNull();
  const { row, view } = opened!;
  const line = view.state.lines.find(isUntouched);
  const code = line.product.codes[0].code;
  await scan(page, row.no);
  await expect(page.getByText(row.buyer)).toBeVisible();

  let held = 0;
  await page.route('**/scans', async route => {
    held++;
    if (held === 1) await new Promise(resolve => setTimeout(resolve, 400));
    if (held === 2) return route.abort();
    return route.continue();
  });
  await scan(page, code);
  await scan(page, code);
  await scan(page, code);
  await expect(says(page)).toContainText(`3 of ${line.wanted}`);
  await expect(async () => {
    const now = await look(page.request, `packing/sessions/${view.sessionId}`);
    expect(now.state.lines.find((l: { id: string }) => l.id === line.id).packed).toBe(3);
  }).toPass({ timeout: 10_000 });
  await page.unroute('**/scans');
  await page.reload();
  await expect(page.getByText('Scan a slip or a tote')).toBeVisible();
  await scan(page, row.no);
  await expect(page.getByRole('img', { name: `3 of ${line.wanted}` })).toBeVisible();
});

test('the label’s answer is lost: the bench says so, pressing again buys nothing twice', async ({ page }) => {
  await enter(page, 'AB-1006');
  const row = await unopened(page);
  await expect(page.getByText('Scan a slip or a tote')).toBeVisible();
  await scan(page, row.no);
  await expect(page.getByRole('heading', { name: row.channelNumber })).toBeVisible();
  await packAll(page);
  await scan(page, 'BX-3');
  await scan(page, '2 lb');
  await scan(page, 'AUK-YES');
  await scan(page, 'AUK-LABEL');
  await expect(part(page, 'offer').first()).toBeVisible();
  const parcel = /PA-\d+/.exec(await page.getByRole('banner').innerText())![0];
  const first = await part(page, 'offer').first().innerText();
  const carrier = first.includes('Heron') ? 'heron' : first.includes('Redfen') ? 'redfen' : 'coldharbour';
  await trick(page.request, carrier, 'buy', 'fail after');
  await page.keyboard.press('Alt+1');
  await expect(says(page)).toHaveText('The carrier has not answered.');
  await page.keyboard.press('Alt+1');
  await page.keyboard.press('Alt+2');
  await expect(says(page)).toHaveText('The carrier has not answered.');
  for (const c of ['heron', 'redfen'])
    expect((await books(page.request, c)).filter(b => b.reference === parcel).length).toBe(
      c === carrier ? 1 : 0,
    );
});

/** A line of four or more of a thing of which none is in yet: other journeys pack at this bench too. */
function isUntouched(line: { wanted: number; packed: number }): boolean {
  return line.wanted >= 4 && line.packed === 0;
}

/** A picked order that nobody has begun to pack: one open at another bench is refused. */
async function unopened(page: Page): Promise<{ id: string; no: string; channelNumber: string }> {
  for (const row of (await look(page.request, 'orders?stage=Picked')).rows)
    if ((await look(page.request, `orders/${row.id}`)).parcels.length === 0) return row;
  throw new Error('The demo has no picked order left that nobody has begun to pack.');
}
