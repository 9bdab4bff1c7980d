import { readFile } from 'node:fs/promises';
import { expect, type Page } from '@playwright/test';
import { books, bringIn, look, openOrder, part, signIn } from './hands.js';
import { test } from './journey.js';

const CARRIERS = ['heron', 'redfen', 'coldharbour'];

/** A packed parcel without a label, and its place in the list. */
async function packed(page: Page, skip = 0): Promise<string> {
  const all = await look(page.request, 'parcels');
  return all.filter((p: { state: string }) => p.state === 'packed')[skip].no;
}

/** What carriers sold for a parcel. */
async function soldFor(page: Page, no: string) {
  const all = await Promise.all(CARRIERS.map(c => books(page.request, c)));
  return all.flat().filter(b => b.reference === no);
}

/** Looks inside a parcel on the page of parcels. */
async function open(page: Page, no: string): Promise<void> {
  await page.goto(`/parcels?look=${no}`);
  await expect(page.getByRole('heading', { name: 'Label', exact: true })).toBeVisible();
}

test('services are compared for an order, what is asked changes the prices, and the choice is two presses', async ({
  page,
}) => {
  await signIn(page, 'AB-1001');
  const { rows } = await look(page.request, 'orders?stage=Clear&size=1');
  await page.goto(`/orders/${rows[0].id}`);
  await page.getByRole('link', { name: 'Services' }).click();
  await expect(page.getByRole('heading', { name: `Services for ${rows[0].channelNumber}` })).toBeVisible();
  const table = page.getByRole('grid', { name: 'Services' });
  const ground = table.getByRole('row', { name: /Redfen Ground.*Redfen Parcel, Own contract/ }).first();
  await expect(ground).toBeVisible();
  const before = await ground.locator('[data-column="price"] b').innerText();
  await part(page, 'asked').getByLabel('Signature').selectOption('yes');
  await expect(ground.locator('[data-column="price"] b')).not.toHaveText(before);
  // Declared at what is in it, nothing is typed.
  await part(page, 'asked').getByLabel('Declared at').selectOption('yes');
  await expect(part(page, 'asked').getByLabel('Declared value')).toHaveCount(0);
  await expect(page).toHaveURL(/insured=yes/);
  await part(page, 'asked').getByLabel('Declared at').selectOption('');
  await expect(part(page, 'asked').getByLabel('Declared value')).toHaveValue('nothing');
  await ground.click();
  const made = page.getByRole('complementary', { name: 'What it is made of' });
  await expect(made.getByText('signature', { exact: true }).first()).toBeVisible();
  // The address of the page keeps what was asked.
  expect(page.url()).toContain('signature=yes');
  await page.getByRole('button', { name: 'Take Redfen Ground' }).click();
  await expect(page.getByRole('button', { name: 'Redfen Ground is chosen' })).toBeDisabled();
  await page.getByRole('button', { name: 'Let the bench choose' }).click();
  await expect(page.getByRole('button', { name: /^Take / })).toBeEnabled();
  await page.goto(`/orders/${rows[0].id}`);
  await expect(page.getByText('Redfen Ground of Redfen Parcel was chosen.')).toBeVisible();
});

test('a quick quote by keyboard alone, without an order; what is no size is said', async ({ page }) => {
  await signIn(page, 'AB-1004');
  await page.goto('/parcels/compare');
  await expect(page.getByLabel('Postcode')).toBeFocused();
  // As a person types: a scanner has no pause between keys.
  const type = (text: string) => page.keyboard.type(text, { delay: 80 });
  await type('83702');
  for (const text of ['', '6 lb', '8x8']) {
    await page.keyboard.press('Tab');
    await type(text);
  }
  await expect(page.getByText('A size is three numbers and a unit, such as 11x9x14 in.')).toBeVisible();
  await type('x8 in');
  await page.keyboard.press('Enter');
  const table = page.getByRole('grid', { name: 'Services' });
  await expect(table.getByRole('row', { name: /Heron Parcel/ })).toContainText('0.3 cu ft');
  await expect(table.getByText('cheapest in time')).toBeVisible();
  await expect(page.getByText(/Not offered: Stonewater Freight: it is too light/)).toBeVisible();
});

test('labels of many parcels: priced, shown, bought with a result for each, printed as one', async ({
  page,
}) => {
  await signIn(page, 'AB-1001');
  await page.goto('/parcels');
  const [a, b] = [await packed(page), await packed(page, 1)];
  await page.getByRole('checkbox', { name: `Choose ${a}` }).click();
  await page.getByRole('checkbox', { name: `Choose ${b}` }).click();
  await page.getByRole('button', { name: 'Price labels for 2 parcels' }).click();
  const buy = page.getByRole('button', { name: /^Buy 2 for \$/ });
  await expect(buy).toBeVisible();
  const sum = /\$([\d.,]+)/.exec(await buy.innerText())![1]!;
  expect((await soldFor(page, a)).length + (await soldFor(page, b)).length).toBe(0);
  await buy.click();
  const rows = page.getByRole('grid', { name: 'Parcels of this batch' });
  await expect(rows.getByText('bought')).toHaveCount(2);
  await expect(page.getByText(`2 bought for $${sum}`)).toBeVisible();
  for (const no of [a, b]) {
    const [sold] = await soldFor(page, no);
    await expect(rows.getByRole('row', { name: new RegExp(no) })).toContainText(sold!.tracking);
  }
  const link = page.getByRole('link', { name: 'Print two on a sheet' });
  const pdf = await page.request.get((await link.getAttribute('href'))!);
  expect((await pdf.body()).subarray(0, 5).toString()).toBe('%PDF-');
});

test('a bought label is voided from the page of parcels, and another is bought after comparing', async ({
  page,
}) => {
  await signIn(page, 'AB-1001');
  const no = await packed(page);
  await page.goto(`/parcels/compare?parcel=${no}`);
  await page
    .getByRole('grid', { name: 'Services' })
    .getByRole('row', { name: /Redfen Ground/ })
    .first()
    .click();
  await page.getByRole('button', { name: /^Buy for / }).click();
  // It stands among the parcels then, looked into.
  await expect(page).toHaveURL(`/parcels?look=${no}`);
  expect(await soldFor(page, no)).toHaveLength(1);
  await page.getByRole('button', { name: 'Void the label' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Void it' }).click();
  await expect(
    page.getByText(/Before: Redfen Parcel, Redfen Ground, .*: given back, .* came back/),
  ).toBeVisible();
  await page.getByRole('link', { name: 'Compare services' }).click();
  await page.getByRole('button', { name: /^Buy for / }).click();
  await expect(page).toHaveURL(`/parcels?look=${no}`);
  expect(await soldFor(page, no)).toHaveLength(2);
  const parcel = await look(page.request, `parcels/${no}`);
  expect(parcel.label.state).toBe('bought');
});

test('a ready-made choice is kept from what is looked at, and orders are sent so one by one and many at once', async ({
  page,
}) => {
  await signIn(page, 'AB-1001');
  await bringIn(page, [
    ['RDY-1', 'Ada Holm', 'FRK-UNC', 1, '9.00'],
    ['RDY-2', 'Bo Linde', 'FRK-UNC', 2, '9.00'],
    ['RDY-3', 'Cy Marsh', 'FRK-UNC', 1, '9.00'],
  ]);
  await openOrder(page, 'RDY-1');
  await page.getByRole('link', { name: 'Services' }).click();
  await page
    .getByRole('grid', { name: 'Services' })
    .getByRole('row', { name: /Redfen Two Day/ })
    .first()
    .click();
  const ready = part(page, 'templates');
  await ready.getByRole('button', { name: 'Keep Redfen Two Day as a template' }).click();
  await page.getByRole('dialog').getByLabel('Name').fill('Two day');
  await page.getByRole('dialog').getByRole('button', { name: 'Keep it' }).click();
  await ready.getByRole('button', { name: 'Two day', exact: true }).click();
  await expect(page.getByText('Two day: Redfen Two Day')).toBeVisible();
  await page.goto('/orders?stage=all&words=RDY');
  for (const no of ['RDY-2', 'RDY-3']) await page.getByLabel(`Choose ${no}`).check();
  await page.getByLabel('Send as').selectOption('Two day');
  await expect(page.getByRole('status')).toContainText('2 of 2 orders done.');
  for (const no of ['RDY-1', 'RDY-2', 'RDY-3']) {
    await openOrder(page, no);
    await expect(page.getByText('Redfen Two Day of Redfen Parcel was chosen.')).toBeVisible();
  }
  await page.getByRole('link', { name: 'Services' }).click();
  await page.getByRole('button', { name: 'Forget the template Two day' }).click();
  await expect(ready.getByRole('button', { name: 'Two day', exact: true })).toHaveCount(0);
});

test('a carrier that takes Latin letters only: the order asks for them with a proposal, and goes on once somebody said so', async ({
  page,
}) => {
  await signIn(page, 'AB-1001');
  const latinOnly = async () => {
    await page.goto('/setup/carriers');
    await page
      .getByRole('region', { name: 'Heron Post' })
      .getByRole('button', { name: 'Change', exact: true })
      .first()
      .click();
    const dialog = page.getByRole('dialog', { name: 'How Heron Post is reached' });
    await dialog.getByLabel('takes addresses in Latin letters only').click();
    await dialog.getByRole('button', { name: 'Keep it' }).click();
    await expect(dialog).toBeHidden();
  };
  await latinOnly();
  await bringIn(page, [['LAT-1', 'Μαρία Παππά', 'FRK-UNC', 1, '9.00']]);
  await openOrder(page, 'LAT-1');
  const form = page.getByRole('form', { name: 'In Latin letters' });
  await expect(form.getByLabel('name in Latin letters')).toHaveValue('Maria Pappa');
  await form.getByLabel('name in Latin letters').fill('Maria Pappa Ω');
  await form.getByRole('button', { name: 'Use it so' }).click();
  await expect(form.getByRole('alert')).toContainText('Latin');
  await form.getByLabel('name in Latin letters').fill('Maria Pappas');
  await form.getByRole('button', { name: 'Use it so' }).click();
  await expect(form).toHaveCount(0);
  const { rows } = await look(page.request, 'orders?stage=all&words=LAT-1');
  expect(rows[0].stage).toBe('Clear');
  await latinOnly();
});

test('a label that was bought elsewhere is typed in, with the address ready to copy', async ({
  page,
  context,
}) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await signIn(page, 'AB-1001');
  const no = await packed(page);
  await open(page, no);
  const { address } = await look(page.request, `parcels/${no}`);
  await page.getByRole('button', { name: 'Copy the address' }).click();
  await expect.poll(() => page.evaluate(() => navigator.clipboard.readText())).toBe(address.join('\n'));
  await page.getByRole('button', { name: 'Label bought elsewhere' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Carrier').selectOption('redfen');
  await dialog.getByLabel('Service').fill('Counter parcel');
  await dialog.getByLabel('Tracking number').fill('cp-7781-22');
  await dialog.getByLabel(/What it cost/).fill('9.40');
  await dialog.getByRole('button', { name: 'Keep it' }).click();
  await expect(page.getByText('Redfen Parcel, Counter parcel, bought elsewhere')).toBeVisible();
  await expect(page.getByRole('row', { name: new RegExp(no) }).first()).toContainText('CP-7781-22');
  expect(await soldFor(page, no)).toEqual([]);
});

test('carriers in Setup: an account with a rate sheet, whose bad rows are named, and a collection more', async ({
  page,
}) => {
  await signIn(page, 'AB-1001');
  await page.goto('/setup/carriers');
  const heron = page.getByRole('region', { name: 'Heron Post' });
  await heron.getByRole('button', { name: 'Add an account' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Name').fill('Skepside contract');
  await dialog.getByLabel('Number with the carrier').fill('HP-7');
  await dialog.getByRole('button', { name: 'Add it' }).click();
  await expect(heron.getByText('Skepside contract')).toBeVisible();
  const rows = [
    'sheet,Heron contract,USD,from 2026-01-01',
    'service,local,Heron Local,step 1 lb',
    'prices,local,1,2',
    'zone,local,1,US,up to 150 mi,1',
    'zone,local,2,US,up to 9000 mi,3',
    'weight,local,1 lb,4.10,5.10',
    'weight,local,9 lb,6.10,8.10',
  ];
  const give = (text: string) =>
    heron
      .getByLabel('Rate sheet of Skepside contract')
      .setInputFiles({ name: 'heron.csv', mimeType: 'text/csv', buffer: Buffer.from(text) });
  await give(rows.join('\n').replace('6.10,8.10', '6,10,8,10'));
  await expect(heron.getByText(/row 7: 4 prices for 2 zones; if cents stand behind a comma/)).toBeVisible();
  await give(rows.join('\n'));
  await expect(heron.getByRole('link', { name: 'Heron contract' })).toBeVisible();
  await expect(heron.getByLabel('Heron Local')).toBeChecked();
  await heron.getByRole('button', { name: 'Add a collection' }).click();
  await dialog.getByLabel('Name').fill('night collection');
  await dialog.getByLabel('Leaves at').fill('23:45');
  await dialog.getByRole('button', { name: 'Keep it' }).click();
  await expect(heron.getByText('night collection')).toBeVisible();
  await heron.getByRole('button', { name: 'Change night collection' }).click();
  await page.getByRole('button', { name: 'Take it out of the week' }).click();
  await expect(heron.getByText('night collection')).toBeHidden();
  // The sheet is offered at once, and its file comes back as it was given.
  await page.goto('/parcels/compare?postcode=43215&country=US&weight=2+lb&size=8x8x8+in');
  await expect(page.getByRole('row', { name: /Heron Local.*Skepside contract.*\$6\.10/ })).toBeVisible();
  await page.goto('/setup/carriers');
  const coming = page.waitForEvent('download');
  await heron.getByRole('link', { name: 'Heron contract' }).click();
  expect(await readFile((await (await coming).path())!, 'utf8')).toBe(rows.join('\n'));
  await heron.getByLabel('Heron Local').click();
  await expect(heron.getByLabel('Heron Local')).not.toBeChecked();
});

test('the lead moves a cut-off, and sees before what follows for each order', async ({ page }) => {
  await signIn(page, 'AB-1001');
  const { departures } = await look(page.request, 'departures/board');
  // The fullest of those that are still to leave, whatever the hour is.
  const [first] = departures
    .filter(
      (d: { state: string; cutOff: string; freight: boolean }) =>
        d.state === 'open' && !d.freight && Date.parse(d.cutOff) > Date.now(),
    )
    .sort((a: { total: number }, b: { total: number }) => b.total - a.total);
  await page.goto(`/departures/${first.no}`);
  await page.getByRole('button', { name: 'Move the cut-off' }).click();
  const dialog = page.getByRole('dialog');
  const time = dialog.getByLabel('Leaves at');
  const [hour, minute] = (await time.inputValue()).split(':').map(Number) as [number, number];
  const later = hour * 60 + minute + 7;
  const to = [Math.floor(later / 60), later % 60].map(n => String(n).padStart(2, '0')).join(':');
  await time.fill('25:99');
  await expect(dialog.getByText('A time such as 17:30.')).toBeVisible();
  await expect(dialog.getByRole('button', { name: 'Move it' })).toBeDisabled();
  await time.fill(to);
  await expect(part(dialog, 'follows')).toContainText(/\d+ orders? would leave/);
  await dialog.getByRole('button', { name: 'Move it' }).click();
  await expect(dialog).toBeHidden();
  await expect(page.getByRole('main').getByText(/· leaves /)).toContainText(to);
});
