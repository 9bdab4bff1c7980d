import { expect, type Page, test } from '@playwright/test';
import axe, { type AxeResults, type RunOptions } from 'axe-core';
import { look, part, scan, signIn } from './hands.js';

// Colours that fade into another theme for a quarter of a second are not what is to be judged.
test.use({ contextOptions: { reducedMotion: 'reduce' } });

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

const VIEWS: [name: string, badge: string, path: string, wait: string | RegExp][] = [
  ['Board', 'AB-1001', '/board', 'Needs a person'],
  ['Orders', 'AB-1001', '/orders', 'Leaves with'],
  ['Bring in', 'AB-1001', '/bring-in', 'rows of one number are one order'],
  ['Listings', 'AB-1001', '/products/listings', 'How each channel sells'],
  ['Product', 'AB-1001', '/products/JAR-HEX-12', 'Where it lies'],
  ['Channels', 'AB-1001', '/setup/channels', 'Fernway Market'],
  [
    'Services compared',
    'AB-1001',
    '/parcels/compare?postcode=83702&country=US&weight=4+lb&size=8x8x8+in',
    'cheapest in time',
  ],
  ['Claims', 'AB-1001', '/parcels/claims', 'No carrier owes anything'],
  ['Returns', 'AB-1001', '/parcels/returns', /Scan a parcel that came back/],
  ['Carrier bills', 'AB-1001', '/parcels/bills', 'Number of the bill'],
  ['Shipping money', 'AB-1001', '/parcels/costs', 'Orders that lost money on their way'],
  ['Carriers', 'AB-1001', '/setup/carriers', 'Own contract'],
  ['Mails', 'AB-1001', '/setup/mails', 'How they leave'],
  ['Rules', 'AB-1001', '/rules', 'Hazardous goods by ground'],
  ['Papers', 'AB-1001', '/setup/papers', 'The first that fits'],
  ['People', 'AB-1005', '/setup/people', 'What each role may do'],
  ['Upkeep', 'AB-1001', '/setup/upkeep', 'Reports of files'],
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
  ['Inbound', 'AB-1001', '/inbound', 'Company prefix'],
  ['Draft', 'AB-1001', '/inbound/IN-10', 'Ways to send it'],
  ['Shipment', 'AB-1001', '/inbound/IN-7', 'To each center'],
  ['Preparing', 'AB-1002', '/prepare', 'Scan the number of a shipment'],
  ['Pick', 'AB-1001', '/pick', 'Pick lists'],
  ['Plan', 'AB-1001', '/pick/plan', 'Plan pick lists'],
  ['What goes wrong', 'AB-1001', '/pick/troubles', 'Taken for each other'],
  ['Put walls', 'AB-1001', '/stock/walls', 'Wall A'],
  ['Put wall', 'AB-1002', '/wall', 'Scan the trolley of a heap'],
  ['Floor choices', 'AB-1001', '/setup/floor', 'Order and what follows'],
  ['Measured', 'AB-1001', '/products/measured', 'Measured at the benches'],
  ['Benches', 'AB-1001', '/setup/benches', 'A further printer'],
  ['Print tray', 'AB-1001', '/setup/tray', /✓ printed|▲ waits|Nothing was printed yet/],
  ['Boxes', 'AB-1001', '/setup/boxes', 'Empty weight'],
  ['Totes', 'AB-1001', '/stock/totes', 'In it since'],
  ['Floor map', 'AB-1001', '/stock/floor', 'The floor from above'],
  ['Parcels', 'AB-1001', '/parcels', 'Parcels'],
  ['Products', 'AB-1001', '/products', 'On hand'],
  ['Floor', 'AB-1003', '/floor', 'Scan a pick list'],
  ['Bench', 'AB-1002', '/bench', 'Scan a slip or a tote'],
];

/** Wears another look, as a tab does in which the person changes it; by key of the person's id. */
async function wear(page: Page, change: { contrast?: boolean; text?: number }): Promise<void> {
  const { id } = await look(page.request, 'people/me');
  await page.evaluate(
    ([key, kept]) => {
      localStorage.setItem(key!, kept!);
      window.dispatchEvent(new StorageEvent('storage', { key: key! }));
    },
    [`auk.look.${id}`, JSON.stringify({ text: 100, contrast: false, ...change })],
  );
}

const RULES: RunOptions['runOnly'] = { type: 'tag', values: ['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa'] };
/** What another look can break: colours and sizes. Names, roles and order are the same in every look. */
const RULES_OF_LOOKS: RunOptions['runOnly'] = {
  type: 'rule',
  values: ['color-contrast', 'link-in-text-block', 'target-size', 'scrollable-region-focusable'],
};

/** What the rules say of what is on screen. The judge stays in a page that it has come to. */
async function judged(page: Page, runOnly: RunOptions['runOnly']): Promise<AxeResults> {
  if (!(await page.evaluate(() => 'axe' in window))) await page.evaluate(axe.source);
  return page.evaluate(asked => (window as unknown as { axe: typeof axe }).axe.run(document, asked), {
    runOnly,
    resultTypes: ['violations', 'incomplete'],
  } as RunOptions);
}

/** No rule of WCAG 2.2 A and AA is broken by what is on screen: plain, and in high contrast with text at 150 %. */
async function passes(page: Page, looks: object[] = [{}, { contrast: true, text: 150 }]): Promise<void> {
  for (const change of looks) {
    await wear(page, change);
    const plain = !('text' in change);
    await expect(page.locator('html')).toHaveCSS('font-size', plain ? '16px' : '24px');
    const { violations, incomplete } = await judged(page, plain ? RULES : RULES_OF_LOOKS);
    // Text in the colour of its ground is called hidden there, not wrong.
    const unseen = incomplete
      .filter(i => i.id === 'color-contrast')
      .map(i => ({ ...i, nodes: i.nodes.filter(n => n.any.some(a => a.data?.messageKey === 'equalRatio')) }))
      .filter(i => i.nodes.length > 0);
    const told = [...violations, ...unseen].map(
      v =>
        `${v.id}: ${v.nodes
          .slice(0, 2)
          .map(n => n.html.slice(0, 140))
          .join(' | ')}`,
    );
    expect(told, JSON.stringify(change)).toEqual([]);
    // Nothing is cut off at the side.
    expect(
      await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth),
    ).toBeLessThanOrEqual(0);
  }
  await wear(page, {});
}

test.describe('each page', () => {
  /** One browser page for each person: nothing is done there that the next could meet. */
  const pages = new Map<string, Page>();
  test.beforeAll(async ({ browser }) => {
    for (const badge of new Set(VIEWS.map(([, b]) => b))) {
      pages.set(badge, await browser.newPage());
      await signIn(pages.get(badge)!, badge);
    }
  });
  test.afterAll(async () => {
    for (const page of pages.values()) await page.close();
  });
  for (const [name, badge, path, wait] of VIEWS)
    test(`${name} passes the accessibility rules in every theme`, async () => {
      const page = pages.get(badge)!;
      await page.goto(path);
      await expect(page.getByText(wait).first()).toBeVisible();
      await passes(page);
    });
});

test('an order, a draft and an open order pass the accessibility rules in every theme', async ({ page }) => {
  await signIn(page, 'AB-1004');
  const order = (await look(page.request, 'orders?stage=Stopped&size=1')).rows[0];
  await page.goto(`/orders/${order.id}`);
  await expect(page.getByRole('heading', { name: 'Ship to' })).toBeVisible();
  await passes(page);
  await page.goto('/orders');
  await page.getByRole('treegrid', { name: 'Orders' }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Ship to' })).toBeVisible();
  await passes(page);
  await page.getByRole('button', { name: 'New order' }).click();
  await expect(page.getByLabel('Find a buyer')).toBeVisible();
  await passes(page);
});

test('a parcel on its way and the page of a buyer pass the accessibility rules', async ({ page }) => {
  await signIn(page, 'AB-1001');
  const { rows } = await look(page.request, 'orders?stage=Departed&channel=web&size=1');
  const { parcels } = await look(page.request, `orders/${rows[0].id}`);
  const gone = parcels.find((p: { state: string }) => p.state === 'departed');
  await page.goto(`/orders/${rows[0].id}`);
  await page.getByRole('link', { name: gone.no, exact: true }).click();
  await expect(page.getByRole('heading', { name: 'On its way' })).toBeVisible();
  await passes(page);
  const { link } = await look(page.request, `orders/${rows[0].id}/thread`);
  await page.goto(new URL(link).pathname);
  await expect(page.getByRole('heading', { name: /^Your order/ })).toBeVisible();
  // Buyers have no look of their own here.
  await passes(page, [{}]);
});

test('a walk, an order at the bench, a handover and a count pass the accessibility rules in every theme', async ({
  page,
}) => {
  await signIn(page, 'AB-1001');
  const list = (await look(page.request, 'picking/lists')).find((l: { state: string }) => l.state !== 'done');
  await page.goto(`/floor/${list.no}`);
  await expect(part(page, 'place')).toBeVisible();
  await passes(page);
  const [picked] = (await look(page.request, 'orders?stage=Picked&size=1')).rows;
  await page.goto('/bench');
  await expect(page.getByText('Scan a slip or a tote')).toBeVisible();
  await scan(page, picked.no);
  await expect(part(page, 'line').first()).toBeVisible();
  await passes(page);
  await page.keyboard.press('F6');
  await expect(page.getByRole('dialog').getByRole('list', { name: 'Lines' })).toBeVisible();
  await passes(page);
  const { departures } = await look(page.request, 'departures/board');
  await page.goto(
    `/departures/${departures.find((d: { bar: { labelled: number } }) => d.bar.labelled > 0).no}`,
  );
  await expect(page.getByText('Scan the parcels')).toBeVisible();
  await passes(page);
  const { rows } = await look(page.request, 'stock?kind=bin&size=1');
  await page.goto(`/stock/counts/${rows[0].place}`);
  await expect(page.getByLabel(/^Counted /).first()).toBeVisible();
  await passes(page);
});

test('dialogs and menus pass the accessibility rules in every theme', async ({ page }) => {
  await signIn(page, 'AB-1005');
  const me = page.getByRole('button', { name: /admin$/ });
  for (const [path, open] of [
    ['/board', async () => me.click()],
    ['/setup/people', async () => page.getByRole('button', { name: 'Add a person' }).click()],
    ['/setup/channels', async () => page.getByRole('button', { name: 'Change' }).first().click()],
    ['/orders', async () => page.getByRole('button', { name: 'Columns' }).click()],
    ['/receiving', async () => page.getByRole('button', { name: 'New purchase order' }).click()],
    ['/stock', async () => page.getByRole('button', { name: 'Move' }).first().click()],
  ] as const) {
    await page.goto(path);
    await open();
    await expect(page.getByRole(path === '/board' ? 'menu' : 'presentation').first()).toBeAttached();
    await passes(page);
  }
});
