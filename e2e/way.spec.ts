import { expect } from '@playwright/test';
import { books, codeOf, look, packAll, part, pickAll, says, scan, signIn, signInByHand } from './hands.js';
import { test } from './journey.js';

const FILE = [
  'Sale No,Ship to,Contact,Street,Town,State,Postal code,Country,Article number,Description,Pieces,Each,Arrive by',
  'FM-90001,Marguerite Okafor,m.okafor@mail.example,118 Tatnall Street,Boise,ID,83702,US,FM-SET-SMKHTL,Smoker and hive tool,1,46.00,',
  'FM-90001,Marguerite Okafor,m.okafor@mail.example,118 Tatnall Street,Boise,ID,83702,US,FM-JAR-HEX-09,Jar,3,1.20,',
  'FM-90001,Marguerite Okafor,m.okafor@mail.example,118 Tatnall Street,Boise,ID,83702,US,FM-KIT-QMARK,Queen marking kit,1,20.00,',
  'FM-90002,Per Aldous,p@mail.example,9 Ferry Street,Salem,OR,97301,US,FM-SED-CLO,Seeds,-2,2.50,',
  'FM-90003,Ilya Hartmann,i@mail.example,9 Ferry Street,Erie,PA,1650,US,FM-SED-CLO,Seeds,2,2.50,',
].join('\r\n');

test('one order from a file to a departed parcel, by keyboard and scanner', async ({ page }) => {
  test.setTimeout(120_000);
  await signInByHand(page, 'AB-1001');

  // From a file: look first, bad rows named, then the good ones.
  await page.goto('/bring-in');
  await page.getByLabel('Channel').selectOption('fernway');
  await page
    .getByLabel('File', { exact: true })
    .setInputFiles({ name: 'fernway.csv', mimeType: 'text/csv', buffer: Buffer.from(FILE) });
  await expect(page.getByRole('status')).toContainText('2 new');
  await expect(page.getByRole('row', { name: /5 Pieces -2 is not a whole number/ })).toBeVisible();
  await page.getByRole('button', { name: 'Bring in 2 orders' }).click();
  await expect(page.getByRole('status')).toContainText('1 Clear');
  await expect(page.getByRole('status')).toContainText('1 Stopped');
  await page
    .getByLabel('File', { exact: true })
    .setInputFiles({ name: 'fernway again.csv', mimeType: 'text/csv', buffer: Buffer.from(FILE) });
  await expect(page.getByRole('status')).toContainText('0 new');
  await expect(page.getByRole('status')).toContainText('2 the same');

  // A pick list of the Clear order; its paper is a PDF.
  await page.goto('/orders?stage=Clear&words=FM-90001');
  await page.getByLabel('Choose FM-90001').check();
  await page.getByRole('button', { name: 'Make pick list of 1' }).click();
  await expect(page.getByRole('heading', { name: /Pick list PL-/ })).toBeVisible();
  const list = /PL-\d+/.exec(page.url())![0];
  expect(
    (await (await page.request.get(`/api/v1/picking/lists/${list}/sheet.pdf`)).body())
      .subarray(0, 5)
      .toString(),
  ).toBe('%PDF-');

  // The Floor: opened by scan, refusals seen, all picked.
  await page.goto('/floor');
  await expect(page.getByRole('heading', { name: 'Scan a pick list' })).toBeVisible();
  await scan(page, list);
  await expect(page.getByText('scan the place', { exact: true })).toBeVisible();
  await scan(page, await codeOf(page.request, 'BOOK-1ST'));
  await expect(part(page, 'answer')).toHaveAttribute('data-tone', 'wrong');
  await expect(says(page)).toHaveText('Wrong product: this is First year with bees, book.');
  await pickAll(page);

  // The Bench: by the order's slip; wrong, surplus and unknown refused; undo; a kit by its parts.
  const [order] = (await look(page.request, 'orders?words=FM-90001')).rows;
  await page.goto('/bench');
  await expect(page.getByText('Scan a slip or a tote')).toBeVisible();
  await scan(page, order.no);
  const answer = says(page);
  await expect(page.getByText('Marguerite Okafor')).toBeVisible();
  await scan(page, await codeOf(page.request, 'BOOK-1ST'));
  await expect(answer).toHaveText('Not in this order: First year with bees, book.');
  await scan(page, 'NO-SUCH-CODE');
  await expect(answer).toHaveText('Unknown code NO-SUCH-CODE. No product has it.');
  const smoker = await codeOf(page.request, 'SMK-4-ST');
  await scan(page, smoker);
  await expect(answer).toContainText('Right. 1 of 1 Smoker, 4 in, steel');
  await scan(page, smoker);
  await expect(answer).toHaveText('One too many: 1 of 1 Smoker, 4 in, steel is in already.');
  await scan(page, 'AUK-UNDO');
  await expect(answer).toHaveText('Undone: Smoker, 4 in, steel is out again.');
  for (const sku of ['QPN-BLU', 'QPN-WHT', 'QTB-MRK', 'QCG-PLS'])
    await scan(page, await codeOf(page.request, sku));
  await expect(answer).toContainText('1 part more for Queen marking kit');
  await scan(page, await codeOf(page.request, 'QCG-PLS'));
  await expect(answer).toContainText('Queen marking kit is whole: 1 of 1');
  await packAll(page);
  await expect(answer).toHaveText('Everything is in.');

  // Box and weight, the services of both carriers, the label: shown price = charged price.
  await scan(page, 'BX-3');
  await scan(page, '3 lb 2 oz');
  await expect(answer).toContainText('3 lb 2 oz is about');
  await scan(page, 'AUK-YES');
  await expect(answer).toHaveText('Weight 3 lb 2 oz, as you say.');
  await scan(page, 'AUK-CLOSE');
  const offers = part(page, 'offer');
  await expect(offers.first()).toBeVisible();
  await expect(offers.filter({ hasText: 'Redfen' }).first()).toBeVisible();
  await expect(offers.filter({ hasText: 'Heron' }).first()).toBeVisible();
  const heron = offers.filter({ hasText: 'Heron Parcel' });
  const price = await part(heron, 'price').innerText();
  await page.keyboard.press(`Alt+${/Alt (\d)/.exec(await heron.innerText())![1]}`);
  await expect(answer).toHaveText('Label bought, Heron Parcel.');
  const { parcels } = await look(page.request, `orders/${order.id}`);
  const [parcel] = parcels;
  const charged = (await books(page.request, 'heron')).filter(b => b.reference === parcel.no);
  expect(charged).toHaveLength(1);
  expect(`$${(charged[0]!.minor / 100).toFixed(2)}`).toBe(price);

  // Onto its departure, and away.
  await page.goto(`/departures/${parcel.departureNo}`);
  await expect(page.getByRole('heading', { name: /Heron Post/ })).toBeVisible();
  await scan(page, charged[0]!.tracking);
  await expect(says(page)).toHaveText(`Right, ${parcel.no} is on it.`);
  await page.getByRole('button', { name: /Close departure with/ }).click();
  const leave = page.getByRole('button', { name: /Close, leave \d+ for the next/ });
  const closed = page.getByText('Closed. The orders are Departed');
  await expect(leave.or(closed)).toBeVisible();
  if (await leave.isVisible()) await leave.click();
  await expect(closed).toBeVisible();
  await page.goto(`/orders/${order.id}`);
  await expect(page.getByText('Departed', { exact: true }).first()).toBeVisible();
  await expect(page.getByText(/The channel was told the tracking number/)).toBeVisible({ timeout: 15_000 });
});

test('the Board is live: another person’s work shows without a reload', async ({ page, browser }) => {
  await signIn(page, 'AB-1001');
  await page.goto('/board');
  const bars = part(page, 'bar');
  await expect(bars.first()).toBeVisible();
  /** Clear orders over all departures; each bar says "25 Clear, 9 Listed, ...". */
  const clear = () =>
    bars.evaluateAll(all =>
      all.reduce((n, bar) => n + Number.parseInt(bar.getAttribute('aria-label')!, 10), 0),
    );
  const before = await clear();
  const other = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
  await signIn(other, 'AB-1004');
  const shown = (await look(other.request, 'departures/board')).departures.map(
    (d: { cutOff: string }) => d.cutOff,
  );
  const { rows } = await look(other.request, 'orders?stage=Clear');
  const order = rows.find((r: { leavesWith: { cutOff: string } }) => shown.includes(r.leavesWith.cutOff));
  await other.goto(`/orders/${order.id}`);
  await other.getByRole('button', { name: 'Park' }).click();
  await other.getByLabel('Why').fill('waits for a live board');
  await other.getByRole('dialog').getByRole('button', { name: 'Park' }).click();
  await expect.poll(clear).toBe(before - 1);
  await other.getByRole('button', { name: 'Unpark' }).click();
  await expect.poll(clear).toBe(before);
});
