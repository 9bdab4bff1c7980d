// What the benchmarks of the front share: a Chromium of the machine, signed in, and how a moment is found at which something is painted.
import { chromium } from '@playwright/test';
import { CHROMIUM } from '../e2e/chromium.mjs';

export const ORIGIN = `http://127.0.0.1:${process.env.AUK_PORT}`;

/** A page of a browser of its own, signed in by a badge. */
export async function signedIn(badge, viewport = { width: 1280, height: 800 }) {
  const browser = await chromium.launch(CHROMIUM);
  const page = await (await browser.newContext({ viewport, baseURL: ORIGIN })).newPage();
  await page.addInitScript(keepEnter);
  await page.request.post('/api/v1/people/sign-in', { data: { badge, pin: '2468' } });
  return { page, close: () => browser.close() };
}

/** Keeps, in each page from its beginning on, when Enter was pressed: before any other listener hears of it. */
export function keepEnter() {
  window.addEventListener(
    'keydown',
    e => {
      if (e.key === 'Enter') window.entered = e.timeStamp;
    },
    true,
  );
}

/** Notes, for each Enter, the milliseconds from the key to the end of the first frame in which an element has changed; to be run in the page. */
export function notePaints(selector) {
  const painted = [];
  Object.assign(window, { painted, entered: null });
  new MutationObserver(() => {
    if (window.entered === null) return;
    const from = window.entered;
    window.entered = null;
    // The frame is painted between its animation callbacks and the next task.
    requestAnimationFrame(() => {
      const { port1, port2 } = new MessageChannel();
      port1.onmessage = () => painted.push(performance.now() - from);
      port2.postMessage(0);
    });
  }).observe(document.querySelector(selector), {
    subtree: true,
    childList: true,
    characterData: true,
    attributes: true,
  });
}

/** Types a code as a scanner does, many times; gives the milliseconds to the painted change of each. */
export async function scans(page, code, times, pauseMs) {
  for (let i = 0; i < times; i++) {
    await page.keyboard.type(code);
    await page.keyboard.press('Enter');
    await page.waitForFunction(n => window.painted.length > n, i);
    await page.waitForTimeout(pauseMs);
  }
  return page.evaluate(() => window.painted);
}
