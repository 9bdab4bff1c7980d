import { type Browser, expect, type Page } from '@playwright/test';
import {
  bringIn,
  codeOf,
  holdBack,
  look,
  packAll,
  part,
  pickAll,
  putAway,
  says,
  scan,
  signIn,
} from './hands.js';
import { test } from './journey.js';

// The choices of the house as they were, for the journeys that follow.
test.afterEach(async ({ page }) => {
  await signIn(page, 'AB-1001');
  const choices = await look(page.request, 'picking/choices');
  const before = { ...choices, bringTotes: false, confirmTote: false };
  await page.request.post('/api/v1/picking/choices', { data: before });
});

/** A phone of a picker. */
async function phoneOf(browser: Browser, badge: string): Promise<Page> {
  const page = await (await browser.newContext({ viewport: { width: 390, height: 844 } })).newPage();
  await signIn(page, badge);
  return page;
}

/** Orders chosen in the list and put on a pick list by the lead; gives its number. */
async function listOf(page: Page, numbers: string[]): Promise<string> {
  await page.goto(`/orders?stage=Clear&words=${numbers[0]!.replace(/\d+$/, '')}`);
  for (const n of numbers) await page.getByLabel(`Choose ${n}`).check();
  await page.getByRole('button', { name: `Make pick list of ${numbers.length}` }).click();
  await expect(page).toHaveURL(/\/pick\/PL-\d+$/);
  return new URL(page.url()).pathname.split('/').at(-1)!;
}

test('a heap: planned, picked onto a trolley, sorted at the put wall, and packed out of its cell', async ({
  page,
  browser,
}) => {
  await signIn(page, 'AB-1001');
  await bringIn(page, [
    ['HEAP-1', 'Heap Buyer One', 'JAR-HEX-12', 2, '9.00'],
    ['HEAP-2', 'Heap Buyer Two', 'JAR-HEX-12', 1, '9.00'],
    ['HEAP-2', 'Heap Buyer Two', 'HTL-J10', 1, '9.00'],
  ]);
  await page.goto('/orders?stage=Clear&words=HEAP-');
  for (const n of ['HEAP-1', 'HEAP-2']) await page.getByLabel(`Choose ${n}`).check();
  await page.getByRole('button', { name: 'Tag', exact: true }).click();
  await page.getByRole('dialog').getByLabel('Tag').fill('heap-journey');
  await page.getByRole('dialog').getByRole('button', { name: 'Tag' }).click();
  await expect(page.getByRole('status')).toContainText('2 of 2 orders done.');
  await page.goto('/pick/plan');
  await page.getByLabel('Tag').selectOption('heap-journey');
  await page.getByLabel('Method').selectOption('as heaps, sorted at a put wall');
  await page.getByRole('button', { name: 'Plan', exact: true }).click();
  await page.getByRole('button', { name: 'Release 1 list' }).click();
  const released = page.getByRole('link', { name: /^PL-\d+$/ }).first();
  await expect(released).toBeVisible();
  const no = await released.innerText();

  const phone = await phoneOf(browser, 'AB-1003');
  await phone.goto(`/floor/${no}`);
  await expect(part(phone, 'place')).toHaveText('Trolley');
  await scan(phone, 'TR-004');
  await expect(says(phone)).toHaveText(`T4 carries ${no}.`);
  await pickAll(phone);
  await expect(part(phone, 'answer')).toContainText('Bring T4 to be sorted.');
  await putAway(phone);

  await page.goto('/pick');
  await page.getByRole('link', { name: 'Put wall', exact: true }).click();
  await expect(page.getByRole('button', { name: /TR-004 · T4, 2 orders, 4 pieces to sort/ })).toBeVisible();
  // The first piece is scanned while the heap is still being opened: it waits for it.
  const bottle = await codeOf(page.request, 'HTL-J10');
  const go = await holdBack(page, '**/sorting/open');
  await scan(page, 'TR-004');
  await scan(page, bottle);
  go();
  const cell = await part(page, 'cell').innerText();
  await expect(says(page)).toHaveText(`Cell ${cell}. 1 more to come.`);
  await expect(part(page, 'lit')).toContainText('▼ here');
  const jar = await codeOf(page.request, 'JAR-HEX-12');
  // All jars, to whom each goes is the wall's to say; the last piece of each order says that it is whole.
  for (let i = 0; i < 3; i++) {
    const before = await says(page).innerText();
    await scan(page, jar);
    await expect(says(page)).not.toHaveText(before);
  }
  await expect(page.getByText('All is sorted', { exact: false }).first()).toBeVisible();
  await expect(page.getByText('✓ whole, 2')).toHaveCount(2);
  await page.getByRole('button', { name: 'Leave' }).click();

  // The bench opens the cell by its code.
  await page.goto('/bench');
  await expect(page.getByText('Scan a slip or a tote')).toBeVisible();
  await scan(page, `CE-A${cell.padStart(2, '0')}`);
  await expect(part(page, 'line').first()).toBeVisible();
  await packAll(page);
  await expect(says(page)).toHaveText('Everything is in.');
});

test('totes are brought by scan and confirmed after each stop, as the lead has chosen it', async ({
  page,
  browser,
}) => {
  await signIn(page, 'AB-1001');
  await bringIn(page, [
    ['BRT-1', 'Tote Buyer One', 'JAR-HEX-12', 1, '9.00'],
    ['BRT-2', 'Tote Buyer Two', 'HTL-J10', 1, '9.00'],
  ]);
  await page.goto('/setup/floor');
  const ticks = ['any free totes are scanned onto a list', 'the tote is scanned after each stop'];
  for (const tick of ticks) {
    const saved = page.waitForResponse(
      r => r.request().method() === 'POST' && r.url().endsWith('picking/choices'),
    );
    await page.getByLabel(tick).click();
    await expect(page.getByLabel(tick)).toBeChecked();
    expect((await saved).status()).toBe(200);
    await expect(page.getByText('So it is for walks that begin from now on.').first()).toBeVisible();
  }
  const no = await listOf(page, ['BRT-1', 'BRT-2']);
  const phone = await phoneOf(browser, 'AB-1003');
  await phone.goto(`/floor/${no}`);
  await expect(part(phone, 'place')).toHaveText('Tote');
  const free = (await look(page.request, 'stock/totes'))
    .filter(
      (t: { kind: string; order: string | null; units: number }) => t.kind === 'tote' && !t.order && !t.units,
    )
    .slice(-2);
  for (const [i, tote] of free.entries()) {
    await expect(phone.getByText(`${i + 1} of 2, for`)).toBeVisible();
    await scan(phone, tote.code);
    await expect(says(phone)).toContainText(`${tote.mark} is for OR-`);
  }
  for (let stop = 0; stop < 2; stop++) {
    await expect(phone.getByText('scan the place', { exact: true })).toBeVisible();
    const place = await part(phone, 'place').innerText();
    await scan(phone, place);
    const sku = await part(phone, 'sku').innerText();
    await scan(phone, await codeOf(page.request, sku));
    // The mark stands where the place stood until its tote is scanned.
    await expect(phone.getByText(/^Lay it into the/)).toBeVisible();
    const mark = await part(phone, 'place').innerText();
    await scan(phone, free.find((t: { mark: string }) => t.mark !== mark).code);
    await expect(says(phone)).toHaveText(`Wrong tote: this goes into ${mark}.`);
    await scan(phone, free.find((t: { mark: string }) => t.mark === mark).code);
    await expect(says(phone)).toHaveText(stop === 0 ? `Right tote, ${mark}.` : 'List complete.');
  }
  await putAway(phone);
});

test('what is missing at its place is fetched from another on the same walk; dropped at staging, the bench takes over', async ({
  page,
  browser,
}) => {
  await signIn(page, 'AB-1001');
  const { places } = await look(page.request, 'products/HTL-J10');
  const spare = 'B-12-2';
  await page.request.post('/api/v1/stock/moves', {
    data: {
      key: crypto.randomUUID(),
      sku: 'HTL-J10',
      from: places[0].code,
      to: spare,
      quantity: 3,
      reason: 'room',
    },
  });
  await bringIn(page, [['SHRT-1', 'Short Buyer', 'HTL-J10', 1, '9.00']]);
  const no = await listOf(page, ['SHRT-1']);
  const phone = await phoneOf(browser, 'AB-1003');
  await phone.goto('/floor');
  await expect(phone.getByRole('heading', { name: 'Scan a pick list' })).toBeVisible();
  // The place is scanned while the list is still being opened: it waits for it.
  const first = (await look(page.request, `picking/lists/${no}`)).rows[0].place;
  const go = await holdBack(phone, '**/picking/open');
  await scan(phone, no);
  await scan(phone, first);
  go();
  await expect(part(phone, 'place')).toHaveText(first);
  await expect(says(phone)).toHaveText(`Right place, ${first}.`);
  await scan(phone, 'AUK-SHORT');
  await expect(says(phone)).toContainText('too; that is on your walk now.');
  await expect(part(phone, 'place')).not.toHaveText(first);
  const second = await part(phone, 'place').innerText();
  // A shelf without a label is pressed, and its piece scanned.
  await phone.getByRole('button', { name: 'No label' }).click();
  await phone.getByRole('button', { name: `I stand at ${second}` }).click();
  await expect(says(phone)).toHaveText(`Right place, ${second}.`);
  await scan(phone, await codeOf(page.request, 'HTL-J10'));
  await expect(says(phone)).toHaveText('List complete, 1 piece not found.');
  await scan(phone, 'STAGE-2');
  await expect(says(phone)).toHaveText(`${no} stands at STAGE-2.`);
  await putAway(phone);
  await page.goto('/bench');
  const arrived = page.getByRole('listitem').filter({ hasText: 'STAGE-2' });
  await expect(arrived).toContainText('✓ whole, 1 piece');
  await arrived.getByRole('button').click();
  await expect(part(page, 'line').first()).toBeVisible();
  // The lead sees which code was pressed.
  await page.goto('/pick/troubles');
  await expect(page.getByRole('row', { name: new RegExp(`^${second}`) })).toBeVisible();
});

test('a list half done is taken over on another phone; the first is told, and what it scans counts', async ({
  page,
  browser,
}) => {
  await signIn(page, 'AB-1001');
  await bringIn(page, [['OVER-1', 'Over Buyer', 'JAR-HEX-12', 3, '9.00']]);
  const no = await listOf(page, ['OVER-1']);
  const [one, two] = [await phoneOf(browser, 'AB-1003'), await phoneOf(browser, 'AB-1006')];
  await one.goto(`/floor/${no}`);
  const place = await part(one, 'place').innerText();
  await scan(one, place);
  const jar = await codeOf(page.request, 'JAR-HEX-12');
  await scan(one, jar);
  await expect(says(one)).toHaveText('Right. 2 more.');
  await two.goto('/floor');
  await scan(two, no);
  await expect(two.getByText('✓ right place')).toBeVisible();
  await expect(two.getByText('of 3 taken')).toBeVisible();
  await expect(one.getByText('Mika Solberg has taken this list over.')).toBeVisible();
  await scan(one, jar);
  await expect.poll(async () => (await look(page.request, `picking/lists/${no}`)).taken).toBe(2);
  await page.goto(`/pick/${no}`);
  await expect(page.getByText('Wren Okoye (3 scans), now Mika Solberg')).toBeVisible();
  for (const phone of [one, two]) await putAway(phone);
});
