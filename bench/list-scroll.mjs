// list.scroll: a list of 100,000 orders, loaded page after page by key, scrolled through; the longest task of the browser meanwhile, against scrolling an empty page of the same height.
import { signedIn } from './browser.mjs';
import { caller } from './house.mjs';

const ROWS = 100_000;
const PAGE = 1_000;
const WHEELS = 240;
/** A screen in each frame, as a quick hand turns the wheel. */
const TURN = 800;
const GOAL_MS = 50;

export async function* listScroll() {
  const lead = await caller();
  const {
    rows: [row],
    count,
  } = await lead.get('orders?stage=all&size=1');
  const { page, close } = await signedIn('AB-1001');
  // The rows are made here, as the server would give them by key: the benchmark is of the list, not of the database.
  await page.route('**/api/v1/orders?*', route => {
    const from = Number(new URL(route.request().url()).searchParams.get('after') ?? 0);
    const rows = Array.from({ length: PAGE }, (_, i) => ({
      ...row,
      id: `00000000-0000-7000-8000-${String(from + i).padStart(12, '0')}`,
      channelNumber: `WS-${from + i}`,
    }));
    const next = from + PAGE < ROWS ? String(from + PAGE) : null;
    return route.fulfill({ json: { rows, next, count } });
  });
  await page.goto('/orders?stage=all');
  const list = page.getByRole('treegrid', { name: 'Orders' });
  await list.focus();
  for (let at = 0; at < ROWS; at += PAGE) {
    await page.keyboard.press('End');
    await page.waitForFunction(
      n =>
        document.querySelector('[role=treegrid]').getAttribute('aria-rowcount') === String(n + 1) ||
        document.documentElement.scrollHeight > n * 30,
      Math.min(ROWS, at + PAGE),
    );
  }
  const value = await longestWhile(page, () => scroll(page));
  await page.setContent(`<div style="height: ${ROWS * 40}px"></div>`);
  const floor = await longestWhile(page, () => scroll(page));
  await close();
  yield {
    n: ROWS,
    value,
    unit: 'ms longest task',
    floor,
    ratio: value / floor,
    goal: `<= ${GOAL_MS} ms`,
    holds: value <= GOAL_MS,
  };
}

async function scroll(page) {
  await page.mouse.move(600, 500);
  for (let i = 0; i < WHEELS; i++) {
    await page.mouse.wheel(0, i < WHEELS / 2 ? -TURN : TURN);
    await page.waitForTimeout(16);
  }
}

/** The longest task in milliseconds, as the browser tells of those above 50; a list without any has as many. */
async function longestWhile(page, act) {
  await page.evaluate(() => {
    window.longest = 50;
    new PerformanceObserver(list => {
      for (const task of list.getEntries()) window.longest = Math.max(window.longest, task.duration);
    }).observe({ type: 'longtask' });
  });
  await act();
  return page.evaluate(() => window.longest);
}
