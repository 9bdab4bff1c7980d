// front.load: Bench and Floor with a cold cache and a warm server, on a machine slowed 4 times: from navigation to the painted answer of the first scan; against a page of the same server without a script.
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

/** A scan made as soon as the page shows anything, by keys of the page itself, to its painted answer; all by the clock of the page. */
async function first(path, code) {
  const { page, close } = await slowed();
  await page.addInitScript(scanAtOnce, code);
  await page.goto(path, { waitUntil: 'commit' });
  const took = await page.waitForFunction(() => window.answered, undefined, { polling: 200 });
  const value = await took.jsonValue();
  await close();
  return value;
}

/** Run in the page from its beginning: keys come when there is something to see; notes when the answer is painted. */
function scanAtOnce(code) {
  let scanned = false;
  new MutationObserver(() => {
    if (!scanned && document.querySelector('main')) {
      scanned = true;
      for (const key of [...code, 'Enter'])
        document.body.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }));
    }
    if (!window.answered && document.querySelector('[data-part="line"], [data-part="place"]'))
      requestAnimationFrame(() => {
        const { port1, port2 } = new MessageChannel();
        port1.onmessage = () => {
          window.answered ??= performance.now();
        };
        port2.postMessage(0);
      });
  }).observe(document, { subtree: true, childList: true });
}

/** A page of the same server that is a picture and nothing else, by the clock of the page. */
async function bare() {
  const { page, close } = await slowed();
  await page.goto('/mark.svg');
  const took = await page.evaluate(() => performance.getEntriesByType('navigation')[0].loadEventEnd);
  await close();
  return took;
}
