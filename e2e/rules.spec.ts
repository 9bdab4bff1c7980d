import { expect, type Page } from '@playwright/test';
import { atBench, buyLabels, pickedOf } from './bench.js';
import { bringIn, codeOf, look, openOrder, packAll, part, says, scan, signIn } from './hands.js';
import { test } from './journey.js';

// Each journey leaves the book as it found it: all journeys share one house.
test.describe.configure({ mode: 'serial' });

let before = 0;
test.beforeEach(async ({ page }) => {
  await signIn(page, 'AB-1001');
  before = (await look(page.request, 'rules')).no;
});
test.afterEach(async ({ page }) => {
  await signIn(page, 'AB-1001');
  const { no } = await look(page.request, 'rules');
  if (no !== before)
    await page.request.post(`/api/v1/rules/versions/${before}/again`, { data: { base: no } });
});

const book = (page: Page) => page.getByRole('list', { name: 'Rules' });
const openRules = async (page: Page) => {
  await page.goto('/rules');
  await expect(page.getByRole('heading', { name: 'Rules', exact: true })).toBeVisible();
};

/** An order that comes in to Boise. */
async function order(page: Page, number: string): Promise<string> {
  await bringIn(page, [[number, `Buyer ${number}`, 'FRK-UNC', 1, '9.00']]);
  return number;
}

/** Begins a rule with its name and a sentence, as one writes it. */
async function write(page: Page, name: string, sentence: string): Promise<void> {
  await page.getByRole('button', { name: 'New rule' }).click();
  await page.getByLabel('Name').fill(name);
  await page.getByRole('button', { name: 'Write it' }).click();
  await page.getByLabel('In words').fill(sentence);
  await page.getByRole('button', { name: 'Done', exact: true }).click();
}

/** Sets the caps of a rule that buys. */
async function setCaps(page: Page, rule: string, label: string, day: string): Promise<void> {
  await openRules(page);
  const spending = page.getByRole('region', { name: 'Bought unattended' });
  await spending.getByRole('button', { name: 'Caps' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Most for one label').fill(label);
  await dialog.getByLabel('Most in a day, of all rules').fill(day);
  await dialog.getByLabel(new RegExp(`^Most in a day, rule \\d+ ${rule}`)).fill(day);
  await dialog.getByRole('button', { name: 'Set the caps' }).click();
  await expect(dialog).toBeHidden();
}

/** What became today of the label of an order that a rule wanted bought. */
async function becameOf(page: Page, number: string): Promise<string | undefined> {
  const { rows } = await look(page.request, 'rules/spending');
  return rows.find((r: { order: string }) => r.order === number)?.state;
}

async function save(page: Page, note: string): Promise<void> {
  const form = page.getByRole('form', { name: 'Save the book' });
  await form.getByLabel('What was changed, in your words').fill(note);
  await form.getByRole('button', { name: /^Save as book/ }).click();
  await expect(form).toBeHidden();
}

test('a rule is put together word by word, tried on real orders before it counts, and then decides what comes in', async ({
  page,
}) => {
  await openRules(page);
  await page.getByRole('button', { name: 'New rule' }).click();
  await page.getByLabel('Name').fill('Boise in the large box');
  await page.getByLabel('It runs').selectOption('when it comes in');
  await page.getByRole('button', { name: 'Only when …' }).click();
  await page.getByLabel('What is looked at').selectOption('postcode');
  await page.getByLabel('How postcode is compared').selectOption('begins with');
  await page.getByLabel('Which postcode').fill('837');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Do something' }).click();
  await page.getByLabel('What is done').selectOption('pack in');
  await page.getByLabel('pack in').selectOption('B6');
  await expect(book(page)).toContainText('when it comes in, and postcode begins with 837then pack in B6');
  await page.getByRole('button', { name: 'Done', exact: true }).click();
  // Nothing counts before it is saved.
  await page.getByLabel('Which orders').selectOption('the last 50 orders');
  await page.getByRole('button', { name: 'Try it' }).click();
  await expect(page.getByText('of 50 orders would change')).toBeVisible();
  expect((await look(page.request, 'rules')).no).toBe(before);
  await save(page, 'Boise wants large boxes');
  await expect(page.getByText(`Book ${before + 1} ·`)).toBeVisible();
  const number = await order(page, 'RB-1');
  await openOrder(page, number);
  const why = page.getByRole('region', { name: 'What decided it' });
  await expect(why).toContainText('BX-6');
  await expect(why).toContainText(`book ${before + 1}, rule`);
  await expect(why).toContainText('Boise in the large box');
});

test('the order of two rules is changed by dragging and by keyboard; the later one wins', async ({
  page,
}) => {
  await openRules(page);
  await write(page, 'First of two', 'at arrival, always do tag it "one"');
  await write(page, 'Second of two', 'at arrival, always do tag it "two"');
  const names = () => book(page).getByRole('button', { name: /^Open rule \d+ (First|Second) of two$/ });
  const now = async () => (await names().allInnerTexts()).map(t => t.split('\n')[0]);
  expect(await now()).toEqual(['First of two', 'Second of two']);
  const handle = (name: string) => page.getByRole('button', { name: new RegExp(`^Move rule \\d+ ${name}$`) });
  await handle('Second of two').focus();
  // Lifted, and over its own place: only then the others are measured.
  const said = page.getByRole('status').filter({ hasText: 'Second of two' });
  await page.keyboard.press('Space');
  await expect(said).toContainText('Second of two is at its own place.');
  await page.keyboard.press('ArrowUp');
  await expect(said).toContainText(/Second of two is over rule \d+ First of two/);
  await page.keyboard.press('Space');
  await expect.poll(now).toEqual(['Second of two', 'First of two']);
  // By the hand: lifted at its handle and put down above the other.
  const from = (await handle('First of two').boundingBox())!;
  const to = (await handle('Second of two').boundingBox())!;
  await page.mouse.move(from.x + from.width / 2, from.y + from.height / 2);
  await page.mouse.down();
  await page.mouse.move(to.x + to.width / 2, to.y + to.height / 2 - 12, { steps: 12 });
  await page.mouse.up();
  await expect.poll(now).toEqual(['First of two', 'Second of two']);
});

test('what is wrong is said at once: a sentence that cannot be read, a rule that can never act, and nothing of it is saved', async ({
  page,
}) => {
  await openRules(page);
  await page.getByRole('button', { name: 'New rule' }).click();
  await page.getByLabel('Name').fill('Nonsense');
  await page.getByRole('button', { name: 'Write it' }).click();
  await page.getByLabel('In words').fill('at clear, when the moon is full do let it go first');
  await expect(page.getByText('is wanted: a field.')).toBeVisible();
  await page
    .getByLabel('In words')
    .fill('at clear, when units is over 5 and units is under 3 do let it go first');
  await page.getByRole('button', { name: 'Done', exact: true }).click();
  await expect(book(page)).toContainText('Its conditions contradict each other: no order meets them all.');
  // The demo's own book has a dead rule and an overridden one, with who is to blame.
  await expect(book(page)).toContainText(
    /It can never act because of rule \d+ “Abroad is done by the office”/,
  );
  await expect(book(page)).toContainText(/always decided again by rule \d+ “Nothing signed under 40”/);
  await page.getByRole('button', { name: 'Leave it' }).click();
  await expect(book(page)).not.toContainText('Nonsense');
});

test('a hand overrides a rule, and the order says over which', async ({ page }) => {
  await openRules(page);
  await write(page, 'All by ground', 'at arrival, always do send by "redfen ground"');
  await save(page, '');
  const number = await order(page, 'RB-2');
  await openOrder(page, number);
  const why = page.getByRole('region', { name: 'What decided it' });
  await expect(why).toContainText('Redfen Parcel, Redfen Ground');
  await page.getByRole('link', { name: 'Services' }).click();
  const table = page.getByRole('grid', { name: 'Services' });
  await table
    .getByRole('row', { name: /Heron Parcel/ })
    .first()
    .click();
  await page.getByRole('button', { name: 'Take Heron Parcel' }).click();
  await expect(page.getByRole('button', { name: 'Heron Parcel is chosen' })).toBeDisabled();
  await openOrder(page, number);
  await expect(why).toContainText('Heron Post, Heron Parcel');
  await expect(why).toContainText('chosen by hand');
  await expect(why).toContainText(/over Redfen Parcel, Redfen Ground, book \d+, rule \d+ “All by ground”/);
});

test('a rule that was saved is compared with the book before, and an older book comes back', async ({
  page,
}) => {
  await openRules(page);
  await write(page, 'For a day', 'at arrival, always do tag it "today"');
  await save(page, 'Only for today');
  await page.getByRole('button', { name: 'Older books' }).click();
  const older = page.getByRole('region', { name: 'Older books' });
  await expect(older).toContainText('Ines Maddow');
  await expect(older).toContainText('Only for today');
  await older.getByRole('button', { name: 'Compare' }).first().click();
  await expect(older).toContainText('+ new For a day');
  await older.getByRole('button', { name: `Go back to ${before}`, exact: true }).click();
  await expect(book(page)).not.toContainText('For a day');
  await expect(page.getByText(`Book ${before + 2} ·`)).toBeVisible();
});

test('of two who change the book the second sees what the first saved, and decides', async ({
  page,
  browser,
}) => {
  await openRules(page);
  await write(page, 'Mine', 'at arrival, always do tag it "mine"');
  const other = await (await browser.newContext()).newPage();
  await signIn(other, 'AB-1005');
  await openRules(other);
  await write(other, 'Theirs', 'at arrival, always do tag it "theirs"');
  await save(other, '');
  await other.close();
  const form = page.getByRole('form', { name: 'Save the book' });
  await form.getByRole('button', { name: /^Save as book/ }).click();
  await expect(form).toContainText(`saved version ${before + 1} while you worked on version ${before}`);
  await form.getByRole('button', { name: `Save over book ${before + 1}` }).click();
  await form.getByRole('button', { name: /^Save as book/ }).click();
  await expect(form).toBeHidden();
  await expect(book(page)).toContainText('Mine');
  await expect(book(page)).not.toContainText('Theirs');
});

test('an order whose rules changed says what they would do now, and does it when asked', async ({ page }) => {
  const number = await order(page, 'RB-3');
  await openRules(page);
  await write(page, 'Newly small', 'at arrival, always do pack in "BX-1"');
  await save(page, '');
  await openOrder(page, number);
  const why = page.getByRole('region', { name: 'What decided it' });
  await expect(why).toContainText(`Book ${before + 1} would now decide: box: BX-1`);
  await why.getByRole('button', { name: 'Run the rules again' }).click();
  await expect(why).not.toContainText('would now decide');
  await expect(why).toContainText('Newly small');
});

/** Packs an order at the bench by scans: everything, a box, a weight, closed. */
async function packed(page: Page, number: string, then: string): Promise<void> {
  const buyer = `Buyer ${number}`;
  const { no } = await pickedOf(page, number, buyer, [['BOOK-1ST', 1]]);
  await atBench(page, no, buyer);
  await packAll(page);
  for (const text of ['BX-3', '3 lb', 'AUK-YES', 'AUK-CLOSE']) await scan(page, text);
  await expect(says(page)).toHaveText(then);
}

test('from a sentence to a label that nobody bought by hand, until the cap of the day is reached; then a pause', async ({
  page,
}) => {
  await openRules(page);
  await write(page, 'All by ground', 'at arrival, always do send by "redfen ground"');
  await write(page, 'Bought alone', 'at packed, always do buy its label unattended');
  await save(page, 'Labels by themselves');
  const spending = page.getByRole('region', { name: 'Bought unattended' });
  const caps = (label: string, day: string) => setCaps(page, 'Bought alone', label, day);
  const became = (number: string) => becameOf(page, number);
  await caps('90.00', '900.00');
  // The bench hears of it.
  await packed(page, 'RB-11', 'Label bought, Redfen Ground.');
  await expect.poll(() => became('RB-11'), { timeout: 45_000 }).toBe('bought');
  // The day's cap leaves no room for another like it.
  const { minor } = await look(page.request, 'rules/spending');
  await caps('90.00', ((minor + 100) / 100).toFixed(2));
  await packed(page, 'RB-12', 'Choose the service.');
  await expect.poll(() => became('RB-12'), { timeout: 45_000 }).toBe('refused');
  await openRules(page);
  await expect(spending).toContainText(/▲ \d+ not bought/);
  await spending.getByRole('button', { name: 'List them' }).click();
  const list = page.getByRole('grid', { name: 'Bought unattended today' });
  await expect(list.getByRole('row', { name: /RB-12/ })).toContainText('is spent or held today');
  await expect(list.getByRole('row', { name: /RB-11/ })).toContainText('● bought');
  // The pause is seen on every page of the desk.
  await page.goto('/board');
  await page.getByRole('button', { name: 'Pause buying' }).click();
  await expect(page.getByRole('button', { name: 'Buying paused' })).toBeVisible();
  await page.getByRole('button', { name: 'Buying paused' }).click();
  await expect(page.getByRole('button', { name: 'Pause buying' })).toBeVisible();
});

test('a label bought before anybody packs is right for the planned box; another box asks for void and rebuy', async ({
  page,
}) => {
  await openRules(page);
  await write(page, 'All by ground', 'at arrival, always do send by "redfen ground"');
  await write(page, 'Bought ahead', 'at clear, always do buy its label unattended');
  await save(page, 'Labels ahead');
  await setCaps(page, 'Bought ahead', '90.00', '900.00');
  const orders = [];
  for (const number of ['RB-21', 'RB-22']) {
    orders.push(await pickedOf(page, number, `Buyer ${number}`, [['FRK-UNC', 1]]));
    await expect.poll(() => becameOf(page, number), { timeout: 45_000 }).toBe('bought');
  }
  const [as, otherwise] = orders;
  const fork = await codeOf(page.request, 'FRK-UNC');
  await atBench(page, as!.no, 'Buyer RB-21');
  await expect(part(page, 'bought-ahead')).toContainText('Its label is bought: Redfen Ground');
  await scan(page, fork);
  const parcel = /PA-\d+/.exec(await page.getByRole('banner').innerText())![0];
  const { weightMg } = (await look(page.request, 'parcels')).find((p: { no: string }) => p.no === parcel);
  await scan(page, `${weightMg / 1_000} g`);
  await scan(page, 'AUK-CLOSE');
  await expect(says(page)).toHaveText('Label bought, Redfen Ground.');
  await atBench(page, otherwise!.no, 'Buyer RB-22');
  for (const text of [fork, 'BX-4', '3 lb', 'AUK-YES', 'AUK-CLOSE']) await scan(page, text);
  const dialog = page.getByRole('dialog');
  await expect(dialog).toContainText('Its label was bought for');
  await scan(page, 'AUK-YES');
  await expect(dialog).toBeHidden();
  await expect(part(page, 'offer').first()).toBeVisible();
  await page.keyboard.press('Alt+1');
  await expect(says(page)).toHaveText('Label bought, Redfen Ground.');
});

test('a packer may look at the book, and not change it', async ({ page }) => {
  await signIn(page, 'AB-1002');
  await openRules(page);
  await expect(book(page)).toContainText('Hazardous goods by ground');
  await expect(page.getByRole('button', { name: 'New rule' })).toHaveCount(0);
  await expect(page.getByRole('button', { name: /^Move / })).toHaveCount(0);
});

test('a button with a code is written, and a packer scans it at the bench; what it wants is told and done', async ({
  page,
}) => {
  await openRules(page);
  await page.getByRole('button', { name: 'New rule' }).click();
  await page.getByLabel('Name').fill('Fair');
  await page.getByLabel('It runs').selectOption('at a button');
  await page.getByLabel('On the button').fill('For the fair');
  await page.getByLabel('Its code').fill('rb-fair');
  await page.getByLabel('Bench', { exact: true }).check();
  await page.getByLabel('order list').check();
  await page.getByRole('button', { name: 'Do something' }).click();
  await page.getByLabel('What is done').selectOption('pack in');
  await page.getByLabel('pack in').selectOption('B6');
  await page.getByRole('button', { name: 'Done', exact: true }).click();
  await save(page, 'A button for the fair');

  // On the list, for the orders that are chosen.
  const number = await order(page, 'BUTTON-1');
  await page.goto(`/orders?words=${number}`);
  await page.getByRole('checkbox', { name: new RegExp(number) }).check();
  const chosen = page.getByRole('region', { name: 'Chosen orders' });
  await scan(page, 'RB-FAIR');
  await expect(chosen.getByRole('status')).toContainText('For the fair: pack in "BX-6"');

  // At the bench, by its code: the box is another one at once.
  const { id, no } = await pickedOf(page, 'BUTTON-2', 'Buyer BUTTON-2', [['FRK-UNC', 1]]);
  await signIn(page, 'AB-1002');
  await atBench(page, no, 'Buyer BUTTON-2');
  await expect(page.getByRole('button', { name: 'For the fair' })).toBeVisible();
  await scan(page, 'RB-FAIR');
  await expect(says(page)).toHaveText('The order was changed: the box proposed.');
  await scan(page, 'RB-GIFT');
  await expect(says(page)).toHaveText(/^(Gift: tag it|Read this: A gift)/);
  await scan(page, 'RB-NONE');
  await expect(says(page)).toHaveText('The button RB-NONE is not in Auk.');
  const { row, history } = await look(page.request, `orders/${id}`);
  expect(row.tags).toContain('gift');
  expect(history.map((h: { person: string }) => h.person)).toContainEqual(
    expect.stringMatching(/^book \d+, rule \d+$/),
  );
});

test('a heavy line has a parcel of its own, from the rule to two labels', async ({ page }) => {
  await openRules(page);
  await write(
    page,
    'Forks apart',
    'at arrival, always do give a parcel of its own to each line where (product is "FRK-UNC")',
  );
  await save(page, 'Forks go alone');
  const { id, no } = await pickedOf(page, 'APART-1', 'Buyer APART-1', [
    ['FRK-UNC', 1],
    ['SMK-4-ST', 1],
  ]);
  await signIn(page, 'AB-1002');
  await atBench(page, no, 'Buyer APART-1');
  await expect(page.getByText('in a parcel of its own')).toBeVisible();
  await scan(page, await codeOf(page.request, 'SMK-4-ST'));
  await expect(says(page)).toContainText('Right');
  const fork = await codeOf(page.request, 'FRK-UNC');
  await scan(page, fork);
  await expect(says(page)).toHaveText('Uncapping fork has a parcel of its own.');
  for (const text of ['BX-6', '3 lb', 'AUK-YES', 'AUK-NEXTBOX']) await scan(page, text);
  await expect(says(page)).toHaveText('Parcel 1 closed. Parcel 2 is open.');
  for (const text of [fork, 'BX-2', '1 lb', 'AUK-YES', 'AUK-LABEL']) await scan(page, text);
  await buyLabels(page, id, 2);
});

test("a supplier's half: split off by a rule, ordered by mail, departed by its tracking number; our half goes on", async ({
  page,
}) => {
  await bringIn(page, [
    ['HALF-1', 'Buyer HALF-1', 'FRK-UNC', 1, '9.00'],
    ['HALF-1', 'Buyer HALF-1', 'EXT-2', 1, '189.00'],
  ]);
  await page.goto('/receiving');
  const mail = page.getByLabel('Mail of Muskingum Foundry');
  await mail.fill('orders@foundry.example');
  await mail.press('Enter');
  await openOrder(page, 'HALF-1/2');
  const theirs = page.getByRole('region', { name: 'Sent elsewhere' });
  await expect(theirs).toContainText('Muskingum Foundry sends it');
  await expect(theirs).toContainText(/PO-\d+/);
  await expect(page.locator('[data-part="related"]')).toContainText('0 of 2 departed');
  await theirs.getByLabel('Carrier').fill('Northway');
  await theirs.getByLabel('Tracking number').fill('NW 778 001');
  await theirs.getByRole('button', { name: 'It left', exact: true }).click();
  await expect(page.locator('[data-part="related"]')).toContainText('1 of 2 departed');
  await expect(page.getByText('NW 778 001').first()).toBeVisible();
  const [ours] = (await look(page.request, 'orders?words=HALF-1&stage=Clear')).rows;
  expect(ours.channelNumber).toBe('HALF-1');
});
