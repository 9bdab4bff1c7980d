import {
  type APIRequestContext,
  type Browser,
  type CDPSession,
  chromium,
  expect,
  type LaunchOptions,
  type Locator,
  type Page,
} from '@playwright/test';

/** A part of a screen that is drawn, not made of roles: the answer, the lines, the marks. */
export const part = (at: Page | Locator, name: string): Locator => at.locator(`[data-part="${name}"]`);

/** The answer to the last scan. */
export const says = (page: Page): Locator => part(page, 'answer').locator('b');

const scanners = new WeakMap<Page, Promise<CDPSession>>();
/** When the last key of any scan was pressed, in seconds. */
let lastKey = 0;

/** Scans as a scanner does: its keys are 5 ms apart by its own clock, however busy the page is, then Enter. */
export async function scan(page: Page, code: string): Promise<void> {
  if (!scanners.has(page)) scanners.set(page, page.context().newCDPSession(page));
  const scanner = await scanners.get(page)!;
  const sent: Promise<unknown>[] = [];
  lastKey = Math.max(Date.now() / 1000, lastKey + 0.1);
  for (const key of [...code, 'Enter']) {
    const text = key === 'Enter' ? '\r' : key;
    const stroke = { key, text, ...(key === 'Enter' && { code: key, windowsVirtualKeyCode: 13 }) };
    lastKey += 0.005;
    sent.push(
      scanner.send('Input.dispatchKeyEvent', { type: 'keyDown', timestamp: lastKey, ...stroke }),
      scanner.send('Input.dispatchKeyEvent', { type: 'keyUp', timestamp: lastKey, key }),
    );
  }
  await Promise.all(sent);
}

/** Signs in, and opens no page yet. The way by hand has journeys of its own. */
export async function signIn(page: Page, badge: string): Promise<void> {
  const answer = await page.request.post('/api/v1/people/sign-in', { data: { badge, pin: '2468' } });
  expect(answer.status()).toBe(200);
}

/** Signs in and waits for the first page. */
export async function enter(page: Page, badge: string): Promise<void> {
  await signIn(page, badge);
  await page.goto('/');
  await expect(page.getByRole('main')).toBeVisible();
}

/** Signs in by scanning a badge and typing the PIN, and waits for the first page. */
export async function signInByHand(page: Page, badge: string): Promise<void> {
  await page.goto('/');
  await expect(page.getByRole('button', { name: 'Sign in' })).toBeVisible();
  await scan(page, badge);
  await expect(page.getByLabel('Badge')).toHaveValue(badge);
  await page.keyboard.type('2468', { delay: 80 });
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'Sign in' })).toBeHidden();
}

/** Asks the API as the page's person; only for looking things up, never for doing the journey's work. */
// biome-ignore lint/suspicious/noExplicitAny: answers of many shapes
export async function look(request: APIRequestContext, path: string): Promise<any> {
  return (await request.get(`/api/v1/${path}`)).json();
}

/** The code on a product's label. */
export async function codeOf(request: APIRequestContext, sku: string): Promise<string> {
  return (await look(request, `products/${sku}`)).codes[0].code;
}

/** A carrier stand-in's own books. */
export async function books(
  request: APIRequestContext,
  carrier: string,
): Promise<{ reference: string; tracking: string; minor: number }[]> {
  return (await request.get(`http://127.0.0.1:${process.env.AUK_STANDINS_PORT}/${carrier}/books`)).json();
}

/** Holds back what is asked at an address until the hand that it gives is called. */
export async function holdBack(page: Page, address: string): Promise<() => void> {
  let go = () => {};
  const held = new Promise<void>(resolve => {
    go = resolve;
  });
  await page.route(address, async route => {
    await held;
    await route.continue();
  });
  return go;
}

/** Tells a carrier stand-in to misbehave once. */
export async function trick(
  request: APIRequestContext,
  carrier: string,
  on: string,
  how: string,
  ms = 0,
): Promise<void> {
  await request.post(`http://127.0.0.1:${process.env.AUK_STANDINS_PORT}/${carrier}/mischief`, {
    data: { on, how, times: 1, ms },
  });
}

/** Picks the open list on the Floor to its end, by scans only. */
export async function pickAll(page: Page): Promise<void> {
  const place = part(page, 'place');
  const answer = says(page);
  while ((await place.innerText()) !== 'Done') {
    const code = await place.innerText();
    if (await page.getByText('scan the place', { exact: true }).isVisible()) {
      await scan(page, code);
      await expect(answer).toHaveText(`Right place, ${code}.`);
    }
    const stop = await part(page, 'stop').innerText();
    const sku = await part(page, 'sku').innerText();
    await scan(page, await codeOf(page.request, sku));
    await expect(answer).toHaveText(/^(Right\. \d+ more\.|Right, that is|List complete)/);
    if ((await answer.innerText()).includes('more.')) {
      await scan(page, 'AUK-ALL');
      await expect(answer).toHaveText(/^(Right, that is|List complete)/);
    }
    expect(stop).toMatch(/stop \d+ of \d+/);
  }
}

/** Scans that this browser keeps because the server has not judged them. */
export const keptScans = (page: Page) =>
  page.evaluate(
    () =>
      new Promise<number>((resolve, reject) => {
        const opening = indexedDB.open('auk');
        opening.onerror = reject;
        opening.onsuccess = () => {
          const counting = opening.result.transaction('scans').objectStore('scans').count();
          counting.onsuccess = () => {
            opening.result.close();
            resolve(counting.result);
          };
        };
      }),
  );

/** Puts a device away for good, once the server has judged all that it scanned. */
export async function putAway(page: Page): Promise<void> {
  await expect.poll(() => keptScans(page)).toBe(0);
  await page.context().close();
}

/** Packs everything the bench still wants, piece by piece. */
export async function packAll(page: Page): Promise<void> {
  const now = page.locator('[data-part="line"][data-now]');
  // The bench says who waits, too: only when its lines are there the order is open.
  await expect(part(page, 'line').first()).toBeVisible();
  while ((await now.count()) > 0) {
    const sku = await part(now, 'sku').innerText();
    const before = await part(now, 'units').innerText();
    await scan(page, await codeOf(page.request, sku));
    await expect(async () => {
      const same =
        (await now.count()) > 0 &&
        (await part(now, 'sku').innerText()) === sku &&
        (await part(now, 'units').innerText()) === before;
      expect(same).toBe(false);
    }).toPass({ timeout: 5_000 });
  }
}

/** Tells a channel's stand-in to sell orders; returns their numbers. */
export async function sell(request: APIRequestContext, channel: string, count: number): Promise<string[]> {
  const base = `http://127.0.0.1:${process.env.AUK_STANDINS_PORT}/channels/${channel}`;
  return (await request.post(`${base}/sell`, { data: { count } })).json();
}

/** Tells a channel's stand-in to misbehave once. */
export async function trickChannel(
  request: APIRequestContext,
  channel: string,
  how: string,
  ms = 0,
): Promise<void> {
  const base = `http://127.0.0.1:${process.env.AUK_STANDINS_PORT}/channels/${channel}`;
  await request.post(`${base}/mischief`, { data: { on: 'pull', how, times: 1, ms } });
}

/** Gives the server a file with orders of the web store: number, buyer, SKU, quantity, price. The way by hand has journeys of its own. */
export async function bringIn(
  page: Page,
  rows: [number: string, buyer: string, sku: string, quantity: number, price: string, postcode?: string][],
): Promise<void> {
  const csv = [
    'Order number,Buyer name,Address 1,City,State,Zip,SKU,Item title,Qty,Unit price',
    ...rows.map(
      r => `${r[0]},${r[1]},1 Alder Lane,Boise,ID,${r[5] ?? '83702'},${r[2]},Thing ${r[2]},${r[3]},${r[4]}`,
    ),
  ].join('\n');
  const id = crypto.randomUUID();
  const begun = await page.request.post(`/api/v1/imports/orders/runs?channel=web&name=orders.csv&id=${id}`, {
    headers: { 'content-type': 'text/csv' },
    data: Buffer.from(csv),
  });
  expect(begun.status(), await begun.text()).toBe(200);
  await expect.poll(async () => (await look(page.request, `imports/runs/${id}`)).state).toBe('done');
}

/** Opens the page of the order with a channel's number, from the list. */
export async function openOrder(page: Page, number: string): Promise<void> {
  await page.goto(`/orders?stage=all&words=${encodeURIComponent(number)}`);
  await page.getByRole('link', { name: number, exact: true }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText(number);
}

/** A browser that has a camera: what it sees is made by Chromium, or a file of ours. */
export const withCamera = (options: LaunchOptions, file?: string): Promise<Browser> =>
  chromium.launch({
    ...options,
    args: [
      ...(options.args ?? []),
      '--use-fake-ui-for-media-stream',
      '--use-fake-device-for-media-stream',
      ...(file ? [`--use-file-for-fake-video-capture=${file}`] : []),
    ],
  });
