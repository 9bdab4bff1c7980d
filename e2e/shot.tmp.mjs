import { chromium } from '@playwright/test';

const B = 'http://127.0.0.1:7399';
export async function open(badge, size = { width: 1280, height: 800 }) {
  const b = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    chromiumSandbox: false,
    args: [
      '--disable-gpu',
      '--disable-quic',
      '--no-first-run',
      '--disable-background-networking',
      '--disable-component-update',
      '--disable-sync',
    ],
  });
  const p = await (await b.newContext({ viewport: size })).newPage();
  p.on('pageerror', e => console.log('PAGEERROR', e.message));
  p.on('console', m => m.type() === 'error' && console.log('CONSOLE', m.text()));
  await p.goto(B + '/');
  await p.getByLabel('Badge').fill(badge);
  await p.getByLabel('PIN').fill('2468');
  await p.getByRole('button', { name: 'Sign in' }).click();
  await p.waitForLoadState('networkidle').catch(() => {});
  await p.waitForTimeout(500);
  return { b, p };
}
const which = process.argv[2];
if (which) {
  const { b, p } = await open('AB-1001');
  const shots = {
    board: '/board',
    orders: '/orders',
    stopped: '/orders?stage=Stopped',
    clear: '/orders?stage=Clear',
    pick: '/pick',
    parcels: '/parcels',
    products: '/products',
  };
  for (const [n, u] of Object.entries(shots))
    if (which === 'all' || which.split(',').includes(n)) {
      await p.goto(B + u);
      await p.waitForTimeout(900);
      await p.screenshot({ path: `/tmp/dev/${n}.png` });
    }
  await b.close();
}
