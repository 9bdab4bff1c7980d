import AxeBuilder from '@axe-core/playwright';
import { expect, test } from '@playwright/test';
import { look, scan, signIn } from './hands.js';

test('the scan field finds order, product, place, pick list and parcel from any page', async ({ page }) => {
  await signIn(page, 'AB-1001');
  const order = (await look(page.request, 'orders?channel=web&size=1')).rows[0];
  const list = (await look(page.request, 'picking/lists'))[0];
  const parcel = (await look(page.request, 'parcels'))[0];
  const product = await look(page.request, 'products/SMK-4-ST');
  const ways: [from: string, code: string, to: RegExp][] = [
    ['/board', order.no, /orders\/[0-9a-f-]{36}/],
    ['/parcels', order.channelNumber, /orders\/[0-9a-f-]{36}/],
    ['/orders', product.codes[0].code, /products\/SMK-4-ST/],
    ['/products', product.places[0].code, new RegExp(`places/${product.places[0].code}`)],
    ['/pick', list.no, new RegExp(`pick/${list.no}`)],
    ['/board', parcel.no, /orders\/[0-9a-f-]{36}/],
  ];
  for (const [from, code, to] of ways) {
    await page.goto(from);
    await expect(page.getByLabel('Scan or type anything')).toBeVisible();
    await scan(page, code);
    await expect(page).toHaveURL(to);
  }
  await page.keyboard.press('F2');
  await expect(page.getByLabel('Scan or type anything')).toBeFocused();
  await page.keyboard.type('nothing is called this', { delay: 70 });
  await page.keyboard.press('Enter');
  await expect(page.getByText('Nothing here is called')).toBeVisible();
});

const VIEWS: [name: string, badge: string, path: string, wait: string][] = [
  ['Board', 'AB-1001', '/board', 'Needs a person'],
  ['Orders', 'AB-1001', '/orders', 'Leaves with'],
  ['Bring in', 'AB-1001', '/bring-in', 'rows of one number are one order'],
  ['Listings', 'AB-1001', '/products/listings', 'How each channel sells'],
  ['Product', 'AB-1001', '/products/JAR-HEX-12', 'Where it lies'],
  ['Channels', 'AB-1001', '/setup/channels', 'Fernway Market'],
  ['Slips and invoices', 'AB-1001', '/setup/papers', 'The first that fits'],
  ['People', 'AB-1005', '/setup/people', 'What each role may do'],
  ['Kits', 'AB-1001', '/kits', 'Can I promise this?'],
  ['Kit', 'AB-1001', '/kits/KIT-START', 'Versions'],
  ['Builds', 'AB-1001', '/builds', 'Being made'],
  ['Build', 'AB-1001', '/builds/BU-1', 'Lies in'],
  ['Stock', 'AB-1001', '/stock', 'Lot and expiry'],
  ['Counts', 'AB-1001', '/stock/counts', 'Last counted'],
  ['Places', 'AB-1001', '/stock/places', 'Save the place'],
  ['Product ledger', 'AB-1001', '/products/JAR-HEX-12/ledger', 'On hand after'],
  ['Receiving', 'AB-1001', '/receiving', 'Waits for it'],
  ['Dock', 'AB-1002', '/receiving/PO-1', 'Scan what comes.'],
  ['Pick', 'AB-1001', '/pick', 'Pick lists'],
  ['Parcels', 'AB-1001', '/parcels', 'Parcels'],
  ['Products', 'AB-1001', '/products', 'On hand'],
  ['Floor', 'AB-1003', '/floor', 'Scan a pick list'],
  ['Bench', 'AB-1002', '/bench', 'Scan a slip or a tote'],
];

for (const [name, badge, path, wait] of VIEWS)
  test(`${name} passes the accessibility rules`, async ({ page }) => {
    await signIn(page, badge);
    await page.goto(path);
    await expect(page.getByText(wait).first()).toBeVisible();
    const { violations } = await new AxeBuilder({ page })
      .withTags(['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa'])
      .analyze();
    expect(
      violations.map(
        v =>
          `${v.id}: ${v.nodes
            .slice(0, 2)
            .map(n => n.html.slice(0, 140))
            .join(' | ')}`,
      ),
    ).toEqual([]);
  });

test('an order and a draft pass the accessibility rules', async ({ page }) => {
  await signIn(page, 'AB-1004');
  const order = (await look(page.request, 'orders?stage=Stopped&size=1')).rows[0];
  for (const path of [`/orders/${order.id}`, null]) {
    if (path) await page.goto(path);
    else {
      await page.goto('/orders');
      await page.getByRole('button', { name: 'New order' }).click();
    }
    await expect(page.getByRole('heading', { name: 'Ship to' })).toBeVisible();
    const { violations } = await new AxeBuilder({ page })
      .withTags(['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa'])
      .analyze();
    expect(violations.map(v => `${v.id}: ${v.nodes[0]!.html.slice(0, 160)}`)).toEqual([]);
  }
});
