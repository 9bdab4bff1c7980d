import { readFileSync } from 'node:fs';
import { expect, test } from '@playwright/test';
import { scan } from './hands.js';

test.use({ baseURL: `http://127.0.0.1:${process.env.AUK_OWN_PORT}` });

test('a house of one’s own: opened once with the code of the start, its admin adds people; nothing of the demo is in it', async ({
  page,
}) => {
  const code = /code for the first page: (\S+)/.exec(readFileSync(process.env.AUK_OWN_LOG!, 'utf8'))![1]!;
  await page.goto('/');
  const open = page.getByRole('button', { name: 'Open the house' });
  await expect(open).toBeVisible();
  await page.getByLabel('Code from the start command').fill('AAAA-AAAA');
  for (const [label, text] of [
    ['Your name', 'Hedda Falk'],
    ['Your PIN', '80246'],
    ['Name of the house', 'Falk & Daughters'],
    ['Street and number', '12 Quay Street'],
    ['Town', 'Astoria'],
    ['State or region', 'OR'],
    ['Postcode', '97103'],
    ['Telephone', '503 555 0144'],
    ['Time zone', 'America/Los_Angeles'],
    ['Currency', 'USD'],
  ] as const)
    await page.getByLabel(label, { exact: true }).fill(text);
  await open.click();
  await expect(page.getByRole('alert')).toContainText('code');
  await page.getByLabel('Code from the start command').fill(code);
  await open.click();
  await expect(page.getByRole('heading', { name: 'The house is open' })).toBeVisible();
  const badge = await page.getByText(/^AB-\d+$/).innerText();
  await page.getByRole('button', { name: 'Go in' }).click();
  await expect(page.getByRole('heading', { name: 'Needs a person' })).toBeVisible();
  await page.context().clearCookies();
  await page.goto('/');
  await expect(page.getByRole('button', { name: 'Sign in' })).toBeVisible();
  await scan(page, badge);
  await page.keyboard.type('80246', { delay: 80 });
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'Sign in' })).toBeHidden();

  await page.goto('/setup/people');
  await expect(page.getByRole('grid', { name: 'People' }).getByRole('row')).toHaveCount(2);
  for (const [path, words] of [
    ['/orders', 'orders that'],
    ['/products', '0 products'],
    ['/stock', 'What lies where'],
    ['/board', '0 orders still to leave'],
    ['/receiving', 'No purchase'],
    ['/setup/channels', 'Where orders come from'],
  ] as const) {
    await page.goto(path);
    await expect(page.getByRole('main')).toContainText(words);
    await expect(page.getByRole('alert')).toBeHidden();
  }
});
