import { readFile } from 'node:fs/promises';
import { expect, type Page, type Route } from '@playwright/test';
import {
  bringIn,
  codeOf,
  look,
  openOrder,
  part,
  putAway,
  says,
  scan,
  sell,
  signIn,
  trickChannel,
} from './hands.js';
import { test } from './journey.js';

/** The stage in the head of an order's page. */
const stageOf = (page: Page) => part(page, 'stage').first();

test('channels: connected, pulled by button, an error on screen with its time, stock told; nothing lost', async ({
  page,
}) => {
  await signIn(page, 'AB-1001');
  await page.goto('/setup/channels');
  const web = page.getByRole('region', { name: 'Web store' });
  await expect(web.getByRole('status')).toHaveText('✓ all is well');
  const sold = await sell(page.request, 'web', 3);
  await web.getByRole('button', { name: 'Pull now' }).click();
  await expect(web).toContainText('3 new, 0 changed');
  await trickChannel(page.request, 'web', 'busy', 2_000);
  await web.getByRole('button', { name: 'Pull now' }).click();
  await expect(web.getByRole('status')).toHaveText('▲ Web store asks us to wait (429).');
  await expect(web).toContainText('last success');
  // The channel asked for two seconds; the schedule tries again by itself.
  await expect(web.getByRole('status')).toHaveText('✓ all is well');
  await expect(web).toContainText('stock told');
  await openOrder(page, sold[0]!);
  await page.goto('/setup/channels');
  await web.getByRole('button', { name: 'Change' }).click();
  await page.getByLabel('Key (kept').fill('a wrong key');
  await page.getByRole('button', { name: 'Connect', exact: true }).click();
  await expect(web.getByRole('status')).toContainText('refuses the key');
  await web.getByRole('button', { name: 'Change' }).click();
  await page.getByLabel('Key (kept').fill('web-demo-key');
  await page.getByRole('button', { name: 'Connect', exact: true }).click();
  await expect(web.getByRole('status')).toHaveText('✓ all is well');
});

test('files: a guess that is corrected and remembered, changes field by field, bad rows saved, mended and dropped again', async ({
  page,
}) => {
  await signIn(page, 'AB-1004');
  await bringIn(page, [['FILE-1', 'Ruth Filed', 'BOOK-1ST', 1, '5.00']]);
  const file = (rows: string[]) => ({
    name: 'odd.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(
      ['Sale,Who,Street,Town,State,Post,What,How many,Each', ...rows].join('\r\n').replaceAll(',', ';'),
      'latin1',
    ),
  });
  const rows = [
    'FILE-1,Ruth Filed,1 Alder Lane,Boise,ID,83702,BOOK-1ST,4,5.00',
    'FILE-2,Zoë Brandt,2 Road,Boise,ID,83702,BOOK-1ST,1,7.50',
    'FILE-3,Per Bad,3 Road,Boise,ID,83702,BOOK-1ST,none,7.50',
  ];
  await page.goto('/bring-in');
  await page.getByLabel('Channel').selectOption('web');
  await page.getByLabel('File', { exact: true }).setInputFiles(file(rows));
  await expect(page.getByRole('status')).toContainText('The file has no column for');
  for (const [field, heading] of [
    ['order number', 'Sale'],
    ['buyer', 'Who'],
    ['postcode', 'Post'],
    ['SKU', 'What'],
    ['quantity', 'How many'],
  ])
    await page.getByLabel(`Column for ${field}`, { exact: true }).selectOption({ label: heading! });
  await expect(page.getByRole('status')).toContainText('1 new, 1 changed, 0 the same, 1 bad row');
  await expect(page.getByRole('row', { name: /FILE-1/ })).toContainText('quantity of BOOK-1ST 1 → 4');
  await expect(page.getByRole('row', { name: /FILE-2/ })).toContainText('Zoë Brandt');
  const [saved] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Save 1 row to mend' }).click(),
  ]);
  const report = await readFile((await saved.path())!, 'utf8');
  expect(report).toContain('Why it was left out');
  expect(report).toContain('is not a whole number');
  await page.getByRole('button', { name: 'Bring in 2 orders' }).click();
  await expect(page.getByRole('status')).toContainText('Brought in');
  // Mended and dropped again: the columns are remembered.
  const mended = Buffer.from(report.replace(',none,', ',2,'));
  await page
    .getByLabel('File', { exact: true })
    .setInputFiles({ name: 'mended.csv', mimeType: 'text/csv', buffer: mended });
  await expect(page.getByText('As the last file from here.')).toBeVisible();
  await page.getByRole('button', { name: 'Bring in 1 order' }).click();
  await expect(page.getByRole('status')).toContainText('1 new');
  await openOrder(page, 'FILE-3');
  await expect(page.getByLabel('Units of BOOK-1ST')).toHaveValue('2');
});

test('files of products and counted stock; what is on screen goes out as CSV and XLSX', async ({ page }) => {
  await signIn(page, 'AB-1001');
  await page.goto('/bring-in?kind=products');
  const drop = (text: string) =>
    page
      .getByLabel('File', { exact: true })
      .setInputFiles({ name: 'p.csv', mimeType: 'text/csv', buffer: Buffer.from(text) });
  await drop(
    'SKU,Name,Weight,Warning at packing,Barcode\nBOOK-LOG,,12 oz,no bends,\nNEW-FROM-FILE,Made by file,1 lb,,5901234123457\n',
  );
  await expect(page.getByRole('row', { name: /BOOK-LOG/ })).toContainText('warning at packing → no bends');
  await page.getByRole('button', { name: 'Bring in 2 products' }).click();
  await expect(page.getByRole('status')).toContainText('Brought in: 1 new, 1 changed');
  const made = await look(page.request, 'products/NEW-FROM-FILE');
  expect(made).toMatchObject({ stage: 'Live', codes: [{ code: '05901234123457' }] });
  await page.getByRole('tab', { name: 'Counted stock' }).click();
  await drop('SKU,Bin,Counted\nNEW-FROM-FILE,A-01-1,7\nNO-SUCH,A-01-1,3\n');
  await expect(page.getByRole('row', { name: /NO-SUCH/ })).toContainText('No product has the SKU NO-SUCH.');
  await page.getByRole('button', { name: /^Bring in 1/ }).click();
  await expect(page.getByRole('status')).toContainText('Brought in');
  expect((await look(page.request, 'products/NEW-FROM-FILE')).free).toBe(7);
  await page.goto('/products?words=NEW-FROM');
  for (const [format, begins] of [
    ['CSV', '\ufeffSKU'],
    ['XLSX', 'PK'],
  ] as const) {
    const [saved] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('link', { name: format }).click(),
    ]);
    expect((await readFile((await saved.path())!, 'utf8')).startsWith(begins)).toBe(true);
  }
});

test('listings: proposals with their reason, many linked at once, products made, waiting orders freed', async ({
  page,
}) => {
  await signIn(page, 'AB-1001');
  await bringIn(page, [
    ['LIST-1', 'Ruth L', 'XW-SMK-7-ST', 1, '46.00'],
    ['LIST-2', 'Per L', 'XW-SMK-7-ST', 2, '46.00'],
    ['LIST-3', 'Noor L', 'XW-BRAND-NEW', 1, '5.00'],
  ]);
  await page.goto('/products/listings?words=XW-');
  const smoker = page.getByRole('row', { name: /XW-SMK-7-ST/ });
  await expect(smoker).toContainText('2 orders');
  await expect(smoker).toContainText('SKU 100 % alike');
  await expect(page.getByLabel('Product for XW-SMK-7-ST')).toHaveValue('Smoker, 7 in, steel');
  await page.getByLabel('Choose XW-SMK-7-ST').check();
  await page.getByRole('button', { name: 'Link 1' }).click();
  await expect(page.getByRole('status')).toContainText('2 orders freed');
  await page.getByLabel('Choose XW-BRAND-NEW').check();
  await page.getByRole('button', { name: 'Make 1 product of them' }).click();
  await expect(page.getByRole('status')).toContainText('made XW-BRAND-NEW');
  // One product shows all its listings; the new one waits for a code.
  await page.goto('/products/SMK-7-ST');
  await expect(page.getByText('XW-SMK-7-ST')).toBeVisible();
  await openOrder(page, 'LIST-1');
  await expect(stageOf(page)).toHaveText('● Clear');
  await openOrder(page, 'LIST-3');
  await expect(page.getByText('Thing XW-BRAND-NEW has nothing to scan.')).toBeVisible();
  await page.getByLabel('Code of XW-BRAND-NEW').fill('4006381333931');
  await page.getByRole('button', { name: 'Give the code' }).click();
  await expect(page.getByText('has nothing to scan')).toBeHidden();
});

test('products: facts in place, codes with pack quantities, one change in many, a picture, what is missing', async ({
  page,
}) => {
  await signIn(page, 'AB-1001');
  await page.goto('/products');
  await page.getByRole('button', { name: 'New product' }).click();
  await page.getByLabel('SKU', { exact: true }).fill('desk-1');
  await page.getByLabel('Name', { exact: true }).fill('Desk thing');
  await page.getByRole('button', { name: 'Make it' }).click();
  await expect(page.getByText('◇ Unproven')).toBeVisible();
  await expect(page.getByText('no size: boxes cannot be proposed')).toBeVisible();
  await page.getByLabel('Packed size').fill('11x9x14 in');
  await page.keyboard.press('Enter');
  await expect(page.getByText('no size: boxes cannot be proposed')).toBeHidden();
  await expect(page.getByLabel('Packed size')).toHaveValue('11 × 9 × 14 in');
  await page.getByLabel('Weight', { exact: true }).fill('2 lb 3 oz');
  await page.keyboard.press('Enter');
  await page.getByLabel('New barcode').fill('96385074');
  await page.getByRole('button', { name: 'Give', exact: true }).click();
  await expect(page.getByText('◉ Live')).toBeVisible();
  await page.getByLabel('New barcode').fill('DESK-CASE');
  await page.getByLabel('Units of the barcode').fill('12');
  await page.getByRole('button', { name: 'Give', exact: true }).click();
  await expect(page.getByText('counts 12', { exact: true })).toBeVisible();
  await page.getByLabel('fragile').check();
  const png = Buffer.from(
    'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
    'base64',
  );
  await page.getByLabel('Picture').setInputFiles({ name: 'p.png', mimeType: 'image/png', buffer: png });
  await expect(page.getByRole('main').locator('img')).toBeVisible();
  await expect(page.getByText('A picture was given.')).toBeVisible();
  await page.goto('/products?words=desk-1');
  await page.getByLabel('Choose DESK-1').check();
  await page.getByLabel('Fact').selectOption('warning');
  await page.getByLabel('Value').fill('two people');
  await page.getByRole('button', { name: 'Change', exact: true }).click();
  await expect
    .poll(async () => (await look(page.request, 'products/DESK-1')).facts.warning)
    .toBe('two people');
});

test('the list: the sentence in the address, kept questions, columns of one’s own, all by keyboard, many at once', async ({
  page,
}) => {
  await signIn(page, 'AB-1004');
  await bringIn(page, [
    ['ASK-1', 'Ruth Ask', 'BOOK-1ST', 1, '5.00'],
    ['ASK-2', 'Per Ask', 'BOOK-1ST', 2, '5.00'],
    ['ASK-3', 'Noor Ask', 'JAR-HEX-12', 3, '5.00'],
  ]);
  await page.goto('/orders');
  await page.getByLabel('Number, buyer, mail or title').fill('ask');
  await page.keyboard.press('Enter');
  await page.getByLabel('Add to the question').selectOption('product');
  await page.getByLabel('Product', { exact: true }).fill('BOOK-1ST');
  await page.keyboard.press('Enter');
  await expect(part(page, 'sentence')).toContainText('2 orders');
  expect(page.url()).toContain('words=ask');
  expect(page.url()).toContain('product=BOOK-1ST');
  await page.getByRole('button', { name: 'keep this question' }).click();
  await page.getByLabel('Call it').fill('Books of Ask');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: '2 Books of Ask' })).toBeVisible();
  await page.getByRole('button', { name: 'clear', exact: true }).click();
  await page.getByRole('button', { name: '2 Books of Ask' }).click();
  // Columns: mail shown, buyer moved before the order; both stay after a reload.
  await page.getByRole('button', { name: 'Columns' }).click();
  await page.getByRole('checkbox', { name: 'Mail' }).check();
  await page.getByRole('button', { name: 'Move Buyer' }).focus();
  for (const [key, said] of [
    [' ', 'Buyer is at its own place.'],
    ['ArrowUp', 'Buyer is over Order.'],
    [' ', 'Buyer is put down.'],
  ]) {
    await page.keyboard.press(key!);
    await expect(page.getByText(said!)).toBeAttached();
  }
  await page.keyboard.press('Escape');
  await page.reload();
  await expect(page.locator('thead th')).toHaveText([
    '',
    'Starred',
    'Buyer',
    'Order',
    'What',
    'Stage',
    'Leaves with',
    'Promised',
    'Mail',
    'Total',
  ]);
  // Keyboard: walk, look inside, choose, star, open.
  await page.getByRole('treegrid', { name: 'Orders' }).focus();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Ship to' })).toBeVisible();
  await page.keyboard.press('Enter');
  await page.keyboard.press('F8');
  await expect(page.getByRole('button', { name: 'Unstar ASK-1' })).toBeVisible();
  await page.keyboard.press(' ');
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press(' ');
  await expect(page.getByText('2 orders chosen')).toBeVisible();
  await page.getByRole('button', { name: 'Tag', exact: true }).click();
  await page.getByLabel('Tag', { exact: true }).fill('fair');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('status')).toContainText('2 of 2 orders done.');
  await page.getByRole('treegrid', { name: 'Orders' }).focus();
  await page.keyboard.press('F4');
  await expect(page.getByRole('heading', { level: 1 })).toContainText('ASK-2');
  // Next in the list it came from, by keys.
  await page.keyboard.press('Alt+ArrowDown');
  await expect(page.getByRole('heading', { level: 1 })).toContainText('ASK-1');
});

test('two parts of the question that change before the page is drawn anew are both kept', async ({
  page,
}) => {
  await signIn(page, 'AB-1004');
  await page.goto('/orders');
  await expect(page.getByLabel('Sort')).toBeVisible();
  await page.evaluate(() => {
    const choose = (label: string, value: string) => {
      const select = document.querySelector<HTMLSelectElement>(`select[aria-label="${label}"]`)!;
      Object.getOwnPropertyDescriptor(HTMLSelectElement.prototype, 'value')!.set!.call(select, value);
      select.dispatchEvent(new Event('change', { bubbles: true }));
    };
    choose('Stage', 'Clear');
    choose('Sort', 'promised');
  });
  await expect(page).toHaveURL(/stage=Clear/);
  await expect(page).toHaveURL(/sort=promised/);
});

test('the order: lines, prices and addresses in place, all lines at once, balance and reservation follow', async ({
  page,
}) => {
  await signIn(page, 'AB-1004');
  await bringIn(page, [
    ['EDIT-1', 'Ruth Edit', 'JAR-HEX-09', 2, '10.00'],
    ['EDIT-1', 'Ruth Edit', 'BOOK-1ST', 1, '19.99'],
  ]);
  const free = async () => (await look(page.request, 'products/JAR-HEX-09')).free;
  const before = await free();
  await openOrder(page, 'EDIT-1');
  await page.getByLabel('Units of Thing JAR-HEX-09').fill('5');
  await page.keyboard.press('Enter');
  await expect(part(page, 'money')).toContainText('Due');
  await expect(part(page, 'money')).toContainText('$30.00');
  expect(await free()).toBe(before - 3);
  await page.getByLabel('Act on all lines').selectOption('off');
  await page.getByLabel('By how much').fill('10 %');
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Price of Thing BOOK-1ST')).toHaveValue('$17.99');
  await page.getByLabel('Act on all lines').selectOption('tax');
  await page.getByLabel('By how much').fill('7.25');
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Tax rate of Thing BOOK-1ST')).toHaveValue('7.25 %');
  await page.getByLabel('Ship to: postcode').fill('83704');
  await page.keyboard.press('Enter');
  await expect(page.getByText('postcode 83702 → 83704')).toBeVisible();
  // By its name: Enter takes the one that is marked, also when it is pressed before the answer is there.
  const line = page.getByLabel('Add a line');
  await line.fill('mite strips');
  await expect(page.getByRole('listbox').getByRole('option').first()).toContainText('Mite strips, 10 pack');
  await line.press('Enter');
  await expect(page.getByLabel('Units of Mite strips, 10 pack')).toHaveValue('1');
  const asked: Route[] = [];
  await page.route('**/api/v1/products?words=*', route => void asked.push(route));
  await line.fill('hive log');
  await line.press('Enter');
  await expect.poll(() => asked.length).toBe(1);
  await expect(line).toHaveValue('hive log');
  await asked[0]!.continue();
  await expect(page.getByLabel('Units of Hive log book')).toHaveValue('1');
  await page.getByRole('button', { name: 'Take out Hive log book' }).click();
  await page.unroute('**/api/v1/products?words=*');
  await page.getByRole('button', { name: 'Take out Mite strips, 10 pack' }).click();
  await expect(page.getByLabel('Units of Mite strips, 10 pack')).toBeHidden();
});

test('two people: the second sees what the first changed and decides; an edit that undoes a list asks first', async ({
  page,
  browser,
}) => {
  await signIn(page, 'AB-1004');
  await bringIn(page, [['TWO-1', 'Ruth Two', 'BOOK-1ST', 2, '5.00']]);
  await openOrder(page, 'TWO-1');
  const id = page.url().split('/').at(-1)!;
  const other = await (await browser.newContext()).newPage();
  await signIn(other, 'AB-1001');
  await openOrder(other, 'TWO-1');
  // The office loses its live stream for a moment, so its page is old when it saves.
  await page.route('**/api/v1/orders/**', (route, request) =>
    request.method() === 'GET' ? route.abort() : route.continue(),
  );
  await other.getByLabel('Ship to: street').fill('9 Lane');
  await other.keyboard.press('Enter');
  await expect(other.getByText('street 1 Alder Lane → 9 Lane')).toBeVisible();
  await page.getByLabel('Ship to: company').fill('Apiary Ltd');
  await page.keyboard.press('Enter');
  await expect(
    page.getByRole('heading', { name: 'Ines Maddow changed the order while you were at it.' }),
  ).toBeVisible();
  await expect(page.getByRole('dialog')).toContainText('street 1 Alder Lane → 9 Lane');
  await page.unroute('**/api/v1/orders/**');
  await page.getByRole('button', { name: 'Leave it' }).click();
  await expect(page.getByLabel('Ship to: street')).toHaveValue('9 Lane');
  await page.getByLabel('Ship to: company').fill('Apiary Ltd');
  await page.keyboard.press('Enter');
  await expect(other.getByLabel('Ship to: company')).toHaveValue('Apiary Ltd');
  // On a list, then changed: the page says what that undoes.
  await other.goto('/orders?stage=Clear&words=TWO-1');
  await other.getByLabel('Choose TWO-1').check();
  await other.getByRole('button', { name: 'Make pick list of 1' }).click();
  await expect(other.getByRole('heading', { name: /Pick list PL-/ })).toBeVisible();
  await page.goto(`/orders/${id}`);
  await expect(page.getByText(/Changing units or address: It is taken off PL-\d+/)).toBeVisible();
  await page.getByLabel('Units of Thing BOOK-1ST').fill('1');
  await page.keyboard.press('Enter');
  await expect(page.getByText(/This undoes work: It is taken off PL-\d+/)).toBeVisible();
  await page.getByRole('button', { name: 'Do it' }).click();
  await expect(stageOf(page)).toHaveText('● Clear');
  await other.context().close();
});

test('typed in: three scans are three, the buyer found again, copied, split, put together, parked with words', async ({
  page,
}) => {
  await signIn(page, 'AB-1004');
  await bringIn(page, [['TYPE-1', 'Marguerite Typed', 'BOOK-1ST', 1, '5.00']]);
  await page.goto('/orders');
  await page.getByRole('button', { name: 'New order' }).click();
  await expect(page.getByText('Scan products: each scan is one more.')).toBeVisible();
  const jar = await codeOf(page.request, 'JAR-HEX-12');
  for (const n of [1, 2, 3]) {
    await scan(page, jar);
    await expect(page.getByRole('status')).toContainText(`${n} × Honey jar, hex, 12 oz.`);
  }
  await scan(page, 'NO-SUCH-THING');
  await expect(page.getByRole('status')).toContainText('Unknown code NO-SUCH-THING');
  await page.getByLabel('Find a buyer').fill('marguerite ty');
  await page.getByRole('option', { name: /Marguerite Typed/ }).click();
  await expect(page.getByLabel('Ship to: street')).toHaveValue('1 Alder Lane');
  await page.getByLabel('Add a line').fill('BOOK-LOG');
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Units of Hive log book')).toHaveValue('1');
  await page.getByRole('button', { name: 'Enter the order' }).click();
  await expect(stageOf(page)).toHaveText('● Clear');
  // Split one line off, see both, put them together with the buyer's other order.
  await page.getByRole('button', { name: 'More' }).click();
  await page.getByRole('menuitem', { name: 'Split off lines' }).click();
  await page.getByLabel('Units of Honey jar, hex, 12 oz to split off').fill('2');
  await page.getByRole('button', { name: 'Split off 2 units' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('/2');
  await expect(part(page, 'related')).toContainText('split with');
  await openOrder(page, 'TYPE-1');
  await expect(part(page, 'related')).toContainText('could travel with');
  await page.getByRole('button', { name: 'Put 3 together' }).click();
  await expect(part(page, 'related')).toContainText('travels with');
  await expect(page.getByLabel('Units of Hive log book')).toHaveValue('1');
  // Parked with words that must be typed.
  await page.getByRole('button', { name: 'Park' }).click();
  await page.getByLabel('Why').fill('asks for another color');
  await page.getByLabel('Words to type for unparking').fill('color agreed');
  await page.getByRole('button', { name: 'Park' }).last().click();
  await expect(stageOf(page)).toHaveText('❚❚ Parked');
  await page.getByRole('button', { name: 'Unpark' }).click();
  await page.getByLabel('Type them').fill('nonsense');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('dialog').getByRole('alert')).toContainText('color agreed');
  await page.getByLabel('Type them').fill('color agreed');
  await page.keyboard.press('Enter');
  await expect(stageOf(page)).toHaveText('● Clear');
  // A copy is a draft of its own; a draft is cancelled like any order.
  await page.getByRole('button', { name: 'More' }).click();
  await page.getByRole('menuitem', { name: 'Copy as a new draft' }).click();
  await expect(page.getByText('a draft: neither checked nor reserved')).toBeVisible();
  await page.getByRole('button', { name: 'More' }).click();
  await page.getByRole('menuitem', { name: 'Cancel order' }).click();
  await page.getByLabel('Why').fill('only a trial');
  await page.keyboard.press('Enter');
  await expect(stageOf(page)).toHaveText('— Cancelled');
});

test('stop reasons are cured in one press, in the list and on the page; a cure frees every order it stopped', async ({
  page,
}) => {
  await signIn(page, 'AB-1004');
  await bringIn(page, [
    ['STOP-1', 'Ruth Stop', 'XS-BOOK-1ST', 1, '5.00'],
    ['STOP-2', 'Per Stop', 'XS-BOOK-1ST', 2, '5.00'],
    ['STOP-3', 'Noor Stop', 'BOOK-1ST', 1, '5.00', '4370'],
    ['STOP-4', 'Ilya Stop', 'BOOK-1ST', 1, '5.00'],
  ]);
  await bringIn(page, [['STOP-5', 'Ilya Stop', 'BOOK-1ST', 1, '5.00']]);
  await page.goto('/orders?words=STOP-1');
  // Nothing has the focus yet: the arrow keys come to the list.
  await expect(page.getByRole('row', { name: /STOP-1/ })).toBeVisible();
  await page.keyboard.press('ArrowDown');
  await expect(page.getByRole('treegrid', { name: 'Orders' })).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(page.getByText('Linking it frees 2 orders.')).toBeVisible();
  await page.getByRole('button', { name: 'Link', exact: true }).click();
  await expect(page.getByText('What stops it')).toBeHidden();
  await openOrder(page, 'STOP-2');
  await expect(stageOf(page)).toHaveText('● Clear');
  await openOrder(page, 'STOP-3');
  await expect(page.getByText('4370 is not a postcode of US.')).toBeVisible();
  await page.getByLabel('Correct postcode').fill('83702');
  await page.keyboard.press('Enter');
  await expect(stageOf(page)).toHaveText('● Clear');
  await openOrder(page, 'STOP-5');
  await expect(page.getByText(/It may be a repeat of STOP-4: the same things/)).toBeVisible();
  await page.getByRole('button', { name: 'It is an order of its own' }).click();
  await expect(stageOf(page)).toHaveText('● Clear');
  // Money that was given back: nothing is due, and the order is cancelled where it is told. What is stopped is a press away anywhere.
  await page.getByLabel('Payment').selectOption('refunded');
  await expect(stageOf(page)).toHaveText('▲ Stopped');
  await page.getByLabel('Paid', { exact: true }).fill('0');
  await page.keyboard.press('Enter');
  await expect(part(page, 'history')).toContainText('paid $5.00 → $0.00');
  await expect(part(page, 'money')).not.toContainText('Due');
  await page.getByRole('link', { name: /^\d+ stopped$/ }).click();
  await page.getByRole('button', { name: /stopped$/ }).click();
  await expect(page.getByRole('row', { name: /STOP-5/ })).toBeVisible();
  await page.keyboard.press('ArrowDown');
  await expect(page.getByRole('treegrid', { name: 'Orders' })).toBeFocused();
  await page.getByRole('row', { name: /STOP-5/ }).click();
  await expect(page.getByText('refunded, kept $0.00 of $5.00')).toBeVisible();
  await page.getByRole('button', { name: 'Cancel the order' }).click();
  await expect(page.getByLabel('Why')).toHaveValue('refunded');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('row', { name: /STOP-5/ })).toBeHidden();
});

test('notes of three kinds; the packer must confirm; slip and invoice are papers', async ({
  page,
  browser,
}) => {
  await signIn(page, 'AB-1001');
  await bringIn(page, [['NOTE-1', 'Ruth Note', 'BOOK-1ST', 1, '5.00']]);
  await openOrder(page, 'NOTE-1');
  const id = page.url().split('/').at(-1)!;
  const note = async (kind: string, text: string) => {
    await page.getByLabel('Kind of note').selectOption(kind);
    await page.getByLabel('Note', { exact: true }).fill(text);
    await page.keyboard.press('Enter');
    await expect(part(page, 'note').filter({ hasText: text })).toBeVisible();
  };
  await page.getByLabel('to confirm').check();
  await note('packer', 'Wrap it twice');
  await note('slip', 'With our thanks');
  await note('staff', 'knows the owner');
  await expect(part(page, 'history')).toContainText('Note for the packer: Wrap it twice');
  for (const paper of ['slip', 'invoice']) {
    const body = await (await page.request.get(`/api/v1/orders/${id}/${paper}.pdf`)).body();
    expect(body.subarray(0, 5).toString()).toBe('%PDF-');
  }
  await page.goto('/orders?stage=Clear&words=NOTE-1');
  await page.getByLabel('Choose NOTE-1').check();
  await page.getByRole('button', { name: 'Make pick list of 1' }).click();
  await expect(page.getByRole('heading', { name: /Pick list PL-/ })).toBeVisible();
  const list = /PL-\d+/.exec(page.url())![0];
  const stop = (await look(page.request, `picking/lists/${list}`)).rows[0];
  await page.goto('/floor');
  await expect(page.getByRole('heading', { name: 'Scan a pick list' })).toBeVisible();
  await scan(page, list);
  await expect(page.getByText('scan the place', { exact: true })).toBeVisible();
  await scan(page, stop.place);
  await expect(says(page)).toContainText('Right place');
  await scan(page, await codeOf(page.request, 'BOOK-1ST'));
  await expect(says(page)).toHaveText(/^List complete/);
  const order = await look(page.request, `orders/${id}`);
  const bench = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
  await signIn(bench, 'AB-1002');
  await bench.goto('/bench');
  await expect(bench.getByText('Scan a slip or a tote')).toBeVisible();
  await scan(bench, order.row.no);
  await expect(says(bench)).toHaveText('Read this: Wrap it twice');
  await expect(bench.getByText('knows the owner')).toBeHidden();
  const answer = says(bench);
  await scan(bench, await codeOf(page.request, 'BOOK-1ST'));
  await expect(answer).toHaveText('Read this first: Wrap it twice');
  await scan(bench, 'AUK-YES');
  await expect(answer).toHaveText('The note is confirmed.');
  await scan(bench, await codeOf(page.request, 'BOOK-1ST'));
  await expect(answer).toHaveText('Everything is in.');
  for (const text of ['BX-1', '1 lb', 'AUK-YES', 'AUK-CLOSE']) await scan(bench, text);
  await expect(bench.getByRole('button', { name: 'next order' })).toBeVisible();
  await putAway(bench);
});
