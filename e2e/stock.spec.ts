import { readFile } from 'node:fs/promises';
import { expect, type Page } from '@playwright/test';
import { bringIn, codeOf, enter, look, openOrder, part, pickAll, says, scan, signIn } from './hands.js';
import { test } from './journey.js';

/** Drops a file of a kind and takes its good rows. */
async function drop(page: Page, kind: string, lines: string[]): Promise<void> {
  await page.goto(`/bring-in?kind=${kind}`);
  await page
    .getByLabel('File', { exact: true })
    .setInputFiles({ name: `${kind}.csv`, mimeType: 'text/csv', buffer: Buffer.from(lines.join('\n')) });
}

const answer = (page: Page) => says(page);

test('recipes by file: a loop is spelled out, a good one is a new version, its open orders are moved knowingly', async ({
  page,
}) => {
  await signIn(page, 'AB-1001');
  await bringIn(page, [['KIT-E1', 'Ruth Kitted', 'SET-SAFE-M', 1, '109.00']]);
  await drop(page, 'recipes', [
    'Bundle,Part,Qty',
    'SET-SMKHTL,SET-YEAR,1',
    'SET-SAFE-M,SUIT-M,1',
    'SET-SAFE-M,GLV-M,2',
    'SET-SAFE-M,HTL-J10,1',
    'SET-HARV,NO-SUCH,1',
  ]);
  await page
    .getByLabel('Column for kit or bundle')
    .selectOption({ label: 'Bundle' })
    .catch(() => undefined);
  await expect(page.getByRole('row', { name: /SET-SMKHTL/ })).toContainText(
    'It would contain itself: SET-SMKHTL > SET-YEAR > SET-SMKHTL.',
  );
  await expect(page.getByRole('row', { name: /SET-HARV/ })).toContainText('NO-SUCH is no product');
  await page.getByRole('button', { name: /^Bring in 1 recipe/ }).click();
  await expect(page.getByRole('status')).toContainText('Brought in');
  await page.goto('/kits');
  await page.getByLabel('SKU or name').fill('safe start, m');
  await page.getByRole('link', { name: 'Safe start, M' }).click();
  await expect(page.getByRole('heading', { name: 'Recipe · version 2' })).toBeVisible();
  await expect(page.getByText('GLV-M: 1 → 2')).toBeVisible();
  await page.getByLabel('Choose KIT-E1').check();
  await page.getByRole('button', { name: 'Move 1 to the newest version' }).click();
  await expect(page.getByRole('status')).toContainText('1 order moved');
  await expect(page.getByLabel('Choose KIT-E1')).toBeHidden();
  // Changed by hand: another version, with why.
  await page.getByRole('button', { name: 'Change it' }).click();
  await page.getByLabel('Quantity of part 2').fill('1');
  await page.getByLabel('Why it changes').fill('one pair is enough');
  await page.getByRole('button', { name: 'Save as version 3' }).click();
  await expect(page.getByText('“one pair is enough”')).toBeVisible();
  await page.goto('/kits');
  await page.getByLabel('SKU of wish 1').fill('SET-SAFE-M');
  await page.getByLabel('Quantity of wish 1').fill('90000');
  await page.getByRole('button', { name: 'Ask' }).click();
  await expect(page.getByRole('status')).toContainText(
    /^✕ No: .* out at Safe start, M\. \d+ of 90000 can be promised\.$/,
  );
  await page.getByLabel('Quantity of wish 1').fill('1');
  await page.getByRole('button', { name: 'Ask' }).click();
  await expect(page.getByRole('status')).toContainText('✓ Yes');
});

test('a build from start to stock: planned, picked by scan, made and put away by scan, a part spoiled, the rest put back', async ({
  page,
  browser,
}) => {
  await signIn(page, 'AB-1001');
  await page.goto('/kits/KIT-TOOLS');
  const before = await look(page.request, 'products/KIT-TOOLS');
  await page.getByRole('button', { name: 'Plan a build' }).click();
  await page.getByLabel('How many').fill('4');
  await page.getByLabel('Bench', { exact: true }).fill('BE-1');
  await page.getByLabel('What to mind').fill('Handles to one side.');
  await page.getByRole('button', { name: 'Plan it' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Build: 4 ×');
  await expect(page.getByText('parts reserved')).toBeVisible();
  const build = page.url().split('/').at(-1)!;
  await page.getByRole('button', { name: 'Put its parts on a pick list' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('PL-');
  const list = page.url().split('/').at(-1)!;
  const picker = await (await browser.newContext({ viewport: { width: 390, height: 844 } })).newPage();
  await enter(picker, 'AB-1003');
  await expect(picker.getByRole('heading', { name: 'Scan a pick list' })).toBeVisible();
  await scan(picker, list);
  await expect(part(picker, 'place')).toBeVisible();
  await pickAll(picker);

  const packer = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
  await enter(packer, 'AB-1006');
  await expect(packer.getByText('Scan a slip or a tote')).toBeVisible();
  await scan(packer, build);
  await expect(part(packer, 'answer')).toContainText(`${build} is a build`);
  await packer.goto(`/builds/${build}`);
  await expect(packer.getByText('Handles to one side.')).toBeVisible();
  const kitCode = await codeOf(packer.request, 'KIT-TOOLS');
  await scan(packer, kitCode);
  await scan(packer, kitCode);
  await expect(packer.getByLabel('Made now')).toHaveValue('2');
  await scan(packer, 'C-02-1');
  await expect(packer.getByLabel('Put in')).toHaveValue('C-02-1');
  await packer.getByRole('button', { name: 'Into stock' }).click();
  await expect(packer.getByText('2 made, put in C-02-1')).toBeVisible();
  await packer.getByLabel('Made now').fill('9');
  await packer.getByRole('button', { name: 'Into stock' }).click();
  await expect(packer.getByRole('alert')).toContainText('9 more would be too many');
  await packer.getByLabel('Made now').fill('1');
  await packer.getByRole('button', { name: 'A part was spoiled' }).click();
  await packer.getByLabel('Why spoiled 1').fill('thread torn');
  await packer.getByRole('button', { name: 'Into stock' }).click();
  await expect(packer.getByText(/spoiled: thread torn/)).toBeVisible();

  await page.goto(`/builds/${build}`);
  await page.getByRole('button', { name: 'End it here' }).click();
  await page.getByRole('button', { name: 'End it', exact: true }).click();
  await expect(page.getByText('✓ finished')).toBeVisible();
  await expect(page.getByText(/left over, back to/).first()).toBeVisible();
  const after = await look(page.request, 'products/KIT-TOOLS');
  expect(after.onHand).toBe(before.onHand + 3);
  await page.goto('/products/KIT-TOOLS/ledger');
  await expect(
    page.getByRole('row', { name: new RegExp(`built.*C-02-1.*${build}.*Mika Solberg`) }).first(),
  ).toBeVisible();
  // The chart is drawn, can be read as a table, and taken along.
  const chart = page.getByRole('figure', { name: /, on hand by day$/ });
  await expect(chart.locator('svg').first()).toBeVisible();
  const days = await page
    .getByRole('table', { name: /, on hand by day$/ })
    .getByRole('row')
    .count();
  expect(days).toBe(61);
  const [csv] = await Promise.all([
    page.waitForEvent('download'),
    chart.getByRole('button', { name: 'Values as CSV' }).click(),
  ]);
  const lines = (await readFile((await csv.path())!, 'utf8')).trim().split('\n');
  expect(lines).toHaveLength(days);
  expect(lines.at(-1)).toMatch(new RegExp(`^\\d{4}-\\d\\d-\\d\\d,${after.onHand}$`));
});

test('receive 5 of 11 by five scans: a Short order is freed, the rest is awaited; put away by scanning the place', async ({
  page,
  browser,
}) => {
  await signIn(page, 'AB-1001');
  const free = (await look(page.request, 'products/JAR-MUT-16')).free;
  // One order takes all there is, so that the two after it, which leave together, lack what they want.
  await bringIn(page, [['RCV-0', 'Opal First', 'JAR-MUT-16', free, '2.10']]);
  await bringIn(page, [
    ['RCV-1', 'Ruth Waiting', 'JAR-MUT-16', 3, '2.10'],
    ['RCV-2', 'Per Later', 'JAR-MUT-16', 4, '2.10'],
  ]);
  await openOrder(page, 'RCV-1');
  await expect(part(page, 'stage').first()).toContainText('Short');
  await page.goto('/receiving');
  await page.getByRole('button', { name: 'New purchase order' }).click();
  await page.getByLabel('Supplier', { exact: true }).fill('Perry Glass Works');
  await page.getByLabel('Quantity 1').fill('11');
  await page.getByLabel('SKU 1').fill('JAR-MUT-16');
  await page.keyboard.press('Tab');
  await page.getByLabel('Quantity 2').fill('2');
  await page.getByLabel('SKU 2').fill('LIDS-58-G');
  await page.keyboard.press('Tab');
  await page.getByRole('button', { name: 'Make it' }).click();
  const row = page.getByRole('row', { name: /Perry Glass Works/ });
  await expect(row).toContainText('0 of 13');
  await expect(row).toContainText('2 Short orders');
  const po = (await row.getByText(/^PO-\d+$/).innerText()).trim();

  const dock = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
  await signIn(dock, 'AB-1002');
  await dock.goto(`/receiving/${po}`);
  await expect(dock.getByText('Scan what comes.')).toBeVisible();
  const code = await codeOf(dock.request, 'JAR-MUT-16');
  for (let i = 1; i <= 5; i++) {
    await scan(dock, code);
    await expect(answer(dock)).toHaveText(new RegExp(`: ${i} of 11\\.$`));
  }
  await expect(dock.getByText('Ruth Waiting')).toBeVisible();
  await expect(dock.getByText('Per Later')).toBeHidden();
  await scan(dock, await codeOf(dock.request, 'SMK-4-ST'));
  await expect(answer(dock)).toHaveText(new RegExp(`^This is Smoker.*; ${po} does not have it\\.$`));
  const proposed = (await part(dock, 'put away').innerText()).trim();
  await scan(dock, proposed);
  await expect(answer(dock)).toHaveText(/^5 × .* put away in /);
  await expect(dock.getByText('Nothing is in hand.')).toBeVisible();
  const lies = (await look(dock.request, 'products/JAR-MUT-16')).places;
  expect(lies.some((p: { code: string }) => p.code === proposed)).toBe(true);

  await page.goto('/receiving');
  await expect(page.getByRole('row', { name: /Perry Glass Works/ })).toContainText('5 of 13');
  await openOrder(page, 'RCV-1');
  await expect(part(page, 'stage').first()).toContainText('Clear');
  await expect(page.getByText(`what it lacked came with ${po}`)).toBeVisible();
  // A reload loses nothing: the dock goes on where it stood.
  await dock.reload();
  await expect(part(dock, 'line').filter({ hasText: 'JAR-MUT-16' })).toContainText('5 of 11');
});

test('an expired lot is refused at the dock; a good one is asked for once', async ({ page }) => {
  await signIn(page, 'AB-1002');
  await page.goto('/receiving/PO-3');
  await expect(page.getByText('Scan what comes.')).toBeVisible();
  const gtin = await codeOf(page.request, 'MIT-OXA-35');
  await scan(page, `(01)${gtin}(10)OLD-1(17)250630`);
  await expect(answer(page)).toHaveText(/^Lot OLD-1 of .* expired on 2025-06-30, so it is not taken in\.$/);
  await scan(page, `(01)${gtin}(10)NEW-1(17)991332`);
  await expect(answer(page)).toContainText('is no day of the calendar');
  await scan(page, gtin);
  await expect(answer(page)).toHaveText(/Which lot\?$/);
  await scan(page, 'NEW-1');
  await expect(answer(page)).toHaveText(/When does it expire\?$/);
  await scan(page, '2031-05-31');
  await expect(answer(page)).toHaveText(/lot NEW-1: 1 of 30\.$/);
  await scan(page, gtin);
  await expect(answer(page)).toHaveText(/lot NEW-1: 2 of 30\.$/);
  await scan(page, '5');
  await expect(answer(page)).toHaveText(/lot NEW-1: 7 of 30\.$/);
  await page.keyboard.press('Alt+1');
  await expect(answer(page)).toHaveText(/^Undone: 5 × .* not received\.$/);
});

test('counts and moves: blind, by scan, kept over a reload; too few makes the newest order Short and says so', async ({
  page,
}) => {
  await signIn(page, 'AB-1001');
  const sku = 'BTL-TRP';
  const product = await look(page.request, `products/${sku}`);
  const place = product.places.find((p: { listed: number }) => p.listed === 0).code;
  await bringIn(page, [['CNT-1', 'Ruth Counted', sku, product.free, '9.00']]);
  await page.goto('/stock');
  await page.getByLabel('SKU, name, place or lot').fill(sku);
  const row = page.getByRole('row', { name: new RegExp(`${sku}.*${place}`) });
  await row.getByRole('button', { name: 'Move' }).click();
  await page.getByLabel('How many').fill('1');
  await page.getByLabel('To place').fill('QUARANTINE');
  await page.getByLabel('Why').fill('loose handle');
  await page.getByRole('button', { name: 'Move', exact: true }).last().click();
  await expect(page.getByText('Short now, newest promise first: CNT-1')).toBeVisible();
  await page.getByRole('button', { name: 'Done' }).click();

  await page.goto('/stock/counts');
  await page.getByLabel('Count a place').fill(place);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1 })).toContainText(`Count ${place}`);
  const code = await codeOf(page.request, sku);
  await scan(page, code);
  await scan(page, code);
  await expect(page.getByLabel(`Counted ${sku}`)).toHaveValue('2');
  await page.reload();
  await expect(page.getByLabel(`Counted ${sku}`)).toHaveValue('2');
  const lies = (await look(page.request, `places/${place}`)).stock.find(
    (s: { sku: string }) => s.sku === sku,
  ).onHand;
  await page.getByLabel(`Counted ${sku}`).fill(String(lies + 1));
  await page.getByRole('button', { name: 'Save the count' }).click();
  await expect(page.getByText(`${lies} → ${lies + 1}`)).toBeVisible();
  await openOrder(page, 'CNT-1');
  await expect(part(page, 'stage').first()).toContainText('Clear');
  await page.goto(`/products/${sku}/ledger`);
  await expect(page.getByRole('row', { name: /counted/ }).first()).toContainText('+1');
});

test('places: made by hand, and their labels are papers', async ({ page }) => {
  await signIn(page, 'AB-1001');
  await page.goto('/stock/places');
  await page.getByLabel('Place', { exact: true }).fill('H-12-3-D');
  await page.getByLabel('Zone', { exact: true }).fill('Bulk');
  await page.getByLabel('Holds (units)').fill('40');
  await page.getByRole('button', { name: 'Save the place' }).click();
  await page.getByLabel('Place or zone').fill('H-12-3-D');
  await expect(page.getByRole('row', { name: /H-12-3-D/ })).toContainText('pick face');
  // A place is called as its shelf is called, but by nothing that means something else.
  await page.getByLabel('Place', { exact: true }).fill('Rack 9/upper');
  await page.getByRole('button', { name: 'Save the place' }).click();
  await page.getByLabel('Place or zone').fill('RACK 9');
  await page.getByRole('link', { name: 'RACK 9/UPPER' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('RACK 9/UPPER');
  await page.goto('/stock/places');
  await page.getByLabel('Place', { exact: true }).fill('JAR-HEX-12');
  await page.getByRole('button', { name: 'Save the place' }).click();
  await expect(page.getByRole('alert')).toContainText('is a code of');
  const sheet = await page.request.get('/api/v1/stock/places/labels.pdf?form=sheet&words=A-0');
  expect(sheet.headers()['content-type']).toContain('application/pdf');
  expect((await sheet.body()).subarray(0, 5).toString()).toBe('%PDF-');
});

test('totes are made, and the labels of those alone are printed; one that is lost is printed anew', async ({
  page,
}) => {
  await signIn(page, 'AB-1001');
  await page.goto('/stock/totes');
  const made = page.getByRole('form', { name: 'Further totes or trolleys' });
  await made.getByLabel('How many').fill('3');
  await made.getByLabel('Letter').fill('Z');
  await made.getByRole('button', { name: 'Make them' }).click();
  const fresh = page.getByText('Labels of the 3 new ones');
  await expect(fresh).toBeVisible();
  const address = await fresh.getByRole('link', { name: 'label printer' }).getAttribute('href');
  const [from, to] = ['from', 'to'].map(key => new URL(address!, 'http://x').searchParams.get(key)!);
  expect(Number(to!.slice(3)) - Number(from!.slice(3))).toBe(2);
  const paper = await page.request.get(address!);
  expect((await paper.body()).subarray(0, 5).toString()).toBe('%PDF-');
  // A label that came off is printed from its row.
  const lost = page.getByRole('link', { name: 'Label of TO-001' });
  expect(await lost.getAttribute('href')).toContain('from=TO-001&to=TO-001');
  // The labels of a wall are its own.
  await page.goto('/stock/walls');
  const wall = page.getByRole('region', { name: 'Wall A' });
  const cells = await wall.getByRole('link', { name: 'Print labels' }).getAttribute('href');
  expect((await page.request.get(cells!)).status()).toBe(200);
});
