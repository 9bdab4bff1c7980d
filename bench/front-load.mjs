// front.load: Bench and Floor with a cold cache and a warm server, on a machine slowed 4 times: from navigation to the painted answer of the first scan; against a page of the same server without a script.
import { setTimeout as wait } from 'node:timers/promises';
import { signedIn } from './browser.mjs';
import { caller } from './house.mjs';

const SLOWED = 4;
const GOAL_MS = 2_000;
const RUNS = 5;

export async function* frontLoad() {
  const lead = await caller();
  const picked = (await lead.get('orders?stage=Picked&size=1')).rows[0];
  const list = (await lead.get('picking/lists')).find(l => l.state !== 'done');
  for (const [name, path, code] of [
    ['bench', '/bench', picked.no],
    ['floor', '/floor', list.no],
  ]) {
    const times = [];
    const floors = [];
    for (let i = 0; i < RUNS; i++) {
      times.push(await first(path, code));
      floors.push(await bare());
    }
    const middle = numbers => numbers.sort((a, b) => a - b)[Math.floor(RUNS / 2)];
    const [value, floor] = [middle(times), middle(floors)];
    yield {
      n: name,
      value,
      unit: 'ms',
      floor,
      ratio: value / floor,
      goal: `<= ${GOAL_MS} ms`,
      holds: value <= GOAL_MS,
    };
  }
}

async function slowed() {
  const { page, close } = await signedIn('AB-1001');
  const devtools = await page.context().newCDPSession(page);
  await devtools.send('Emulation.setCPUThrottlingRate', { rate: SLOWED });
  return { page, close };
}

/** A scan made as soon as the page shows anything, to its answer. */
async function first(path, code) {
  const { page, close } = await slowed();
  const began = performance.now();
  await page.goto(path, { waitUntil: 'commit' });
  await page.locator('main').waitFor();
  await page.keyboard.type(code);
  await page.keyboard.press('Enter');
  await page.locator('[data-part="line"], [data-part="place"]').first().waitFor();
  const took = performance.now() - began;
  await close();
  return took;
}

async function bare() {
  const { page, close } = await slowed();
  const began = performance.now();
  await page.goto('/mark.svg');
  const took = performance.now() - began;
  await close();
  await wait(50);
  return took;
}
