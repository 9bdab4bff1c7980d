import { expect } from '@playwright/test';
import { atBench, buyLabels, pickedOf, pickList } from './bench.js';
import { codeOf, holdBack, look, part, says, scan, signIn, withCamera } from './hands.js';
import { test } from './journey.js';

/** What came out of a printer's stand-in. */
const printed = async (request: Parameters<typeof look>[0], printer: string): Promise<string[]> =>
  (await request.get(`http://127.0.0.1:${process.env.AUK_STANDINS_PORT}/printers/${printer}/sheets`)).json();
const paper = (request: Parameters<typeof look>[0], printer: string, has: 'yes' | 'no') =>
  request.post(`http://127.0.0.1:${process.env.AUK_STANDINS_PORT}/printers/${printer}/paper?has=${has}`);

test('by scanner alone: the bench’s code, serial and note of a warning, an insert left out, the label at its printer', async ({
  page,
}) => {
  await signIn(page, 'AB-1001');
  const { version } = await look(page.request, 'products/JKT-L');
  await page.request.post('/api/v1/products/JKT-L', { data: { version, fields: { optional: true } } });
  const { no } = await pickedOf(page, 'PK-1', 'Serial Buyer', [
    ['SCL-HV', 1],
    ['MIT-STR-10', 1],
    ['JKT-L', 2],
  ]);
  const [labels, papers] = [await printed(page.request, 'labels-1'), await printed(page.request, 'papers')];
  await page.goto('/bench');
  await expect(page.getByText('Scan a slip or a tote')).toBeVisible();
  await scan(page, 'BE-1');
  await expect(page.getByRole('heading', { name: 'Bench 1' })).toBeVisible();
  await scan(page, no);
  await expect(page.getByText('Serial Buyer')).toBeVisible();
  const answer = says(page);
  const serial = `HS-${String(Date.now()).slice(-6)}`;
  await scan(page, await codeOf(page.request, 'SCL-HV'));
  await expect(answer).toHaveText('The serial number of Hive scale, wireless?');
  await expect(part(page, 'answer')).toHaveAttribute('data-tone', 'attention');
  await scan(page, 'HS-12');
  await expect(answer).toHaveText('HS-12 is no serial number of the form HS-999999.');
  await scan(page, serial);
  await expect(answer).toContainText('Right. 1 of 1 Hive scale, wireless, complete.');
  // A code that holds its lot: one that was not picked is refused.
  const strips = await codeOf(page.request, 'MIT-STR-10');
  await scan(page, `(01)${strips}(10)NO-SUCH-LOT`);
  await expect(answer).toContainText('Lot NO-SUCH-LOT was not picked for this order');
  await scan(page, strips);
  await expect(answer).toHaveText('Read this: Its leaflet must go along.');
  await scan(page, 'AUK-YES');
  await expect(answer).toHaveText('All that must go in is in. What is left may be left out.');
  await scan(page, await codeOf(page.request, 'JKT-L'));
  await scan(page, 'AUK-WITHOUT');
  await expect(answer).toHaveText('Everything is in.');
  for (const text of ['BX-5', '9 lb', 'AUK-YES', 'AUK-LABEL']) await scan(page, text);
  await expect(part(page, 'offer').first()).toBeVisible();
  await scan(page, 'AUK-LABEL');
  await expect(answer).toContainText('Label bought');
  await expect.poll(() => printed(page.request, 'labels-1')).toHaveLength(labels.length + 1);
  await expect.poll(() => printed(page.request, 'papers')).toHaveLength(papers.length + 1);
  // The scan field knows the serial number ever after.
  expect((await look(page.request, `find?text=${serial}`)).exact).toMatchObject({ kind: 'order', code: no });
});

test('two parcels by the keyboard alone; the drawing follows; each has its label', async ({ page }) => {
  await signIn(page, 'AB-1001');
  const { id, no } = await pickedOf(page, 'PK-2', 'Parcel Buyer', [
    ['JAR-HEX-12', 2],
    ['BOOK-1ST', 1],
  ]);
  await atBench(page, no, 'Parcel Buyer');
  const drawing = page.locator('figure');
  await expect(drawing).toContainText('Next');
  // Rows stand in the order in which the pieces go in: what is drawn next is what is asked for.
  const first = await page.locator('[data-part="line"][data-now] b').first().innerText();
  await expect(drawing).toContainText(`Next ${first}`);
  await page.keyboard.press('Alt+8');
  await expect(says(page)).toContainText('Right. 1 of');
  await page.keyboard.press('Alt+5');
  await expect(says(page)).toHaveText('The parcel has no weight yet; the label needs one.');
  await page.keyboard.type('2 lb', { delay: 80 });
  await page.keyboard.press('Enter');
  await expect(says(page)).toHaveText('Weight 2 lb.');
  await page.keyboard.press('Alt+5');
  await expect(says(page)).toHaveText('Parcel 1 closed. Parcel 2 is open.');
  while (await page.locator('[data-part="line"][data-now]').count()) {
    const units = await part(page.locator('[data-part="line"][data-now]'), 'units').innerText();
    await page.keyboard.press('Alt+7');
    await expect(
      page.locator('[data-part="line"][data-now] [data-part="units"]').filter({ hasText: units }),
    ).toHaveCount(0);
  }
  await expect(says(page)).toHaveText('Everything is in.');
  for (const text of ['BX-2', '3 lb', 'AUK-YES', 'AUK-LABEL']) await scan(page, text);
  await buyLabels(page, id, 2);
  await expect(says(page)).toContainText('Label bought');
  expect((await look(page.request, `orders/${id}`)).row.stage).toBe('Labelled');
});

test('a bench whose LABEL buys the first service: one scan closes the parcel and buys; where a carrier is silent it asks', async ({
  page,
}) => {
  await signIn(page, 'AB-1001');
  const facts = { label: null, slip: null, invoice: null, scale: null, afterOrder: 'wait' };
  const made = await page.request.post('/api/v1/benches', {
    data: { name: 'One press', ...facts, checkOnly: false, wantsPhoto: false, takesFirst: true },
  });
  expect(made.status()).toBe(200);
  const { benches } = await look(page.request, 'benches');
  const bench = benches.find((b: { name: string }) => b.name === 'One press').code;
  const orders = [
    await pickedOf(page, 'PK-31', 'Quick Buyer', [['JAR-HEX-12', 1]]),
    await pickedOf(page, 'PK-32', 'Slow Buyer', [['JAR-HEX-12', 1]]),
  ];
  await page.goto('/bench');
  await expect(page.getByText('Scan a slip or a tote')).toBeVisible();
  await scan(page, bench);
  await expect(page.getByRole('heading', { name: 'One press' })).toBeVisible();
  const answer = says(page);
  const pack = async ({ no }: { no: string }, buyer: string) => {
    await scan(page, no);
    await expect(page.getByText(buyer)).toBeVisible();
    await scan(page, await codeOf(page.request, 'JAR-HEX-12'));
    await expect(answer).toHaveText('Everything is in.');
    for (const text of ['BX-2', '1 lb', 'AUK-YES', 'AUK-LABEL']) await scan(page, text);
  };
  await pack(orders[0]!, 'Quick Buyer');
  await expect(answer).toContainText('Label bought');
  // A carrier that gives no price may be the cheaper one: whoever packs looks first.
  await page.route('**/offers', async route => {
    const answer = await route.fetch();
    const silent = [{ carrierName: 'Heron Post', why: 'It did not answer.' }];
    await route.fulfill({ response: answer, json: { ...(await answer.json()), silent } });
  });
  await pack(orders[1]!, 'Slow Buyer');
  await expect(answer).toHaveText('Choose the service.');
  await expect(part(page, 'answer')).toContainText('Heron Post gave no price.');
  expect((await look(page.request, `orders/${orders[1]!.id}`)).parcels[0].tracking).toBeNull();
  await scan(page, 'AUK-LABEL');
  await expect(answer).toContainText('Label bought');
});

test('a slip that is scanned while the bench is still being taken opens its order', async ({ page }) => {
  await signIn(page, 'AB-1001');
  const { no } = await pickedOf(page, 'PK-33', 'Eager Buyer', [['JAR-HEX-12', 1]]);
  await page.goto('/bench');
  await expect(page.getByText('Scan a slip or a tote')).toBeVisible();
  const go = await holdBack(page, '**/benches/*/take');
  await scan(page, 'BE-1');
  await scan(page, no);
  await go();
  await expect(page.getByText('Eager Buyer')).toBeVisible();
  await expect(part(page, 'line')).toHaveCount(1);
});

test('a bench that is scanned before the page knows of any stays chosen, however late the older answer comes', async ({
  page,
}) => {
  await signIn(page, 'AB-1002');
  let free = () => {};
  const held = new Promise<void>(resolve => {
    free = resolve;
  });
  await page.route(/benches\/mine/, async route => {
    if (route.request().method() !== 'GET') return route.continue();
    // What the server said before the scan comes after it.
    const response = await route.fetch();
    await held;
    await route.fulfill({ response }).catch(() => {});
  });
  const asked = page.waitForRequest(/benches\/mine/);
  await page.goto('/bench');
  await asked;
  await scan(page, 'BE-2');
  await expect(page.getByRole('heading', { name: 'Bench 2' })).toBeVisible();
  free();
  await page.unrouteAll({ behavior: 'wait' });
  // A scan that is answered comes after whatever was on its way.
  await scan(page, 'PA-999999');
  await expect(says(page)).toContainText('PA-999999');
  await expect(page.getByRole('heading', { name: 'Bench 2' })).toBeVisible({ timeout: 5_000 });
});

test('a wrong piece is named with whose it is; a printer without paper waits, and the tray says so', async ({
  page,
}) => {
  await signIn(page, 'AB-1001');
  const own = await pickedOf(page, 'PK-3', 'Own Buyer', [['JAR-HEX-12', 1]]);
  const other = await pickedOf(page, 'PK-4', 'Other Buyer', [['SMK-7-ST', 1]]);
  await paper(page.request, 'papers', 'no');
  await page.goto('/bench');
  await expect(page.getByText('Scan a slip or a tote')).toBeVisible();
  await scan(page, 'BE-2');
  await expect(page.getByRole('heading', { name: 'Bench 2' })).toBeVisible();
  await scan(page, own.no);
  await expect(page.getByText('Own Buyer')).toBeVisible();
  await scan(page, await codeOf(page.request, 'SMK-7-ST'));
  await expect(says(page)).toContainText('Not in this order');
  await expect(part(page, 'answer')).toContainText(`${other.no} wants it`);
  await expect(part(page, 'answer')).toHaveAttribute('data-tone', 'wrong');
  await scan(page, await codeOf(page.request, 'JAR-HEX-12'));
  for (const text of ['BX-1', '1 lb', 'AUK-YES', 'AUK-CLOSE']) await scan(page, text);
  await expect(part(page, 'offer').first()).toBeVisible();
  await page.goto('/setup/tray');
  const row = page.getByRole('row').filter({ hasText: own.no });
  await expect(row).toContainText('out of paper');
  await paper(page.request, 'papers', 'yes');
  await row.getByRole('button', { name: 'Try now' }).click();
  await expect(row).toContainText('✓ printed');
});

test('a lead adds a box, and puts it before another by the keyboard; benches follow one another by themselves', async ({
  page,
}) => {
  await signIn(page, 'AB-1001');
  await page.goto('/setup/boxes');
  const form = page.getByRole('form', { name: 'A further box' });
  for (const [label, text] of [
    ['A further box', 'BX-9'],
    ['Name', 'B9'],
    ['Inner size', '8x8x8 in'],
    ['Carries', '20 lb'],
    ['Price', '0.60'],
  ] as const)
    await form.getByLabel(label).fill(text);
  await form.getByRole('button', { name: 'Add it' }).click();
  const codes = async () => (await look(page.request, 'boxes')).boxes.map((b: { code: string }) => b.code);
  await expect.poll(codes).toContain('BX-9');
  await expect(page.getByRole('form', { name: 'Box BX-9' })).toBeVisible();
  await page.getByRole('button', { name: 'Move B9' }).focus();
  // Lifted, and over its own place: only then the others are measured.
  const said = page.getByRole('status').filter({ hasText: 'Box B9' });
  await page.keyboard.press('Space');
  await expect(said).toContainText('Box B9 is at its own place.');
  await page.keyboard.press('ArrowUp');
  await expect(said).toContainText('Box B9 is over Box B6.');
  await page.keyboard.press('Space');
  await expect.poll(async () => (await codes()).indexOf('BX-9')).toBe((await codes()).length - 2);
  await page.goto('/setup/benches');
  const bench = page.getByRole('form', { name: 'A further bench' });
  await bench.getByLabel('A further bench').fill('Quick bench');
  await bench.getByLabel('When an order is done').selectOption('next');
  await bench.getByRole('button', { name: 'Set it up' }).click();
  await expect(page.getByRole('form', { name: 'Bench Quick bench' })).toBeVisible();
});

test('a photo of the open box is taken by the camera after a count, and found in the order’s story; a bench without one goes on', async ({
  page,
  baseURL,
  launchOptions,
}) => {
  await signIn(page, 'AB-1001');
  const { id, no } = await pickedOf(page, 'PK-6', 'Photo Buyer', [['BOOK-1ST', 1]]);
  const browser = await withCamera(launchOptions);
  try {
    const state = await page.context().storageState();
    const context = await browser.newContext({
      storageState: state,
      baseURL: baseURL!,
      permissions: ['camera'],
    });
    const bench = await context.newPage();
    await atBench(bench, no, 'Photo Buyer');
    await scan(bench, 'AUK-PHOTO');
    await expect(bench.getByRole('region', { name: 'Photo of the open box' })).toContainText(/Photo in \d/);
    await expect(says(bench)).toHaveText('The photo is kept.');
    await bench.keyboard.press('Alt+9');
    await expect(bench.getByText(/Photo in \d/)).toBeVisible();
    // The code once more takes it at once; scanning goes on meanwhile.
    await scan(bench, 'AUK-PHOTO');
    await expect(bench.getByRole('region', { name: 'Photo of the open box' })).toBeHidden();
    await expect.poll(async () => (await look(page.request, `orders/${id}/photos`)).length).toBe(2);
  } finally {
    await browser.close();
  }
  await page.goto(`/orders/${id}`);
  const photo = page.getByRole('region', { name: 'Photos' }).getByRole('img').first();
  await expect(photo).toBeVisible();
  expect(await photo.evaluate((i: HTMLImageElement) => i.naturalWidth)).toBeGreaterThan(100);
  await atBench(page, no, 'Photo Buyer');
  await scan(page, 'AUK-PHOTO');
  await expect(page.getByText('This bench has no camera.')).toBeVisible();
  await page.getByRole('button', { name: 'Without a photo' }).click();
  await scan(page, await codeOf(page.request, 'BOOK-1ST'));
  await expect(says(page)).toHaveText('Everything is in.');
});

test('the scale gives the weight by itself when all is in; what is too light says by which piece', async ({
  page,
}) => {
  await signIn(page, 'AB-1001');
  const { no } = await pickedOf(page, 'PK-7', 'Scale Buyer', [['SMK-4-ST', 2]]);
  const lies = (weight: string) =>
    page.request.get(
      `http://127.0.0.1:${process.env.AUK_STANDINS_PORT}/scale/set?weight=${weight}&unit=lb&mood=still`,
    );
  await lies('0');
  await page.goto('/bench');
  await expect(page.getByText('Scan a slip or a tote')).toBeVisible();
  await scan(page, 'BE-2');
  await expect(page.getByRole('heading', { name: 'Bench 2' })).toBeVisible();
  await scan(page, no);
  await expect(page.getByText('Scale Buyer')).toBeVisible();
  // Asked for, a scale that hangs says so; the next scan says something else again.
  await page.request.get(`http://127.0.0.1:${process.env.AUK_STANDINS_PORT}/scale/set?mood=hangs`);
  await page.keyboard.press('Alt+0');
  await expect(says(page)).toHaveText('The scale says nothing.');
  await lies('0');
  await page.keyboard.press('Alt+7');
  await expect(says(page)).toHaveText('Everything is in.');
  const { weightMg } = await look(page.request, 'products/SMK-4-ST');
  await lies((weightMg / 453_592 + 0.6).toFixed(2));
  await expect(says(page)).toContainText('is about one Smoker, 4 in, steel too light');
  await page.keyboard.press('Alt+1');
  await lies(((2 * weightMg) / 453_592 + 0.6).toFixed(2));
  await expect(says(page)).toHaveText(/^Weight /);
  await lies('0');
});

test('a code that nobody knows is given at the bench and counts; a closed parcel is taken open again', async ({
  page,
}) => {
  await signIn(page, 'AB-1001');
  const { id, no } = await pickedOf(page, 'PK-8', 'Mend Buyer', [['BOOK-1ST', 2]]);
  await atBench(page, no, 'Mend Buyer');
  await scan(page, 'NEW-BOOK-CODE');
  await expect(part(page, 'answer')).toContainText('F8 gives this code to First year with bees, book');
  await page.keyboard.press('F8');
  await expect(says(page)).toContainText('Right. 1 of 2 First year with bees, book');
  await scan(page, 'NEW-BOOK-CODE');
  await expect(says(page)).toHaveText('Everything is in.');
  for (const text of ['BX-2', '2 lb', 'AUK-YES', 'AUK-CLOSE']) await scan(page, text);
  await expect(part(page, 'offer').first()).toBeVisible();
  await scan(page, 'AUK-REOPEN');
  await expect(page.getByText('Box B2')).toBeVisible();
  await expect.poll(async () => (await look(page.request, `orders/${id}`)).row.stage).toBe('Picked');
  for (const text of ['BX-3', '3 lb', 'AUK-YES', 'AUK-CLOSE']) await scan(page, text);
  await expect(part(page, 'offer').first()).toBeVisible();
  await page.keyboard.press('Alt+1');
  await expect(says(page)).toContainText('Label bought');
  await scan(page, 'AUK-REOPEN');
  await expect(says(page)).toContainText('has its label already');
  // Voided by scanner alone, it may be opened again, and another label is bought.
  await scan(page, 'AUK-VOID');
  await expect(page.getByRole('dialog')).toContainText('Void the label of PA-');
  await scan(page, 'AUK-YES');
  await expect(page.getByRole('dialog')).toBeHidden();
  await expect(part(page, 'offer').first()).toBeVisible();
  await expect.poll(async () => (await look(page.request, `orders/${id}`)).row.stage).toBe('Packed');
  expect((await look(page.request, `orders/${id}`)).history.at(-1).says).toMatch(
    /voided; \$[\d.]+ come back/,
  );
  // What is scanned while it is being opened again waits for that, however slow the answer is.
  const go = await holdBack(page, '**/packing/parcels/*/open');
  await scan(page, 'AUK-REOPEN');
  for (const text of ['BX-2', '2 lb', 'AUK-YES']) await scan(page, text);
  go();
  await expect.poll(async () => (await look(page.request, `orders/${id}`)).row.stage).toBe('Picked');
  await expect(page.getByText('Box B2')).toBeVisible();
  await scan(page, 'AUK-CLOSE');
  await expect(part(page, 'offer').first()).toBeVisible();
  await page.keyboard.press('Alt+1');
  await expect(says(page)).toContainText('Label bought');
});

test('a size typed at the bench proposes a box at once, and waits for the office to take it on', async ({
  page,
}) => {
  await signIn(page, 'AB-1001');
  const { no } = await pickedOf(page, 'PK-9', 'Tape Buyer', [['JKT-M', 1]]);
  const { version } = await look(page.request, 'products/JKT-M');
  const edited = await page.request.post('/api/v1/products/JKT-M', {
    data: { version, fields: { length: null, width: null, height: null } },
  });
  expect(edited.status()).toBe(200);
  await atBench(page, no, 'Tape Buyer');
  await expect(page.getByText('has no size: no box can be proposed')).toBeVisible();
  await page.keyboard.type('15x12x3 in', { delay: 80 });
  await page.keyboard.press('Enter');
  // Nothing is in yet: the box that is proposed now is the one at hand.
  await expect(page.locator('figure')).toContainText('Next Bee jacket, M');
  await page.goto('/products/measured');
  const row = page.getByRole('row').filter({ hasText: 'JKT-M' });
  await expect(row).toContainText('no size');
  await row.getByRole('button', { name: 'Take it on' }).click();
  await expect(row).toBeHidden();
  expect((await look(page.request, 'products/JKT-M')).size).toEqual({
    length: 3810,
    width: 3048,
    height: 762,
  });
});

test('a piece opens the most urgent order that wants it, and counts at once', async ({ page }) => {
  await signIn(page, 'AB-1001');
  await pickedOf(page, 'PK-10', 'Piece Buyer', [['BOOK-1ST', 1]]);
  await page.goto('/bench');
  await expect(page.getByText('Scan a slip or a tote')).toBeVisible();
  await scan(page, await codeOf(page.request, 'BOOK-1ST'));
  await expect(says(page)).toHaveText(/^(Right\. 1 of \d+ First year with bees, book|Everything is in)/);
  await page.keyboard.press('Alt+1');
  await expect(says(page)).toHaveText('Undone: First year with bees, book is out again.');
});

test('the lead changes the order at the bench by scanner alone; what the office changes meanwhile is told; the rest is fetched', async ({
  page,
}) => {
  await signIn(page, 'AB-1001');
  const { id, no } = await pickedOf(page, 'PK-11', 'Change Buyer', [
    ['BOOK-1ST', 2],
    ['JAR-HEX-12', 1],
  ]);
  const [book, jar, jacket] = await Promise.all(
    ['BOOK-1ST', 'JAR-HEX-12', 'JKT-M'].map(sku => codeOf(page.request, sku)),
  );
  await atBench(page, no, 'Change Buyer');
  await scan(page, book!);
  await scan(page, 'AUK-CHANGE');
  const dialog = page.getByRole('dialog');
  await expect(dialog).toContainText('what is in stays in');
  await scan(page, 'AUK-WITHOUT');
  await scan(page, book!);
  await expect(dialog).toContainText('First year with bees, book: one fewer.');
  await scan(page, jacket!);
  await expect(dialog.getByRole('listitem').last()).toContainText('new');
  await scan(page, 'AUK-YES');
  await expect(dialog).toBeHidden();
  await expect(says(page)).toContainText(
    'The order was changed: 1 × First year with bees, book instead of 2.',
  );
  await expect(page.getByRole('heading', { name: '▲ Not here yet' })).toBeVisible();
  await scan(page, jar!);
  for (const text of ['BX-3', '2 lb', 'AUK-YES']) await scan(page, text);
  await scan(page, 'AUK-CLOSE');
  await expect(says(page)).toContainText('Not all of it is here: 1 × ');
  await page.getByRole('button', { name: 'Make a list, I fetch it' }).click();
  const set = page.getByText(/PL-\d+ is set aside for you: open it on the Floor\./);
  await expect(set).toBeVisible();
  await pickList(page, /PL-\d+/.exec((await set.textContent())!)![0]);
  // The bench hears of it by itself.
  await expect(page.getByText('1 × Bee jacket, M instead of 0')).toBeVisible();
  // The office takes the jar out: it must come out here.
  const { version, lines } = await look(page.request, `orders/${id}`);
  const { key } = lines.find((l: { channelSku: string }) => l.channelSku === 'JAR-HEX-12');
  const data = { version, undo: true, lines: [{ key, remove: true }] };
  expect((await page.request.post(`/api/v1/orders/${id}/edit`, { data })).status()).toBe(200);
  await expect(says(page)).toContainText('The order was changed: no ');
  await scan(page, jacket!);
  await scan(page, jar!);
  await expect(says(page)).toContainText('is out again. Everything is in.');
  for (const text of ['5 lb', 'AUK-YES', 'AUK-CLOSE']) await scan(page, text);
  await expect(part(page, 'offer').first()).toBeVisible();
});

test('an order of sixty lines, one of hundreds of units: what is wanted stays in view, what is done steps aside', async ({
  page,
}) => {
  await signIn(page, 'AB-1001');
  const plain = (await look(page.request, 'products?size=200')).rows.filter(
    (p: {
      sku: string;
      kind: string;
      stage: string;
      free: number;
      codes: unknown[];
      facts: Record<string, unknown>;
    }) =>
      p.kind === 'piece' &&
      p.stage === 'Live' &&
      p.free > 0 &&
      p.codes.length > 0 &&
      // Made from a file by another journey, and sold nowhere.
      p.sku !== 'NEW-FROM-FILE' &&
      ['serials', 'lots', 'expiry', 'warning', 'question', 'optional', 'alone', 'supplier'].every(
        f => !p.facts[f],
      ),
  );
  const most = plain.find((p: { sku: string }) => p.sku === 'BOOK-1ST');
  const units = 300;
  // A full pallet of them was found.
  const { seen } = await look(page.request, `places/${most.places[0].code}`);
  const found = await page.request.post('/api/v1/stock/counts', {
    data: {
      key: crypto.randomUUID(),
      place: most.places[0].code,
      seen,
      reason: 'cycle count',
      lines: [{ sku: most.sku, lot: null, counted: 1_000 }],
    },
  });
  expect(found.status()).toBe(200);
  const others = plain.filter((p: { sku: string }) => p.sku !== most.sku).slice(0, 59);
  expect(others).toHaveLength(59);
  const { no } = await pickedOf(page, 'PK-12', 'Long Buyer', [
    [most.sku, units],
    ...others.map((p: { sku: string }): [string, number] => [p.sku, 1]),
  ]);
  await atBench(page, no, 'Long Buyer');
  const wanted = part(page, 'line').filter({ has: page.getByText(most.sku, { exact: true }) });
  const [{ code }] = most.codes.filter((c: { units: number }) => c.units === 1);
  await scan(page, code);
  await expect(says(page)).toHaveText(`Right. 1 of ${units} ${most.name}.`);
  // Wherever it stands among the lines, it is on the screen, and so is how many are in.
  await expect(wanted).toBeInViewport({ ratio: 1 });
  await scan(page, 'AUK-ALL');
  await expect(page.getByText(`✓ 1 line of 60 complete, ${units} pieces in.`)).toBeVisible();
  await expect(wanted).toBeHidden();
  for (const p of others.slice(40, 44)) {
    await scan(page, p.codes[0].code);
    await expect(says(page)).toContainText(`${p.name}, complete`);
  }
  await expect(page.getByText(`✓ 5 lines of 60 complete, ${units + 4} pieces in.`)).toBeVisible();
  // What no one box takes goes into several; nothing is wider than the screen.
  expect(await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth)).toBe(0);
});
