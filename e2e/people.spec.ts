import { expect } from '@playwright/test';
import { look, scan, signIn } from './hands.js';
import { test } from './journey.js';

test('people: one is added, signs in with the badge told, gets a new PIN, is retired; a right is taken and given', async ({
  page,
  browser,
}) => {
  await signIn(page, 'AB-1005');
  await page.goto('/setup/people');
  const people = page.getByRole('grid', { name: 'People' });
  await page.getByRole('button', { name: 'Add a person' }).click();
  const ask = page.getByRole('dialog');
  await ask.getByLabel('Name').fill('Nell Barrow');
  await ask.getByLabel('PIN').fill('97531');
  await ask.getByRole('button', { name: 'Add' }).click();
  const row = people.getByRole('row', { name: /Nell Barrow/ });
  await expect(row).toContainText('may sign in');
  const badge = await row.getByRole('gridcell').nth(1).innerText();

  const nell = await (await browser.newContext({ viewport: { width: 390, height: 844 } })).newPage();
  const comeIn = async (pin: string) => {
    await nell.goto('/');
    await expect(nell.getByRole('button', { name: 'Sign in' })).toBeVisible();
    await scan(nell, badge);
    await nell.keyboard.type(pin, { delay: 80 });
    await nell.keyboard.press('Enter');
  };
  await comeIn('97531');
  await expect(nell).toHaveURL(/floor/);

  await row.getByRole('button', { name: 'New PIN' }).click();
  await ask.getByLabel('New PIN').fill('1357');
  await ask.getByRole('button', { name: 'Set the PIN' }).click();
  await expect(ask).toBeHidden();
  await comeIn('97531');
  await expect(nell.getByText('Badge and PIN do not belong together.')).toBeVisible();
  await comeIn('1357');
  await expect(nell).toHaveURL(/floor/);

  await row.getByRole('button', { name: 'Change' }).click();
  await ask.getByLabel('Retired').check();
  await ask.getByRole('button', { name: 'Save' }).click();
  await expect(row).toContainText('retired');
  expect((await nell.request.get('/api/v1/people/me')).status()).toBe(401);

  // A right that is taken away is gone from the other person's screen, and comes back with it.
  const right = page.getByRole('checkbox', { name: /^Lead: Cancel collections/ });
  await right.click();
  await expect(right).not.toBeChecked();
  const lead = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
  await signIn(lead, 'AB-1001');
  const { departures } = await look(lead.request, 'departures/board');
  const at = `/departures/${departures.at(-1).no}`;
  await lead.goto(at);
  await expect(lead.getByRole('button', { name: /^Close departure/ })).toBeVisible();
  await expect(lead.getByRole('button', { name: 'Cancel the collection' })).toBeHidden();
  await right.click();
  await expect(right).toBeChecked();
  await lead.goto(at);
  await expect(lead.getByRole('button', { name: 'Cancel the collection' })).toBeVisible();
});

test('a collection that does not come is called off with its reason, and its orders move on', async ({
  page,
}) => {
  await signIn(page, 'AB-1001');
  const { departures } = await look(page.request, 'departures/board');
  const last = departures.at(-1);
  await page.goto(`/departures/${last.no}`);
  await page.getByRole('button', { name: 'Cancel the collection' }).click();
  const ask = page.getByRole('dialog');
  await expect(ask.getByRole('button', { name: 'Cancel the collection' })).toBeDisabled();
  await expect(ask.getByText(/orders? would leave|No order waits for it/)).toBeVisible();
  await ask.getByLabel('Why it does not come').fill('The truck broke down.');
  await ask.getByRole('button', { name: 'Cancel the collection' }).click();
  await expect(page.getByText('Called off: The truck broke down.')).toBeVisible();
  await expect(page.getByRole('button', { name: /^Close departure/ })).toBeHidden();
  await page.goto('/board');
  await expect(page.getByRole('link', { name: /Called off: it does not come\./ })).toBeVisible();
});
