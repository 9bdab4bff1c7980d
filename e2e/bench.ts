import { expect, type Page } from '@playwright/test';
import { bringIn, codeOf, look, part, scan } from './hands.js';

/** An order of some things, picked by the API, for one bench alone; gives its id and its slip's code. */
export async function pickedOf(
  page: Page,
  number: string,
  buyer: string,
  lines: readonly [sku: string, quantity: number][],
): Promise<{ id: string; no: string }> {
  await bringIn(
    page,
    lines.map(([sku, quantity]) => [number, buyer, sku, quantity, '5.00']),
  );
  const [{ id, no, stage, reason }] = (await look(page.request, `orders?words=${number}&stage=all`)).rows;
  if (stage !== 'Clear') throw new Error(`${number} is ${stage}: ${reason}`);
  const list = await post(page, 'picking/lists', { orderIds: [id] });
  await pickList(page, list.no);
  return { id, no };
}

/** What the server answers to a piece of work that prepares a journey; refused, the journey ends here with the reason. */
async function post(page: Page, path: string, data: object) {
  const answer = await page.request.post(`/api/v1/${path}`, { data });
  if (!answer.ok()) throw new Error(`${path}: ${answer.status()} ${await answer.text()}`);
  return await answer.json();
}

/** Picks all of a list by the API. */
export async function pickList(page: Page, list: string): Promise<void> {
  const opened = await post(page, 'picking/open', { code: list, device: 'setup' });
  let count = 0;
  const send = (text: string) =>
    post(page, `picking/sessions/${opened.sessionId}/scans`, {
      id: crypto.randomUUID(),
      text,
      at: new Date().toISOString(),
      device: 'setup',
      count: ++count,
    });
  for (const stop of opened.state.stops) {
    await send(stop.placeCode);
    await send(stop.product.codes[0].code);
    if (stop.wanted > 1) await send('AUK-ALL');
  }
}

/** An order of three of one thing, picked; gives its slip's code and the thing's. */
export async function picked(page: Page, number: string, buyer: string) {
  const order = await pickedOf(page, number, buyer, [['BOOK-1ST', 3]]);
  return { ...order, code: await codeOf(page.request, 'BOOK-1ST') };
}

/** How many of the thing the server has in the parcel of an order. */
export async function packed(page: Page, id: string): Promise<number> {
  return (await look(page.request, `orders/${id}`)).lines[0].parts[0].held.packed;
}

export async function atBench(page: Page, no: string, buyer: string): Promise<void> {
  await page.goto('/bench');
  await expect(page.getByText('Scan a slip or a tote')).toBeVisible();
  await scan(page, no);
  await expect(page.getByText(buyer)).toBeVisible();
}

/** What the server says when it refuses, and whether the same may be sent again. */
export const problem = (status: number, retry: string) => ({
  status,
  contentType: 'application/problem+json',
  body: JSON.stringify({
    type: '/problems/x',
    title: 'x',
    status,
    detail: 'Something is in the way.',
    cure: 'Wait.',
    retry,
  }),
});

/** Buys the first service for each of so many closed parcels of an order, by keys; the services of the next one are waited for. */
export async function buyLabels(page: Page, orderId: string, parcels: number): Promise<void> {
  const services = page.getByRole('heading', { name: /Services for PA-\d+/ });
  const bought = async () =>
    (await look(page.request, `orders/${orderId}`)).parcels.filter(
      (p: { tracking: string | null }) => p.tracking,
    ).length;
  let before = 'none';
  for (let n = 1; n <= parcels; n++) {
    await expect(services).not.toHaveText(before);
    before = await services.innerText();
    await expect(part(page, 'offer').first()).toBeVisible();
    await page.keyboard.press('Alt+1');
    await expect.poll(bought).toBe(n);
  }
}
