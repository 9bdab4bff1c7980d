import { readFile } from 'node:fs/promises';
import { expect, type Page } from '@playwright/test';
import { atBench, pickList } from './bench.js';
import { bringIn, look, openOrder, packAll, part, says, scan, signIn } from './hands.js';
import { test } from './journey.js';

interface Row {
  no: string;
  state: string;
  carrier: string | null;
  tracking: string | null;
  minor: number | null;
  channelNumber: string;
  order: string;
}
const parcels = (page: Page): Promise<Row[]> => look(page.request, 'parcels');

/** The order with a channel's number, as its page shows it. */
const orderOf = async (page: Page, number: string) => {
  const { rows } = await look(page.request, `orders?stage=all&words=${number}`);
  return look(page.request, `orders/${rows[0].id}`);
};

/** Mails that came to an address, as the mail server keeps them; lines that were broken for the way are whole again. */
async function mailsTo(page: Page, mail: string): Promise<string[]> {
  const at = `http://127.0.0.1:${process.env.AUK_STANDINS_PORT}/mail`;
  const names: string[] = await (await page.request.get(`${at}/list`)).json();
  const all = await Promise.all(names.map(async n => (await page.request.get(`${at}/${n}`)).text()));
  return all.filter(m => m.includes(`To: ${mail}`)).map(m => m.replace(/=\r?\n/g, ''));
}

test('a handover with errors: each wrong parcel is refused with its reason, and what was bought and not scanned is named', async ({
  page,
}) => {
  await signIn(page, 'AB-1001');
  const all = await parcels(page);
  const labelled = all.filter(p => p.state === 'labelled' && p.carrier === 'Redfen Parcel');
  const mine = labelled[0]!;
  const { parcels: own } = await look(
    page.request,
    `orders/${(await look(page.request, `parcels/${mine.no}`)).orderId}`,
  );
  const { departureNo } = own.find((p: { no: string }) => p.no === mine.no);
  await page.goto(`/departures/${departureNo}`);
  const compared = part(page, 'compared');
  await expect(compared).toContainText(/Bought, not scanned: \d+/);
  const waiting = Number(/not scanned: (\d+)/.exec(await compared.innerText())![1]);
  await scan(page, mine.tracking!);
  await expect(says(page)).toHaveText(`Right, ${mine.no} is on it.`);
  await expect(compared).toContainText(
    waiting === 1 ? 'All that was bought is scanned' : `Bought, not scanned: ${waiting - 1}`,
  );
  await scan(page, mine.tracking!);
  await expect(says(page)).toHaveText(`${mine.no} is on it already.`);
  const heron = all.find(p => p.state === 'labelled' && p.carrier === 'Heron Post')!;
  await scan(page, heron.no);
  await expect(says(page)).toHaveText(`Wrong truck: ${heron.no} goes with Heron Post.`);
  const packed = all.find(p => p.state === 'packed')!;
  await scan(page, packed.no);
  await expect(says(page)).toHaveText(`${packed.no} has no label yet.`);
  const gone = all.find(p => p.state === 'departed')!;
  await scan(page, gone.no);
  await expect(says(page)).toHaveText(`${gone.no} has departed already.`);
  await expect(compared).toContainText('Scanned, not expected: 3');
  await expect(compared).toContainText(heron.no);
  await page.getByRole('button', { name: 'Book the collection' }).click();
  await expect(page.getByText(/The collection is booked: REC-\d+/)).toBeVisible();
});

test('a buyer opens the page of an order by its link and writes; the office sees it, answers, and the buyer gets a mail', async ({
  page,
  browser,
  context,
}) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await signIn(page, 'AB-1004');
  const { rows } = await look(page.request, 'orders?stage=Departed&channel=web&size=1');
  const order = await look(page.request, `orders/${rows[0].id}`);
  await page.goto(`/orders/${rows[0].id}`);
  await page.getByRole('button', { name: 'Copy the link to the buyer’s page' }).click();
  const link = await page.evaluate(() => navigator.clipboard.readText());
  const stranger = await browser.newContext({ viewport: { width: 390, height: 844 } });
  const phone = await stranger.newPage();
  const path = new URL(link).pathname;
  await phone.goto(path);
  await expect(phone.getByRole('heading', { name: `Your order ${order.row.channelNumber}` })).toBeVisible();
  await expect(phone.getByText(order.parcels[0].tracking)).toBeVisible();
  await expect(phone.getByText(order.mail)).toHaveCount(0);
  await phone.getByLabel('Your message').fill('One jar is broken. Can you send another?');
  await phone.getByRole('button', { name: 'Send' }).click();
  await expect(phone.getByText('We have it, and will answer by mail.')).toBeVisible();
  // The office sees it on the page that is open, and on the Board.
  const thread = part(page, 'thread');
  await expect(thread).toContainText('One jar is broken. Can you send another?');
  await expect(thread).toContainText('not answered yet');
  // It is a press away from any page, and on the Board.
  await page.getByRole('link', { name: /^\d+ to answer$/ }).click();
  await expect(page.getByLabel('Unanswered', { exact: true })).toHaveValue('yes');
  await expect(page.getByRole('link', { name: order.row.channelNumber, exact: true })).toBeVisible();
  await page.goto('/board');
  await expect(page.getByText(`The buyer of ${order.row.channelNumber} wrote.`)).toBeVisible();
  await page.goto(`/orders/${rows[0].id}`);
  await thread
    .getByRole('textbox', { name: 'Write to the buyer' })
    .fill('It leaves today, without a charge.');
  await thread.getByRole('button', { name: 'Send' }).click();
  await expect(thread).toContainText('It leaves today, without a charge.');
  await expect(thread).not.toContainText('not answered yet');
  await expect(thread).toContainText('✓ sent');
  await expect
    .poll(async () => (await mailsTo(page, order.mail)).filter(m => m.includes('It leaves today')).length)
    .toBe(1);
  await phone.reload();
  await expect(phone.getByText('It leaves today, without a charge.')).toBeVisible();
  await phone.goto(path.slice(0, -1));
  await expect(phone.getByText('The page behind this link is not in Auk.')).toBeVisible();
  await stranger.close();
});

test('a carrier’s bill is brought; what differs stands first with why, and is claimed with a file', async ({
  page,
}) => {
  await signIn(page, 'AB-1004');
  const bought = (await parcels(page)).filter(
    p => p.carrier === 'Redfen Parcel' && p.minor !== null && p.tracking,
  );
  const [a, b] = bought as [Row, Row];
  const rows = [
    'Tracking number,Service,Amount,Address correction',
    `${a.tracking},Ground,${(a.minor! / 100).toFixed(2)},`,
    `${b.tracking},Ground,${((b.minor! + 350) / 100).toFixed(2)},3.50`,
    'RE0000000001,Ground,8.40,',
  ];
  await page.goto('/parcels/bills');
  await page.getByLabel('Carrier').selectOption('redfen');
  await page.getByLabel('Number of the bill').fill('RP-2026-11');
  const give = (text: string) =>
    page
      .getByLabel('Choose the bill')
      .setInputFiles({ name: 'november.csv', mimeType: 'text/csv', buffer: Buffer.from(text) });
  await give(rows.join('\n').replace('8.40', 'eight'));
  await expect(page.getByText(/Row 4: the amount/)).toBeVisible();
  await expect(page.getByText('Nothing of this bill was taken.')).toBeVisible();
  await give(rows.join('\n'));
  const list = page.getByRole('grid', { name: 'Rows of the bill' });
  await expect(list.getByRole('row', { name: new RegExp(b.tracking!) })).toContainText(
    'Address correction $3.50 was not agreed',
  );
  await expect(list.getByRole('row', { name: /RE0000000001/ })).toContainText('not ours');
  await expect(list.getByRole('row', { name: new RegExp(a.tracking!) })).toContainText('as agreed');
  const coming = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Claim file, $11.90' }).click();
  const file = await readFile((await (await coming).path())!, 'utf8');
  expect(file).toContain('RE0000000001');
  expect(file).not.toContain(a.tracking!);
});

test('what shipping cost is seen by week and by service, and an order that lost leads to its page', async ({
  page,
}) => {
  await signIn(page, 'AB-1001');
  await page.goto('/parcels/costs');
  await expect(part(page, 'sum')).toContainText(/spent, .* paid/);
  await page.getByLabel('By', { exact: true }).selectOption('service');
  await expect(
    page.getByRole('grid', { name: 'Shipping money by service' }).getByRole('row', { name: /Redfen Ground/ }),
  ).toBeVisible();
  expect(page.url()).toContain('by=service');
  const lost = page.getByRole('grid', { name: 'Orders that lost money on their way' });
  const number = await lost.getByRole('link').first().innerText();
  await lost.getByRole('link').first().click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText(number);
  await expect(part(page, 'money')).toContainText('more than was paid for shipping');
});

test('a parcel that comes back is taken in by scan, counted, sold again from a shelf, and the rest written off', async ({
  page,
}) => {
  await signIn(page, 'AB-1001');
  await page.goto('/parcels');
  await page.getByLabel(/only the \d+ parcels? in trouble/).check();
  const back = (await look(page.request, 'parcels')).find(
    (p: { trouble: { trouble: string } | null }) => p.trouble?.trouble === 'coming back',
  );
  await expect(page.getByRole('row', { name: new RegExp(back.no) })).toContainText('coming back');
  await page.goto('/parcels/returns');
  await expect(page.getByText('Nothing came back yet.')).toBeVisible();
  await scan(page, back.tracking);
  await expect(page.getByRole('row', { name: new RegExp(back.no) })).toContainText('to judge');
  const sells = page.getByRole('button', { name: 'Sell again' });
  const shelf = (await look(page.request, 'stock/places?kind=bin&size=1')).rows[0].code;
  const lines = await sells.count();
  expect(lines).toBeGreaterThan(0);
  await sells.first().click();
  await page.getByRole('dialog').getByLabel(/Place/).fill(shelf);
  await page.getByRole('dialog').getByRole('button', { name: 'Put it there' }).click();
  await expect(page.getByText('✓ back in stock')).toHaveCount(1);
  for (let n = 1; n < lines; n++) {
    await page.getByRole('button', { name: 'Write off' }).first().click();
    await page.getByRole('dialog').getByLabel('Why').fill('broken on the way');
    await page.getByRole('dialog').getByRole('button', { name: 'Write it off' }).click();
    await expect(page.getByText('○ written off')).toHaveCount(n);
  }
  await expect(page.getByRole('row', { name: new RegExp(back.no) })).toContainText('✓ judged');
});

test('abroad: what customs lack stops the order and is cured in place; the label is bought and its papers are there', async ({
  page,
}) => {
  test.setTimeout(300_000);
  await signIn(page, 'AB-1001');
  await page.request.post('/api/v1/products/edit', { data: { skus: ['FRK-UNC'], fields: { origin: null } } });
  await bringIn(page, [['AB-CA-1', 'Maud Alder', 'FRK-UNC', 2, '9.00']]);
  await openOrder(page, 'AB-CA-1');
  // The address is moved to Canada, field by field, as a buyer asks on the telephone.
  for (const [field, text] of [
    ['town', 'Hamilton'],
    ['region', 'ON'],
    ['postcode', 'L8P 1A1'],
    ['country', 'CA'],
  ] as const) {
    await page.getByLabel(`Ship to: ${field}`, { exact: true }).fill(text);
    await page.keyboard.press('Enter');
    await expect
      .poll(async () => JSON.stringify((await orderOf(page, 'AB-CA-1')).shipTo))
      .toContain(`"${text}"`);
  }
  await expect(page.getByText(/for customs it lacks: country of origin/)).toBeVisible();
  await page.getByLabel('country of origin of FRK-UNC').fill('US');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText(/for customs it lacks/)).toHaveCount(0);
  await page.getByLabel('Correct phone').fill('905-555-0142');
  await page.getByRole('button', { name: 'Correct it' }).click();
  await expect.poll(async () => (await orderOf(page, 'AB-CA-1')).row.stage).toBe('Clear');
  const { row: order } = await orderOf(page, 'AB-CA-1');
  const list = await (
    await page.request.post('/api/v1/picking/lists', { data: { orderIds: [order.id] } })
  ).json();
  await pickList(page, list.no);
  await atBench(page, order.no, 'Maud Alder');
  await packAll(page);
  for (const text of ['BX-1', '1 lb', 'AUK-YES', 'AUK-CLOSE']) await scan(page, text);
  await expect(part(page, 'offer').first()).toBeVisible();
  await page.keyboard.press('Alt+1');
  await expect(says(page)).toContainText('Label bought');
  const [parcel] = (await look(page.request, `orders/${order.id}`)).parcels;
  await page.goto(`/parcels?look=${parcel.no}`);
  const papers = page.getByRole('link', { name: 'Papers that go with it' });
  const pdf = await page.request.get((await papers.getAttribute('href'))!);
  expect(pdf.status()).toBe(200);
  expect((await pdf.body()).subarray(0, 5).toString()).toBe('%PDF-');
  await expect(page.getByText('CANADA', { exact: true })).toBeVisible();
  // Nobody takes it back from there, and each says why.
  await page.getByRole('button', { name: 'Buy a return label' }).click();
  await expect(page.getByRole('dialog')).toContainText(/No service takes it back\.\s*Heron Post: ./);
});

test('to a pick-up point: the order asks for it by itself, services without one are not offered, and the label says where', async ({
  page,
}) => {
  await signIn(page, 'AB-1001');
  const { rows } = await look(page.request, 'orders?stage=Clear&size=1');
  await page.goto(`/orders/${rows[0].id}`);
  await page.getByLabel('Pick-up point').fill('Corner Books, 12 High Street');
  await page.keyboard.press('Enter');
  await expect
    .poll(async () => (await look(page.request, `orders/${rows[0].id}`)).pickUpPoint)
    .toBe('Corner Books, 12 High Street');
  await page.getByRole('link', { name: 'Services' }).click();
  await expect(
    page.getByText('The order itself asks that it is brought to its pick-up point.'),
  ).toBeVisible();
  await expect(
    page
      .getByRole('grid', { name: 'Services' })
      .getByRole('row', { name: /Redfen Ground/ })
      .first(),
  ).toBeVisible();
  await expect(page.getByText(/Not offered: .*has no pick-up points/)).toBeVisible();
});

test('mails in Setup: what is told, in which words, to whom; a word that nobody knows is refused at once', async ({
  page,
}) => {
  await signIn(page, 'AB-1001');
  await page.goto('/setup/mails');
  await page.getByRole('button', { name: 'New mail' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Sent when').selectOption('packed');
  await dialog.getByLabel('Subject').fill('{order} is packed');
  await dialog.getByLabel('Text').fill('Hello {friend}');
  await expect(dialog.getByText(/has only these words in braces/)).toBeVisible();
  await expect(dialog.getByRole('button', { name: 'Save' })).toBeDisabled();
  await dialog.getByLabel('Text').fill('Hello {buyer}, it is packed.');
  await dialog.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText('When it is packed')).toBeVisible();
  await page.getByLabel('Mail to').fill('desk@skepside.example');
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await expect(page.getByText('desk@skepside.example of trouble on the way')).toBeVisible();
  await page.getByRole('button', { name: /Change the look of .*Web store/ }).click();
  await dialog.getByLabel('Colour').fill('#2f5d51');
  await dialog.getByRole('button', { name: 'Save' }).click();
  await expect(dialog).toBeHidden();
  const { brands } = await look(page.request, 'mails');
  expect(brands.find((b: { channel: string }) => b.channel === 'web').colour).toBe('#2f5d51');
});

test('a return label is bought beside the label that lives, printed by the buyer, and given back', async ({
  page,
  browser,
}) => {
  await signIn(page, 'AB-1001');
  const labelled = (await parcels(page)).filter(p => p.state === 'labelled' && p.carrier === 'Heron Post');
  const { no } = labelled.find(p => p.channelNumber !== 'AB-CA-1')!;
  const dialog = page.getByRole('dialog');
  await page.goto(`/parcels?look=${no}`);
  await page.getByRole('button', { name: 'Buy a return label' }).click();
  await dialog.getByRole('button', { name: /^Buy for / }).click();
  await expect(page.getByText(/Return label: .* bought/)).toBeVisible();
  const { returnLabel, label, orderId } = await look(page.request, `parcels/${no}`);
  expect([label.state, returnLabel.state]).toEqual(['bought', 'bought']);
  const print = page.getByRole('link', { name: 'Print the return label' });
  const pdf = await page.request.get((await print.getAttribute('href'))!);
  expect((await pdf.body()).subarray(0, 5).toString()).toBe('%PDF-');
  // The buyer has it on the page of the order, without signing in.
  const { link } = await look(page.request, `orders/${orderId}/thread`);
  const stranger = await browser.newContext({ viewport: { width: 390, height: 844 } });
  const phone = await stranger.newPage();
  await phone.goto(new URL(link).pathname);
  const own = phone.getByRole('link', { name: /return label/i });
  const bought = await stranger.request.get((await own.getAttribute('href'))!);
  expect(bought.headers()['content-type']).toBe('application/pdf');
  await page.getByRole('button', { name: 'Void the return label' }).click();
  await dialog.getByRole('button', { name: 'Void it' }).click();
  await expect(page.getByText(/Return label: .* voided/)).toBeVisible();
  await expect(page.getByRole('button', { name: 'Buy a return label' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Void the label' })).toBeVisible();
  await phone.reload();
  await expect(phone.getByRole('heading', { name: /^Your order/ })).toBeVisible();
  await expect(own).toHaveCount(0);
  await stranger.close();
});
