import { type Browser, expect, type Page } from '@playwright/test';
import { pickList } from './bench.js';
import { codeOf, enter, keptScans, look, part, pickAll, putAway, says, scan, signIn } from './hands.js';
import { test } from './journey.js';

/** What the server answers to a piece of work that prepares a journey. */
async function post(page: Page, path: string, data: object = {}) {
  const answer = await page.request.post(`/api/v1/${path}`, { data });
  if (!answer.ok()) throw new Error(`${path}: ${answer.status()} ${await answer.text()}`);
  const text = await answer.text();
  return text === '' ? null : JSON.parse(text);
}

/** A draft with goods and their codes. */
async function draft(page: Page, lines: [sku: string, units: number][]): Promise<string> {
  const { no } = await post(page, 'inbound', { key: crypto.randomUUID(), network: 'Fernway Centers' });
  for (const [sku, units] of lines) await post(page, `inbound/${no}/lines`, { sku, units });
  await post(page, `inbound/${no}/codes`);
  return no;
}

const WAY = { form: 'parcels', carrier: 'Fernway Pick-up', rates: 'theirs' };

/** The same, with its way chosen and reserved. */
async function reserved(
  page: Page,
  lines: [sku: string, units: number][],
  placement: string,
): Promise<string> {
  const no = await draft(page, lines);
  await post(page, `inbound/${no}/way`, { ...WAY, placement });
  await post(page, `inbound/${no}/reserve`, { key: crypto.randomUUID() });
  return no;
}

/** Picks all parts of a shipment by the API. */
async function picked(page: Page, no: string): Promise<void> {
  for (const p of (await look(page.request, `inbound/${no}`)).parts) {
    const list = await post(page, 'picking/lists', { orderIds: [p.order.id] });
    await pickList(page, list.no);
  }
}

/** Packs all parts into their planned boxes by the API. */
async function packed(page: Page, no: string): Promise<void> {
  let count = 0;
  for (const p of (await look(page.request, `inbound/${no}`)).parts) {
    const { sessionId, state } = await post(page, 'packing/open', { code: p.order.no, device: 'setup' });
    const send = (text: string) =>
      post(page, `packing/sessions/${sessionId}/scans`, {
        id: crypto.randomUUID(),
        text,
        at: new Date().toISOString(),
        device: 'setup',
        count: ++count,
      });
    for (const [i, holds] of state.planned.entries()) {
      let mg = state.boxes.find((b: { code: string }) => b.code === state.proposed[i]).tareMg;
      for (const l of state.lines) {
        const units = holds[l.id] ?? 0;
        if (units === 0) continue;
        mg += units * l.piece.weightMg;
        await send(l.product.codes[0].code);
        if (units > 1) await send('AUK-ALL');
      }
      await send(`${mg / 1_000} g`);
      await send(i === state.planned.length - 1 ? 'AUK-CLOSE' : 'AUK-NEXTBOX');
    }
  }
  await expect.poll(async () => (await look(page.request, `inbound/${no}`)).stage).toBe('Boxed');
}

/** Lets something come to pass at the network with the newest booking of a shipment. */
async function happens(page: Page, no: string, data: object): Promise<void> {
  const at = `http://127.0.0.1:${process.env.AUK_STANDINS_PORT}/network/bookings`;
  const all: { key: string; number: string }[] = await (await page.request.get(at)).json();
  const { key } = all.findLast(b => b.number === no)!;
  expect((await page.request.post(`${at}/${key}/happens`, { data })).ok()).toBe(true);
}

const section = (page: Page, name: string) => page.getByRole('region', { name, exact: true });

async function phoneOf(browser: Browser, badge: string): Promise<Page> {
  const page = await (await browser.newContext({ viewport: { width: 390, height: 844 } })).newPage();
  await enter(page, badge);
  return page;
}

test('one box to one dock from draft to Closed: begun, priced by ways, picked, packed as planned, booked, counted in', async ({
  page,
  browser,
}) => {
  await enter(page, 'AB-1001');
  await page.getByRole('link', { name: 'Inbound', exact: true }).click();
  await page.getByRole('button', { name: 'New shipment' }).click();
  // All of it has a usual choice: Enter begins it.
  await expect(page.getByRole('button', { name: 'Begin it' })).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/\/inbound\/IN-\d+$/);
  const no = page.url().split('/').at(-1)!;
  const what = section(page, 'What');
  const product = what.getByLabel('Product', { exact: true });
  await product.focus();
  for (const [sku, units] of [
    ['HTL-S07', '8'],
    ['WAX-1LB', '6'],
  ] as const) {
    // One line after the other, by keyboard alone.
    await product.fill(sku);
    await page.keyboard.press('Enter');
    await expect(product).toHaveValue(sku);
    await page.keyboard.press('Tab');
    await page.keyboard.type(units);
    await page.keyboard.press('Enter');
    await expect(page.getByLabel(`Units of ${sku}`)).toHaveValue(units);
    await expect(product).toBeFocused();
  }
  // What is satisfied closes by itself and says so in a line.
  await page.getByRole('button', { name: 'Ask Fernway Centers for its codes' }).click();
  await expect(section(page, 'Codes')).toContainText('2 of 2 agree');
  await expect(page.getByRole('button', { name: 'Ask again' })).toBeHidden();
  const row = page.getByRole('row', { name: /One dock.*parcels, Fernway Pick-up by the network/ });
  await row.getByRole('button', { name: 'Choose' }).click();
  await expect(row).toContainText('✓ chosen');
  await expect(page.getByRole('status', { name: 'Running total' })).toContainText(
    'a unit, on sale in 11 days',
  );
  await page.getByRole('button', { name: 'Reserve it' }).click();
  await page.getByRole('button', { name: 'Put it on a pick list' }).click();
  await expect(page).toHaveURL(/\/pick\/PL-\d+$/);
  const list = page.url().split('/').at(-1)!;
  const phone = await phoneOf(browser, 'AB-1003');
  await phone.goto(`/floor/${list}`);
  await pickAll(phone);
  await putAway(phone);

  const { order, planned } = (await look(page.request, `inbound/${no}`)).parts[0];
  expect(planned).toHaveLength(1);
  await page.goto('/bench');
  await expect(page.getByText('Scan a slip or a tote')).toBeVisible();
  await scan(page, order.no);
  for (let i = 0; i < 2; i++) {
    const now = page.locator('[data-part="line"][data-now]');
    const sku = await part(now, 'sku').innerText();
    await scan(page, await codeOf(page.request, sku));
    await expect(says(page)).toContainText('Right. 1 of');
    await scan(page, 'AUK-ALL');
    await expect(says(page)).toHaveText(i === 0 ? /complete/ : 'Everything is in.');
  }
  const { expected } = await page
    .locator('dd', { hasText: 'expected' })
    .innerText()
    .then(text => ({ expected: /expected (.*)$/s.exec(text)![1]!.trim() }));
  await scan(page, expected);
  await expect(says(page)).toContainText('Weight');
  await scan(page, 'AUK-CLOSE');
  // No service is offered for a box of the house's own shipment.
  await expect(says(page)).toContainText('for Columbus are packed');
  await expect(part(page, 'offer')).toHaveCount(0);

  await page.goto(`/inbound/${no}`);
  await page.getByRole('button', { name: 'Ask for the price' }).click();
  await page
    .getByRole('dialog')
    .getByRole('button', { name: /^Book for \$/ })
    .click();
  await expect(page.getByText(/✓ Booked as FN-\d+ for \$/)).toBeVisible();
  for (const paper of ['Box labels', 'Packing list', 'Delivery note', 'Despatch advice as UBL', 'EDIFACT'])
    await expect(page.getByRole('link', { name: paper, exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'It was fetched' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Travelling');
  await happens(page, no, { what: 'at dock' });
  await page.getByRole('button', { name: 'Ask now what became of it' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('At dock');
  await happens(page, no, { what: 'counted' });
  await page.getByRole('button', { name: 'Ask now what became of it' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Closed');
  await expect(page.getByText('Columbus counted 14 of 14 units.')).toBeVisible();
  // What lies there is seen beside the house's own stock.
  const { rows } = await look(page.request, 'elsewhere/centers/Fernway%20Centers/stock');
  const there: number = rows.find((r: { code: string }) => r.code === 'HTL-S07').units;
  expect(there).toBeGreaterThanOrEqual(8);
  await page.goto('/products/HTL-S07');
  const centers = page.getByRole('region', { name: 'At fulfillment centers' });
  await expect(centers.getByRole('listitem').filter({ hasText: 'Fernway' })).toHaveText(
    `Fernway Centers ${there}`,
  );
});

test('spread over centers, one of which refuses: it is given up, the others are booked, and its boxes are put back', async ({
  page,
}) => {
  await signIn(page, 'AB-1001');
  const no = await reserved(
    page,
    // A bucket fills a box: twelve of them, over four centers.
    [['BKT-5G', 12]],
    'spread',
  );
  const boxes = (await look(page.request, `inbound/${no}`)).parts.flatMap(
    (p: { planned: unknown[] }) => p.planned,
  );
  expect(boxes).toHaveLength(12);
  await picked(page, no);
  await packed(page, no);
  await page.goto(`/inbound/${no}`);
  const to = (center: string) => page.getByRole('region', { name: `To ${center}`, exact: true });
  await to('Tampa').getByRole('button', { name: 'Ask for the price' }).click();
  await expect(to('Tampa')).toContainText('It takes nothing before 4 January.');
  for (const center of ['Columbus', 'Reno', 'Albany']) {
    await to(center).getByRole('button', { name: 'Ask for the price' }).click();
    await page
      .getByRole('dialog')
      .getByRole('button', { name: /^Book for/ })
      .click();
    await expect(to(center)).toContainText('✓ Booked as');
  }
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Boxed');
  await to('Tampa').getByRole('button', { name: 'Give Tampa up' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Give it up' }).click();
  await expect(to('Tampa')).toContainText('Cancelled');
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Booked');
  // A booking is called off for nothing while there is time.
  await to('Albany').getByRole('button', { name: 'Call the booking off' }).click();
  await expect(to('Albany')).toContainText('Its booking was called off.');
});

test('a plan that the network changes after boxing: no booking by the old one, what must be repacked is named, and taken by a press', async ({
  page,
}) => {
  await signIn(page, 'AB-1001');
  const no = await reserved(page, [['FRK-UNC', 4]], 'one dock');
  await picked(page, no);
  await packed(page, no);
  const { planCode, parts } = await look(page.request, `inbound/${no}`);
  const plans = `http://127.0.0.1:${process.env.AUK_STANDINS_PORT}/network/plans`;
  const data = { from: 'Columbus', to: 'Reno' };
  expect((await page.request.post(`${plans}/${planCode}/happens`, { data })).ok()).toBe(true);

  await page.goto(`/inbound/${no}`);
  const to = (center: string) => page.getByRole('region', { name: `To ${center}`, exact: true });
  await to('Columbus').getByRole('button', { name: 'Ask for the price' }).click();
  await expect(to('Columbus')).toContainText('0 instead of 4 × FRK-UNC to Columbus');
  const changed = page.getByRole('region', { name: 'The plan was changed' });
  await expect(changed.getByRole('row', { name: /Columbus/ })).toContainText('4 out');
  await expect(changed.getByRole('row', { name: /Columbus/ })).toContainText(parts[0].boxes[0].parcel);
  await expect(changed.getByRole('row', { name: /Reno/ })).toContainText('4 more');
  await changed.getByRole('button', { name: 'Take the new plan' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Take it' }).click();
  await expect(changed).toBeHidden();
  await expect(to('Columbus')).toContainText('Cancelled');
  await expect(to('Reno').getByRole('button', { name: 'Put it on a pick list' })).toBeVisible();
});

test('pallets: chosen among the ways, drawn with their height and weight', async ({ page }) => {
  await signIn(page, 'AB-1001');
  const no = await draft(page, [['BKT-5G', 6]]);
  await page.goto(`/inbound/${no}`);
  const row = page.getByRole('row', { name: /One dock.*pallets, Fernway Pallet by the network/ });
  await row.getByRole('button', { name: 'Choose' }).click();
  await expect(row).toContainText('✓ chosen');
  const pallet = page.getByRole('figure', { name: 'Pallet 1', exact: true });
  await expect(pallet).toContainText('with the pallet');
  await expect(pallet.getByRole('img')).toBeVisible();
  await page.getByRole('button', { name: 'Reserve it' }).click();
  await expect(page.getByRole('button', { name: 'Put it on a pick list' })).toBeVisible();
});

test('planned boxes are changed by a press and by dragging, until the bench packs them', async ({ page }) => {
  await signIn(page, 'AB-1001');
  const no = await draft(page, [
    ['HTL-S10', 8],
    ['FRK-UNC', 6],
  ]);
  await post(page, `inbound/${no}/way`, { ...WAY, placement: 'one dock' });
  await page.goto(`/inbound/${no}`);
  const boxes = page.getByRole('figure', { name: 'Boxes', exact: true });
  await expect(boxes).toContainText('Box 1 of 1');
  const line = boxes.getByRole('listitem').filter({ hasText: 'HTL-S10' });
  await line.getByRole('button', { name: 'Move' }).click();
  await page.getByRole('dialog').getByLabel('Units').fill('3');
  await page.getByRole('dialog').getByRole('button', { name: 'Move it' }).click();
  await expect(boxes).toContainText('Box 1 of 2');
  await expect(line).toContainText('5 × HTL-S10');
  // Back by dragging: onto the box that it is meant for.
  await boxes.getByRole('button', { name: 'Box 2', exact: true }).click();
  await expect(line).toContainText('3 × HTL-S10');
  await line.dragTo(boxes.getByRole('button', { name: 'Box 1', exact: true }));
  await expect(page.getByRole('dialog').getByLabel('Into')).toHaveValue('1');
  await page.getByRole('dialog').getByRole('button', { name: 'Move it' }).click();
  await expect(boxes).toContainText('Box 1 of 1');
  await expect(line).toContainText('8 × HTL-S10');
});

test('what is not known of a product is named with its cure; given, its section closes, and units are labelled at a bench by scan', async ({
  page,
}) => {
  await signIn(page, 'AB-1001');
  const no = await draft(page, [['LIDS-58-B', 4]]);
  await page.goto(`/inbound/${no}`);
  await expect(section(page, 'Prepared')).toContainText('Something is not known of LIDS-58-B');
  await expect(section(page, 'Prepared')).toContainText('its category is not known');
  await page.getByRole('link', { name: 'give it on its page' }).click();
  await expect(page).toHaveURL(/\/products\/LIDS-58-B$/);
  const category = page.getByLabel('category', { exact: true });
  await category.fill('lid');
  await category.press('Enter');
  await expect.poll(async () => (await look(page.request, 'products/LIDS-58-B')).facts.category).toBe('lid');
  await page.goto(`/inbound/${no}`);
  await expect(section(page, 'Prepared')).toContainText('All that must be known is known');
  await post(page, `inbound/${no}/way`, { ...WAY, placement: 'one dock' });
  await post(page, `inbound/${no}/reserve`, { key: crypto.randomUUID() });
  await picked(page, no);

  // At a bench, by scanner alone: its papers come out there, and the number of the shipment opens it.
  await page.goto('/bench');
  await expect(page.getByText('Scan a slip or a tote')).toBeVisible();
  await scan(page, 'BE-1');
  await expect(says(page)).toContainText('Ready.');
  const hand = page.getByRole('region', { name: 'The piece in hand' });
  const piece = await codeOf(page.request, 'LIDS-58-B');
  // The first piece is scanned before the page of the shipment is there, and waits for it.
  let scanned = () => {};
  const after = new Promise<void>(resolve => {
    scanned = resolve;
  });
  await page.route('**/assets/PreparePage-*.js', async route => {
    await after;
    await route.continue();
  });
  const loaded = page.waitForRequest('**/assets/PreparePage-*.js');
  await scan(page, no);
  await loaded;
  await scan(page, piece);
  scanned();
  await expect(hand).toContainText('put the label on and scan it');
  await expect(hand).toContainText('1 label to put on');
  const sheets = async () =>
    (
      await page.request.get(`http://127.0.0.1:${process.env.AUK_STANDINS_PORT}/printers/labels-1/sheets`)
    ).json();
  const before = (await sheets()).length;
  await scan(page, 'AUK-SPOILED');
  await expect(says(page)).toContainText('is spoiled and written off.');
  await scan(page, piece);
  await expect(says(page)).toContainText('1 of 4');
  await scan(page, piece);
  await expect.poll(async () => (await sheets()).length).toBeGreaterThan(before);
  await scan(page, piece);
  await expect(says(page)).toContainText('2 of 4');
  await scan(page, piece);
  await page.getByRole('button', { name: 'All 1 more' }).click();
  await expect(hand).toContainText('2 labels to put on');
  // One of the labels that came out together is scanned on its piece; the others are counted by a press.
  await scan(page, piece);
  await page.getByRole('button', { name: 'All 1 are on' }).click();
  await expect(says(page)).toContainText('4 of 4');
  await expect(page.getByRole('list', { name: 'Products to prepare' })).toContainText('✓ all 4');
  await expect.poll(() => keptScans(page)).toBe(0);
  // Its order is packed at the same bench: scanned here, it opens there.
  const { order } = (await look(page.request, `inbound/${no}`)).parts[0];
  await scan(page, order.no);
  await expect(page).toHaveURL(/\/bench$/);
  // The piece that takes the place of the spoiled one is to be picked first.
  await expect(says(page)).toContainText(`${no} is Clear, so there is nothing to pack yet.`);

  await page.goto(`/inbound/${no}`);
  await expect(section(page, 'Prepared')).toContainText('4 of 4 units prepared');
  await section(page, 'Prepared').getByRole('button').first().click();
  await expect(section(page, 'Prepared')).toContainText('1 spoiled');
});

test('a code that is another there is stopped with both shown, until one of the goods is scanned', async ({
  page,
}) => {
  await signIn(page, 'AB-1001');
  const no = await draft(page, [['JAR-HEX-12', 12]]);
  await page.goto(`/inbound/${no}`);
  const codes = section(page, 'Codes');
  await expect(codes).toContainText('JAR-HEX-12 has another code there');
  await expect(codes).toContainText('02000000000183');
  await page
    .getByRole('row', { name: /One dock.*parcels, Fernway Pick-up/ })
    .getByRole('button', { name: 'Choose' })
    .click();
  await expect(page.getByRole('alert')).toContainText('they will scan 2000000000183');
  const field = page.getByLabel('Code on the goods');
  await field.fill(await codeOf(page.request, 'JAR-HEX-12'));
  await field.press('Enter');
  await expect(codes).toContainText('It carries our code');
  await field.fill('02000000000183');
  await field.press('Enter');
  await expect(codes).toContainText('1 of 1 agree');
  await page.getByRole('button', { name: 'Cancel the shipment' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Cancel it' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Cancelled');
});

test('counted short: what is missing is claimed with its reason, and the shipment closes', async ({
  page,
}) => {
  await signIn(page, 'AB-1001');
  const no = await reserved(page, [['WAX-SHT-10', 9]], 'one dock');
  await picked(page, no);
  await packed(page, no);
  const [{ id }] = (await look(page.request, `inbound/${no}`)).parts;
  const { minor } = await post(page, `inbound/parts/${id}/price`);
  await post(page, `inbound/parts/${id}/book`, { key: crypto.randomUUID(), priceMinor: minor });
  await post(page, `inbound/parts/${id}/leave`);
  await happens(page, no, { what: 'counted', off: { 'WAX-SHT-10': -2 } });
  await page.goto(`/inbound/${no}`);
  await page.getByRole('button', { name: 'Ask now what became of it' }).click();
  const table = page.getByRole('grid', { name: 'Counted otherwise at Columbus' });
  await expect(table).toContainText('2 missing');
  await table.getByRole('button', { name: 'Decide' }).click();
  await page.getByRole('dialog').getByLabel('Why').fill('the box came open');
  await page.getByRole('dialog').getByRole('button', { name: 'Decide' }).click();
  await expect(table).toContainText('claimed: the box came open');
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Closed');
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'Claim file' }).click(),
  ]);
  expect(file.suggestedFilename()).toBe('claim.csv');
});

test('cancelled after it was picked: its goods lie at staging to be put back, and what was promised is free', async ({
  page,
}) => {
  await signIn(page, 'AB-1001');
  const before = (await look(page.request, 'products/FRM-GRP')).free;
  const no = await reserved(page, [['FRM-GRP', 3]], 'one dock');
  await picked(page, no);
  await page.goto(`/inbound/${no}`);
  await page.getByRole('button', { name: 'Cancel the shipment' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Cancel it' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Cancelled');
  const staging = await look(page.request, 'places/STAGE-1');
  const lies = staging.stock.find((l: { sku: string }) => l.sku === 'FRM-GRP');
  expect(lies.onHand).toBeGreaterThanOrEqual(3);
  const { free } = await look(page.request, 'products/FRM-GRP');
  // It is free again when it lies on a shelf.
  expect(free).toBe(before - 3);
});
