import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import bwip from 'bwip-js/node';
import { look, part, signIn, withCamera } from './hands.js';

const [WIDTH, HEIGHT, MODULE] = [640, 480, 3];
const [WHITE, BLACK, NO_COLOUR] = [235, 16, 128];

/** One picture of a video: a barcode on white, or nothing; luminance, then the two planes of colour. */
function picture(text: string | null): Buffer {
  const light = Buffer.alloc(WIDTH * HEIGHT, WHITE);
  if (text !== null) {
    const { sbs } = bwip.raw({ bcid: 'code128', text })[0] as { sbs: number[] };
    let x = Math.round((WIDTH - sbs.reduce((n, w) => n + w, 0) * MODULE) / 2);
    sbs.forEach((width, i) => {
      for (let y = HEIGHT / 4; i % 2 === 0 && y < (3 * HEIGHT) / 4; y++)
        light.fill(BLACK, y * WIDTH + x, y * WIDTH + x + width * MODULE);
      x += width * MODULE;
    });
  }
  return Buffer.concat([light, Buffer.alloc((WIDTH * HEIGHT) / 2, NO_COLOUR)]);
}

/** A video in which codes come into sight one after the other, each for a second, with nothing between them. */
function video(texts: string[]): Buffer {
  const frame = Buffer.from('FRAME\n');
  const shown = texts.flatMap(text => [...new Array(10).fill(text), ...new Array(12).fill(null)]);
  return Buffer.concat([
    Buffer.from(`YUV4MPEG2 W${WIDTH} H${HEIGHT} F10:1 Ip A1:1 C420jpeg\n`),
    ...shown.flatMap(text => [frame, picture(text)]),
  ]);
}

test('a list is opened and picked by the camera of a phone, without a scanner', async ({
  page,
  baseURL,
  launchOptions,
}) => {
  await signIn(page, 'AB-1001');
  const { rows } = await look(page.request, 'orders?stage=Clear&size=1');
  const { no } = await (
    await page.request.post('/api/v1/picking/lists', { data: { orderIds: [rows[0].id] } })
  ).json();
  const { rows: stops } = await look(page.request, `picking/lists/${no}`);
  const product = await look(page.request, `products/${stops[0].sku}`);
  const folder = mkdtempSync(join(tmpdir(), 'auk-camera-'));
  const file = join(folder, 'codes.y4m');
  writeFileSync(file, video([no, stops[0].place, product.codes[0].code]));
  const browser = await withCamera(launchOptions, file);
  try {
    const context = await browser.newContext({
      baseURL: baseURL!,
      viewport: { width: 390, height: 844 },
      storageState: await page.context().storageState(),
      permissions: ['camera'],
    });
    const phone = await context.newPage();
    await phone.goto('/floor');
    await phone.getByRole('button', { name: 'Scan with the camera' }).click();
    // The list opens, and the camera goes on there.
    await expect(phone).toHaveURL(new RegExp(`/floor/${no}$`));
    await expect(phone.getByText('✓ right place')).toBeVisible();
    await expect.poll(async () => (await look(page.request, `picking/lists/${no}`)).taken).toBeGreaterThan(0);
    await phone.getByRole('button', { name: 'Close', exact: true }).click();
    await expect(phone.getByLabel('Camera', { exact: true })).toHaveCount(0);
    await expect(part(phone, 'answer')).toBeVisible();
  } finally {
    await browser.close();
    rmSync(folder, { recursive: true });
  }
});
