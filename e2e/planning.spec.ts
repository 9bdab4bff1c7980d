import { expect, type Locator, type Page } from '@playwright/test';
import { bringIn, part, pickAll, putAway, says, scan, signIn } from './hands.js';
import { test } from './journey.js';

const TAG = 'plan-journey';
const GOODS = ['JAR-HEX-12', 'FRM-GRP', 'HTL-J10'];

/** Six orders of three goods, told apart by a tag. */
async function taggedOrders(page: Page): Promise<void> {
  await bringIn(
    page,
    Array.from({ length: 6 }, (_, i) => [
      `PLN-${i + 1}`,
      `Plan Buyer ${i + 1}`,
      GOODS[i % 3]!,
      1 + (i % 2),
      '9.00',
    ]),
  );
  await page.goto('/orders?words=PLN-');
  for (let i = 1; i <= 6; i++) await page.getByLabel(`Choose PLN-${i}`).check();
  await page.getByRole('button', { name: 'Tag', exact: true }).click();
  await page.getByRole('dialog').getByLabel('Tag').fill(TAG);
  await page.getByRole('dialog').getByRole('button', { name: 'Tag' }).click();
  await expect(page.getByRole('status')).toContainText('6 of 6 orders done.');
}

const listRow = (page: Page, list: number): Locator =>
  page.getByRole('row', { name: new RegExp(`^Choose list ${list} `) });
const inside = (page: Page, no: string): Locator => page.getByRole('listitem').filter({ hasText: no });

/** Drags one thing onto another by mouse, in steps, as a hand does. */
async function drag(page: Page, from: Locator, to: Locator): Promise<void> {
  await from.scrollIntoViewIfNeeded();
  const [a, b] = [(await from.boundingBox())!, (await to.boundingBox())!];
  await page.mouse.move(a.x + a.width / 2, a.y + a.height / 2);
  await page.mouse.down();
  await page.mouse.move(a.x + a.width / 2 + 10, a.y + a.height / 2 + 10);
  await page.mouse.move(b.x + b.width / 2, b.y + b.height / 2, { steps: 8 });
  await page.mouse.up();
}

test('the lead plans what bears a tag, moves orders between lists, keeps one, and releases some and then the rest', async ({
  page,
}) => {
  await signIn(page, 'AB-1001');
  await taggedOrders(page);
  await page.goto('/pick');
  await page.getByRole('link', { name: 'Plan pick lists' }).click();
  await page.getByLabel('Tag').selectOption(TAG);
  await page.getByLabel('Totes', { exact: true }).fill('11');
  await page.getByLabel('Totes', { exact: true }).press('Enter');
  await page.getByRole('button', { name: 'Plan', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Release 1 list' })).toBeVisible();
  await expect(part(page, 'figures')).toContainText('above what no plan can go below');
  await expect(page.getByRole('img', { name: /^The floor with 1 walk/ })).toBeVisible();

  // One order goes onto a list of its own by choice, and another one follows it by hand.
  await listRow(page, 1).click();
  const [first, second] = await page
    .getByRole('listitem')
    .filter({ hasText: 'Plan Buyer' })
    .getByRole('link')
    .allInnerTexts();
  await inside(page, first!).getByLabel(`Move ${first} to`).selectOption({ label: 'a new list' });
  await expect(listRow(page, 2)).toBeVisible();
  await expect(inside(page, first!)).toBeHidden();
  const handle = inside(page, second!).getByRole('button', { name: `Drag ${second} to another list` });
  await drag(page, handle, listRow(page, 2).getByText('List 2'));
  await expect(inside(page, second!)).toBeHidden();
  await listRow(page, 2).click();
  await expect(inside(page, first!)).toBeVisible();
  await expect(inside(page, second!)).toBeVisible();

  // A locked list stays when the rest is planned again.
  await listRow(page, 2).getByRole('button', { name: 'Lock' }).click();
  await expect(listRow(page, 2)).toContainText('■ locked');
  await page.getByRole('button', { name: 'Plan again' }).click();
  await expect(page.getByRole('button', { name: 'Release 2 lists' })).toBeVisible();
  await expect(page.getByText('■ locked')).toBeVisible();

  await page.getByRole('row').filter({ hasText: '■ locked' }).getByRole('checkbox').check();
  await page.getByRole('button', { name: 'Release 1 list' }).click();
  await expect(page.getByText(/✓ Released: PL-\d+\./)).toBeVisible();
  await expect(page.getByRole('row').filter({ hasText: '● released' })).toHaveCount(1);
  await page.getByRole('button', { name: 'Release 1 list' }).click();
  await expect(page.getByRole('row').filter({ hasText: '● released' })).toHaveCount(2);
  await expect(page.getByRole('button', { name: /^Release/ })).toBeHidden();
  // A plan that was left is found again.
  const plan = page.url();
  await page.goto('/pick/plan');
  await page.getByRole('listitem').filter({ hasText: '2 lists, 2 released' }).getByRole('link').click();
  await expect(page).toHaveURL(plan);
  await page.getByRole('row').filter({ hasText: '● released' }).first().getByRole('link').click();
  await expect(page).toHaveURL(/\/pick\/PL-\d+$/);
  await expect(
    page
      .getByText('Plan Buyer')
      .or(page.getByRole('heading', { name: /Pick list/ }))
      .first(),
  ).toBeVisible();
});

test('the floor gets a middle cross aisle from a file and a longer one by hand, and says what cannot be walked', async ({
  page,
}) => {
  await signIn(page, 'AB-1001');
  await page.goto('/stock/floor');
  await page.getByRole('link', { name: 'Bring in' }).click();
  await page.getByLabel('File', { exact: true }).setInputFiles('demo/floors/two-blocks.csv');
  await expect(page.getByText('8 aisles, 3 cross aisles')).toBeVisible();
  await page.getByRole('button', { name: /^Bring in 1 thing/ }).click();
  await expect(page.getByRole('status')).toContainText('Brought in');
  await page.goto('/stock/floor');
  await expect(page.getByLabel('Code of way 10')).toHaveValue('MIDDLE');
  await expect(page.getByText('288 places of 288 stand on it.')).toBeVisible();
  // An aisle beyond the cross aisles is on an island until they reach it.
  await page.getByRole('button', { name: 'Add an aisle' }).click();
  await page.getByLabel('Code of way 12').fill('k');
  await expect(
    page.getByText('✕ Aisle K cannot be reached from the start. Join it by a cross aisle.'),
  ).toBeVisible();
  await expect(page.getByRole('button', { name: 'Save the floor' })).toBeDisabled();
  for (const way of [9, 10, 11]) await page.getByLabel(`End of way ${way}`).fill('105 ft');
  await expect(page.getByText('cannot be reached')).toBeHidden();
  await page.getByRole('button', { name: 'Save the floor' }).click();
  await expect(page.getByText('✓ The floor is saved.')).toBeVisible();
  await page.reload();
  await expect(page.getByLabel('Code of way 9', { exact: true })).toHaveValue('K');
  await page.getByLabel('Position of way 1', { exact: true }).fill('far');
  await expect(page.getByText('✕ “far” of A is not a distance')).toBeVisible();
});

test('the lead hands a list to a picker, who takes it by the scan sheet alone and picks it to the end', async ({
  page,
  browser,
}) => {
  await signIn(page, 'AB-1001');
  await bringIn(page, [['HAND-1', 'Handed Buyer', 'JAR-HEX-12', 2, '9.00']]);
  await page.goto('/orders?stage=Clear&words=HAND-1');
  await page.getByLabel('Choose HAND-1').check();
  await page.getByRole('button', { name: 'Make pick list of 1' }).click();
  await expect(page).toHaveURL(/\/pick\/PL-\d+$/);
  const list = new URL(page.url()).pathname.split('/').at(-1)!;
  await page.getByLabel('For').selectOption('Mika Solberg');
  await page.reload();
  await expect(page.getByLabel('For').locator('option:checked')).toHaveText('Mika Solberg');
  const hand = await (await browser.newContext({ viewport: { width: 390, height: 844 } })).newPage();
  await signIn(hand, 'AB-1006');
  await hand.goto('/floor');
  await expect(hand.getByRole('button', { name: 'Take the next list' })).toBeEnabled();
  await expect(hand.getByRole('button', { name: new RegExp(`${list}.*for you`) })).toBeVisible();
  await scan(hand, 'AUK-NEXT');
  await expect(hand.getByRole('heading', { name: list })).toBeVisible();
  await pickAll(hand);
  await expect(says(hand)).toHaveText('List complete.');
  await putAway(hand);
});

test('totes are made many at once, each with its mark and colour', async ({ page }) => {
  await signIn(page, 'AB-1001');
  await page.goto('/stock/totes');
  await page.getByLabel('How many').fill('3');
  await page.getByLabel('Letter').fill('w');
  await page.getByLabel('Colour').selectOption('yellow');
  await page.getByRole('button', { name: 'Make them' }).click();
  await expect(page.getByText(/✓ Made: TO-\d+ to TO-\d+\. Print their labels\./)).toBeVisible();
  await page.getByRole('grid', { name: 'Totes' }).focus();
  await page.keyboard.press('End');
  await expect(page.getByRole('row', { name: /W3 yellow/ })).toBeVisible();
});
